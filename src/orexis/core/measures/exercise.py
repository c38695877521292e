"""Measures over a whole exercise. Formulas: docs/measures.md."""

import itertools
import math
from dataclasses import dataclass, replace
from functools import partial
from typing import Any

import numpy as np

from orexis.core.exercises import Exercise
from orexis.core.instruments import Instrument
from orexis.core.measures.beats import pulse_db
from orexis.core.measures.breath import inhalations
from orexis.core.measures.envelope import CLEAR_DB, Reference, TimbreProfile, main_difference, match, natural_db
from orexis.core.measures.lock import LOCKED_CENTS, LOCKED_PERIODS, motion_of, unlocked
from orexis.core.measures.slope import theil_sen
from orexis.core.measures.sweep import ASKED_SWEEP_CENTS, FREE_SWEEP_CENTS, cents_along, sweep, voiced_runs
from orexis.core.measures.values import ExerciseMeasures, MoveMeasures, NoteMeasures
from orexis.core.notes import runs
from orexis.core.signals import median
from orexis.core.sound import Floats
from orexis.core.theory import ratio_of
from orexis.core.trace import HOP_S, Trace

_LEAST_OCTAVES = 0.3  # of range, before loudness by height means anything
_EASY_PARTIAL = 4.0  # the fourth partial speaks most easily on every instrument here
_TRILL_CENTS = (70.0, 520.0)
_TRILL_TURNS = 6  # fewer changes give no rate
_WHOLE_MS = 200.0  # of silence in a move, at most
_QUICK_S = 0.15


@dataclass(frozen=True, slots=True, eq=False)
class ExerciseContext:
    """Everything read so far that a measure of the whole may need."""

    trace: Trace
    notes: tuple[NoteMeasures, ...]
    moves: tuple[MoveMeasures, ...]
    exercise: Exercise | None
    instrument: Instrument
    first_beat_s: float | None
    delay_s: float | None
    room_db: float | None
    clicked: bool = True
    ringing: float = 0.0  # share of what sounds that the room adds


def exercise_measures(taken: ExerciseContext) -> ExerciseMeasures:
    """All of them; each says why it could not be taken."""
    reasons: dict[str, str] = {}
    values: dict[str, Any] = {
        "playing_s": round(float(taken.trace.voiced.sum()) * HOP_S, 3),
        "extra_notes": sum(note.target is None for note in taken.notes),
        "missed_notes": sum(note.sounded is None for note in taken.notes),
    }
    for measure in (_timing, _first_off, _evenness, _height, _across, _breaths, _trill, _pulse, _sweep):
        values |= measure(taken, reasons)
    return ExerciseMeasures(unmeasured=reasons, **values)


def timbre_of(note: NoteMeasures) -> TimbreProfile | None:
    """What the sound match compares of a note."""
    if note.envelope_db is None or note.f0_hz is None or note.level_db is None:
        return None
    clarity = CLEAR_DB if note.tone_to_noise_db is None else note.tone_to_noise_db
    return TimbreProfile(note.envelope_db, note.f0_hz, note.level_db, clarity, note.level_wobble_db or 0.0)


def matched_with(
    notes: tuple[NoteMeasures, ...], reference: Reference | None, *, same_db: float
) -> tuple[NoteMeasures, ...]:
    """The notes with their sound match against a reference, or with the reason why there is none."""
    if reference is None:
        reason = {"tone_match": "there is no sound to compare with yet"}
        return tuple(replace(note, unmeasured=note.unmeasured | reason) for note in notes)
    out = []
    for note in notes:
        timbre = timbre_of(note)
        value = match(timbre, reference.timbre, same_db=same_db, elsewhere=reference.elsewhere) if timbre else None
        reasons = (
            note.unmeasured
            if value is not None
            else note.unmeasured | {"tone_match": "too little is heard of its sound"}
        )
        away = None if timbre is None or reference.elsewhere else abs(math.log2(timbre.f0_hz / reference.timbre.f0_hz))
        out.append(
            replace(
                note,
                tone_match=None if value is None else round(value, 1),
                tone_match_octaves=None if away is None else round(away, 3),
                tone_differs=main_difference(timbre, reference.timbre) if timbre else None,
                unmeasured=reasons,
            )
        )
    return tuple(out)


def _timing(taken: ExerciseContext, reasons: dict[str, str]) -> dict[str, Any]:
    # Notes of a fast trill run together: its speed is told, not where each of them falls.
    trill = taken.exercise if taken.exercise and taken.exercise.least("trill") is not None else None
    quick = {note.id for note in trill.notes if note.beats * trill.beat_s < _QUICK_S} if trill else set()
    # Where a silence lies on the way, a note arrives when it is heard.
    whole = [move for move in taken.moves if move.slurred and (move.gap_ms or 0.0) < _WHOLE_MS]
    arrivals = {move.after: 0.5 * (move.start_s + move.stop_s) for move in whole}
    late = [
        (note.due_s, 1000.0 * (arrivals.get(note.index, note.onset_s) - note.due_s))
        for note in taken.notes
        if note.right and note.onset_s is not None and note.due_s is not None and note.target not in quick
    ]
    nothing: dict[str, Any] = {"timing_mean_ms": None, "timing_spread_ms": None}
    names = ("timing_mean_ms", "timing_spread_ms", "timing_drift_ms_min")
    if taken.first_beat_s is None or (taken.exercise and not taken.exercise.click):
        reasons |= dict.fromkeys(
            names,
            "the click's place in this sound is not known"
            if taken.first_beat_s is None
            else "this exercise has no click",
        )
        return nothing
    if len(late) < 2:
        reasons |= dict.fromkeys(names, "it takes two notes and more")
        return nothing
    due, off = np.array([d for d, _ in late]), np.array([v for _, v in late])
    if not taken.clicked:
        return _about_own_beat(due, off, reasons)
    values: dict[str, Any] = {"timing_spread_ms": round(float(np.std(off, ddof=1)), 1), "timing_mean_ms": None}
    if taken.delay_s is None:
        reasons["timing_mean_ms"] = "the device's delay is not known"
    else:
        values["timing_mean_ms"] = round(float(off.mean()) - 1000.0 * taken.delay_s, 1)
    if len(late) >= 4 and np.ptp(due) > 0:
        values["timing_drift_ms_min"] = round(60.0 * theil_sen(off, due)[0], 1)
    else:
        reasons["timing_drift_ms_min"] = "it takes four notes and more"
    return values


def _first_off(taken: ExerciseContext, reasons: dict[str, str]) -> dict[str, Any]:
    """How late the first note comes, which one note alone can tell."""
    exercise, delay_s = taken.exercise, taken.delay_s
    if exercise is None or not exercise.click or not taken.clicked or taken.first_beat_s is None or delay_s is None:
        reasons["start_off_ms"] = "there was no click, or its place or the device's delay is not known"
        return {}
    first = next((note for note in taken.notes if note.target == exercise.notes[0].id and note.right), None)
    if first is None or first.onset_s is None or first.due_s is None:
        reasons["start_off_ms"] = "the first note was not heard"
        return {}
    return {"start_off_ms": round(1000.0 * (first.onset_s - first.due_s - delay_s), 1)}


def _about_own_beat(due: Floats, off: Floats, reasons: dict[str, str]) -> dict[str, Any]:
    """Without a click nobody is ahead or behind; what is uneven is uneven about a steady tempo of the player's own."""
    reasons |= dict.fromkeys(("timing_mean_ms", "timing_drift_ms_min"), "there was no click")
    if len(due) < 3 or np.ptp(due) <= 0:
        reasons["timing_spread_ms"] = "without a click it takes three notes and more"
        return {"timing_mean_ms": None, "timing_spread_ms": None}
    slope, start = theil_sen(off, due)
    rest = off - start - slope * due
    return {"timing_mean_ms": None, "timing_spread_ms": round(float(np.std(rest, ddof=2)), 1)}


def _evenness(taken: ExerciseContext, reasons: dict[str, str]) -> dict[str, Any]:
    """Spread of the time from note to note where the exercise asks for equal ones."""
    if taken.exercise is None:
        reasons["evenness_ms"] = "no exercise says which lengths should be equal"
        return {}
    beats = {note.id: note.beats for note in taken.exercise.notes}
    groups: dict[float, list[float]] = {}
    for a, b in itertools.pairwise(n for n in taken.notes if n.right and n.onset_s is not None):
        if a.target in beats and a.onset_s is not None and b.onset_s is not None and b.index == a.index + 1:
            groups.setdefault(beats[a.target or ""], []).append(b.onset_s - a.onset_s)
    spreads = [(len(g) - 1, float(np.var(g, ddof=1))) for g in groups.values() if len(g) >= 3]
    if not spreads:
        reasons["evenness_ms"] = "it takes three notes of equal length and more"
        return {}
    return {"evenness_ms": round(1000.0 * math.sqrt(sum(n * v for n, v in spreads) / sum(n for n, _ in spreads)), 1)}


def _height(taken: ExerciseContext, reasons: dict[str, str]) -> dict[str, Any]:
    pairs = [(math.log2(n.f0_hz), n.level_db) for n in taken.notes if n.f0_hz and n.level_db is not None]
    octaves = [octave for octave, _ in pairs]
    if len(pairs) < 3 or max(octaves) - min(octaves) < _LEAST_OCTAVES:
        reasons["loudness_by_height_db_octave"] = "the notes cover too small a range"
        return {}
    slope = theil_sen([level for _, level in pairs], octaves)[0]
    return {"loudness_by_height_db_octave": round(slope, 1)}


def _across(taken: ExerciseContext, reasons: dict[str, str]) -> dict[str, Any]:
    """Every note against the exercise's easiest: the one nearest to the open tube's fourth partial."""
    sounding = [(n, v) for n in taken.notes if (v := timbre_of(n)) is not None]
    if len(sounding) < 2:
        reasons["tone_match_across"] = "it takes two notes whose sound is heard"
        return {}
    easy_hz = _EASY_PARTIAL * taken.instrument.sides[0].fundamental.frequency()
    easiest = min(sounding, key=lambda pair: abs(math.log2(pair[1].f0_hz / easy_hz)))[1]
    alike = partial(_alike, share=taken.ringing)
    values = [m for _, v in sounding if v is not easiest and (m := alike(v, easiest)) is not None]
    steps = [(m, b.index) for (_, v), (b, w) in itertools.pairwise(sounding) if (m := alike(v, w)) is not None]
    if not values or not steps:
        reasons["tone_match_across"] = "the notes share too little of their range"
        return {}
    worst = min(steps)
    return {"tone_match_across": round(min(values), 1), "worst_step": worst[1], "worst_step_match": round(worst[0], 1)}


def _alike(a: TimbreProfile, b: TimbreProfile, share: float) -> float | None:
    return match(a, b, same_db=natural_db(a, b, room_share=share))


def _breaths(taken: ExerciseContext, reasons: dict[str, str]) -> dict[str, Any]:
    """Breaths taken between the first note and the last."""
    sounded = [n for n in taken.notes if n.onset_s is not None and n.release_s is not None]
    if len(sounded) < 2:
        reasons["breaths_inside"] = "it takes two notes and more"
        return {}
    if taken.room_db is None:
        reasons["breaths_inside"] = "there was no silence to know the room by"
        return {}
    breaths = []
    for a, b in itertools.pairwise(sounded):
        if a.release_s is not None and b.onset_s is not None and b.onset_s - a.release_s > 0.2:
            breaths += inhalations(taken.trace, a.release_s, b.onset_s, taken.room_db)[:1]
    return {"breaths_inside": len(breaths), "breath_at_s": round(breaths[0].start_s, 3) if breaths else None}


def _trill(taken: ExerciseContext, reasons: dict[str, str]) -> dict[str, Any]:
    """There-and-backs a second between two pitches, and the share of the turns that never seat."""
    best: tuple[int, float, float] | None = None
    for a, b in voiced_runs(taken.trace):
        trill = _trill_in(cents_along(taken.trace, a, b))
        if trill and (best is None or trill[0] > best[0]):
            best = trill
    if best is None:
        reasons |= dict.fromkeys(("trill_hz", "unseated_share"), "no two notes were alternated")
    rate: dict[str, Any] = {} if best is None else {"trill_hz": round(best[1], 2), "unseated_share": round(best[2], 3)}
    if taken.exercise is None or taken.exercise.least("trill") is None:
        return rate
    motion = motion_of(taken.trace, taken.notes, taken.exercise)
    if motion is not None:
        rate |= {
            "dwelling_share": round(motion.share, 3),
            "dwelling_note": motion.note,
            "lost_turns": motion.lost_turns,
        }
        if motion.lost_turns == 0 and motion.rate_hz is not None:
            rate["trill_hz"] = round(motion.rate_hz, 2)
    loose = unlocked(taken.trace, taken.notes, taken.exercise)
    if loose is None:
        reasons["unseated_share"] = "too few notes of one length were heard"
        return rate | {"unseated_share": None}
    reasons.pop("unseated_share", None)
    return rate | {"unseated_share": round(loose[0], 3), "unseated_note": loose[1]}


def _pulse(taken: ExerciseContext, reasons: dict[str, str]) -> dict[str, Any]:
    if taken.exercise is None or not any(note.accent for note in taken.exercise.notes):
        return {}
    pulse = pulse_db(taken.trace, taken.notes, taken.exercise)
    if pulse is None:
        reasons["pulse_db"] = "fewer than four beats were heard"
        return {}
    return {"pulse_db": round(pulse[0], 1), "pulse_note": pulse[1]}


def _trill_in(cents: Floats) -> tuple[int, float, float] | None:
    low, high = np.percentile(cents, (15, 85))
    if not _TRILL_CENTS[0] <= high - low <= _TRILL_CENTS[1]:
        return None
    middle, band = 0.5 * (low + high), 0.2 * (high - low)
    side = np.where(cents > middle + band, 1, np.where(cents < middle - band, -1, 0))
    marked = np.flatnonzero(side)
    turns = [int(k) for k, before in zip(marked[1:], marked[:-1], strict=True) if side[k] != side[before]]
    if len(turns) < _TRILL_TURNS:
        return None
    targets = {s: median(cents[side == s]) for s in (-1, 1)}
    f0 = ratio_of(middle)
    need = max(2, round(LOCKED_PERIODS / f0 / HOP_S))
    seated = 0
    for first, last in itertools.pairwise(turns):
        near = np.abs(cents[first:last] - targets[int(side[first])]) <= LOCKED_CENTS
        seated += any(b - a + 1 >= need for a, b in runs(near))
    rate = (len(turns) - 1) / ((turns[-1] - turns[0]) * HOP_S) / 2.0
    return len(turns), rate, 1.0 - seated / (len(turns) - 1)


def _sweep(taken: ExerciseContext, reasons: dict[str, str]) -> dict[str, Any]:
    asked = taken.exercise is not None and "siren" in taken.exercise.judged
    swept = sweep(taken.trace, taken.instrument, ASKED_SWEEP_CENTS if asked else FREE_SWEEP_CENTS)
    if swept is None:
        names = ("siren_low_hz", "siren_high_hz", "siren_jump_cents", "siren_breaks", "in_slots_share")
        reasons |= dict.fromkeys(names, "the pitch never swept far enough in one breath")
    return swept or {}
