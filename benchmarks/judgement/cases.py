"""Which takes: for every family clean ones, and for every flaw that its figure can have one above its limit."""

from collections.abc import Iterator
from dataclasses import dataclass

import numpy as np

from benchmarks.judgement.perform import Around, Flaw
from orexis.core.coach.judging import ORDER
from orexis.core.figures import FAMILIES, Figure, Medium
from orexis.core.horn import HORNS, Instrument, partial_frequency_hz
from orexis.core.theory import cents_between
from orexis.errors import OrexisError

HORN_IDS = ("trumpet-bb", "horn-f-bb", "trombone-tenor", "tuba-eb", "euphonium-bb")
# What a flaw is to be called: reasons that say it. Sizes stand above the limits at *growing*.
CALLED: dict[str, tuple[str, ...]] = {
    "missing": ("missing",),
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
    """One take: the figure, what is wrong with it, what is around it, and its seed."""

    figure: Figure
    flaws: tuple[Flaw, ...]
    around: Around
    seed: int
    font: str = ""  # sampled brass; empty: the oscillator
    in_time: bool = False  # cut as a take is where the click goes on

    @property
    def name(self) -> str:
        """For people."""
        said = " ".join(f"{f.name}={f.size:.0f}/{f.extra:.0f}@{f.place}" for f in self.flaws) or "clean"
        return f"{self.figure.horn} {self.figure.id} {self.around.room} {said}"


def figures() -> Iterator[Figure]:
    """One figure of each family on each horn that it suits, at its defaults."""
    for number, family in enumerate(FAMILIES.values()):
        for place, horn_id in enumerate(HORN_IDS):
            horn = HORNS[horn_id]
            if family.medium == Medium.AIR or not family.suits(horn):
                continue
            try:
                made = family.series(horn, {}).figures
            except OrexisError:
                continue
            yield made[min(len(made) - 1, (number + place) % 3)]


def clean_cases(around: Around, seed: int) -> list[Case]:
    """Every figure played as asked."""
    return [Case(figure, (), around, seed + i) for i, figure in enumerate(figures())]


def flawed_cases(around: Around, seed: int) -> list[Case]:
    """Every figure with each flaw that it can have, at one note."""
    out = []
    for i, figure in enumerate(figures()):
        if not figure.judged or _NOT_ONE_BY_ONE & set(figure.judged) or figure.medium != Medium.HORN:
            continue
        rng = np.random.default_rng((seed, i))
        for j, flaw in enumerate(_possible(figure, HORNS[figure.horn], rng)):
            out.append(Case(figure, (flaw,), around, seed + 100 * i + j))
    return out


def two_flaw_cases(around: Around, seed: int) -> list[Case]:
    """Every figure with two flaws at notes that do not touch; the one that is worked on first stands first."""
    out = []
    for i, figure in enumerate(figures()):
        if not figure.judged or _NOT_ONE_BY_ONE & set(figure.judged) or figure.medium != Medium.HORN:
            continue
        rng = np.random.default_rng((seed, i, 2))
        flaws = _possible(figure, HORNS[figure.horn], rng)
        pairs = [
            (one, other)
            for one in flaws
            for other in flaws
            if abs(one.place - other.place) > 1 and _rank(one) < _rank(other)
        ]
        if pairs:
            out.append(Case(figure, pairs[int(rng.integers(len(pairs)))], around, seed + 100 * i + 50))
    return out


def _rank(flaw: Flaw) -> int:
    """Its place in the order in which faults are worked on."""
    return min(ORDER.index(reason) for reason in CALLED[flaw.name])


def size_of(flaw: Flaw) -> float | None:
    """What the verdict should measure of it, in cents or milliseconds; None where it has no such size."""
    if flaw.name in ("centre", "sag", "gap"):
        return abs(flaw.size)
    return flaw.extra if flaw.name == "caught" else None


def _possible(figure: Figure, horn: Instrument, rng: np.random.Generator) -> list[Flaw]:
    notes = figure.notes
    glide = {
        k + d for k, n in enumerate(notes) if n.glide_beats > 0 for d in (-1, 0)
    }  # led there: no slot, no still pitch
    long = [k for k, n in enumerate(notes) if n.beats * figure.beat_s > 0.45 and not n.free and k not in glide]
    slurred = [
        k for k, n in enumerate(notes) if k and n.slurred and n.glide_beats == 0 and n.beats * figure.beat_s > 0.25
    ]
    begun = [k for k in long if not notes[k].slurred]
    side = float(rng.choice([-1.0, 1.0]))
    out: list[Flaw] = []
    if len(notes) > 2:
        out.append(Flaw("missing", _one([k for k in begun if k] or begun, rng)) if begun else Flaw("missing", 0))
    if long:
        k = _one(long, rng)
        out.append(Flaw("centre", k, side * float(rng.uniform(26, 45))))
        if notes[k].beats * figure.beat_s > 1.0:
            out.append(Flaw("sag", k, -float(rng.uniform(28, 45))))
            out.append(Flaw("fade", k, 15.0))
            crack = notes[k].partial + int(rng.choice([-1, 1]))
            if crack > 1:
                out.append(Flaw("crack", k, crack, float(rng.uniform(60, 90))))
    if begun:
        k = _one(begun, rng)
        out.append(Flaw("entry", k, -float(rng.uniform(90, 140)), 420.0))
        other = notes[k].partial + int(rng.choice([-1, 1]))
        beside = [figure.target_hz(notes[m], a4=440.0) for m in (k - 1, k + 1) if 0 <= m < len(notes)]
        hz = partial_frequency_hz(horn, notes[k].tube, other)  # one that a neighbour has is heard as that neighbour's
        if 1 < other <= horn.top_partial and all(abs(cents_between(hz, near)) > 60.0 for near in beside):
            out.append(Flaw("split", k, other, float(rng.uniform(60, 100))))
            out.append(Flaw("wrong", k, other))
    if slurred:
        k = _one(slurred, rng)
        out.append(Flaw("gap", k, float(rng.uniform(100, 150))))
        out.append(Flaw("bump", k, 13.0))
        low, high = sorted((notes[k - 1].partial, notes[k].partial))
        if notes[k].tube == notes[k - 1].tube and high - low > 1:
            out.append(Flaw("caught", k, int(rng.integers(low + 1, high)), float(rng.uniform(75, 110))))
        if figure.judged and "one_breath" in figure.judged:
            out.append(Flaw("breath", k))
    return out


def _one(places: list[int], rng: np.random.Generator) -> int:
    return int(places[int(rng.integers(len(places)))])
