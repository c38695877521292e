"""Rehearsed weeks as JSON: the documented form of docs/formats.md."""

from datetime import date
from typing import Any

from orexis.core.coach import Range
from orexis.core.planning import goal_in_words
from orexis.core.rehearsal.values import Rehearsal
from orexis.core.theory import pitch_of_midi


def as_json(made: Rehearsal, *, kind: str, seed: int, minutes: int) -> dict[str, Any]:
    """Return rehearsed weeks as JSON values, in the form that docs/formats.md describes."""

    def iso(day: int | None) -> str | None:
        return None if day is None else date.fromordinal(day).isoformat()

    def name(midi: int | None) -> str | None:
        return None if midi is None else pitch_of_midi(midi).name

    def span(own: Range) -> dict[str, str | None]:
        return {"low": name(own.low), "high": name(own.high)}

    who = made.who
    return {
        "schema": 1,
        "player": {
            "kind": kind, "seed": seed, "standard": who.standard, "minutes": minutes, "strength_s": round(who.who.strength_s),
            "steps_gained": round(who.learned, 2), "edge": {"low": round(who.low, 1), "high": round(who.high, 1)},
        },
        "instrument": who.instrument.id,
        "days": [
            {
                "date": iso(d.day), "kind": d.kind, "minutes": d.minutes, "target_load": d.target, "load": d.load,
                "playing_s": d.playing_s, "lips": d.lips, "endurance": d.endurance,
                "blocks": [
                    {
                        "exercise_type": b.block.exercise_type, "params": b.block.params, "step": b.block.step, "of": b.block.of,
                        "minutes": b.block.minutes, "load_class": b.block.load_class, "why": b.block.why,
                        "takes": b.takes, "clean": b.clean, "ended": b.ended,
                    }
                    for b in d.blocks
                    if b.takes or not b.spare
                ],
                "range": {"alone": span(d.alone), "joined": span(d.joined)},
            }
            for d in made.days
        ],
        "weeks": [{"start": iso(w.start), "target_load": w.target, "bound": w.bound, "load": w.load} for w in made.weeks],
        "goals": [
            {
                "goal": goal_in_words(p.target), "date": iso(p.date),
                "forecasts": [
                    {"on": iso(on), "median": iso(f.median), "low": iso(f.low), "high": iso(f.high)} for on, f in p.forecasts
                ],
                "reached": iso(p.reached),
            }
            for p in made.goals
        ],
    }  # fmt: skip
