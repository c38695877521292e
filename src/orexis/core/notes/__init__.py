"""Trace -> notes."""

from orexis.core.notes.align import RIGHT_CENTS, aligned, off_cents
from orexis.core.notes.background import without_background
from orexis.core.notes.divide import divided
from orexis.core.notes.joining import Breaks, joined_up, mended
from orexis.core.notes.ringing import explained, may_hold_ghosts, own_share_db
from orexis.core.notes.segment import cents_track, heard_notes, runs
from orexis.core.notes.values import HeardNote, Row

__all__ = [
    "RIGHT_CENTS",
    "Breaks",
    "HeardNote",
    "Row",
    "aligned",
    "cents_track",
    "divided",
    "explained",
    "heard_notes",
    "joined_up",
    "may_hold_ghosts",
    "mended",
    "off_cents",
    "own_share_db",
    "runs",
    "without_background",
]
