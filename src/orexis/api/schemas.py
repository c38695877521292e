"""What goes over the wire beside the core's own values."""

from typing import Annotated, Literal

import numpy as np
from pydantic import BaseModel, ConfigDict, Field

from orexis.core.figures import Figure, Param
from orexis.core.horn import HandSlide, Instrument, Part, Tube, partial_frequency_hz
from orexis.core.theory import Pitch, nearest_pitch
from orexis.core.trace import Trace

Text = Annotated[str, Field(max_length=200)]


class Strict(BaseModel):
    """A request: a misspelt field is an error."""

    model_config = ConfigDict(extra="forbid")


class PlayerIn(Strict):
    """A player's settings."""

    name: Text
    stage: Text
    horn: Text
    part: Text | None = None
    a4_hz: float = 440.0


class SessionIn(Strict):
    """What to practise."""

    player_id: Text
    family: Text
    params: dict[Text, Text] = Field(default_factory=dict, max_length=30)


class PerformIn(Strict):
    """Ask the simulated player for a performance of the session's figure."""

    session_id: Text
    manner: Literal["clean", "human", "sagging", "sliding", "catching", "breathless"] = "human"
    seed: int | None = Field(default=None, ge=0, le=2**31)


class RemarkIn(Strict):
    """The player's words on a take."""

    remark: Annotated[str, Field(max_length=2000)]


class DiscardIn(Strict):
    """Throw away or bring back."""

    discarded: bool


class PartOut(BaseModel):
    """A way in which parts for the horn are written."""

    id: str
    clef: str
    semitones: int


class HornOut(BaseModel):
    """A horn of the catalogue."""

    id: str
    name: str
    parts: list[PartOut]
    mechanism: Literal["valves", "slide"]


class FamilyOut(BaseModel):
    """A family with its parameters for one horn."""

    id: str
    name: str
    purpose: str
    asks: str
    load: str
    params: list[Param]


class CatalogueOut(BaseModel):
    """Everything there is to choose from."""

    horns: list[HornOut]
    families: dict[str, list[FamilyOut]]
    stages: list[str]


class LaneOut(BaseModel):
    """One slot of the tube in use."""

    partial: int
    hz: float
    written: str
    label: str


class WrittenNote(BaseModel):
    """A figure's note as the player reads it."""

    id: str
    written: str
    sounding: str
    tube: str
    target_hz: float
    expected_hz: float
    start_s: float
    duration_s: float


class FigureView(BaseModel):
    """A figure ready for the screen: values, lanes, engraving."""

    figure: Figure
    notes: list[WrittenNote]
    lanes: list[LaneOut]
    svg: str
    duration_s: float
    count_in_s: float
    beat_s: float
    centre_limit_cents: float


class TraceOut(BaseModel):
    """A trace in columns; f0 is null where there is no pitch."""

    first_s: float
    hop_s: float
    f0_hz: list[float | None]
    level_db: list[float]
    tone_db: list[float]
    confidence: list[float]


class ErrorOut(BaseModel):
    """One sentence for the screen."""

    message: str
    kind: str


def horn_out(horn: Instrument) -> HornOut:
    """A horn for the screen."""
    return HornOut(
        id=horn.id,
        name=horn.name,
        parts=[PartOut(id=part.id, clef=part.clef, semitones=part.transposition.semitones) for part in horn.parts],
        mechanism="slide" if isinstance(horn.mechanism, HandSlide) else "valves",
    )


def trace_out(trace: Trace) -> TraceOut:
    """Columns rounded to what a screen can show."""
    f0 = [round(float(value), 3) if np.isfinite(value) else None for value in trace.f0_hz]
    return TraceOut(
        first_s=round(float(trace.time_s[0]), 4) if len(trace) else 0.0,
        hop_s=0.005,
        f0_hz=f0,
        level_db=[round(float(value), 1) for value in trace.level_db],
        tone_db=[round(float(value), 1) for value in trace.tone_db],
        confidence=[round(float(value), 2) for value in trace.confidence],
    )


def figure_view(
    figure: Figure, horn: Instrument, part: Part, *, a4: float, centre_limit: float, svg: str
) -> FigureView:
    """A figure for the screen."""
    notes = []
    for note in figure.notes:
        target = figure.target_hz(note, a4=a4)
        share = note.horn_cents if note.keep_tube else 0.0
        notes.append(
            WrittenNote(
                id=note.id,
                written=part.transposition.written(note.pitch).name,
                sounding=note.pitch.name,
                tube=note.tube.label,
                target_hz=target,
                expected_hz=target * 2.0 ** (share / 1200.0),
                start_s=figure.start_s(note),
                duration_s=note.beats * figure.beat_s,
            )
        )
    return FigureView(
        figure=figure,
        notes=notes,
        lanes=lanes_of(figure, horn, part),
        svg=svg,
        duration_s=figure.duration_s,
        count_in_s=figure.count_in_beats * figure.beat_s,
        beat_s=figure.beat_s,
        centre_limit_cents=centre_limit,
    )


def lanes_of(figure: Figure, horn: Instrument, part: Part) -> list[LaneOut]:
    """The slots around the figure's notes on the tube in use, two beyond on either side."""
    tube = figure.notes[0].tube
    partials = [note.partial for note in figure.notes]
    low, high = max(1, min(partials) - 2), max(partials) + 2
    return [_lane(horn, part, tube, partial) for partial in range(low, high + 1)]


def _lane(horn: Instrument, part: Part, tube: Tube, partial: int) -> LaneOut:
    hz = partial_frequency_hz(horn, tube, partial)
    written: Pitch = part.transposition.written(nearest_pitch(hz))
    return LaneOut(partial=partial, hz=hz, written=written.name, label=tube.label)
