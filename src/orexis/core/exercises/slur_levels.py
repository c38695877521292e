"""The levels of slurs on one fingering, from two neighbours to trills."""

from collections.abc import Iterable

from orexis.core.exercises.levels import PathStep, level, ordinal
from orexis.core.instruments import Instrument
from orexis.core.messages import tell

FROM_TOP, FROM_BELOW = "down and up", "up and down"
_TRILL_TEMPI = (60, 68, 76, 84, 94, 106, 118, 132, 148, 164, 180)


def two_partial_levels(instrument: Instrument) -> Iterable[PathStep]:
    """Yield the levels of slurs between two neighbours: each way on its own, then higher pairs, each in faster rhythms."""
    low = instrument.slur_partial
    for partial in range(low, min(low + 6, instrument.top_partial)):
        if partial == low:
            for direction in ("down", "up"):
                yield level(
                    tell(
                        "partials {partial} and {partial2}, only {direction}, three fingerings",
                        partial=partial,
                        partial2=partial + 1,
                        direction=direction,
                    ),
                    partial=partial,
                    rhythm="halves",
                    direction=direction,
                    fingering="few",
                )
        for rhythm, direction in (("halves", FROM_TOP), ("eighths", FROM_BELOW), ("sixteenths", FROM_TOP)):
            yield level(
                tell(
                    "partials {partial} and {partial2}, {rhythm}", partial=partial, partial2=partial + 1, rhythm=rhythm
                ),
                partial=partial,
                rhythm=rhythm,
                direction=direction,
                fingering="all",
            )


def chain_levels(instrument: Instrument) -> Iterable[PathStep]:
    """Yield the levels of slurs over several partials: three to seven, begun from either end; then from a partial higher."""
    low = instrument.slur_partial + 1
    yield level(
        tell("three partials from the {ordinal}, three fingerings", ordinal=ordinal(low)),
        partial=low,
        count=3,
        fingering="few",
    )
    for start in range(low, low + 4):
        for size, direction in ((3, FROM_BELOW), (4, FROM_TOP), (5, FROM_BELOW), (6, FROM_TOP), (7, FROM_BELOW)):
            if start + size - 1 <= instrument.top_partial:
                yield level(
                    tell(
                        "{size} partials from the {ordinal}, {direction}",
                        size=size,
                        ordinal=ordinal(start),
                        direction=direction,
                    ),
                    partial=start,
                    count=size,
                    direction=direction,
                    fingering="all",
                )


def octave_down_levels(instrument: Instrument) -> Iterable[PathStep]:
    """Yield the levels of the same an octave lower, through the valve combinations."""
    low = max(2, (instrument.slur_partial + 2) // 2)
    for size in (3, 4, 5):
        for fingering, say in (("few", "three fingerings"), ("all", "all fingerings")):
            if low + size - 1 <= instrument.top_partial:
                yield level(
                    tell("{size} partials, {say}", size=size, say=say), partial=low, count=size, fingering=fingering
                )


def wide_slur_levels(instrument: Instrument) -> Iterable[PathStep]:
    """Yield the levels of slurs that skip partials: one, then more."""
    low = instrument.slur_partial + 1
    for over in range(1, 6):
        for partial in (low, low + 1, low + 2):
            if partial + over + 1 <= instrument.top_partial:
                fingering = "few" if over == 1 and partial == low else "all"
                yield level(
                    tell("from partial {partial} to {partial2}", partial=partial, partial2=partial + over + 1),
                    partial=partial,
                    over=over,
                    fingering=fingering,
                )


def add_one_levels(instrument: Instrument) -> Iterable[PathStep]:
    """Yield the levels of the add-a-note arpeggio: one more partial on top."""
    for top in range(4, instrument.top_partial + 1):
        yield level(tell("up to partial {top}", top=top), partial=2, top=top)


def trill_levels(instrument: Instrument) -> Iterable[PathStep]:
    """Yield the levels of lip trills: faster by an eighth at a time, then the pair above from where it is no longer slow."""
    low = max(4, 2 * instrument.slur_partial)
    for partial in range(low, min(low + 3, instrument.top_partial)):
        for tempo in _TRILL_TEMPI if partial == low else _TRILL_TEMPI[4:]:
            yield level(
                tell(
                    "partials {partial} and {partial2} at {tempo}", partial=partial, partial2=partial + 1, tempo=tempo
                ),
                partial=partial,
                tempo=tempo,
                fingering="few",
            )
