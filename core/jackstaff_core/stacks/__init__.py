"""Filters together: rules of stacking, ways to a time, what a bag reaches, graduated filters, the field card."""
