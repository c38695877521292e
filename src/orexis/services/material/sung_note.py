"""A note sung before it is played: heard in any octave, said in words."""

from dataclasses import dataclass

import numpy as np

from orexis.core.exercises import Exercise
from orexis.core.messages import tell
from orexis.core.sound import Sound
from orexis.core.theory import cents_between
from orexis.core.trace import track

_LEAST_FRAMES = 40  # 0.2 s of voice
_IN_TUNE_CENTS = 35.0  # singing to find a note needs no more
_ANOTHER_CENTS = 150.0  # further off it is another note


@dataclass(frozen=True, slots=True)
class SungNote:
    """What was sung against the first note of an exercise. Cents are folded into one octave; None: no voice was heard."""

    hz: float | None
    cents: float | None
    said: str


def sung_note(sound: Sound, exercise: Exercise, *, a4: float) -> SungNote:
    """The steadiest half of what was sung, against the note that comes."""
    trace = track(sound)
    voiced = trace.f0_hz[trace.voiced]
    if len(voiced) < _LEAST_FRAMES:
        return SungNote(None, None, "No voice was heard. Sing a little louder, or continue without it.")
    hz = float(np.median(voiced[len(voiced) // 4 :]))
    target = exercise.target_hz(exercise.notes[0], a4=a4)
    cents = cents_between(target, hz)
    folded = (cents + 600.0) % 1200.0 - 600.0
    return SungNote(round(hz, 2), round(folded, 1), _words(folded))


def _words(cents: float) -> str:
    side = "flat" if cents < 0 else "sharp"
    if abs(cents) <= _IN_TUNE_CENTS:
        return "That’s the note. Play what you sang."
    if abs(cents) <= _ANOTHER_CENTS:
        return tell("You sang it {cents} cents {side}. Listen once more.", cents=abs(round(cents)), side=side)
    return "You sang another note. Listen once more."
