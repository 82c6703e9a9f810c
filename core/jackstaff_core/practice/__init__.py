"""Drills, their grading and spacing, and the dry run of a whole outing."""
