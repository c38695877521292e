"""What goes over the wire beside the core's own values."""

from datetime import date, datetime
from typing import Annotated, Literal

from pydantic import BaseModel, ConfigDict, Field

from orexis.core.approaches import Ask, Choice, Question
from orexis.core.coach import Lips, RangeState, Standard
from orexis.core.exercises import MAX_LINE, Advance, DayPlace, Exercise, Load, Param
from orexis.core.instruments import MovingSlide
from orexis.core.planning import Effort, GoalKind
from orexis.core.practice import SessionState
from orexis.services.material.exercises import ExerciseRequest, WrittenLine
from orexis.services.values.players import Keeping, Mute, PageLanguage, Start

Text = Annotated[str, Field(max_length=200)]
ParamText = Annotated[str, Field(max_length=3000)]  # as long as notes named by hand can be


class StrictModel(BaseModel):
    """A request: a misspelt field is an error."""

    model_config = ConfigDict(extra="forbid")


class PlayerIn(StrictModel):
    """Request: name, standard, instrument, part and tuning of a player."""

    name: Text
    standard: Text
    instrument: Text
    part: Text | None = None
    a4_hz: float = 440.0


class SessionIn(StrictModel):
    """Request: the exercise with which a session is opened."""

    player_id: Text
    exercise_type: Text = ""
    params: dict[Text, ParamText] = Field(default_factory=dict, max_length=30)
    own: Text | None = None
    anyway: bool = False  # although something speaks against it


Manner = Literal["clean", "human", "sagging", "sliding", "catching", "breathless", "person"]


class ManneredIn(StrictModel):
    """How the demo player is to play the next take: its manner and the seed."""

    manner: Manner = "person"
    seed: int | None = Field(default=None, ge=0, le=2**31)


class PerformIn(StrictModel):
    """Ask the simulated player for a performance of the session's exercise."""

    session_id: Text
    manner: Manner = "human"
    seed: int | None = Field(default=None, ge=0, le=2**31)


class FreePerformIn(StrictModel):
    """Ask the simulated player to play without an exercise."""

    seconds: float = Field(default=40.0, ge=5.0, le=120.0)
    seed: int | None = Field(default=None, ge=0, le=2**31)


class JudgeAsIn(StrictModel):
    """Judge a part of free playing as an exercise of an exercise."""

    exercise_type: Text
    index: int = Field(ge=0, le=500)


class ElsewhereIn(StrictModel):
    """Playing elsewhere: minutes on a date, or every week from it on."""

    day: Text
    minutes: int
    effort: Effort = Effort.MEDIUM
    weekly: bool = False


class SettingsChange(StrictModel):
    """Settings that are to be changed; what is not named stays."""

    approaches: dict[Ask, Choice] = Field(default_factory=dict)
    limits: dict[Text, float] = Field(default_factory=dict)
    braces: bool = False
    returning: bool = False
    checks: bool = True
    start: Start = Start.COUNT_IN
    goes_on: bool = True
    in_time: bool = True
    rest_bars: int = 0
    spoken: bool = False
    tempo_steps: bool = False
    reference_take: Text | None = None
    quiet_from: int | None = None
    minutes: Annotated[list[int], Field(max_length=7)] = Field(default_factory=list)
    performances: Annotated[list[Text], Field(max_length=200)] = Field(default_factory=list)
    moved: Annotated[dict[Text, int], Field(max_length=200)] = Field(default_factory=dict)
    plays_now: int | None = None
    elsewhere: Annotated[list[ElsewhereIn], Field(max_length=200)] = Field(default_factory=list)
    practice_at: Text | None = None
    mute: Mute = Mute.NONE
    keeping: Keeping = Keeping.ALL
    keeping_days: int = 90
    language: PageLanguage | None = None
    teaches: bool = False


class ClassGoalIn(StrictModel):
    """The same goal for several players. `value`: a note as each of them reads it, or a number."""

    players: Annotated[list[Text], Field(min_length=1, max_length=200)]
    kind: GoalKind
    value: Text
    joined: bool = False
    date: date


class RemarkIn(StrictModel):
    """The player's words on a take."""

    remark: Annotated[str, Field(max_length=2000)]


class DiscardIn(StrictModel):
    """Whether a take is to be thrown away or brought back."""

    discarded: bool


class WishIn(StrictModel):
    """An exercise type with parameters, or (by its id) an exercise that the player keeps; and which exercise of the series."""

    player_id: Text
    exercise_type: Text = ""
    params: dict[Text, ParamText] = Field(default_factory=dict, max_length=30)
    own: Text | None = None
    index: Annotated[int, Field(ge=0, le=2000)] = 0

    @property
    def wish(self) -> ExerciseRequest:
        """What is wished, as the services take it."""
        return ExerciseRequest(self.exercise_type, dict(self.params), self.own)


class SoundIn(WishIn):
    """Request: the same exercise as sound."""

    click: bool = True


class ExportIn(WishIn):
    """Request: the same exercise as a file."""

    format: Text


class LineIn(StrictModel):
    """Notes as the player writes them."""

    player_id: Text
    line: Annotated[str, Field(max_length=MAX_LINE)]
    tempo: Annotated[int, Field(ge=20, le=300)] = 72
    beats_per_bar: Annotated[int, Field(ge=1, le=16)] = 4

    @property
    def written(self) -> WrittenLine:
        """The line, as the services take it."""
        return WrittenLine(self.line, float(self.tempo), self.beats_per_bar)


class KeepLineIn(LineIn):
    """The same, to be kept under a name."""

    name: Annotated[str, Field(max_length=200)]


class HealthOut(BaseModel):
    """The server answers. `ends_with_windows`: it stops when the last window is closed."""

    status: str
    version: str
    ends_with_windows: bool


class PlayedLineOut(BaseModel):
    """Notes that were played in, as the player would write them."""

    line: str


class KeepIn(WishIn):
    """The same, to be kept under a name."""

    name: Annotated[str, Field(max_length=200)]


class PartOut(BaseModel):
    """A way in which parts for the instrument are written."""

    id: str
    clef: str
    semitones: int


class InstrumentOut(BaseModel):
    """An instrument that can be chosen, with its parts and mechanism."""

    id: str
    name: str
    kind: str
    parts: list[PartOut]
    mechanism: Literal["valves", "slide"]
    valves: list[str]
    moving: list[MovingSlide]
    low: int  # keyboard numbers of its usual range
    high: int
    source: str


class ExerciseTypeOut(BaseModel):
    """An exercise type with its parameters for one instrument."""

    id: str
    name: str
    place: DayPlace
    purpose: str
    asks: str
    listen_for: str
    mistake: str
    load: Load
    serves: list[str]
    judged: list[str]
    grows: str
    click: bool
    params: list[Param]


class NoteNameOut(BaseModel):
    """A note to choose: what sounds and how the player writes it."""

    sounding: str
    written: str


class MaterialOut(BaseModel):
    """What the instrument in hand can play, in the order of the day."""

    exercise_types: list[ExerciseTypeOut]
    notes: list[NoteNameOut]
    fingerings: list[str]


class GoalKindOut(BaseModel):
    """What can be aimed at, and between what; a note has none."""

    id: GoalKind
    unit: str
    low: float
    high: float


class CatalogueOut(BaseModel):
    """Everything there is to choose from."""

    instruments: list[InstrumentOut]
    standards: list[Standard]
    places: list[DayPlace]
    serves: list[str]
    questions: list[Question]
    reports: list[str]
    cautions: dict[str, str]
    limits: dict[str, dict[str, float]]
    limit_labels: dict[str, str]
    day_minutes: list[int]
    goals: list[GoalKindOut]
    lips: list[Lips]


class RangeNoteOut(BaseModel):
    """One semitone of the player's range: its state alone and in line, its days, its best take."""

    midi: int
    written: str
    sounding: str
    kind: str
    state: RangeState
    alone: RangeState
    in_line: RangeState
    joined: bool
    days_held: int
    clean_days: list[str]
    best_match: float | None
    best_take: str | None
    latest_take: str | None


class RangeOut(BaseModel):
    """What was in range at the end of a day, in whatever way, alone, along lines: keyboard numbers, null where nothing was."""

    day: str
    low: int | None
    high: int | None
    alone_low: int | None
    alone_high: int | None
    joined_low: int | None
    joined_high: int | None


class RangeSummaryOut(BaseModel):
    """The ladder from the lowest pedal up, and where to start next."""

    range_notes: list[RangeNoteOut]
    middle: int
    low: int | None
    high: int | None
    start_up: int
    start_down: int
    lopsided: str | None
    alone_low: int | None
    alone_high: int | None
    joined_low: int | None
    joined_high: int | None
    history: list[RangeOut]


class SessionOut(BaseModel):
    """A session and where it stands."""

    id: str
    player_id: str
    exercise_type: str
    title: str
    instrument: str
    state: SessionState
    started_at: datetime
    ended_at: datetime | None


class SeriesView(BaseModel):
    """A series with one of its exercises shown."""

    title: str
    advance: Advance
    rest_s: float | None
    titles: list[str]
    index: int
    exercise: "ExerciseView"
    says: list[str]  # of a tune from a file: what was left out or changed


class LaneOut(BaseModel):
    """One slot of the fingering in use."""

    partial: int
    hz: float
    written: str
    label: str


class LaneSpan(BaseModel):
    """The slots of one fingering for as long as it is in use, in seconds from the count-in's first beat."""

    from_s: float
    to_s: float
    fingering: str
    lanes: list[LaneOut]


class WrittenNote(BaseModel):
    """An exercise's note as the player reads it."""

    id: str
    written: str
    sounding: str
    fingering: str
    target_hz: float
    expected_hz: float
    start_s: float
    duration_s: float


class SoundingNote(BaseModel):
    """What sounds with an exercise: seconds count from the first beat of the count-in."""

    hz: float
    start_s: float
    duration_s: float


class ExerciseView(BaseModel):
    """An exercise ready for the screen: values, lanes, engraving."""

    exercise: Exercise
    notes: list[WrittenNote]
    lanes: list[LaneOut]
    spans: list[LaneSpan]
    svg: str
    duration_s: float
    count_in_s: float
    two_step_breath: bool
    beat_s: float
    centre_limit_cents: float
    drone_hz: float | None
    sounds: list[SoundingNote]
    caution: str | None


class TraceOut(BaseModel):
    """A trace in columns; f0 is null where there is no pitch."""

    first_s: float
    hop_s: float
    f0_hz: list[float | None]
    level_db: list[float]
    tone_to_noise_db: list[float]
    confidence: list[float]


class CheckAbout(BaseModel):
    """What a device check was: rate of its samples, when in them the clicks were due, what the browser granted."""

    model_config = ConfigDict(extra="forbid")
    rate: Annotated[int, Field(ge=8_000, le=192_000)]
    clicks_s: Annotated[list[Annotated[float, Field(ge=0.0, le=30.0)]], Field(min_length=4, max_length=64)]
    facts: dict[str, str | int | float | bool | None] = Field(default_factory=dict, max_length=40)


class ErrorOut(BaseModel):
    """An error as the page shows it: one sentence, and its kind."""

    message: str
    kind: str
