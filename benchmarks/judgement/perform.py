"""An exercise played by a waveshaped oscillator, with flaws of known size: another make of sound than the simulated player's.

Pitch and level are drawn note by note at 1 kHz (`benchmarks.ear.pulse`), with a little human unrest; a flaw changes what is
drawn at one note. What the room, the loudspeaker and the mains add comes last.
"""

from dataclasses import dataclass

import numpy as np
from scipy.signal import butter, sosfilt

from benchmarks.ear.case import Floats
from benchmarks.ear.pulse import CONTROL, RATE, Score, clicks, draw_move, draw_note, sounded
from benchmarks.ear.room import in_room
from orexis.core.exercises import Exercise, ExerciseNote, Medium, Series
from orexis.core.instruments import INSTRUMENTS, partial_frequency_hz
from orexis.core.player.dynamics import asked_shape_db, leaning_cents, levels_asked
from orexis.core.practice import Ending, keeps_time
from orexis.core.sound import Sound
from orexis.core.theory import ratio_of
from orexis.core.trace import track

# Decay in seconds, and how far the reverberation lies under the instrument's own sound, dB. Far away it is as the impulse of
# `benchmarks.ear.room` makes it: 9 dB under for white noise, but 2 over for an instrument (median; 4 under to 7 over).
ROOMS: dict[str, tuple[float, float | None]] = {
    "room": (0.5, 9.0),
    "hall": (1.5, 9.0),
    "far-room": (0.5, None),
    "far-hall": (1.5, None),
}
_BLOCK_S = 0.1
_LEVEL_DB = 2.0  # louder than the simulated player
_LOUDEST = 0.9


@dataclass(frozen=True, slots=True)
class Flaw:
    """One thing wrong at one note: its name, the note's place, and its size in the unit of the name."""

    name: str
    place: int
    size: float = 0.0
    extra: float = 0.0


@dataclass(frozen=True, slots=True)
class Around:
    """What is not the playing: a room, clicks (peak dBFS), hum (dB against the playing), noise (dBFS)."""

    room: str = "dry"
    click_db: float | None = None
    hum_db: float | None = None
    noise_db: float = -70.0


def played(exercise: Exercise, flaws: tuple[Flaw, ...], around: Around, rng: np.random.Generator) -> Sound:
    """The take as the microphone hears it; time 0 is the count-in's first beat."""
    score, breaths = _drawn(exercise, flaws, rng)
    instrument = INSTRUMENTS[exercise.instrument]
    bell_hz = instrument.sides[0].fundamental.frequency() * 1.7 + 60
    breathy = next((flaw.size for flaw in flaws if flaw.name == "breathy"), -34.0)
    out = sounded(score, bell_hz, rng, breath_db=breathy)
    for at, length, level in breaths:
        _add_noise(out, at, length, level, rng)
    out = in_place(out, around.room, rng)
    out *= min(1.0, _LOUDEST / float(np.abs(out).max()))  # as a player sets the input level
    out += rng.normal(0, 10 ** (around.noise_db / 20), len(out))
    if around.click_db is not None:
        beats = np.arange(round(exercise.count_in_beats + exercise.beats)) * exercise.beat_s + 0.08
        out += clicks(len(out), beats, around.click_db, rng)
    if around.hum_db is not None:
        t = np.arange(len(out)) / RATE
        for n, share in ((1, 1.0), (2, 0.5), (3, 0.35), (5, 0.2)):
            out += 10 ** ((-20.0 + around.hum_db) / 20) * share * np.sin(2 * np.pi * 50.0 * n * t + n)
    return Sound(np.clip(out, -1, 1).astype(np.float32), RATE)


def in_place(dry: Floats, place: str, rng: np.random.Generator) -> Floats:
    """The sound with the reverberation of one of the rooms."""
    if place == "dry":
        return dry
    decay_s, under_db = ROOMS[place]
    wet = in_room(dry, RATE, decay_s, rng) - dry
    if under_db is not None:
        wet *= 10.0 ** (-under_db / 20.0) * np.std(dry) / np.std(wet)
    return dry + wet


def _add_noise(out: Floats, at: float, length: float, level: float, rng: np.random.Generator) -> None:
    a, b = max(0, round(at * RATE)), round((at + length) * RATE)
    if b - a < 100 or b > len(out):
        return
    noise = sosfilt(butter(2, [300, 5000], "bandpass", fs=RATE, output="sos"), rng.normal(0, 1, b - a))
    out[a:b] += noise / np.std(noise) * 10 ** (level / 20) * np.hanning(b - a) ** 0.3


def _drawn(
    exercise: Exercise, flaws: tuple[Flaw, ...], rng: np.random.Generator
) -> tuple[Score, list[tuple[float, float, float]]]:
    notes = exercise.notes
    by = {(flaw.name, flaw.place): flaw for flaw in flaws}
    late = sum(flaw.size / 1000.0 for flaw in flaws if flaw.name == "late")
    starts = [exercise.start_s(note) + rng.normal(0, 0.008) + late for note in notes]
    ends = []
    for i, note in enumerate(notes):
        written = note.beats * exercise.beat_s
        if i + 1 < len(notes):
            after = notes[i + 1]
            rests = after.start_beat - note.start_beat - note.beats > 0.05
            if after.slurred:
                ends.append(starts[i + 1])
            else:
                ends.append(starts[i] + written * 0.95 if rests else starts[i + 1] - 0.07)
        else:
            ends.append(starts[i] + written * 0.97)
    score = Score.of(max(ends) + 1.4)
    breaths = [(starts[0] - 1.1, 0.9, -56.0)]
    if exercise.medium == Medium.AIR:
        return score, breaths
    levels = levels_asked(exercise)
    for i, note in enumerate(notes):
        if ("missing", i) in by:
            continue
        joined = note.slurred and i > 0 and ("missing", i - 1) not in by
        last = not (i + 1 < len(notes) and notes[i + 1].slurred)
        entry = by.get(("entry", i))
        draw_note(
            score,
            starts[i],
            ends[i],
            _hz(exercise, note, by.get(("wrong", i))) * ratio_of(_size(by, "centre", i)),
            rng,
            level=levels[note.id] + _LEVEL_DB,
            joined=joined,
            last=last,
            entry=entry.size if entry else 0.0,
            entry_s=entry.extra / 1000.0 if entry else 0.12,
            sag=_size(by, "sag", i),
        )
        _shape(score, exercise, note, by, i, starts[i], ends[i])
    for i, note in enumerate(notes):
        if not (note.slurred and i > 0 and ("missing", i) not in by and ("missing", i - 1) not in by):
            continue
        glide = note.glide_beats * exercise.beat_s
        caught, gap = by.get(("caught", i)), by.get(("gap", i))
        if glide > 0.1:
            _glide(score, starts[i] - glide, starts[i])
        elif ("breath", i) in by:
            _silence(score, starts[i] - 0.55, starts[i])
            breaths.append((starts[i] - 0.4, 0.25, -50.0))
        elif note.beats * exercise.beat_s > 0.09:
            touch = None
            if caught:
                hz = partial_frequency_hz(INSTRUMENTS[exercise.instrument], note.fingering, round(caught.size))
                touch = (hz, caught.extra / 1000.0)
            draw_move(
                score,
                starts[i],
                rng,
                glide_s=rng.uniform(0.015, 0.03),
                touch=touch,
                gap_s=gap.size / 1000.0 if gap else 0.0,
            )
        bump = by.get(("bump", i))
        if bump:
            a = round((starts[i] - 0.045) * CONTROL)
            score.level[a : a + 90] -= bump.size * np.hanning(90)
    return score, breaths


def _hz(exercise: Exercise, note: ExerciseNote, wrong: Flaw | None) -> float:
    if wrong:
        return partial_frequency_hz(INSTRUMENTS[exercise.instrument], note.fingering, round(wrong.size))
    return exercise.target_hz(note, a4=440.0) * ratio_of(note.instrument_cents if note.keep_fingering else 0.0)


def _size(by: dict[tuple[str, int], Flaw], name: str, place: int) -> float:
    flaw = by.get((name, place))
    return flaw.size if flaw else 0.0


def _shape(
    score: Score,
    exercise: Exercise,
    note: ExerciseNote,
    by: dict[tuple[str, int], Flaw],
    i: int,
    start: float,
    end: float,
) -> None:
    a, b = round(start * CONTROL), round(end * CONTROL)
    share = np.linspace(0.0, 1.0, b - a)
    score.level[a:b] += asked_shape_db(note.shape, share)
    lean = leaning_cents(note, share)
    if lean is not None:
        score.f0[a:b] *= 2 ** (lean / 1200)
        score.level[a:b] -= 0.06 * np.abs(lean)
    if ("fade", i) in by:
        score.level[a:b] -= by[("fade", i)].size * share
    for name, at in (("split", start), ("crack", 0.5 * (start + end))):
        flaw = by.get((name, i))
        if flaw:
            c = round(at * CONTROL)
            hz = partial_frequency_hz(INSTRUMENTS[exercise.instrument], note.fingering, round(flaw.size))
            score.f0[c : c + round(flaw.extra)] = hz
    if ("falls", i) in by:
        c = max(a, b - 150)
        score.f0[c:b] *= 2 ** (by[("falls", i)].size * np.linspace(0, 1, b - c) / 1200)


def _silence(score: Score, begin: float, end: float) -> None:
    score.level[round(begin * CONTROL) : round(end * CONTROL)] = -120.0
    score.f0[round(begin * CONTROL) : round(end * CONTROL)] = np.nan


def _glide(score: Score, begin: float, end: float) -> None:
    a, b = round(begin * CONTROL), round(end * CONTROL)
    old, new = score.f0[a], score.f0[b + 1]
    if np.isfinite(old) and np.isfinite(new):
        score.f0[a:b] = old * (new / old) ** np.linspace(0, 1, b - a)


def cut_in_time(sound: Sound, exercise: Exercise) -> Sound:
    """What is heard of a take where the click goes on: it ends as soon as the session would end it."""
    if not keeps_time(Series(exercise.exercise_type, exercise.instrument, "", (exercise,))):
        return sound
    frames, ending = track(sound), Ending(exercise, 0.0, in_time=True)
    for begin in np.arange(0.0, sound.duration_s, _BLOCK_S):
        if ending.hear(frames.part(float(begin), float(begin) + _BLOCK_S)):
            return Sound(sound.samples[: round((begin + 2 * _BLOCK_S) * sound.rate)], sound.rate)
    return sound
