"""What is kept for an account, one module and one class a kind: frames, kit, outings, looks, what was set aside.

Only this room reads and writes the tables. Replication counts what changes, search finds frames.
"""
