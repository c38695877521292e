"""Is the instrument told from the player? `python -m benchmarks.instrument_or_player`: ten instruments by ten simulated players with known habits.

Each instrument departs from theory by partial, by fingering and by note; each player has a slope over the register and with loudness, tires,
warms up, and mends a share of what the instrument does; days have their own offset; one note in twenty is far out.
"""

from __future__ import annotations

from dataclasses import dataclass, replace
from functools import lru_cache

import numpy as np

from orexis.core.coach import Standard
from orexis.core.exercises import Exercise, Medium, exercise_types_for
from orexis.core.instruments import INSTRUMENTS, Instrument, deviation_cents
from orexis.core.progress import entered, path_of
from orexis.core.rehearsal.measured import flawless
from orexis.core.tuning import Fit, NoteDay, fit_of, joined, notes_heard

TEN = (
    "trumpet-bb", "cornet-bb", "trumpet-c", "tenor-horn-eb", "horn-f-bb", "euphonium-bb", "trombone-tenor", "trombone-bass",
    "tuba-eb", "tuba-bbb",
)  # fmt: skip
_EXERCISES_A_DAY = 14


@dataclass(frozen=True)
class Truth:
    partials: dict[tuple[str, int], float]
    fingerings: dict[str, float]
    rests: dict[tuple[int, str, int], float]
    register: float
    loudness: float  # cents for 10 dB
    tired: float
    warm: float
    mended: float  # share

    def departs(self, midi: int, fingering: str, partial: int) -> float:
        side = fingering.split()[0] if " " in fingering else ""
        return self.partials[side, partial] + self.fingerings[fingering] + self.rests[midi, fingering, partial]


@lru_cache(maxsize=32)
def played_on(instrument_id: str) -> tuple[Exercise, ...]:
    """What is practised there: every exercise type as a growing player enters its path."""
    instrument, found = INSTRUMENTS[instrument_id], []
    for exercise_type in exercise_types_for(instrument):
        path = path_of(exercise_type.id, instrument)
        params = dict(path.steps[entered(path, Standard.DEVELOPING).step].params) if path else {}
        found += [
            exercise
            for exercise in exercise_type.series(instrument, params).exercises[:6]
            if exercise.medium == Medium.INSTRUMENT
        ]
    return tuple(found)


def weeks_of(
    instrument: Instrument, seed: int, *, days: int = 20, exercises: int = _EXERCISES_A_DAY
) -> tuple[list[NoteDay], Truth]:
    """What a month of practice leaves, and the truth behind it."""
    rng = np.random.default_rng((seed, 5))
    book = played_on(instrument.id)
    ways = {(n.pitch.midi, n.fingering.label, n.partial) for exercise in book for n in exercise.notes}
    sides = {((t.split()[0] if " " in t else ""), p) for _, t, p in ways}
    truth = Truth(
        {key: float(rng.normal(0.0, 5.0)) for key in sorted(sides)},
        {fingering: float(rng.normal(0.0, 4.0)) for fingering in sorted({t for _, t, _ in ways})},
        {key: float(rng.normal(0.0, 1.5)) for key in sorted(ways)},
        float(rng.normal(0.0, 8.0)),
        float(rng.normal(0.0, 4.0)),
        float(rng.normal(0.0, 4.0)),
        float(rng.normal(-6.0, 3.0)),
        float(rng.uniform(0.2, 1.0)),
    )
    middle = (instrument.lowest.midi + instrument.highest.midi) / 2.0
    rows: dict[tuple[int, int, str, int], NoteDay] = {}
    for day in range(days):
        offset = float(rng.normal(0.0, 6.0))
        for number in range(exercises):
            exercise = book[int(rng.integers(len(book)))]
            minutes = 30.0 * number / exercises
            measures = flawless(exercise)
            heard = []
            for row, note in zip(measures.notes, exercise.notes, strict=True):
                theory = deviation_cents(instrument, note.fingering, note.partial, note.pitch)
                level = float(rng.normal(0.0, 4.0))
                cents = (
                    offset + truth.departs(note.pitch.midi, note.fingering.label, note.partial)
                    + theory * (1.0 if note.keep_fingering else 1.0 - truth.mended)
                    + truth.register * (note.pitch.midi - middle) / 12.0 + truth.loudness * level / 10.0
                    + truth.tired * (0.5 * minutes / 30.0) + truth.warm * max(0.0, 1.0 - minutes / 10.0)
                    + float(rng.normal(0.0, 5.0)) + (float(rng.normal(0.0, 30.0)) if rng.random() < 0.05 else 0.0)
                )  # fmt: skip
                heard.append(
                    replace(
                        row,
                        pitch_error_cents=cents,
                        level_db=-24.0 + level,
                        attack_error_cents=-12.0 + float(rng.normal(0, 9)),
                    )
                )
            made = replace(measures, notes=tuple(heard))
            for one in notes_heard(exercise, instrument, made, day=day, minutes=minutes, playing_min=0.5 * minutes):
                rows[day, *one.key] = joined(rows.get((day, *one.key)), one)
    return list(rows.values()), truth


def off_by(fit: Fit, truth: Truth) -> tuple[list[float], dict[str, float]]:
    """How far the instrument's departures lie from the truth, the mean of all taken away (it is the tuning), and the habits."""
    told = np.array([note.departs.value for note in fit.notes])
    true = np.array([truth.departs(note.midi, note.fingering, note.partial) for note in fit.notes])
    instrument = np.abs((told - told.mean()) - (true - true.mean()))
    habits = {habit.id: habit.size.value for habit in fit.habits}
    wanted = {"register": truth.register, "loudness": truth.loudness, "tired": truth.tired, "warm": truth.warm}
    return [float(value) for value in instrument], {name: abs(habits[name] - value) for name, value in wanted.items()}


def main() -> None:
    everything: list[float] = []
    habits: dict[str, list[float]] = {}
    inside = shown = 0
    print(
        "| instrument | notes told | instrument off by, median / 90 of 100 (cents) | register | loudness | tired | warm |"
    )
    print("|---|---|---|---|---|---|---|")
    for instrument_id in TEN:
        instrument, here, by = INSTRUMENTS[instrument_id], [], {}
        for seed in range(10):
            rows, truth = weeks_of(instrument, seed)
            fit = fit_of(instrument, rows)
            assert fit is not None
            off, of_habits = off_by(fit, truth)
            here += off
            for name, value in of_habits.items():
                by.setdefault(name, []).append(value)
                habits.setdefault(name, []).append(value)
            for habit in fit.habits:
                true = {
                    "register": truth.register,
                    "loudness": truth.loudness,
                    "tired": truth.tired,
                    "warm": truth.warm,
                }
                if habit.id in true:
                    shown += 1
                    inside += habit.size.low <= true[habit.id] <= habit.size.high
        everything += here
        medians = " | ".join(f"{np.median(by[name]):.1f}" for name in ("register", "loudness", "tired", "warm"))
        print(f"| {instrument_id} | {len(here)} | {np.median(here):.1f} / {np.percentile(here, 90):.1f} | {medians} |")
    medians = " | ".join(f"{np.median(habits[name]):.1f}" for name in ("register", "loudness", "tired", "warm"))
    print(
        f"| all | {len(everything)} | {np.median(everything):.1f} / {np.percentile(everything, 90):.1f} | {medians} |"
    )
    print(f"\nHabits whose 90% interval holds the truth: {inside} of {shown}.")


if __name__ == "__main__":
    main()
