"""Pictures: drawn from the core's numbers, and measured."""
