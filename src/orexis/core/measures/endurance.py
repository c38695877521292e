"""What a check note has changed by since today's first. The verdict on it is the coach's."""

from collections.abc import Sequence
from dataclasses import dataclass, field
from statistics import median

from orexis.core.measures.envelope import CLEAR_DB
from orexis.core.measures.values import NoteMeasures

_LEAST_NOTES = 3  # two notes make no median


@dataclass(frozen=True, slots=True)
class EnduranceChange:
    """Now less the first; milliseconds, dB, cents. None where either was not measured, with the reason."""

    response_ms: float | None
    tone_to_noise_db: float | None
    pitch_wobble_cents: float | None
    pitch_error_cents: float | None  # after the day's drift is taken out
    unmeasured: dict[str, str] = field(default_factory=dict)


def day_drift(first: Sequence[float], now: Sequence[float]) -> float:
    """How far the instrument itself has moved with its warmth, in cents: the median of easy notes now against then.

    0 where either time has fewer than three notes: too little to tell an instrument from a player.
    """
    if min(len(first), len(now)) < _LEAST_NOTES:
        return 0.0
    return round(median(now) - median(first), 2)


def endurance_change(now: NoteMeasures, first: NoteMeasures, *, day_drift_cents: float = 0.0) -> EnduranceChange:
    """Compare two check notes; the instrument's own drift with its warmth, in cents since the first, is no tiring."""
    reasons: dict[str, str] = {}

    def change(name: str, drift: float = 0.0) -> float | None:
        a, b = getattr(now, name), getattr(first, name)
        if a is None or b is None:
            missing = now if a is None else first
            reasons[name] = missing.unmeasured.get(name, "one of the two notes does not have it")
            return None
        if name == "tone_to_noise_db":
            a, b = min(a, CLEAR_DB), min(b, CLEAR_DB)
        return round(float(a - b - drift), 2)

    return EnduranceChange(
        change("response_ms"),
        change("tone_to_noise_db"),
        change("pitch_wobble_cents"),
        change("pitch_error_cents", day_drift_cents),
        reasons,
    )
