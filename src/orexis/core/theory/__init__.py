"""Pitch names, transposition, keys, intervals and temperaments."""

from orexis.core.theory.keys import SCALES, Key, key_of, scale, transposed_fifths
from orexis.core.theory.pitch import (
    Pitch,
    cents_between,
    flat_spelling,
    midi_of_frequency,
    nearest_pitch,
    parse_pitch,
    pitch_of_midi,
    ratio_of,
)
from orexis.core.theory.temperament import (
    INTERVAL_NAMES,
    NATURAL_SEVENTH,
    RATIOS,
    Chord,
    Temperament,
    chord_hz,
    interval_name,
    just_cents,
    tempered_cents,
)
from orexis.core.theory.tone import KnownTone
from orexis.core.theory.transposition import Transposition

__all__ = [
    "INTERVAL_NAMES",
    "NATURAL_SEVENTH",
    "RATIOS",
    "SCALES",
    "Chord",
    "Key",
    "KnownTone",
    "Pitch",
    "Temperament",
    "Transposition",
    "cents_between",
    "chord_hz",
    "flat_spelling",
    "interval_name",
    "just_cents",
    "key_of",
    "midi_of_frequency",
    "nearest_pitch",
    "parse_pitch",
    "pitch_of_midi",
    "ratio_of",
    "scale",
    "tempered_cents",
    "transposed_fifths",
]
