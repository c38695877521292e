"""Just play: listening without an exercise, and what was read from it."""
