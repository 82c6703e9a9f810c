"""Where Django looks for commands."""
