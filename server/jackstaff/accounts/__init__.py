"""Accounts: how often a password may be wrong, other browsers, and the end of an account."""
