"""Orexis: a practice room for brass players."""

__version__ = "0.1.0"
