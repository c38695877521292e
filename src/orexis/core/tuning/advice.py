"""What to do about the instrument's part: which slide, how many millimetres, for which notes; which other way lies nearer."""

from dataclasses import dataclass

from orexis.core.instruments import HandSlide, Instrument, fingering_options, parse_fingering, pull_mm
from orexis.core.messages import tell
from orexis.core.theory import pitch_of_midi
from orexis.core.tuning.fit import Estimate, Fit, NoteFit
from orexis.core.tuning.notes import side_of

_WORTH_CENTS, _WORTH_MM = 5.0, 1.0
_FURTHER_CENTS, _NEARER_BY = 8.0, 6.0
_CHOSEN = 0.3  # a slur on one fingering asks for that way, whatever lies nearer
_MOST = 6  # more than six is a table, not advice


@dataclass(frozen=True, slots=True)
class Advised:
    """One thing to do. `mm`: out is positive; `notes` keyboard numbers; `instead`: the other way's label."""

    fingering: str
    cents: Estimate
    notes: tuple[int, ...]
    slide: str | None = None
    mm: float | None = None
    fits: bool = True
    instead: str | None = None
    instead_cents: float | None = None


def advised(instrument: Instrument, fit: Fit) -> tuple[Advised, ...]:
    """The slides first, then ways that lie nearer; the largest first. `instrument`: as the player has it."""
    slides = sorted(_slides(instrument, fit), key=lambda item: -abs(item.cents.value))
    options = sorted(_nearer(instrument, fit), key=lambda item: -abs(item.cents.value))
    return (*slides[:_MOST], *options[:_MOST])


def _slides(instrument: Instrument, fit: Fit) -> list[Advised]:
    """Fingerings that depart from theory as a whole, surely: their own slide stands wrong, or the hand does."""
    out = []
    for label, size in fit.fingerings.items():
        notes = tuple(sorted(note.midi for note in fit.notes if note.fingering == label))
        if abs(size.value) < _WORTH_CENTS or size.low <= 0.0 <= size.high or not notes:
            continue
        fingering = parse_fingering(instrument, label)
        millimetres = round(pull_mm(instrument, fingering, size.value), 1)
        if abs(millimetres) >= _WORTH_MM:
            out.append(Advised(label, size, notes, _slide_of(instrument, fingering.valves), millimetres))
    return out


def _slide_of(instrument: Instrument, valves: tuple[int, ...]) -> str:
    if isinstance(instrument.mechanism, HandSlide):
        return "hand slide"
    if not valves:
        return "tuning slide"
    return tell("slide of valve {valves}", valves=max(valves))


def _nearer(instrument: Instrument, fit: Fit) -> list[Advised]:
    """Notes whose way lies far out by the instrument, where another lies nearer on this very instrument."""
    out = []
    for note in fit.notes:
        here = note.theory + note.departs.value
        if abs(here) < _FURTHER_CENTS or note.chosen < _CHOSEN:
            continue
        best = min(_others(instrument, fit, note), key=lambda item: abs(item[1]), default=None)
        if best is not None and abs(here) - abs(best[1]) >= _NEARER_BY:
            size = Estimate(
                round(here, 1), round(note.theory + note.departs.low, 1), round(note.theory + note.departs.high, 1)
            )
            out.append(Advised(note.fingering, size, (note.midi,), instead=best[0], instead_cents=round(best[1], 1)))
    return out


def _others(instrument: Instrument, fit: Fit, note: NoteFit) -> list[tuple[str, float]]:
    """Other ways of the note with what this instrument does there."""
    known = {(item.midi, item.fingering, item.partial): item.theory + item.departs.value for item in fit.notes}
    others = []
    for option in fingering_options(instrument, pitch_of_midi(note.midi)):
        label = option.fingering.label
        if (label, option.partial) != (note.fingering, note.partial) and option.partial > 1:
            parts = fit.partials.get((side_of(label), option.partial), 0.0) + (
                fit.fingerings[label].value if label in fit.fingerings else 0.0
            )
            others.append((label, known.get((note.midi, label, option.partial), option.cents + parts)))
    return others
