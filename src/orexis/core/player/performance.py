"""From an exercise to a performance: pitch and level against time, flaws included. No sound yet.

Control rate 1 kHz. Pitch is in Hz, NaN where there is no tone; level in dB under full scale.
A tone starts with a rise of 25 ms and ends with a decay of 60 ms; a slurred move takes 35 ms.
"""

from dataclasses import dataclass, field

import numpy as np

from orexis.core.exercises import Exercise, ExerciseNote, Medium
from orexis.core.instruments import Instrument, partial_frequency_hz
from orexis.core.player.dynamics import asked_shape_db, leaning_cents, levels_asked, pulse_of_air_db
from orexis.core.player.flaws import Flaws
from orexis.core.player.gestures import CONTROL_RATE, FALL_S, RELEASE_S, level_shape, pitch_shape, slot_db
from orexis.core.sound import Floats
from orexis.core.theory import ratio_of

_AIR_DB = {"in": -46.0, "top": -44.0}  # a breath in; any other note of air is blown
_BLOWN_DB = -40.0  # air without lips at a microphone on the stand
_MOVE_S = 0.035  # a clean lip slur moves in this
_TAIL_S = 1.0  # for a release to ring out
_BREATH_PAUSE_S = 0.6  # a quick breath
_SHAPES = ("entry", "overshoot", "sag", "wobble", "vibrato", "bend", "fall-off", "swell", "fade", "wander")


@dataclass(frozen=True, slots=True)
class PlayedNote:
    """Truth about one note: when it sounds and where it lies, cents against its target."""

    id: str
    onset_s: float
    release_s: float
    pitch_error_cents: float
    partial: int
    slurred: bool


@dataclass(frozen=True, slots=True)
class Defect:
    """Truth about one flaw as played."""

    name: str
    note: str | None
    start_s: float
    size: float
    extra: float = 0.0


@dataclass(frozen=True, slots=True, eq=False)
class Performance:
    """Pitch (Hz, NaN for silence), level (dB), breath noise (dB) and tilt (dB an octave) at 1 kHz, with the truth about it."""

    f0_hz: Floats
    level_db: Floats
    breath_db: Floats
    pinched_db: Floats
    notes: tuple[PlayedNote, ...]
    defects: tuple[Defect, ...] = field(default=())


@dataclass(slots=True)
class _Canvas:
    """The control tracks while they are being drawn."""

    f0: Floats
    level: Floats
    breath: Floats
    pinched: Floats
    defects: list[Defect]

    def span(self, start_s: float, end_s: float) -> slice:
        last = len(self.f0)
        return slice(min(last, max(0, round(start_s * CONTROL_RATE))), min(last, max(0, round(end_s * CONTROL_RATE))))

    def mark(self, name: str, note: str | None, start_s: float, size: float, extra: float = 0.0) -> None:
        self.defects.append(Defect(name, note, round(start_s, 4), size, extra))


def performance(
    exercise: Exercise, instrument: Instrument, *, a4: float, flaws: Flaws, rng: np.random.Generator
) -> Performance:
    """How the simulated player plays the exercise; time 0 is the first beat of the count-in."""
    starts, ends = _times(exercise, flaws, rng)
    size = round((max(ends) + _TAIL_S) * CONTROL_RATE)
    canvas = _Canvas(np.full(size, np.nan), np.full(size, -120.0), np.full(size, -120.0), np.zeros(size), [])
    played: list[PlayedNote] = []
    if exercise.medium == Medium.AIR:
        _draw_air(canvas, exercise, starts, ends)
    elif flaws.size("silent", 0.0) == 0.0:
        levels = levels_asked(exercise)
        if flaws.size("flat", 0.0):
            levels = dict.fromkeys(levels, levels[exercise.notes[0].id])
        for index, note in enumerate(exercise.notes):
            joined = index + 1 < len(exercise.notes) and exercise.notes[index + 1].slurred
            played.append(
                _draw_note(
                    canvas,
                    exercise,
                    note,
                    instrument,
                    a4,
                    levels[note.id],
                    flaws,
                    rng,
                    starts[index],
                    ends[index],
                    joined,
                )
            )
        for index, note in enumerate(exercise.notes[1:], start=1):
            if note.slurred:
                glide_s = note.glide_beats * exercise.beat_s
                if glide_s > 0.1:
                    _stop_short(canvas, note, flaws, starts[index] - glide_s, starts[index], ends[index])
                    _draw_glide(canvas, starts[index] - glide_s, starts[index])
                    _draw_gap(canvas, note, flaws, starts[index] - 0.5 * glide_s)
                else:
                    _draw_move(canvas, exercise.notes[index - 1], note, instrument, flaws, starts[index])
            if flaws.find("breathes", note.id):
                _draw_breath_inside(canvas, note, starts[index])
    if exercise.medium != Medium.AIR:
        _draw_inhalation(canvas, starts[0] - flaws.size("response", 15.0, exercise.notes[0].id) / 1000.0, flaws)
    return Performance(canvas.f0, canvas.level, canvas.breath, canvas.pinched, tuple(played), tuple(canvas.defects))


def _times(exercise: Exercise, flaws: Flaws, rng: np.random.Generator) -> tuple[list[float], list[float]]:
    """Onsets and ends in seconds: the written ones, a little human, and late where asked."""
    starts = [
        exercise.start_s(note) + rng.normal(0.0, 0.008) + flaws.size("late", 0.0, note.id) / 1000.0
        for note in exercise.notes
    ]
    ends = []
    for index, note in enumerate(exercise.notes):
        written = note.beats * exercise.beat_s
        told = flaws.find("hold", note.id)
        if note.to_breath_end:
            ends.append(starts[index] + flaws.size("hold", written * (1.0 + rng.uniform(-0.02, 0.06)), note.id))
        elif told is not None and told.note is not None:
            ends.append(starts[index] + min(told.size, written))
        elif index + 1 < len(exercise.notes):
            following = exercise.notes[index + 1]
            between = 0.0 if following.slurred else flaws.size("silence", 80.0, following.id) / 1000.0
            rests = following.start_beat - note.start_beat - note.beats > 0.05
            ends.append(starts[index] + written * 0.96 if rests else starts[index + 1] - between)
        else:
            ends.append(starts[index] + written * 0.96)
        if told is None and note.sounding_beats < note.beats:
            ends[index] = min(ends[index], starts[index] + note.sounding_beats * exercise.beat_s)
    return starts, ends


def _draw_note(
    canvas: _Canvas,
    exercise: Exercise,
    note: ExerciseNote,
    instrument: Instrument,
    a4: float,
    asked_db: float,
    flaws: Flaws,
    rng: np.random.Generator,
    start: float,
    end: float,
    joined: bool,
) -> PlayedNote:
    missed = flaws.find("miss", note.id)
    partial = round(missed.size) if missed else note.partial
    asked = exercise.target_hz(note, a4=a4)
    if missed:
        base = partial_frequency_hz(instrument, note.fingering, partial)
        canvas.mark("miss", note.id, start, partial)
    else:
        base = asked * ratio_of(note.instrument_cents if note.keep_fingering else 0.0)
    centre = flaws.size("centre", 0.0, note.id) + rng.normal(0.0, 1.2)
    where = canvas.span(start, end + (0.0 if joined else RELEASE_S))
    t = np.arange(where.stop - where.start) / CONTROL_RATE
    first, last = not note.slurred, not joined
    cents = centre + pitch_shape(note.id, flaws, rng, t, end - start, first=first, last=last)
    lean = leaning_cents(note, np.clip(t / max(end - start, 1e-3), 0.0, 1.0))
    if lean is not None:
        cents = cents + lean
    _mark_shapes(canvas, note, flaws, start, end, first=first, last=last)
    canvas.f0[where] = base * 2.0 ** (cents / 1200.0)
    level = flaws.size("level", asked_db, note.id)
    canvas.level[where] = level + level_shape(note.id, flaws, rng, t, end - start, rises=first, falls=last)
    shape = None if flaws.size("flat", 0.0) else note.shape
    canvas.level[where] += asked_shape_db(shape, np.clip(t / max(end - start, 1e-3), 0.0, 1.0))
    if not flaws.size("flat", 0.0):
        canvas.level[where] += pulse_of_air_db(note, t * note.beats / max(end - start, 1e-3))
    ring = flaws.find("ring", note.id)
    if ring or lean is not None:
        rings_at = ring.size if ring else 0.0
        canvas.level[where] += slot_db(cents - centre - rings_at)
        canvas.breath[where] -= slot_db(cents - centre - rings_at)
    if ring:
        canvas.mark("ring", note.id, start, ring.size + float(centre))
    _draw_break(canvas, note, instrument, flaws, start, end)
    canvas.pinched[where] = flaws.size("pinched", 0.0, note.id)
    breath = flaws.size("breath", -38.0, note.id)
    canvas.breath[where] = np.maximum(canvas.breath[where], level + breath)
    response = flaws.size("response", 15.0, note.id) / 1000.0
    if not note.slurred:
        canvas.breath[canvas.span(start - response, start)] = level - 22.0
    return PlayedNote(note.id, round(start, 4), round(end, 4), round(float(centre), 3), partial, note.slurred)


def _mark_shapes(
    canvas: _Canvas, note: ExerciseNote, flaws: Flaws, start: float, end: float, *, first: bool, last: bool
) -> None:
    """The truth about what `gestures` draws."""
    for name in _SHAPES:
        flaw = flaws.find(name, note.id)
        falls_here = {"entry": first, "overshoot": not first, "fall-off": last}.get(name, True)
        if flaw and falls_here:
            canvas.mark(name, note.id, end - FALL_S if name == "fall-off" else start, flaw.size, flaw.extra)


def _draw_break(
    canvas: _Canvas, note: ExerciseNote, instrument: Instrument, flaws: Flaws, start: float, end: float
) -> None:
    """A start on another partial, or a break to one and back."""
    for name, at in (("split", start), ("crack", 0.5 * (start + end))):
        flaw = flaws.find(name, note.id)
        if flaw is None or (name == "split" and note.slurred):
            continue
        where = canvas.span(at, at + flaw.extra / 1000.0)
        canvas.f0[where] = partial_frequency_hz(instrument, note.fingering, round(flaw.size))
        canvas.mark(name, note.id, at, flaw.size, flaw.extra)


def _draw_move(
    canvas: _Canvas, before: ExerciseNote, note: ExerciseNote, instrument: Instrument, flaws: Flaws, at: float
) -> None:
    """The slurred move into a note: a quick glide, with whatever goes wrong on the way."""
    caught, gap, bump = (flaws.find(name, note.id) for name in ("caught", "gap", "bump"))
    length = _MOVE_S
    if caught:
        length += caught.extra / 1000.0
    if gap:
        length = max(length, gap.size / 1000.0 + 0.01)
    where = canvas.span(at - length / 2, at + length / 2)
    if where.stop - where.start < 4:
        return
    old, new = canvas.f0[max(0, where.start - 1)], canvas.f0[min(len(canvas.f0) - 1, where.stop)]
    if not (np.isfinite(old) and np.isfinite(new)):
        return
    place = np.linspace(0.0, 1.0, where.stop - where.start)
    canvas.f0[where] = np.exp(np.log(old) + (np.log(new) - np.log(old)) * 0.5 * (1 - np.cos(np.pi * place)))
    canvas.level[where] -= 2.0 * np.sin(np.pi * place)
    if caught:
        touched = partial_frequency_hz(instrument, note.fingering, round(caught.size))
        held = canvas.span(at - caught.extra / 2000.0, at + caught.extra / 2000.0)
        _touch(canvas, where, held, old, touched, new)
        canvas.mark("caught", note.id, held.start / CONTROL_RATE, caught.size, caught.extra)
    _draw_gap(canvas, note, flaws, at)
    if bump:
        dip = canvas.span(at - 0.04, at + 0.04)
        canvas.level[dip] -= bump.size * np.hanning(dip.stop - dip.start)
        canvas.mark("bump", note.id, at, bump.size)


def _draw_gap(canvas: _Canvas, note: ExerciseNote, flaws: Flaws, at: float) -> None:
    """Silence on the way into a note, around a moment."""
    gap = flaws.find("gap", note.id)
    if gap:
        hole = canvas.span(at - gap.size / 2000.0, at + gap.size / 2000.0)
        canvas.level[hole] = -120.0
        canvas.breath[hole] = -120.0
        canvas.mark("gap", note.id, hole.start / CONTROL_RATE, gap.size)


def _draw_glide(canvas: _Canvas, begin: float, end: float) -> None:
    """An even glide from the pitch at its beginning to the one at its end."""
    where = canvas.span(begin, end)
    old, new = canvas.f0[where.start], canvas.f0[min(len(canvas.f0) - 1, where.stop + 1)]
    if where.stop - where.start > 4 and np.isfinite(old) and np.isfinite(new):
        canvas.f0[where] = old * (new / old) ** np.linspace(0.0, 1.0, where.stop - where.start)


def _stop_short(canvas: _Canvas, note: ExerciseNote, flaws: Flaws, begin: float, start: float, end: float) -> None:
    """The note that a glide goes to lies only so far of the way."""
    flaw = flaws.find("glide", note.id)
    where = canvas.span(start, end + RELEASE_S)
    old, new = (
        canvas.f0[max(0, canvas.span(begin, start).start - 1)],
        canvas.f0[min(len(canvas.f0) - 1, where.start + 1)],
    )
    if flaw is None or not (np.isfinite(old) and np.isfinite(new)):
        return
    canvas.f0[where] *= (new / old) ** (flaw.size - 1.0)
    canvas.mark("glide", note.id, start, flaw.size)


def _draw_air(canvas: _Canvas, exercise: Exercise, starts: list[float], ends: list[float]) -> None:
    """Draw the sound of a breath in and out, without a tone."""
    for note, start, end in zip(exercise.notes, starts, ends, strict=True):
        level = _AIR_DB.get((note.text or "").split(",")[0].split(" ")[0], _BLOWN_DB)
        where = canvas.span(start, end)
        edge = np.clip(np.minimum(np.arange(where.stop - where.start), 80) / 80.0, 0.05, 1.0)
        canvas.breath[where] = level + 20.0 * np.log10(edge)


def _touch(canvas: _Canvas, where: slice, held: slice, old: float, touched: float, new: float) -> None:
    """Glide to the touched partial, stay, glide on."""
    into = np.linspace(0.0, 1.0, max(2, held.start - where.start))
    away = np.linspace(0.0, 1.0, max(2, where.stop - held.stop))
    canvas.f0[where.start : held.start] = (old * (touched / old) ** into)[: held.start - where.start]
    canvas.f0[held] = touched
    canvas.f0[held.stop : where.stop] = (touched * (new / touched) ** away)[: where.stop - held.stop]


def _draw_inhalation(canvas: _Canvas, first_onset: float, flaws: Flaws) -> None:
    """A breath that ends a little before the first note."""
    flaw = flaws.find("inhale")
    level, length = (flaw.size, flaw.extra / 1000.0) if flaw else (-54.0, 0.95)
    where = canvas.span(first_onset - 0.15 - length, first_onset - 0.15)
    size = where.stop - where.start
    if size > 4:
        edge = np.clip(np.minimum(np.arange(size), np.arange(size)[::-1]) / 60.0, 0.05, 1.0)
        canvas.breath[where] = np.maximum(canvas.breath[where], level + 20.0 * np.log10(edge))
        canvas.mark("inhale", None, where.start / CONTROL_RATE, level, 1000.0 * size / CONTROL_RATE)


def _draw_breath_inside(canvas: _Canvas, note: ExerciseNote, start: float) -> None:
    """A breath taken inside the exercise: the notes part for it."""
    pause = canvas.span(start - _BREATH_PAUSE_S, start)
    canvas.f0[pause] = np.nan
    canvas.level[pause], canvas.breath[pause] = -120.0, -120.0
    noise = canvas.span(start - _BREATH_PAUSE_S + 0.12, start - 0.14)
    canvas.breath[noise] = -50.0
    canvas.mark("breathes", note.id, start - _BREATH_PAUSE_S, 1.0)
