"""Which takes: for every exercise type clean ones, and for every flaw that its exercise can have one above its limit."""

from collections.abc import Iterator
from dataclasses import dataclass

import numpy as np

from benchmarks.judgement.perform import Around, Flaw
from orexis.core.coach.judging import ORDER
from orexis.core.exercises import EXERCISE_TYPES, Exercise, Medium
from orexis.core.instruments import INSTRUMENTS, Instrument, partial_frequency_hz
from orexis.core.theory import cents_between
from orexis.errors import OrexisError

INSTRUMENT_IDS = ("trumpet-bb", "horn-f-bb", "trombone-tenor", "tuba-eb", "euphonium-bb")
# What a flaw is to be called: reasons that say it. Sizes stand above the limits at *growing*.
CALLED: dict[str, tuple[str, ...]] = {
    "missing": ("missing", "stuck"),
    "wrong": ("wrong-partial",),
    "gap": ("gap",),
    "caught": ("clipped-partial",),
    "breath": ("breath-inside", "gap"),
    "centre": ("pitch",),
    "entry": ("attack",),
    "sag": ("pitch-drift",),
    "split": ("split",),
    "crack": ("split",),
    "fade": ("level-wobble", "shape"),
    "bump": ("bump",),
    "falls": ("fall-off",),
    "late": ("late",),
    "breathy": ("airy",),
}
_NOT_ONE_BY_ONE = {
    "trill",
    "siren",
    "ring",
    "count",
    "endurance",
    "bend_back",
}  # what judges these judges no single note


@dataclass(frozen=True, slots=True)
class Case:
    """One take: the exercise, what is wrong with it, what is around it, and its seed."""

    exercise: Exercise
    flaws: tuple[Flaw, ...]
    around: Around
    seed: int
    font: str = ""  # sampled brass; empty: the oscillator
    in_time: bool = False  # cut as a take is where the click goes on

    @property
    def name(self) -> str:
        """For people."""
        said = " ".join(f"{f.name}={f.size:.0f}/{f.extra:.0f}@{f.place}" for f in self.flaws) or "clean"
        return f"{self.exercise.instrument} {self.exercise.id} {self.around.room} {said}"


def exercises() -> Iterator[Exercise]:
    """One exercise of each exercise type on each instrument that it suits, at its defaults."""
    for number, exercise_type in enumerate(EXERCISE_TYPES.values()):
        for place, instrument_id in enumerate(INSTRUMENT_IDS):
            instrument = INSTRUMENTS[instrument_id]
            if exercise_type.medium == Medium.AIR or not exercise_type.suits(instrument):
                continue
            try:
                made = exercise_type.series(instrument, {}).exercises
            except OrexisError:
                continue
            yield made[min(len(made) - 1, (number + place) % 3)]


def clean_cases(around: Around, seed: int) -> list[Case]:
    """Every exercise played as asked."""
    return [Case(exercise, (), around, seed + i) for i, exercise in enumerate(exercises())]


def flawed_cases(around: Around, seed: int) -> list[Case]:
    """Every exercise with each flaw that it can have, at one note."""
    out = []
    for i, exercise in enumerate(exercises()):
        if not exercise.judged or _NOT_ONE_BY_ONE & set(exercise.judged) or exercise.medium != Medium.INSTRUMENT:
            continue
        rng = np.random.default_rng((seed, i))
        for j, flaw in enumerate(_possible(exercise, INSTRUMENTS[exercise.instrument], rng)):
            out.append(Case(exercise, (flaw,), around, seed + 100 * i + j))
    return out


def two_flaw_cases(around: Around, seed: int) -> list[Case]:
    """Every exercise with two flaws at notes that do not touch; the one that is worked on first stands first."""
    out = []
    for i, exercise in enumerate(exercises()):
        if not exercise.judged or _NOT_ONE_BY_ONE & set(exercise.judged) or exercise.medium != Medium.INSTRUMENT:
            continue
        rng = np.random.default_rng((seed, i, 2))
        flaws = _possible(exercise, INSTRUMENTS[exercise.instrument], rng)
        pairs = [
            (one, other)
            for one in flaws
            for other in flaws
            if abs(one.place - other.place) > 1 and _rank(one) < _rank(other)
        ]
        if pairs:
            out.append(Case(exercise, pairs[int(rng.integers(len(pairs)))], around, seed + 100 * i + 50))
    return out


def _rank(flaw: Flaw) -> int:
    """Its place in the order in which faults are worked on."""
    return min(ORDER.index(reason) for reason in CALLED[flaw.name])


def size_of(flaw: Flaw) -> float | None:
    """What the verdict should measure of it, in cents or milliseconds; None where it has no such size."""
    if flaw.name in ("centre", "sag", "gap"):
        return abs(flaw.size)
    return flaw.extra if flaw.name == "caught" else None


def _possible(exercise: Exercise, instrument: Instrument, rng: np.random.Generator) -> list[Flaw]:
    notes = exercise.notes
    glide = {
        k + d for k, n in enumerate(notes) if n.glide_beats > 0 for d in (-1, 0)
    }  # led there: no slot, no still pitch
    long = [k for k, n in enumerate(notes) if n.beats * exercise.beat_s > 0.45 and not n.free and k not in glide]
    slurred = [
        k for k, n in enumerate(notes) if k and n.slurred and n.glide_beats == 0 and n.beats * exercise.beat_s > 0.25
    ]
    begun = [k for k in long if not notes[k].slurred]
    side = float(rng.choice([-1.0, 1.0]))
    out: list[Flaw] = []
    if len(notes) > 2:
        out.append(Flaw("missing", _one([k for k in begun if k] or begun, rng)) if begun else Flaw("missing", 0))
    if long:
        k = _one(long, rng)
        out.append(Flaw("centre", k, side * float(rng.uniform(26, 45))))
        if notes[k].beats * exercise.beat_s > 1.0:
            out.append(Flaw("sag", k, -float(rng.uniform(28, 45))))
            out.append(Flaw("fade", k, 15.0))
            crack = notes[k].partial + int(rng.choice([-1, 1]))
            if crack > 1:
                out.append(Flaw("crack", k, crack, float(rng.uniform(60, 90))))
    if begun:
        k = _one(begun, rng)
        out.append(Flaw("entry", k, -float(rng.uniform(90, 140)), 420.0))
        other = notes[k].partial + int(rng.choice([-1, 1]))
        beside = [exercise.target_hz(notes[m], a4=440.0) for m in (k - 1, k + 1) if 0 <= m < len(notes)]
        hz = partial_frequency_hz(
            instrument, notes[k].fingering, other
        )  # one that a neighbour has is heard as that neighbour's
        if 1 < other <= instrument.top_partial and all(abs(cents_between(hz, near)) > 60.0 for near in beside):
            out.append(Flaw("split", k, other, float(rng.uniform(60, 100))))
            out.append(Flaw("wrong", k, other))
    if slurred:
        k = _one(slurred, rng)
        out.append(Flaw("gap", k, float(rng.uniform(100, 150))))
        out.append(Flaw("bump", k, 13.0))
        low, high = sorted((notes[k - 1].partial, notes[k].partial))
        if notes[k].fingering == notes[k - 1].fingering and high - low > 1:
            out.append(Flaw("caught", k, int(rng.integers(low + 1, high)), float(rng.uniform(75, 110))))
        if exercise.judged and "one_breath" in exercise.judged:
            out.append(Flaw("breath", k))
    return out


def _one(places: list[int], rng: np.random.Generator) -> int:
    return int(places[int(rng.integers(len(places)))])
