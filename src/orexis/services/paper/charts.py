"""The charts of Progress for paper: range, intonation, flexibility, sound, endurance, each a small SVG."""

from collections.abc import Callable, Iterable, Sequence
from datetime import date

from orexis.core.coach import Range
from orexis.files.sheets import Picture
from orexis.services.queries.progress import ProgressShown, TrendShown

RangeOverTime = Sequence[tuple[int, Range]]  # by ordinal day
NameOf = Callable[[int], str]
QUESTIONS: tuple[tuple[str, tuple[str, ...]], ...] = (
    ("Intonation", ("pitch", "pitch_drift", "pitch_wobble", "attack")),
    ("Flexibility", ("pace", "clipped_partial", "gap", "trill")),
    ("Sound", ("tone_match", "level_wobble", "response")),
    ("Endurance", ("hold", "pedals")),
)
_WIDTH, _HEIGHT, _LEFT, _UNDER, _PAD = 300.0, 110.0, 36.0, 16.0, 6.0
_WIDE = 50.0  # percent of the line: two side by side


def report_charts(shown: ProgressShown, history: RangeOverTime, name_of: NameOf) -> tuple[Picture, ...]:
    """A chart for each question that has one: the first of its measures with enough days."""
    pictures = []
    known = [(day, of) for day, of in history if of.low is not None]
    if len(known) > 1:
        pictures.append(Picture(range_svg(known, name_of), _WIDE, "Range"))
    for title, names in QUESTIONS:
        trend = _first(shown.trends, names)
        if trend is not None:
            pictures.append(Picture(trend_svg(trend), _WIDE, f"{title}: {trend.measure.label}, {trend.measure.unit}"))
    return tuple(pictures)


def trend_svg(shown: TrendShown) -> str:
    """The median by day as a line over the middle half as a band."""
    points = shown.trend.points
    low = min(shown.measure.least, *(point.low for point in points))
    high = max(shown.measure.most, *(point.high for point in points))
    first, last = points[0].day, points[-1].day

    def at(day: int, value: float) -> str:
        x = _LEFT + _PAD + (_WIDTH - _LEFT - 2 * _PAD) * (day - first) / max(1, last - first)
        return f"{x:.1f},{_PAD + (_HEIGHT - 2 * _PAD) * (high - value) / max(1e-6, high - low):.1f}"

    above, below = [at(p.day, p.high) for p in points], [at(p.day, p.low) for p in reversed(points)]
    line = " ".join(at(point.day, point.middle) for point in points)
    drawn = (
        f'<polygon points="{" ".join([*above, *below])}" fill="#d9d2c3"/>'
        f'<polyline points="{line}" fill="none" stroke="#8f5d0c" stroke-width="1.5"/>'
    )
    return _framed(drawn, f"{high:.3g}", f"{low:.3g}", (first, last))


def range_svg(days: RangeOverTime, name_of: NameOf) -> str:
    """A bar a day, from the lowest note in the range to the highest."""
    lows, highs = [of.low or 0 for _, of in days], [of.high or 0 for _, of in days]
    bottom, top, step = min(lows), max(highs), (_WIDTH - _LEFT) / len(days)
    each = (_HEIGHT - 2 * _PAD) / max(1, top - bottom + 1)
    bars = "".join(
        f'<rect x="{_LEFT + step * (i + 0.15):.1f}" y="{_PAD + each * (top - high):.1f}" width="{max(1.0, 0.7 * step):.1f}" '
        f'height="{each * (high - low + 1):.1f}" fill="#8f5d0c"/>'
        for i, (low, high) in enumerate(zip(lows, highs, strict=True))
    )
    return _framed(bars, name_of(top), name_of(bottom), (days[0][0], days[-1][0]))


def _first(trends: Iterable[TrendShown], names: Sequence[str]) -> TrendShown | None:
    known = {one.measure.id: one for one in trends if not one.trend.scope and not one.trend.missing}
    return next((known[name] for name in names if name in known), None)


def _framed(drawn: str, high: str, low: str, days: tuple[int, int]) -> str:
    """With its scale at the left and its first and last day below."""
    first, last = (f"{date.fromordinal(day).day} {date.fromordinal(day):%b}" for day in days)
    text = 'font-family="Libertinus Serif" font-size="9" fill="#444"'
    return (
        f'<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 {_WIDTH:g} {_HEIGHT + _UNDER:g}">{drawn}'
        f'<line x1="{_LEFT}" x2="{_WIDTH}" y1="{_HEIGHT}" y2="{_HEIGHT}" stroke="#000" stroke-width="0.8"/>'
        f'<text x="{_LEFT - 4}" y="{_PAD + 6}" text-anchor="end" {text}>{high}</text>'
        f'<text x="{_LEFT - 4}" y="{_HEIGHT}" text-anchor="end" {text}>{low}</text>'
        f'<text x="{_LEFT}" y="{_HEIGHT + 12}" {text}>{first}</text>'
        f'<text x="{_WIDTH}" y="{_HEIGHT + 12}" text-anchor="end" {text}>{last}</text></svg>'
    )
