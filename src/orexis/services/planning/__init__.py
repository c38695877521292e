"""The day, the weeks, paths and goals, on the record."""
