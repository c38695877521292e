"""Reading the record: ladders and the log."""
