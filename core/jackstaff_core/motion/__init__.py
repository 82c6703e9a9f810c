"""What moves in a picture, and how long it has to be exposed for a look."""
