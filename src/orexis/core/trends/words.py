"""Claims in words, and how clear one is beside another."""

from orexis.core.coach.judging import TrendMeasure
from orexis.core.exercises import EXERCISE_TYPES
from orexis.core.messages import counted, tell
from orexis.core.trends.claims import Claim, Direction, Trend


def claimed(measure: TrendMeasure, trend: Trend) -> str | None:
    """“Sag over a note, low: from 9 to 5 cents in 6 weeks (3 to 6 better).”"""
    claim = trend.claim
    if claim is None:
        return None
    label = measure.label
    if trend.scope:
        label = tell("{label}, {scope}", label=label, scope=scope_in_words(trend.scope))
    weeks = max(1, round(claim.days / 7))
    return tell("{label}: {change}", label=label, change=change_in_words(measure, claim, weeks))


def change_in_words(measure: TrendMeasure, claim: Claim, weeks: int | None = None) -> str:
    """“From 9 to 5 cents (3 to 6 better)”; with `weeks`: “from 9 to 5 cents in 6 weeks (3 to 6 better)”."""
    unit, after = measure.unit, _number(claim.after)
    if claim.direction == Direction.STILL:
        if weeks is None:
            return tell("steady at {number} {unit}", number=after, unit=unit)
        return counted(
            weeks,
            "steady at {number} {unit} in {count} week",
            "steady at {number} {unit} in {count} weeks",
            number=after,
            unit=unit,
        )
    low, high = sorted((abs(claim.low), abs(claim.high)))
    how = {"better": "better", "worse": "worse"}.get(claim.direction, "higher" if claim.low > 0 else "lower")
    values = {
        "number": _number(claim.before),
        "number2": after,
        "unit": unit,
        "number3": _number(low),
        "number4": _number(high),
        "how": how,
    }
    if weeks is None:
        return tell("from {number} to {number2} {unit} ({number3} to {number4} {how})", **values)
    return counted(
        weeks,
        "from {number} to {number2} {unit} in {count} week ({number3} to {number4} {how})",
        "from {number} to {number2} {unit} in {count} weeks ({number3} to {number4} {how})",
        **values,
    )


_SCOPES = {
    "low": "low notes", "middle": "middle notes", "high": "high notes", "soft": "soft notes", "loud": "loud notes",
}  # fmt: skip


def scope_in_words(scope: str) -> str:
    """“low notes”, “soft”, “playing Long low tones”."""
    if scope in _SCOPES:
        return _SCOPES[scope]
    return (
        tell("playing {exercise_type}", exercise_type=EXERCISE_TYPES[scope].name) if scope in EXERCISE_TYPES else scope
    )


def _number(value: float) -> str:
    return f"{value:.0f}" if abs(value) >= 10.0 else f"{value:.1f}".removesuffix(".0")


def clearness(claim: Claim | None) -> float:
    """The change against the width of its own interval."""
    if claim is None:
        return 0.0
    wide = max(1e-6, claim.high - claim.low)
    return abs(claim.after - claim.before) / wide
