"""Which heard notes can be the player's at all.

A note that nobody wrote must be one that this instrument could sound: near a slot of one of its fingerings, about as loud as the
player's own notes, and long enough to be blown. A click from the loudspeaker, a chair, a door are none of these. What lies
where a written note lies is believed on its pitch alone, unless nobody plays so softly: a loudspeaker's last chord dying away.
"""

import numpy as np

from orexis.core.exercises import Exercise, Medium
from orexis.core.instruments import Instrument, all_fingerings, slots_hz
from orexis.core.notes import RIGHT_CENTS, HeardNote
from orexis.core.signals import median
from orexis.core.theory import cents_between
from orexis.core.trace import Trace

_UNDER_DB = 14.0  # softer than the player's usual by so much, a strange note is not theirs
_NOBODY_DB = 36.0  # more lies between nobody's softest and loudest note of a line
_FAINT_DB = 24.0  # nor one that joins their notes, when it is so faint: that is the room, or a hum
_SLOT_CENTS = 60.0  # as far as lips pull a note off its slot by accident
_SHORTEST_S = 0.06  # a shorter one is a click or a tongue
_KNOCK_S, _KNOCK_UNDER_DB = 0.15, 8.0  # so short, a strange note must be nearly as loud as the others


def credible_notes(
    trace: Trace, heard: tuple[HeardNote, ...], instrument: Instrument, exercise: Exercise | None, *, a4: float
) -> tuple[HeardNote, ...]:
    """The notes that may be the player's. In free play every pitch may be meant, a bent one between the slots, too."""
    if not heard:
        return heard
    levels = np.array([_level_db(trace, note) for note in heard])
    lengths = np.array([note.release_s - note.onset_s for note in heard])
    usual = _usual_db(levels, lengths)
    on_instrument = exercise is not None and exercise.medium == Medium.INSTRUMENT
    slots = _slots_hz(instrument) if on_instrument else None
    asked = [exercise.target_hz(note, a4=a4) for note in exercise.notes] if exercise else []
    kept = []
    for i, (note, level, length) in enumerate(zip(heard, levels, lengths, strict=True)):
        if level < usual - _NOBODY_DB:
            continue
        if any(abs(cents_between(hz, note.f0_hz)) <= RIGHT_CENTS for hz in asked):
            kept.append(note)
            continue
        if level >= usual - _FAINT_DB and (note.joined or (i + 1 < len(heard) and heard[i + 1].joined)):
            kept.append(note)  # a start or a break on another slot: no knock joins a note without silence
            continue
        least = usual - (_KNOCK_UNDER_DB if length < _KNOCK_S else _UNDER_DB)
        in_slot = slots is None or bool(np.min(np.abs(cents_between(note.f0_hz, slots))) <= _SLOT_CENTS)
        if level >= least and length >= _SHORTEST_S and in_slot:
            kept.append(note)
    return tuple(kept)


def _level_db(trace: Trace, note: HeardNote) -> float:
    part = trace.part(note.onset_s, note.release_s)
    return median(part.level_db) if len(part) else -120.0


def _usual_db(levels: np.ndarray, lengths: np.ndarray) -> float:
    """How loud the player plays: the median over the time of the notes, so that many short knocks weigh little."""
    order = np.argsort(levels)
    passed = np.cumsum(lengths[order])
    return float(levels[order][np.searchsorted(passed, passed[-1] / 2.0)])


def _slots_hz(instrument: Instrument) -> np.ndarray:
    """Return the frequencies of all partials of all fingerings, in Hz, rising."""
    return np.array([hz for fingering in all_fingerings(instrument) for _, hz in slots_hz(instrument, fingering)])
