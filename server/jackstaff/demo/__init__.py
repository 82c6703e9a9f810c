"""The demo account: a made-up spring morning at Vardsund, worked out by the core like any other frame."""
