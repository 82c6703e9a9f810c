"""The tables: models and migrations, how a frame stands in its row, and how things are written together."""
