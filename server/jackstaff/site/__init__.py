"""The Django site: settings, headers, deadlines, and what serves it."""
