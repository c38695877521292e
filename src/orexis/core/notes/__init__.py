"""Trace to notes: segmentation, repair, and alignment with what is written."""

from orexis.core.notes.align import RIGHT_CENTS, align_notes, off_cents
from orexis.core.notes.background import without_background
from orexis.core.notes.divide import split_undersegmented
from orexis.core.notes.joining import (
    DEEP_SCOOP_CENTS,
    Breaks,
    is_slide,
    merge_fragments,
    repair_partial_breaks,
    slots_of,
)
from orexis.core.notes.ringing import may_hold_echo_notes, own_share_db, remove_phantom_f0
from orexis.core.notes.segment import Flags, cents_track, runs, segment_notes
from orexis.core.notes.values import SAME_PITCH_CENTS, HeardNote, Row

__all__ = [
    "DEEP_SCOOP_CENTS",
    "RIGHT_CENTS",
    "SAME_PITCH_CENTS",
    "Breaks",
    "Flags",
    "HeardNote",
    "Row",
    "align_notes",
    "cents_track",
    "is_slide",
    "may_hold_echo_notes",
    "merge_fragments",
    "off_cents",
    "own_share_db",
    "remove_phantom_f0",
    "repair_partial_breaks",
    "runs",
    "segment_notes",
    "slots_of",
    "split_undersegmented",
    "without_background",
]
