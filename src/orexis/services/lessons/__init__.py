"""Lessons to a player and hearings to a teacher, as files in open formats; answers back."""
