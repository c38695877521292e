"""The day, the weeks, paths and programmes, on the record."""
