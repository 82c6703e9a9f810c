"""Dry runs: a whole outing against a made-up sky, played on the same screens, judged by the same core."""
