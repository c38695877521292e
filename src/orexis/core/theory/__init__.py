"""Pitch names, transposition, intervals."""

from orexis.core.theory.pitch import (
    Pitch,
    cents_between,
    flat_spelling,
    midi_of_frequency,
    nearest_pitch,
    parse_pitch,
    pitch_of_midi,
)
from orexis.core.theory.transposition import Transposition

__all__ = [
    "Pitch",
    "Transposition",
    "cents_between",
    "flat_spelling",
    "midi_of_frequency",
    "nearest_pitch",
    "parse_pitch",
    "pitch_of_midi",
]
