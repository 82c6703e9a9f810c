"""One filter: its kind, what its label says, what of it is on the lens, its rim, its colour."""
