"""Formats: sound, exercises, engraving."""
