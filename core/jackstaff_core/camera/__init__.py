"""What a camera and its lens do: readings, settings, dials, film and its reciprocity, diffraction, focus."""
