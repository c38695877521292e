"""Lessons to a player and review requests to a teacher, as files in open formats; answers back."""
