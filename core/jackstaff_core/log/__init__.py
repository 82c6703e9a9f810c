"""Frames and what they teach: reviews, lessons, evidence, calibration, editing, the light they were made in."""
