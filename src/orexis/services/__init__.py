"""Use cases; they own the transaction and the clock."""
