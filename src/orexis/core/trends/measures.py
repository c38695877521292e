"""What of a take is followed over weeks: one value a measure, and one for each of its scopes: where in the range, how loud, which family.

A take's value is the middle over its notes that were right (or its moves), as a size without sign unless said; registers:
*low* up to a tone over the easy note, *high* from a fourth over the comfortable middle on.
"""

from collections.abc import Callable, Iterable
from dataclasses import dataclass
from enum import StrEnum
from statistics import median

from orexis.core.figures import Figure, FigureNote, Medium
from orexis.core.horn import Instrument, Tube, slot_of
from orexis.core.measures import Measures, NoteMeasures

_LOW_OVER_EASY, _HIGH_OVER_MIDDLE = 2, 5


class Register(StrEnum):
    """Where in the range a note lies."""

    LOW = "low"
    MIDDLE = "middle"
    HIGH = "high"


class Loud(StrEnum):
    """How loud a note is written."""

    SOFT = "soft"
    LOUD = "loud"


REGISTERS = tuple(Register)
SCOPES: tuple[str, ...] = (*Register, *Loud)
_LOUD_OF: dict[str, Loud] = {"pp": Loud.SOFT, "p": Loud.SOFT, "f": Loud.LOUD, "ff": Loud.LOUD}
_FEWEST_PEDALS = 4  # of a figure that is about them
_OF_A_FAMILY = 3  # so many measures of a family are followed for it alone: those that it judges first


@dataclass(frozen=True, slots=True)
class TrendMeasure:
    """A measure that is followed. `more_is_better`: None where neither way is (a lean)."""

    id: str
    label: str
    unit: str
    more_is_better: bool | None
    by_register: bool = False
    least: float = 0.0  # the picture's scale reaches at least from here
    most: float = 1.0  # to here
    reason: str | None = None  # by which takes fail on it


TREND_MEASURES: dict[str, TrendMeasure] = {
    item.id: item
    for item in (
        TrendMeasure("centre", "Distance from the centre", "cents", False, True, 0.0, 10.0, "centre"),
        TrendMeasure("lean", "Lean, above or below", "cents", None, True, -5.0, 5.0),
        TrendMeasure("spread", "Spread around the centre", "cents", False, True, 0.0, 8.0, "spread"),
        TrendMeasure("sag", "Sag over a note", "cents", False, True, 0.0, 10.0, "sag"),
        TrendMeasure("entry", "Entry off pitch", "cents", False, False, 0.0, 20.0, "entry"),
        TrendMeasure("response", "Breath before the tone", "ms", False, False, 0.0, 60.0, "response"),
        TrendMeasure("gap", "Longest silence in a slur", "ms", False, False, 0.0, 60.0, "gap"),
        TrendMeasure("caught", "Slurs that touched another slot", "%", False, False, 0.0, 20.0, "caught"),
        TrendMeasure("wander", "Loudness wandering in a note", "dB", False, False, 0.0, 3.0, "level"),
        TrendMeasure("match", "Likeness to the reference sound", "of 100", True, False, 50.0, 100.0, "sound-match"),
        TrendMeasure("hold", "Longest tone of a breath", "s", True, False, 0.0, 12.0, "hold"),
        TrendMeasure("trill", "Lip trill, there and back", "a second", True, False, 0.0, 4.0, "trill"),
        TrendMeasure("pedals", "Pedals that were there", "%", True, False, 0.0, 100.0),
        TrendMeasure("pace", "Notes in slurs that were held clean", "a second", True, False, 0.0, 4.0),
    )
}


def key_of(measure: str, scope: str | None = None) -> str:
    """How it is named in the record: "centre", "centre@low", "sag@long-low-tones"."""
    return measure if scope is None else f"{measure}@{scope}"


def values_of(figure: Figure, horn: Instrument, measures: Measures, *, held: bool = False) -> dict[str, float]:
    """By key; what was not measured is left out. A mouthpiece has no scopes. `held`: whether the take was."""
    right = _right(figure, measures)
    rows, loud = [(row, note.pitch.midi) for row, note in right], _written_loudness(figure)
    found: dict[str, float] = {}
    for measure, of in _OF_NOTES.items():
        _put(found, measure, [of(row) for row, _ in rows])
        if TREND_MEASURES[measure].by_register and figure.medium == Medium.HORN:
            for register in REGISTERS:
                here = [of(row) for row, midi in rows if register_of(midi, horn) == register]
                _put(found, key_of(measure, register), here)
            for wanted in Loud:
                here = [of(row) for row, note in right if loud.get(note.id) == wanted]
                _put(found, key_of(measure, wanted), here)
    slurs = [move for move in measures.moves if move.slurred]
    _put(found, "gap", [max((move.gap_ms or 0.0 for move in slurs), default=None)])
    if slurs and figure.medium == Medium.HORN:
        found["caught"] = round(100.0 * sum(bool(move.caught) for move in slurs) / len(slurs), 1)
    to_the_end = {note.id for note in figure.notes if note.to_breath_end}
    _put(found, "hold", [max((row.hold_s or 0.0 for row, _ in rows if row.target in to_the_end), default=None)])
    pedals = [note for note in figure.notes if note.partial == 1 and not note.free]
    if len(pedals) >= _FEWEST_PEDALS and figure.medium == Medium.HORN:
        found["pedals"] = round(100.0 * sum(note.partial == 1 for _, note in right) / len(pedals), 1)
    if "trill" in figure.judged:
        _put(found, "trill", [measures.figure.trill_hz])
    if held and slurs and figure.medium == Medium.HORN:
        _put(found, "pace", [_pace(figure)])
    first = [name for name in figure.judged if name in found][:_OF_A_FAMILY]
    return found | {key_of(name, figure.family): found[name] for name in first}


def _pace(figure: Figure) -> float | None:
    """Notes a second where they are slurred."""
    lengths = [note.beats * figure.beat_s for note in figure.notes if note.slurred and note.glide_beats <= 0.0]
    return 1.0 / median(lengths) if lengths else None


def _written_loudness(figure: Figure) -> dict[str, Loud]:
    """Notes written soft or loud; a dynamic holds until the next."""
    found, now = {}, figure.dynamic
    for note in figure.notes:
        now = note.dynamic or now
        if now in _LOUD_OF:
            found[note.id] = _LOUD_OF[now]
    return found


def register_of(midi: int, horn: Instrument) -> Register:
    """Where a note lies on this horn."""
    tube = Tube(position=1) if horn.slides else Tube(side=horn.sides[0].name)
    if midi <= horn.easy.midi + _LOW_OVER_EASY:
        return Register.LOW
    middle = slot_of(horn, tube, horn.middle_partial).pitch.midi
    return Register.HIGH if midi >= middle + _HIGH_OVER_MIDDLE else Register.MIDDLE


_OF_NOTES: dict[str, Callable[[NoteMeasures], float | None]] = {
    "centre": lambda row: None if row.judged_cents is None else abs(row.judged_cents),
    "lean": lambda row: row.judged_cents,
    "spread": lambda row: row.spread_cents,
    "sag": lambda row: None if row.sag_cents is None else abs(row.sag_cents),
    "entry": lambda row: None if row.entry_cents is None else abs(row.entry_cents),
    "response": lambda row: row.response_ms,
    "wander": lambda row: row.level_wander_db,
    "match": lambda row: row.sound_match,
}


def _right(figure: Figure, measures: Measures) -> list[tuple[NoteMeasures, FigureNote]]:
    notes = {note.id: note for note in figure.notes if not note.free}
    return [(row, notes[row.target]) for row in measures.notes if row.right and row.target in notes]


def _put(found: dict[str, float], key: str, values: Iterable[float | None]) -> None:
    known = [value for value in values if value is not None]
    if known:
        found[key] = round(float(median(known)), 2)
