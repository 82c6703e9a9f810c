"""What whoever looks after the server runs: accounts, copies, tables, demo data."""
