"""Anything at any moment: see `__main__.py`."""
