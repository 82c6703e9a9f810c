"""Copies of the whole database, taken while people write, and put back."""
