"""From a figure to a performance: pitch and level against time, flaws included. No sound yet.

Control rate 1 kHz. Pitch is in Hz, NaN where there is no tone; level in dB under full scale.
A tone starts with a rise of 25 ms and ends with a decay of 60 ms; a slurred move takes 35 ms.
"""

from dataclasses import dataclass, field

import numpy as np

from orexis.core.figures import Figure, FigureNote
from orexis.core.horn import Instrument, partial_frequency_hz
from orexis.core.player.flaws import Flaws
from orexis.core.sound import Floats

CONTROL_RATE = 1000
_LEVEL_OF = {"pp": -36.0, "p": -31.0, "mp": -27.0, "mf": -23.0, "f": -18.0, "ff": -14.0}
_MOVE_S = 0.035
_RISE_S = 0.025
_RELEASE_S = 0.06
_TAIL_S = 1.0
_FALL_S = 0.15


@dataclass(frozen=True, slots=True)
class PlayedNote:
    """Truth about one note: when it sounds and where it lies, cents against its target."""

    id: str
    onset_s: float
    release_s: float
    centre_cents: float
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
    """Pitch (Hz, NaN for silence), level (dB) and breath noise (dB) at 1 kHz, with the truth about it."""

    f0_hz: Floats
    level_db: Floats
    breath_db: Floats
    notes: tuple[PlayedNote, ...]
    defects: tuple[Defect, ...] = field(default=())


@dataclass(slots=True)
class _Canvas:
    """The control tracks while they are being drawn."""

    f0: Floats
    level: Floats
    breath: Floats
    defects: list[Defect]

    def span(self, start_s: float, end_s: float) -> slice:
        last = len(self.f0)
        return slice(min(last, max(0, round(start_s * CONTROL_RATE))), min(last, max(0, round(end_s * CONTROL_RATE))))

    def mark(self, name: str, note: str | None, start_s: float, size: float, extra: float = 0.0) -> None:
        self.defects.append(Defect(name, note, round(start_s, 4), size, extra))


def performance(figure: Figure, horn: Instrument, *, a4: float, flaws: Flaws, rng: np.random.Generator) -> Performance:
    """How the simulated player plays the figure; time 0 is the first beat of the count-in."""
    starts, ends = _times(figure, flaws, rng)
    size = round((max(ends) + _TAIL_S) * CONTROL_RATE)
    canvas = _Canvas(np.full(size, np.nan), np.full(size, -120.0), np.full(size, -120.0), [])
    played: list[PlayedNote] = []
    if flaws.size("silent", 0.0) == 0.0:
        for index, note in enumerate(figure.notes):
            joined = index + 1 < len(figure.notes) and figure.notes[index + 1].slurred
            played.append(_draw_note(canvas, figure, note, horn, a4, flaws, rng, starts[index], ends[index], joined))
        for index, note in enumerate(figure.notes[1:], start=1):
            if note.slurred:
                _draw_move(canvas, figure.notes[index - 1], note, horn, flaws, starts[index])
    _draw_inhalation(canvas, starts[0])
    return Performance(canvas.f0, canvas.level, canvas.breath, tuple(played), tuple(canvas.defects))


def _times(figure: Figure, flaws: Flaws, rng: np.random.Generator) -> tuple[list[float], list[float]]:
    """Onsets and ends in seconds: the written ones, a little human, and late where asked."""
    starts = [
        figure.start_s(note) + rng.normal(0.0, 0.008) + flaws.size("late", 0.0, note.id) / 1000.0
        for note in figure.notes
    ]
    ends = []
    for index, note in enumerate(figure.notes):
        written = note.beats * figure.beat_s
        if note.to_breath_end:
            ends.append(starts[index] + flaws.size("hold", written * (1.0 + rng.uniform(-0.02, 0.06)), note.id))
        elif index + 1 < len(figure.notes):
            between = 0.0 if figure.notes[index + 1].slurred else 0.08
            ends.append(starts[index + 1] - between)
        else:
            ends.append(starts[index] + written * 0.96)
    return starts, ends


def _draw_note(
    canvas: _Canvas,
    figure: Figure,
    note: FigureNote,
    horn: Instrument,
    a4: float,
    flaws: Flaws,
    rng: np.random.Generator,
    start: float,
    end: float,
    joined: bool,
) -> PlayedNote:
    missed = flaws.find("miss", note.id)
    partial = round(missed.size) if missed else note.partial
    asked = figure.target_hz(note, a4=a4)
    if missed:
        base = partial_frequency_hz(horn, note.tube, partial)
        canvas.mark("miss", note.id, start, partial)
    else:
        base = asked * 2.0 ** ((note.horn_cents if note.keep_tube else 0.0) / 1200.0)
    centre = flaws.size("centre", 0.0, note.id) + rng.normal(0.0, 1.2)
    last = end + (0.0 if joined else _RELEASE_S)
    where = canvas.span(start, last)
    t = np.arange(where.stop - where.start) / CONTROL_RATE
    cents = centre + _pitch_shape(canvas, note, flaws, rng, t, start, end, first=not note.slurred, last=not joined)
    canvas.f0[where] = base * 2.0 ** (cents / 1200.0)
    level = flaws.size("level", _LEVEL_OF[figure.dynamic], note.id)
    canvas.level[where] = level + _level_shape(t, end - start, rises=not note.slurred, falls=not joined)
    breath = flaws.size("breath", -38.0, note.id)
    canvas.breath[where] = np.maximum(canvas.breath[where], level + breath)
    response = flaws.size("response", 15.0, note.id) / 1000.0
    if not note.slurred:
        canvas.breath[canvas.span(start - response, start)] = level - 22.0
    return PlayedNote(note.id, round(start, 4), round(end, 4), round(float(centre), 3), partial, note.slurred)


def _pitch_shape(
    canvas: _Canvas,
    note: FigureNote,
    flaws: Flaws,
    rng: np.random.Generator,
    t: Floats,
    start: float,
    end: float,
    *,
    first: bool,
    last: bool,
) -> Floats:
    """Deviation in cents along a note: entry, sag, wobble, fall-off and the unrest of a living lip."""
    length = end - start
    shape = _unrest(len(t), rng)
    entry, sag, wobble, fall = (flaws.find(name, note.id) for name in ("entry", "sag", "wobble", "fall-off"))
    if entry and first:
        until = entry.extra / 1000.0
        glide = np.clip((t - 0.03) / max(until - 0.03, 1e-3), 0.0, 1.0)
        shape += entry.size * 0.5 * (1.0 + np.cos(np.pi * glide))
        canvas.mark("entry", note.id, start, entry.size, entry.extra)
    if sag:
        shape += sag.size * (np.clip(t / length, 0.0, 1.0) - 0.5)
        canvas.mark("sag", note.id, start, sag.size)
    if wobble:
        shape += wobble.size * np.sin(2 * np.pi * wobble.extra * t + rng.uniform(0, 2 * np.pi))
        canvas.mark("wobble", note.id, start, wobble.size, wobble.extra)
    if fall and last:
        shape += fall.size * np.clip((t - (length - _FALL_S)) / (0.3 * _FALL_S), 0.0, 1.0)
        canvas.mark("fall-off", note.id, end - _FALL_S, fall.size)
    return shape


def _unrest(size: int, rng: np.random.Generator) -> Floats:
    """Slow noise of about 1 cent: no living tone is a ruler."""
    points = rng.normal(0.0, 1.0, size // 80 + 3)
    return np.interp(np.arange(size) / 80.0, np.arange(len(points)), points)


def _level_shape(t: Floats, length: float, *, rises: bool, falls: bool) -> Floats:
    """DB against the note's level: a quick rise, and a decay after the end."""
    shape = np.zeros_like(t)
    if rises:
        shape += 20.0 * np.log10(np.clip(t / _RISE_S, 1e-2, 1.0))
    if falls:
        shape -= 60.0 * np.clip((t - length) / _RELEASE_S, 0.0, 1.0)
    return shape


def _draw_move(
    canvas: _Canvas, before: FigureNote, note: FigureNote, horn: Instrument, flaws: Flaws, at: float
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
        touched = partial_frequency_hz(horn, note.tube, round(caught.size))
        held = canvas.span(at - caught.extra / 2000.0, at + caught.extra / 2000.0)
        _touch(canvas, where, held, old, touched, new)
        canvas.mark("caught", note.id, held.start / CONTROL_RATE, caught.size, caught.extra)
    if gap:
        hole = canvas.span(at - gap.size / 2000.0, at + gap.size / 2000.0)
        canvas.level[hole] = -120.0
        canvas.breath[hole] = -120.0
        canvas.mark("gap", note.id, hole.start / CONTROL_RATE, gap.size)
    if bump:
        dip = canvas.span(at - 0.04, at + 0.04)
        canvas.level[dip] -= bump.size * np.hanning(dip.stop - dip.start)
        canvas.mark("bump", note.id, at, bump.size)


def _touch(canvas: _Canvas, where: slice, held: slice, old: float, touched: float, new: float) -> None:
    """Glide to the touched partial, stay, glide on."""
    into = np.linspace(0.0, 1.0, max(2, held.start - where.start))
    away = np.linspace(0.0, 1.0, max(2, where.stop - held.stop))
    canvas.f0[where.start : held.start] = (old * (touched / old) ** into)[: held.start - where.start]
    canvas.f0[held] = touched
    canvas.f0[held.stop : where.stop] = (touched * (new / touched) ** away)[: where.stop - held.stop]


def _draw_inhalation(canvas: _Canvas, first_onset: float) -> None:
    """A quiet breath that ends a little before the first note."""
    where = canvas.span(first_onset - 1.1, first_onset - 0.15)
    size = where.stop - where.start
    if size > 4:
        canvas.breath[where] = np.maximum(canvas.breath[where], -62.0 + 8.0 * np.hanning(size))
