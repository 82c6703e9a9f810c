"""Light that changes: its rate, its integral over a frame, the end of an exposure, what a phone sees."""
