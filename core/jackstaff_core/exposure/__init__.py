"""The sum from a reading to a time, and what goes with it: solving, trials, flash, video, series, timing errors."""
