"""Rows of the database to values and back."""
