"""Formats: sound, figures, engraving."""
