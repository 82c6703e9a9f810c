"""An outing: its plan, days side by side, tide, swaps of filters, what to pack, hazards."""
