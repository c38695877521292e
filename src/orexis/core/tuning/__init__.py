"""Instrument or me: what of a player's deviations is the instrument's, what their habit, what the day's."""

from orexis.core.tuning.advice import Advised, advised
from orexis.core.tuning.fit import (
    FEWEST_DAYS,
    FEWEST_NOTES,
    Estimate,
    Fit,
    Habit,
    NoteFit,
    Regressor,
    fit_of,
    missing_for,
)
from orexis.core.tuning.notes import NoteDay, joined, notes_heard, usual_cents
from orexis.core.tuning.takeover import learned_from

__all__ = [
    "FEWEST_DAYS",
    "FEWEST_NOTES",
    "Advised",
    "Estimate",
    "Fit",
    "Habit",
    "NoteDay",
    "NoteFit",
    "Regressor",
    "advised",
    "fit_of",
    "joined",
    "learned_from",
    "missing_for",
    "notes_heard",
    "usual_cents",
]
