"""A simulated person: habits drawn by seed, lips that tire and recover, and weeks that teach.

All of it turns into flaws of known size for one performance, so that whatever is heard can be compared with what was
meant. Times in seconds, load in seconds of playing at middle height and usual loudness, cents, milliseconds, dB.
The rates are set so that an hour of mixed playing tires a growing player, a night restores nearly everything, and a
habit halves in about six weeks of daily work; they are a stand-in's, and say nothing about a real person.
"""

import math
from dataclasses import dataclass, replace

import numpy as np

from orexis.core.exercises import Exercise
from orexis.core.player.flaws import Flaw, Flaws

_STANDARD_SIZE = {"beginner": 2.0, "developing": 1.25, "advanced": 0.75, "professional": 0.4}
_STRENGTH_S = {"beginner": 1200.0, "developing": 2000.0, "advanced": 3000.0, "professional": 4200.0}
_RECOVERY_S = 5400.0  # tiredness falls to 37% in so long
_HABIT_DAYS, _STRENGTH_DAYS = (
    60.0,
    90.0,
)  # days of practice in which a habit falls to 37%, and strength grows by a third
_LEAST_HABIT = 0.15  # never quite gone


@dataclass(frozen=True, slots=True)
class Person:
    """Habits at full size. `habit` scales them, 1 on the first day; `strength_s` is the load that tires them."""

    seed: int
    standard: str
    pitch_error_cents: float
    attack_error_cents: float
    attack_settle_ms: float
    pitch_drift_cents: float
    pitch_wobble_depth_cents: float
    pitch_wobble_rate_hz: float
    gap_ms: float
    gap_chance: float
    clipped_partial_ms: float
    caught_chance: float
    response_ms: float
    timing_ms: float
    breath_db: float
    top_partial: int
    strength_s: float
    habit: float = 1.0


@dataclass(frozen=True, slots=True)
class SimulatedLips:
    """How tired the lips are: load carried, less what rest took off."""

    load_s: float = 0.0


def person(seed: int, *, standard: str = "developing") -> Person:
    """Draw a person. The same seed is the same person."""
    rng = np.random.default_rng((seed, 77))
    size = _STANDARD_SIZE[standard]

    def drawn(middle: float, spread: float) -> float:
        return float(rng.normal(middle, spread) * size)

    return Person(
        seed=seed,
        standard=standard,
        pitch_error_cents=drawn(0.0, 6.0),
        attack_error_cents=drawn(-14.0, 18.0),
        attack_settle_ms=float(rng.uniform(90.0, 260.0)),
        pitch_drift_cents=drawn(-6.0, 6.0),
        pitch_wobble_depth_cents=abs(drawn(2.0, 2.0)),
        pitch_wobble_rate_hz=float(rng.uniform(2.0, 4.0)),
        gap_ms=abs(drawn(45.0, 20.0)),
        gap_chance=min(0.9, abs(drawn(0.15, 0.15))),
        clipped_partial_ms=abs(drawn(40.0, 20.0)),
        caught_chance=min(0.9, abs(drawn(0.15, 0.15))),
        response_ms=abs(drawn(35.0, 15.0)),
        timing_ms=abs(drawn(14.0, 6.0)),
        breath_db=float(rng.uniform(-40.0, -30.0)),
        top_partial=int(rng.integers(6, 10)),
        strength_s=_STRENGTH_S[standard] * float(rng.uniform(0.8, 1.25)),
    )


def tiredness(someone: Person, lips: SimulatedLips) -> float:
    """0 for fresh, 1 when the strength is used up; it may go beyond."""
    return lips.load_s / someone.strength_s


def after_playing(lips: SimulatedLips, load_s: float) -> SimulatedLips:
    """The lips after so much load (seconds of playing weighted by height and loudness)."""
    return SimulatedLips(lips.load_s + max(0.0, load_s))


def after_rest(lips: SimulatedLips, seconds: float) -> SimulatedLips:
    """Return the lips after so much rest."""
    return SimulatedLips(lips.load_s * math.exp(-max(0.0, seconds) / _RECOVERY_S))


def after_days(someone: Person, *, practised: int, idle: int = 0) -> Person:
    """The person after days of practice, and days without: habits shrink and strength grows, and half as fast return."""
    days = practised - 0.5 * idle
    habit = min(1.0, max(_LEAST_HABIT, someone.habit * math.exp(-days / _HABIT_DAYS)))
    growth = (4.0 / 3.0) ** (days / _STRENGTH_DAYS)
    return replace(someone, habit=habit, strength_s=someone.strength_s * min(2.0, max(0.5, growth)))


def performance_flaws(someone: Person, lips: SimulatedLips, exercise: Exercise, *, seed: int) -> Flaws:
    """How this person plays this exercise now. Tired lips answer late, sag, wobble, leak air and miss what is high."""
    rng = np.random.default_rng((someone.seed, seed))
    tired = tiredness(someone, lips)
    worse, size = 1.0 + 1.5 * max(0.0, tired - 0.3), someone.habit
    flaws = [
        Flaw("breath", size=min(-12.0, someone.breath_db + 8.0 * max(0.0, tired - 0.3))),
        Flaw("noise", size=-66.0),
    ]
    for note in exercise.notes:
        flaws += _of_note(someone, note.id, size * worse, tired, rng)
        if note.partial > someone.top_partial and rng.random() < 0.25 * size + 0.5 * max(0.0, tired - 0.5):
            flaws.append(Flaw("miss", size=float(note.partial - 1), note=note.id))
        if note.slurred:
            flaws += _of_move(someone, exercise, note.id, size * worse, rng)
    return Flaws(tuple(flaws))


def _of_note(someone: Person, note: str, size: float, tired: float, rng: np.random.Generator) -> list[Flaw]:
    def near(value: float, spread: float) -> float:
        return float(rng.normal(value, spread)) * size

    wobble = abs(near(someone.pitch_wobble_depth_cents, 1.0)) + 4.0 * max(0.0, tired - 0.5)
    response = abs(near(someone.response_ms, 8.0)) + 45.0 * max(0.0, tired - 0.3)
    return [
        Flaw(
            "centre", size=_within(near(someone.pitch_error_cents, 3.0) - 8.0 * max(0.0, tired - 0.5), 300.0), note=note
        ),
        Flaw(
            "entry",
            size=_within(near(someone.attack_error_cents, 8.0), 300.0),
            extra=someone.attack_settle_ms,
            note=note,
        ),
        Flaw("sag", size=_within(near(someone.pitch_drift_cents, 3.0), 200.0), note=note),
        Flaw("wobble", size=min(80.0, wobble), extra=someone.pitch_wobble_rate_hz, note=note),
        Flaw("response", size=min(600.0, response), note=note),
        Flaw("late", size=_within(near(0.0, someone.timing_ms), 400.0), note=note),
    ]


def _of_move(someone: Person, exercise: Exercise, note: str, size: float, rng: np.random.Generator) -> list[Flaw]:
    if rng.random() < someone.gap_chance * size:
        return [Flaw("gap", size=float(np.clip(rng.normal(someone.gap_ms, 12.0) * size, 15.0, 400.0)), note=note)]
    if rng.random() < someone.caught_chance * size:
        beyond = max(n.partial for n in exercise.notes) + 1
        stay = float(np.clip(rng.normal(someone.clipped_partial_ms, 10.0) * size, 15.0, 300.0))
        return [Flaw("caught", size=float(beyond), extra=stay, note=note)]
    return []


def _within(value: float, most: float) -> float:
    return min(most, max(-most, value))
