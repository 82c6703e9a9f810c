"""The bag: every sort of thing in it, the file it is kept in, a starter bag, batteries and cards."""
