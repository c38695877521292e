"""Lessons to a player and hearings to a teacher, as files in open formats; answers back."""

from orexis.services.lessons.use import Chosen, Lessons, LessonWish
from orexis.services.lessons.values import Opened, Parcel

__all__ = ["Chosen", "LessonWish", "Lessons", "Opened", "Parcel"]
