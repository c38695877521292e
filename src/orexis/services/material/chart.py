"""The instrument's chart: every note from the lowest pedal up with all the ways to play it, named as the player writes it."""

from dataclasses import dataclass

from orexis.core.instruments import FingeringOption, Instrument, Part, fingering_options, glide_step, lowest_pedal
from orexis.core.theory import pitch_of_midi
from orexis.errors import InstrumentError, PitchError

_ABOVE = 2  # semitones beyond the highest in range note


@dataclass(frozen=True, slots=True)
class ChartOption:
    """One way, ready to be shown."""

    label: str
    partial: int
    cents: float
    slide: str | None
    slide_mm: float | None
    reachable: bool
    glide_up: bool
    rank: int


@dataclass(frozen=True, slots=True)
class ChartRow:
    """One note. `kind` is pedal, false (no slot), low, usual or high."""

    midi: int
    sounding: str
    written: str
    kind: str
    options: tuple[ChartOption, ...]
    glide_from: str | None  # the fingering from which sliding in gives the next semitone


def chart(instrument: Instrument, part: Part, *, a4: float) -> tuple[ChartRow, ...]:
    """From the lowest pedal to a little over the highest note."""
    top = min(108, instrument.highest.midi + _ABOVE)
    rows = (_row(instrument, part, midi, a4) for midi in range(lowest_pedal(instrument).midi, top + 1))
    return tuple(row for row in rows if row is not None)


def _row(instrument: Instrument, part: Part, midi: int, a4: float) -> ChartRow | None:
    pitch = pitch_of_midi(midi)
    try:
        written = part.transposition.written(pitch)
    except PitchError:
        return None
    try:
        options = fingering_options(instrument, pitch, a4=a4)
    except InstrumentError:
        options = ()
    if not options and midi > instrument.highest.midi:
        return None
    glide = glide_step(instrument, pitch)
    return ChartRow(
        midi,
        pitch.name,
        written.name,
        _kind(instrument, midi, options),
        tuple(_option(option) for option in options),
        glide.start.label if glide else None,
    )


def _kind(instrument: Instrument, midi: int, options: tuple[FingeringOption, ...]) -> str:
    if not options:
        return "false"
    if midi < instrument.lowest.midi:
        return "pedal" if all(option.partial == 1 for option in options) else "low"
    return "high" if midi > instrument.highest.midi else "usual"


def _option(option: FingeringOption) -> ChartOption:
    return ChartOption(
        option.fingering.label,
        option.partial,
        round(option.cents, 1),
        option.slide,
        None if option.slide_mm is None else round(option.slide_mm, 1),
        option.reachable,
        option.glide_up,
        option.rank,
    )
