"""What the core says: refusals with their cure, and advice."""
