"""Open files in and out: the log, everything of an account, calendars and places."""
