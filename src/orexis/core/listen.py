"""The whole way from sound to verdict in one call, for files and for finished takes alike."""

from dataclasses import dataclass

from orexis.core.coach import Limits, Verdict, judge
from orexis.core.figures import Figure
from orexis.core.horn import Instrument
from orexis.core.measures import Measures, check_sound, measure
from orexis.core.sound import Sound
from orexis.core.trace import Trace, track

# Grows whenever the same sound could give other numbers.
ANALYSIS_VERSION = 1


@dataclass(frozen=True, slots=True, eq=False)
class Hearing:
    """What was heard and decided. `verdict` is None in free play."""

    trace: Trace
    measures: Measures
    verdict: Verdict | None


def listen(
    sound: Sound,
    *,
    horn: Instrument,
    figure: Figure | None,
    limits: Limits,
    a4: float,
    first_beat_s: float | None,
    trace: Trace | None = None,
    misses_before: dict[str, int] | None = None,
) -> Hearing:
    """Listen to a sound. `trace` may be given when it was tracked live already; it is the same by construction."""
    followed = track(sound) if trace is None else trace
    measures = measure(
        followed, check_sound(sound, followed), horn=horn, figure=figure, a4=a4, first_beat_s=first_beat_s
    )
    verdict = judge(measures, figure, limits, misses_before=misses_before) if figure else None
    return Hearing(followed, measures, verdict)
