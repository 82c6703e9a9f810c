"""The HTTP interface: one router a screen, and the core's questions mounted as they are."""
