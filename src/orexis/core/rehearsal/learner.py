"""A player who learns, tires, rests and forgets, at the level of measures. Documented in docs/rehearsal.md.

On each path a learner has a skill, in steps: at a step as high as the skill, faults have the size that the person drawn by
the seed has; each step beyond makes them larger by DIFFICULTY, each step below smaller. The range has an edge on either
side, beyond which notes are missed. Skill grows with takes near it, more so when fresh and when they hold; it is lost
slowly on days without. Strength is the load that tires the lips (player/person.py). The rates are a stand-in's.
"""

import math
from collections.abc import Mapping
from dataclasses import dataclass, replace

import numpy as np

from orexis.core.coach import Freshness, Outcome, Standard
from orexis.core.exercises import EXERCISE_TYPES, Exercise, ExerciseNote, Medium
from orexis.core.instruments import Instrument
from orexis.core.measures import Measures
from orexis.core.player import (
    Flaw,
    Flaws,
    Person,
    SimulatedLips,
    after_playing,
    after_rest,
    performance_flaws,
    person,
    tiredness,
)
from orexis.core.progress import entered, path_of
from orexis.core.rehearsal.measured import measured, with_values

STRENGTH = 0.43  # of the person's: load as sessions count it, rests and soft notes included
USUAL = 0.5  # size of the drawn person's faults at the skill itself
DIFFICULTY = 0.22  # natural logarithm of how much larger faults are a step beyond the skill
STEP_GAIN, NEAR_STEPS = 0.035, 3.0  # skill a take adds at the skill itself, and how fast that falls away from it
EDGE_GAIN, EDGE_NEAR = 0.02, 3  # semitones a try near the edge adds
MISSED_TEACHES = 0.6  # a take that was not held teaches so much of one that was
FORGETS, FORGETS_AFTER = 0.02, 2  # of skill a day without, and from which day on
OVERDONE = 1.0  # tiredness from which playing teaches nothing and wears
WEAR = 0.01  # semitones of range that a take costs when played too tired
WANDER_DB = 1.2  # how far the loudness of a steady note wanders at faults of the person's own size
_MIDDLE_OF_EDGE = 0.7  # semitones over which missing goes from seldom to often
_SURE, _LARGEST = 0.25, 3.5  # how small and how large faults become by step


@dataclass(frozen=True, slots=True)
class LearnerKind:
    """A kind of player. `most_steps`: where learning ends; `away`: weeks without, in the middle."""

    name: str
    learns: float = 1.0
    most_steps: float | None = None
    rests: bool = True
    strength: float = 1.0
    away: int = 0
    edge_up: int = 5  # semitones over the middle that are there at first
    edge_down: int = 9  # below the easy note
    standard: Standard | None = None


KINDS: dict[str, LearnerKind] = {
    kind.name: kind
    for kind in (
        LearnerKind("steady"),
        LearnerKind("fast", learns=2.0),
        LearnerKind("plateau", most_steps=2.0),
        LearnerKind("overdoes", rests=False),
        LearnerKind("returns", away=6),
        LearnerKind("tires-early", strength=0.4),
        LearnerKind("low-only", edge_up=-4),
        LearnerKind("beginner", learns=1.2, edge_up=-3, edge_down=3, standard=Standard.BEGINNER),
    )
}


@dataclass(slots=True)
class Learner:
    """Somebody who practises. Changes as they play; the same seed makes the same one."""

    kind: LearnerKind
    instrument: Instrument
    standard: Standard
    who: Person
    high: float  # the edges of the range, keyboard numbers
    low: float
    skill: dict[str, float]
    first_skill: Mapping[str, float]
    first_high: float
    rng: np.random.Generator
    lips: SimulatedLips
    idle_days: int = 0
    learned: float = 0.0  # steps gained by practice, over all paths, whatever a pause took again
    takes: int = 0

    @property
    def tired(self) -> float:
        """0 for fresh, 1 when the strength is used up."""
        return tiredness(self.who, self.lips)

    def plays(self, exercise: Exercise, step: int | None) -> Measures:
        """A performance as it would be measured."""
        self.takes += 1
        ease = self._ease(exercise.exercise_type, step)
        scaled = replace(self.who, habit=USUAL * self.who.habit * ease, top_partial=99)
        drawn = performance_flaws(scaled, self.lips, exercise, seed=self.takes)
        missed = [Flaw("miss", size=float(max(1, note.partial - 1)), note=note.id) for note in self._missed(exercise)]
        return self._led(exercise, measured(exercise, Flaws((*drawn.flaws, *missed))), ease)

    def _led(self, exercise: Exercise, heard: Measures, ease: float) -> Measures:
        """What no flaw of a note or a move stands for: trills, sirens, bends, holding to the breath's end."""
        rng, tired = self.rng, max(0.0, self.tired - 0.5)
        whole = heard.exercise
        if "trill" in exercise.judged and whole.trill_hz is not None:
            slow = 1.0 - max(0.0, 0.1 * (ease - 0.8 + tired + float(rng.normal(0.0, 0.4))))
            whole = replace(whole, trill_hz=whole.trill_hz * min(1.0, slow))
        if "siren" in exercise.judged:
            jump = 30.0 * ease * (1.0 + tired) * float(rng.lognormal(0.0, 0.5))
            whole = replace(whole, siren_jump_cents=jump, siren_breaks=int(rng.random() < 0.15 * ease))
        notes = []
        for row, note in zip(heard.notes, exercise.notes, strict=True):
            # Nothing here has a sound to match; how far the loudness of a note wanders goes with everything else.
            wander = abs(float(rng.normal(WANDER_DB, 0.4 * WANDER_DB))) * self.who.habit * ease * (1.0 + tired)
            values: dict[str, float | None] = {"tone_match": None, "level_wobble_db": round(wander, 2)}
            if "bend" in exercise.judged:
                asked = exercise.least("bend") or 100.0
                deep = asked * min(1.2, 1.1 - 0.15 * (ease - 0.8) + float(rng.normal(0.0, 0.08)) - 0.1 * tired)
                values |= {"bend_down_cents": -deep, "bend_back_cents": float(rng.normal(0.0, 4.0)) * ease}
            if note.to_breath_end and row.hold_s is not None:
                share = 1.05 - 0.12 * (ease - 0.6) - 0.15 * tired + float(rng.normal(0.0, 0.08))
                values["hold_s"] = row.hold_s * min(1.0, max(0.2, share))
            notes.append(with_values(row, values))
        return replace(heard, notes=tuple(notes), exercise=whole)

    def has_played(
        self, exercise_type: str, step: int | None, exercise: Exercise, outcome: Outcome, load: float
    ) -> None:
        """What a take did: load on the lips, and what was learned."""
        fresh = max(0.0, OVERDONE - self.tired) if self.tired > 0.5 else 1.0
        taught = self.kind.learns * fresh * (1.0 if outcome.is_good else MISSED_TEACHES)
        if step is not None and exercise_type in self.skill:
            near = math.exp(-(((step - self.skill[exercise_type]) / NEAR_STEPS) ** 2))
            now = self._within(exercise_type, self.skill[exercise_type] + STEP_GAIN * near * taught)
            self.learned += now - self.skill[exercise_type]
            self.skill[exercise_type] = now
        self._stretch(exercise, taught)
        if self.tired > OVERDONE:
            self.high -= WEAR
        self.lips = after_playing(self.lips, load)

    def rests(self, seconds: float) -> None:
        """A rest, or the time between two takes."""
        if self.kind.rests:
            self.lips = after_rest(self.lips, seconds)

    def sleeps(self, *, practised: bool) -> None:
        """To the next day: lips recover, and what is not practised is slowly lost."""
        self.lips = after_rest(self.lips, 20 * 3600.0)
        self.idle_days = 0 if practised else self.idle_days + 1
        if self.idle_days > FORGETS_AFTER:
            for exercise_type, skill in self.skill.items():
                self.skill[exercise_type] = max(0.0, skill - FORGETS * max(1.0, skill) * 0.5)
            self.high -= FORGETS

    def checks(self) -> Freshness:
        """What a check note would say."""
        felt = self.tired + float(self.rng.normal(0.0, 0.06))
        return Freshness.SPENT if felt > 1.0 else Freshness.TIRING if felt > 0.6 else Freshness.FRESH

    def _ease(self, exercise_type: str, step: int | None) -> float:
        if step is None or exercise_type not in self.skill:
            return 0.8
        return float(np.clip(math.exp(DIFFICULTY * (step - self.skill[exercise_type])), _SURE, _LARGEST))

    def _missed(self, exercise: Exercise) -> list[ExerciseNote]:
        if exercise.medium != Medium.INSTRUMENT:
            return []
        out: list[ExerciseNote] = []
        tired = 2.0 * max(0.0, self.tired - 0.5)
        for note in exercise.notes:
            beyond = max(note.pitch.midi - (self.high - tired), self.low - note.pitch.midi)
            if not note.free and self.rng.random() < 1.0 / (1.0 + math.exp(-(beyond - 0.5) / _MIDDLE_OF_EDGE)):
                out.append(note)
        return out

    def _stretch(self, exercise: Exercise, taught: float) -> None:
        if exercise.medium != Medium.INSTRUMENT:
            return
        top, bottom = max(n.pitch.midi for n in exercise.notes), min(n.pitch.midi for n in exercise.notes)
        room = self.kind.most_steps
        if abs(top - self.high) <= EDGE_NEAR and (room is None or self.high < self.first_high + room):
            self.high += EDGE_GAIN * taught
        if abs(bottom - self.low) <= EDGE_NEAR:
            self.low -= EDGE_GAIN * taught

    def _within(self, exercise_type: str, skill: float) -> float:
        most = self.kind.most_steps
        return skill if most is None else min(skill, self.first_skill[exercise_type] + most)


def learner(kind: LearnerKind, instrument: Instrument, standard: Standard, seed: int, *, middle: int) -> Learner:
    """Draw one. Skill lies a step either side of where the standard enters each path."""
    rng = np.random.default_rng((seed, 4211))
    who = person(seed, standard=standard)
    skill = {}
    for exercise_type in EXERCISE_TYPES:
        path = path_of(exercise_type, instrument)
        if path is not None:
            skill[exercise_type] = max(0.0, entered(path, standard).step + float(rng.normal(0.5, 1.0)))
    high = middle + kind.edge_up + float(rng.normal(0.0, 1.0))
    low = instrument.easy.midi - kind.edge_down + float(rng.normal(0.0, 1.0))
    return Learner(
        kind, instrument, standard, replace(who, strength_s=who.strength_s * STRENGTH * kind.strength), high, low, skill, dict(skill), high,
        rng, SimulatedLips(),
    )  # fmt: skip
