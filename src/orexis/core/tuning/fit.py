"""The fit: deviation = day + session + instrument + player + what is left.

    cents = overall + day_d + warm * warming + tired * tiring + theory * (kept + mended * free)
            + partial_n + tube_t + rest_w  (the instrument's departure from theory)
            + register * octaves over the middle + loudness * dB over the day's middle  (the player)

Ridge regression with theory as its centre: every coefficient is drawn to it with the width that is usual for it (`_WIDTHS`, cents;
`overall` is free). A partial's height and a tube's length add up to the register exactly, so that only these widths tell a slope of
the player's from one of the instrument's: departures of partials and tubes are small and scattered, a slope is all in one direction
(Hoerl and Kennard 1970; as a Bayesian linear model, Gelman et al., Bayesian Data Analysis, ch. 14). Rows weigh less the further
out they lie (Huber, k = 1.5). Intervals hold 90 of 100.
"""

from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from typing import Any

import numpy as np
from numpy.typing import NDArray

from orexis.core.instruments import Instrument, Register, deviation_cents, parse_fingering, register_of
from orexis.core.messages import counted, tell
from orexis.core.theory import pitch_of_midi
from orexis.core.tuning.notes import NoteDay, side_of

FEWEST_DAYS, FEWEST_NOTES = 8, 300
_WIDTHS = {
    "day": 8.0, "warm": 10.0, "tired": 8.0, "mended": 0.5, "partial": 5.0, "fingering": 4.0, "rest": 2.0,
    "register": 15.0, "loudness": 1.0,
}  # fmt: skip
_MENDED_USUALLY = 0.5  # of theory's lean, where the tube may be changed
_NOTE_NOISE, _DAY_NOISE = 5.0, 2.0  # of one note; what notes of one day share
_ROUNDS, _HUBER = 8, 1.5
_NINETY = 1.645  # standard deviations to each side of a 90% interval
_LEAST_OF_A_NOTE = 5  # fewer would show the day, not the instrument

Array = NDArray[np.float64]


@dataclass(frozen=True, slots=True)
class Estimate:
    """A value and the ends of its 90% interval."""

    value: float
    low: float
    high: float


@dataclass(frozen=True, slots=True)
class Habit:
    """Something that the player does: what it is counted in stands in `unit`."""

    id: str
    unit: str
    size: Estimate


@dataclass(frozen=True, slots=True)
class Regressor:
    """Where notes begin in a register, against where they settle: cents, over so many notes."""

    register: Register
    size: Estimate
    notes: int


@dataclass(frozen=True, slots=True)
class NoteFit:
    """A note by one way: what theory has the instrument do, how this one departs from it, what the player does, what is left."""

    midi: int
    fingering: str
    partial: int
    notes: int
    days: int
    theory: float
    chosen: float  # share of its lean heard where the player chose the way, the exercise did not
    departs: Estimate
    player: Estimate
    left: Estimate


@dataclass(frozen=True, slots=True)
class Fit:
    """All of it. `partials` and `fingerings` are the instrument's departures by part; `days`: the middle half of the days' own offsets."""

    notes: tuple[NoteFit, ...]
    habits: tuple[Habit, ...]
    entries: tuple[Regressor, ...]
    partials: dict[tuple[str, int], float]
    fingerings: dict[str, Estimate]
    days: int
    count: int
    day_low: float
    day_high: float


def missing_for(rows: Iterable[NoteDay]) -> str | None:
    """What is missing before anything can be said; None where there is enough."""
    known = list(rows)
    days, notes = len({row.day for row in known}), sum(row.count for row in known)
    if days >= FEWEST_DAYS and notes >= FEWEST_NOTES:
        return None
    return tell(
        "To tell the instrument from the player it takes {fewest_days} days and {fewest_notes} notes on this instrument: so far {days} and {notes}.",
        fewest_days=FEWEST_DAYS,
        fewest_notes=FEWEST_NOTES,
        days=counted(days, "{count} day", "{count} days"),
        notes=counted(notes, "{count} note", "{count} notes"),
    )


def fit_of(instrument: Instrument, rows: Sequence[NoteDay]) -> Fit | None:
    """The fit; None where there is too little. `instrument` gives the middle of the range and theory."""
    if missing_for(rows) is not None:
        return None
    model = _Model(instrument, rows)
    model.solve()
    return Fit(
        tuple(model.note(key) for key in sorted(model.by_note) if model.heard(key) >= _LEAST_OF_A_NOTE),
        model.habits(),
        tuple(_entries(instrument, rows)),
        {key: model.value(("partial", key)) for key in model.keys("partial")},
        {key: model.sure({("fingering", key): 1.0}) for key in model.keys("fingering")},
        len({row.day for row in rows}),
        sum(row.count for row in rows),
        *model.middle_half_of_days(),
    )


Key = tuple[str, Any]


class _Model:
    """The columns by name, the rows weighed, the solution with its covariance."""

    def __init__(self, instrument: Instrument, rows: Sequence[NoteDay]) -> None:
        self.instrument, self.rows = instrument, list(rows)
        self.by_note: dict[tuple[int, str, int], list[NoteDay]] = {}
        self.at: dict[tuple[int, str, int], list[int]] = {}
        for index, row in enumerate(self.rows):
            self.by_note.setdefault(row.key, []).append(row)
            self.at.setdefault(row.key, []).append(index)
        self.middle = _middle(instrument)
        levels = _levels(self.rows)
        self.loudness = np.array([row.level / row.levels - levels[row.day] if row.levels else 0.0 for row in self.rows])
        counts, cents, kept, free, warm, tired, midi = np.array(
            [(row.count, row.cents, row.kept, row.free, row.warm, row.tired, row.midi) for row in self.rows],
            dtype=float,
        ).T
        amounts: dict[str, Array] = {
            "overall": np.ones(len(self.rows)), "warm": warm / counts, "tired": tired / counts, "mended": free / counts,
            "register": (midi - self.middle) / 12.0, "loudness": self.loudness,
        }  # fmt: skip
        self.columns: dict[Key, int] = {(name, None): at for at, name in enumerate(amounts)}
        belongs = np.array([self._belongs_to(row) for row in self.rows])
        # Ten entries a row of some two hundred: kept as such it costs a tenth.
        self.values = np.column_stack([*amounts.values(), np.ones(belongs.shape)])
        self.places = np.column_stack([np.tile(np.arange(len(amounts)), (len(self.rows), 1)), belongs])
        self.y = (cents - kept - _MENDED_USUALLY * free) / counts
        self.noise: Any = _DAY_NOISE**2 + _NOTE_NOISE**2 / counts
        self.off: Array = np.zeros(len(self.rows))
        self.solution: Array = np.zeros(len(self.columns))
        self.covariance: Array = np.zeros((len(self.columns), len(self.columns)))

    def _belongs_to(self, row: NoteDay) -> list[int]:
        """The columns of a row's day and of its way; those that are new are added."""
        keys = (
            ("day", row.day),
            ("partial", (side_of(row.fingering), row.partial)),
            ("fingering", row.fingering),
            ("rest", row.key),
        )
        return [self.columns.setdefault(key, len(self.columns)) for key in keys]

    def solve(self) -> None:
        """Weights by how far out a row lies, from the solution before."""
        widths = np.array([_WIDTHS.get(name, 1e4) for name, _ in self.columns])
        weights: Any = np.ones(len(self.rows))
        scale = 1.0
        count = len(self.columns)
        pairs = (self.places[:, :, None] * count + self.places[:, None, :]).ravel()
        for _ in range(_ROUNDS):
            inverse = weights / (self.noise * scale)
            weighted = self.values * inverse[:, None]
            products = (weighted[:, :, None] * self.values[:, None, :]).ravel()
            precision = np.bincount(pairs, products, count**2).reshape(count, count) + np.diag(1.0 / widths**2)
            sums = np.bincount(self.places.ravel(), (weighted * self.y[:, None]).ravel(), count)
            self.solution = np.linalg.solve(precision, sums)
            off = self._left() / np.sqrt(self.noise)
            scale = float(np.clip((1.4826 * np.median(np.abs(off))) ** 2, 0.1, 25.0))
            far = np.abs(off) / np.sqrt(scale)
            weights = np.minimum(1.0, _HUBER / np.maximum(far, 1e-9))

        self.covariance = np.linalg.inv(precision)
        self.off = self._left()

    def _left(self) -> Array:
        """What the solution leaves of each row, cents."""
        return np.asarray(self.y - (self.values * self.solution[self.places]).sum(axis=1))

    # -- reading it ------------------------------------------------------------------------------------------------

    def keys(self, name: str) -> list[Any]:
        """What has a coefficient under a name."""
        return [key for known, key in self.columns if known == name]

    def value(self, key: Key) -> float:
        """Return the estimate of a coefficient."""
        return round(float(self.solution[self.columns[key]]), 2)

    def sure(self, parts: dict[Key, float]) -> Estimate:
        """A sum of coefficients with its interval."""
        at = [self.columns[key] for key in parts]
        by = np.array(list(parts.values()))
        value = float(by @ self.solution[at])
        half = _NINETY * float(np.sqrt(max(0.0, by @ self.covariance[np.ix_(at, at)] @ by)))
        return Estimate(round(value, 2), round(value - half, 2), round(value + half, 2))

    def heard(self, key: tuple[int, str, int]) -> int:
        """How often a note was heard by this way."""
        return sum(row.count for row in self.by_note[key])

    def note(self, key: tuple[int, str, int]) -> NoteFit:
        """What is said of a note."""
        midi, fingering, partial = key
        rows = self.by_note[key]
        at = self.at[key]
        loud = float(np.mean(self.loudness[at]))
        off = self.off[at]
        left, spread = float(np.mean(off)), float(np.std(off) / np.sqrt(len(at)))
        instrument = {
            ("partial", (side_of(fingering), partial)): 1.0,
            ("fingering", fingering): 1.0,
            ("rest", key): 1.0,
        }
        return NoteFit(
            midi,
            fingering,
            partial,
            self.heard(key),
            len({row.day for row in rows}),
            round(
                deviation_cents(
                    self.instrument, parse_fingering(self.instrument, fingering), partial, pitch_of_midi(midi)
                ),
                2,
            ),
            _chosen(rows),
            self.sure(instrument),
            self.sure({("register", None): (midi - self.middle) / 12.0, ("loudness", None): loud}),
            Estimate(*(round(value, 2) for value in (left, left - _NINETY * spread, left + _NINETY * spread))),
        )

    def habits(self) -> tuple[Habit, ...]:
        """What the player does, over the whole instrument."""
        mended = self.sure({("mended", None): -1.0})
        share = Estimate(
            *(round(100.0 * (1.0 - _MENDED_USUALLY + value), 1) for value in (mended.value, mended.low, mended.high))
        )
        return (
            Habit("register", "cents an octave up", self.sure({("register", None): 1.0})),
            Habit("loudness", "cents for 10 dB louder", self.sure({("loudness", None): 10.0})),
            Habit("tired", "cents after half an hour of playing", self.sure({("tired", None): 1.0})),
            Habit("warm", "cents at the first note, against ten minutes later", self.sure({("warm", None): 1.0})),
            Habit("mended", "% of the instrument's pitch, where the fingering may be changed", share),
        )

    def middle_half_of_days(self) -> tuple[float, float]:
        """Of the days' own offsets: temperature, warm-up, where the tuning slide stood."""
        days = [self.value(("day", day)) for day in self.keys("day")]
        low, high = np.percentile(days, (25.0, 75.0))
        return round(float(low), 1), round(float(high), 1)


def _chosen(rows: Iterable[NoteDay]) -> float:
    known = list(rows)
    free, kept = (sum(abs(getattr(row, name)) for row in known) for name in ("free", "kept"))
    return round(free / (free + kept), 2) if free + kept > 0.0 else 1.0


def _middle(instrument: Instrument) -> float:
    return (instrument.lowest.midi + instrument.highest.midi) / 2.0


def _levels(rows: Iterable[NoteDay]) -> dict[int, float]:
    """The usual level of each day, dBFS: the microphone stands elsewhere tomorrow."""
    by_day: dict[int, list[float]] = {}
    for row in rows:
        by_day.setdefault(row.day, []).extend([row.level / row.levels] if row.levels else [])
    return {day: float(np.median(levels)) if levels else 0.0 for day, levels in by_day.items()}


def _entries(instrument: Instrument, rows: Sequence[NoteDay]) -> Iterable[Regressor]:
    """By register: the mean of the days' means, its interval from their spread."""
    where = {midi: register_of(midi, instrument) for midi in {row.midi for row in rows}}
    for register in Register:
        here = [row for row in rows if row.entries and where[row.midi] == register]
        days: dict[int, list[tuple[float, int]]] = {}
        for row in here:
            days.setdefault(row.day, []).append((row.entry, row.entries))
        means = [sum(e for e, _ in day) / sum(n for _, n in day) for day in days.values()]
        if len(means) >= FEWEST_DAYS // 2:
            middle, half = float(np.mean(means)), _NINETY * float(np.std(means, ddof=1)) / np.sqrt(len(means))
            size = Estimate(round(middle, 2), round(float(middle - half), 2), round(float(middle + half), 2))
            yield Regressor(register, size, sum(row.entries for row in here))
