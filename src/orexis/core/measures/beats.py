"""The pulse of the air: how far the loudness rises with each beat, where that is asked."""

import math
from itertools import pairwise

import numpy as np

from orexis.core.exercises import Exercise
from orexis.core.measures.values import NoteMeasures
from orexis.core.trace import Trace

_FEWEST_BEATS, _LONGEST_BEATS = 4, 1.6
_ON_THE_BEAT = (-0.1, 0.45)  # where in the beat it is loudest


def pulse_db(trace: Trace, notes: tuple[NoteMeasures, ...], exercise: Exercise) -> tuple[float, str] | None:
    """Peak to peak of a wave of one beat's length fitted to the level between accented notes, dB, 0 where it is loudest
    away from the beat; and the note of the beat that shows least of it. None where fewer than four beats were heard.

    Each pitch has a level of its own in the fit, so that a higher note that is louder by itself is no pulse.
    """
    written = {note.id: note for note in exercise.notes}
    heard = [(written[n.target], n.onset_s) for n in notes if n.target in written and n.right and n.onset_s is not None]
    beats = [(note, at) for note, at in heard if note.accent]
    level, phase, pitch = [], [], []
    spans: list[str] = []
    for (note, begins), (after, ends) in pairwise(beats):
        if after.start_beat - note.start_beat > _LONGEST_BEATS or ends <= begins:
            continue
        spans.append(note.id)
        part = trace.part(begins, ends)
        inside = [(at, asked.pitch.midi) for asked, at in heard if begins <= at < ends]
        places = np.searchsorted([at for at, _ in inside], part.time_s, side="right") - 1
        level.append(part.level_db)
        phase.append((part.time_s - begins) / (ends - begins))
        pitch.append(np.array([midi for _, midi in inside])[np.maximum(places, 0)])
    if len(spans) < _FEWEST_BEATS:
        return None
    levels, turns, pitches = np.concatenate(level), 2.0 * np.pi * np.concatenate(phase), np.concatenate(pitch)
    own = [(pitches == midi).astype(float) for midi in sorted(set(pitches.tolist()))]
    fit = np.linalg.lstsq(np.stack([*own, np.cos(turns), np.sin(turns)], axis=1), levels, rcond=None)[0]
    cosine, sine = float(fit[-2]), float(fit[-1])
    loudest = math.atan2(sine, cosine) / (2.0 * math.pi)
    low, high = _ON_THE_BEAT
    rest = levels - np.stack(own, axis=1) @ fit[: len(own)]
    cuts = np.cumsum([len(part) for part in level])[:-1]
    shares = np.split(np.asarray(rest * np.cos(turns)), cuts)
    each = [float(np.mean(share)) for share in shares]
    return 2.0 * math.hypot(cosine, sine) if low <= loudest <= high else 0.0, spans[int(np.argmin(each))]
