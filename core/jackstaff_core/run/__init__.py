"""A frame being made: the checklist before its shutter opens."""
