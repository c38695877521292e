"""The tables. JSON columns are kept as the text that the codec wrote; snapshots in them are never rewritten.

    player 1--n instrument                 the player's own instruments, one of them in hand
    player 1--n own_exercise
    player 1--n session 1--n session_block      what is asked, a series a block (the check note is block -1)
                        1--n take 1--n analysis
                             take 1--n mark             words at its moments
                             take 1--1 timbre           how its easiest note sounds, to compare others with
                             take 1--n range_attempt    the tries that the range is read from
    player 1--n range_note, range_day      the range note by note, and how far it went at the end of each day played
    player 1--n notes_of_day         notes by day and way of playing, for telling the instrument from the player
    player 1--n practice_day, exercise_type_day   what was played on a day, exercise type by exercise type
    player 1--n measures_of_day, measures_of_week   the middle of its measures
    player 1--n path_place           where they stand on each exercise type's path, and where they set it by hand
    player 1--n goal 1--n goal_day   a goal with its date, and how far they were on each day of practice
    player 1--n own_routine          days arranged by themselves
    player 1--n exchange             lessons and review requests, sent and received
    device                           found by a check, looked up by the settings a take was made with

`range_note`, `range_day`, `practice_day`, `measures_of_day`, `measures_of_week`, `exercise_type_day`, `notes_of_day` and the standings of `path_place` are summaries, kept in the transaction of the take that changes them, so that no
page reads the history. A take keeps its sound as a FLAC file named by its id; `discarded_at` marks a take thrown away,
which proves nothing any more, and whose sound may still be brought back.
"""

from datetime import datetime
from typing import Any, ClassVar

from sqlalchemy import Computed, DateTime, ForeignKey, Index, MetaData, UniqueConstraint, text
from sqlalchemy.orm import DeclarativeBase, Mapped, mapped_column, relationship

_NAMES = {
    "ix": "ix_%(column_0_label)s",
    "uq": "uq_%(table_name)s_%(column_0_name)s",
    "ck": "ck_%(table_name)s_%(constraint_name)s",
    "fk": "fk_%(table_name)s_%(column_0_name)s_%(referred_table_name)s",
    "pk": "pk_%(table_name)s",
}
_PLAYER = "player.id"


class Base(DeclarativeBase):
    """The base of all tables, with the rule by which constraints are named."""

    metadata = MetaData(naming_convention=_NAMES)
    type_annotation_map: ClassVar[dict[Any, Any]] = {datetime: DateTime(timezone=True)}


class PlayerRow(Base):
    """A person at the stand; `instrument_id` is the instrument in hand."""

    __tablename__ = "player"
    id: Mapped[str] = mapped_column(primary_key=True)
    name: Mapped[str]
    standard: Mapped[str]
    instrument_id: Mapped[str | None]
    created_at: Mapped[datetime]
    settings: Mapped[str] = mapped_column(default="{}", server_default="{}")
    guest: Mapped[bool] = mapped_column(
        default=False, server_default=text("0")
    )  # came with a lesson or a review request
    instruments: Mapped[list["InstrumentRow"]] = relationship(
        back_populates="player", cascade="all, delete-orphan", lazy="selectin"
    )


class InstrumentRow(Base):
    """A player's own instrument and how they play it; each keeps its settings while another is in hand."""

    __tablename__ = "instrument"
    __table_args__ = (UniqueConstraint("player_id", "catalogue_id"),)
    id: Mapped[str] = mapped_column(primary_key=True)
    player_id: Mapped[str] = mapped_column(ForeignKey(_PLAYER, ondelete="CASCADE"), index=True)
    catalogue_id: Mapped[str]  # id in the catalogue
    part: Mapped[str]  # how parts for it are written
    a4_hz: Mapped[float]
    setup: Mapped[str] = mapped_column(default="{}", server_default="{}")
    player: Mapped[PlayerRow] = relationship(back_populates="instruments")


class OwnExerciseRow(Base):
    """An exercise type with the player's own parameters, or (with `exercise`) an exercise that came from a file."""

    __tablename__ = "own_exercise"
    id: Mapped[str] = mapped_column(primary_key=True)
    player_id: Mapped[str] = mapped_column(ForeignKey(_PLAYER, ondelete="CASCADE"), index=True)
    name: Mapped[str]
    instrument: Mapped[str]
    exercise_type: Mapped[str]
    params: Mapped[str]
    exercise: Mapped[str | None]
    made_at: Mapped[datetime]
    words: Mapped[str] = mapped_column(default="", server_default="")  # how it is to be played
    tune: Mapped[str | None]  # the parts of a score from a file, from which its exercises are made


# In this order; whoever reads `endurance` reads them so.
OF_ENDURANCE = (
    "checks", "check_minutes", "stopped", "tiring_after_s", "playing_s", "lasted_s", "load", "high_load",
)  # fmt: skip
_PICKED = ", ".join(f"'$.{name}'" for name in OF_ENDURANCE)


class SessionRow(Base):
    """One session: what it is judged by (`terms`), and the machine's state, so that it goes on after anything.

    `exercise_type` names the first block's exercise type, or "routine" for one of several. `summary` is what the log shows of it;
    `endurance` what a year's page reads of that, picked out by the database and kept in its index.
    """

    __tablename__ = "session"
    __table_args__ = (
        Index("ix_session_player_id_started_at", "player_id", "started_at"),
        Index("ix_session_player_id_played", "player_id", "played", "started_at"),
        Index("ix_session_endurance", "player_id", "instrument", "played", "started_at", "endurance"),
    )
    id: Mapped[str] = mapped_column(primary_key=True)
    player_id: Mapped[str] = mapped_column(ForeignKey(_PLAYER, ondelete="CASCADE"))
    exercise_type: Mapped[str]
    title: Mapped[str]
    instrument: Mapped[str]
    params: Mapped[str]
    terms: Mapped[str]
    state: Mapped[str]
    summary: Mapped[str] = mapped_column(default="{}", server_default="{}")
    remark: Mapped[str] = mapped_column(default="", server_default="")
    owner: Mapped[str | None]
    rest_since: Mapped[datetime | None]
    started_at: Mapped[datetime]
    ended_at: Mapped[datetime | None]
    played: Mapped[bool] = mapped_column(default=False)  # whether it has takes that were kept
    endurance: Mapped[str] = mapped_column(
        Computed(f"json_extract(summary, {_PICKED})", persisted=False), deferred=True
    )


class SessionBlockRow(Base):
    """A block of a session: a series of exercises. Number -1 is the check note's."""

    __tablename__ = "session_block"
    session_id: Mapped[str] = mapped_column(ForeignKey("session.id", ondelete="CASCADE"), primary_key=True)
    number: Mapped[int] = mapped_column(primary_key=True)
    series: Mapped[str]


class TakeRow(Base):
    """One take with its unchanging snapshots; beside them what lists show of it, so that no list reads a snapshot."""

    __tablename__ = "take"
    __table_args__ = (
        Index("ix_take_session_id_number", "session_id", "number"),
        Index("ix_take_player_id_exercise_type", "player_id", "instrument", "exercise_type", "started_at"),
        Index("ix_take_player_id_day", "player_id", "instrument", "day"),
        Index("ix_take_player_id_exercise_id", "player_id", "instrument", "exercise_id", "started_at"),
        Index("ix_take_thrown_away", "player_id", "discarded_at", sqlite_where=text("discarded_at IS NOT NULL")),
    )
    id: Mapped[str] = mapped_column(primary_key=True)
    session_id: Mapped[str] = mapped_column(ForeignKey("session.id", ondelete="CASCADE"))
    player_id: Mapped[str] = mapped_column(ForeignKey(_PLAYER, ondelete="CASCADE"))
    exercise_index: Mapped[int]
    number: Mapped[int]
    started_at: Mapped[datetime]
    day: Mapped[int]  # ordinal date where it was played
    duration_s: Mapped[float]
    rate: Mapped[int]
    first_beat_s: Mapped[float | None]
    source: Mapped[str]  # microphone | simulated | file
    exercise: Mapped[str]
    instrument: Mapped[str]
    part: Mapped[str]
    a4_hz: Mapped[float]
    standard: Mapped[str]
    limits: Mapped[str]
    approaches: Mapped[str] = mapped_column(default="{}", server_default="{}")
    device: Mapped[str]
    recovered: Mapped[bool] = mapped_column(default=False)
    remark: Mapped[str] = mapped_column(default="")
    discarded_at: Mapped[datetime | None]
    exercise_type: Mapped[str]
    exercise_id: Mapped[str]
    title: Mapped[str]
    written: Mapped[str]  # the written note names, as the player reads them
    fingering: Mapped[str]
    outcome: Mapped[str]
    reason: Mapped[str | None]
    playing_s: Mapped[float]
    load: Mapped[float]
    pitch_error_cents: Mapped[float | None]
    pitch_wobble_cents: Mapped[float | None]
    pitch_drift_cents: Mapped[float | None]
    hold_s: Mapped[float | None]
    sound_gone_at: Mapped[datetime | None]  # its sound was let go, as somebody wished
    sound_sha256: Mapped[str | None]  # of the file of its sound as it was kept; None: of an earlier release
    fact: Mapped[str | None]  # what its day remembers of it; None for check notes
    played_before_s: Mapped[float] = mapped_column(
        default=0.0, server_default=text("0")
    )  # tone of its session before it
    analyses: Mapped[list["AnalysisRow"]] = relationship(
        back_populates="take", cascade="all, delete-orphan", order_by="AnalysisRow.version"
    )


class AnalysisRow(Base):
    """What was heard and said. Recomputing adds a row."""

    __tablename__ = "analysis"
    __table_args__ = (UniqueConstraint("take_id", "version"),)
    id: Mapped[int] = mapped_column(primary_key=True)
    take_id: Mapped[str] = mapped_column(ForeignKey("take.id", ondelete="CASCADE"), index=True)
    version: Mapped[int]
    made_at: Mapped[datetime]
    outcome: Mapped[str]
    reason: Mapped[str | None]
    measures: Mapped[str]
    verdict: Mapped[str]
    take: Mapped[TakeRow] = relationship(back_populates="analyses")


class MarkRow(Base):
    """Words at a moment of a take (or on all of it), by its player or by somebody who heard it. `nearer`: closer to what is wanted."""

    __tablename__ = "mark"
    id: Mapped[str] = mapped_column(primary_key=True)
    take_id: Mapped[str] = mapped_column(ForeignKey("take.id", ondelete="CASCADE"), index=True)
    at_s: Mapped[float | None]
    nearer: Mapped[bool]
    words: Mapped[str]
    by: Mapped[str]
    made_at: Mapped[datetime]


class ExchangeRow(Base):
    """A lesson or a review request that was sent or received. `contents`: what is in it; `taken`: which of it was taken over."""

    __tablename__ = "exchange"
    id: Mapped[str] = mapped_column(primary_key=True)
    player_id: Mapped[str] = mapped_column(ForeignKey(_PLAYER, ondelete="CASCADE"), index=True)
    kind: Mapped[str]  # lesson | review_request
    way: Mapped[str]  # sent | received
    sender: Mapped[str]
    made_at: Mapped[datetime]
    contents: Mapped[str]
    taken: Mapped[str] = mapped_column(default="[]", server_default="[]")
    answer: Mapped[str | None]
    answered_by: Mapped[str | None]
    answered_at: Mapped[datetime | None]


class TimbreRow(Base):
    """How the easiest note of a take sounds: what others are compared with. `away` is its distance from easy, octaves."""

    __tablename__ = "timbre"
    __table_args__ = (Index("ix_timbre_player_id", "player_id", "instrument", "device_key", "started_at"),)
    take_id: Mapped[str] = mapped_column(ForeignKey("take.id", ondelete="CASCADE"), primary_key=True)
    player_id: Mapped[str] = mapped_column(ForeignKey(_PLAYER, ondelete="CASCADE"))
    instrument: Mapped[str]
    source: Mapped[str]
    device_key: Mapped[str]
    started_at: Mapped[datetime]
    clean: Mapped[bool]
    away: Mapped[float]
    timbre: Mapped[str]


class DeviceRow(Base):
    """A microphone with its settings, and what the last check of it found."""

    __tablename__ = "device"
    key: Mapped[str] = mapped_column(primary_key=True)
    label: Mapped[str]
    facts: Mapped[str]
    checked_at: Mapped[datetime]
    delay_s: Mapped[float | None]
    found: Mapped[str]


class RangeAttemptRow(Base):
    """A try at a note, from which the ladder is read."""

    __tablename__ = "range_attempt"
    __table_args__ = (
        Index("ix_range_attempt_player_id", "player_id", "instrument"),
        Index("ix_range_attempt_take_id", "take_id"),
    )
    id: Mapped[int] = mapped_column(primary_key=True)
    player_id: Mapped[str] = mapped_column(ForeignKey(_PLAYER, ondelete="CASCADE"))
    instrument: Mapped[str]
    take_id: Mapped[str | None] = mapped_column(ForeignKey("take.id", ondelete="SET NULL"))
    midi: Mapped[int]
    day: Mapped[int]  # ordinal date
    clean: Mapped[bool]
    sounded_s: Mapped[float]
    connected: Mapped[bool]
    from_midi: Mapped[int | None]  # of earlier rules; not written any more
    match: Mapped[float | None]


class RangeNoteRow(Base):
    """One note of the ladder as it stands."""

    __tablename__ = "range_note"
    player_id: Mapped[str] = mapped_column(ForeignKey(_PLAYER, ondelete="CASCADE"), primary_key=True)
    instrument: Mapped[str] = mapped_column(primary_key=True)
    midi: Mapped[int] = mapped_column(primary_key=True)
    range_note: Mapped[str]


class RangeDayRow(Base):
    """The working range at the end of a day on which something was tried, and that alone and along lines; None where nothing was
    in range.
    """

    __tablename__ = "range_day"
    player_id: Mapped[str] = mapped_column(ForeignKey(_PLAYER, ondelete="CASCADE"), primary_key=True)
    instrument: Mapped[str] = mapped_column(primary_key=True)
    day: Mapped[int] = mapped_column(primary_key=True)
    low: Mapped[int | None]
    high: Mapped[int | None]
    alone_low: Mapped[int | None]
    alone_high: Mapped[int | None]
    joined_low: Mapped[int | None]
    joined_high: Mapped[int | None]


class PracticeDayRow(Base):
    """What was played on a day: takes, those held, seconds of tone, load."""

    __tablename__ = "practice_day"
    player_id: Mapped[str] = mapped_column(ForeignKey(_PLAYER, ondelete="CASCADE"), primary_key=True)
    instrument: Mapped[str] = mapped_column(primary_key=True)
    day: Mapped[int] = mapped_column(primary_key=True)
    takes: Mapped[int] = mapped_column(default=0)
    clean: Mapped[int] = mapped_column(default=0)
    playing_s: Mapped[float] = mapped_column(default=0.0)
    load: Mapped[float] = mapped_column(default=0.0)
    kind: Mapped[str | None]  # of the day as it was planned when it was begun: heavy, medium, light, off


class ExerciseTypeDayRow(Base):
    """An exercise type on a day: takes, exercises held, reasons, load."""

    __tablename__ = "exercise_type_day"
    player_id: Mapped[str] = mapped_column(ForeignKey(_PLAYER, ondelete="CASCADE"), primary_key=True)
    instrument: Mapped[str] = mapped_column(primary_key=True)
    day: Mapped[int] = mapped_column(primary_key=True)
    exercise_type: Mapped[str] = mapped_column(primary_key=True)
    stats_json: Mapped[str]


class PathPlaceRow(Base):
    """Where a player stands on an exercise type's path, all days but the latest taken in; and where they set it by hand."""

    __tablename__ = "path_place"
    player_id: Mapped[str] = mapped_column(ForeignKey(_PLAYER, ondelete="CASCADE"), primary_key=True)
    instrument: Mapped[str] = mapped_column(primary_key=True)
    exercise_type: Mapped[str] = mapped_column(primary_key=True)
    standing: Mapped[str | None]
    by_hand: Mapped[str] = mapped_column(default="[]", server_default="[]")  # (day, step) in order


class GoalRow(Base):
    """A goal with its date. `state`: on, paused, given up, reached."""

    __tablename__ = "goal"
    id: Mapped[str] = mapped_column(primary_key=True)
    player_id: Mapped[str] = mapped_column(ForeignKey(_PLAYER, ondelete="CASCADE"), index=True)
    instrument: Mapped[str]
    target: Mapped[str]
    day: Mapped[int]  # by when
    state: Mapped[str]
    began: Mapped[int]
    ended: Mapped[int | None]


class GoalDayRow(Base):
    """How far a goal was on a day of practice, in steps."""

    __tablename__ = "goal_day"
    goal_id: Mapped[str] = mapped_column(ForeignKey("goal.id", ondelete="CASCADE"), primary_key=True)
    day: Mapped[int] = mapped_column(primary_key=True)
    position: Mapped[float]


class OwnRoutineRow(Base):
    """A day that the player arranged and kept: exercise types with minutes, in order."""

    __tablename__ = "own_routine"
    id: Mapped[str] = mapped_column(primary_key=True)
    player_id: Mapped[str] = mapped_column(ForeignKey(_PLAYER, ondelete="CASCADE"), index=True)
    name: Mapped[str]
    blocks: Mapped[str]
    made_at: Mapped[datetime]


class MeasureDayRow(Base):
    """The measures of a day over its takes, in one row: by name the middle half's ends, the median, how many takes had it."""

    __tablename__ = "measures_of_day"
    player_id: Mapped[str] = mapped_column(ForeignKey(_PLAYER, ondelete="CASCADE"), primary_key=True)
    instrument: Mapped[str] = mapped_column(primary_key=True)
    day: Mapped[int] = mapped_column(primary_key=True)
    stats_json: Mapped[str]


class MeasureWeekRow(Base):
    """The same of a week, by its Monday: the means of its days, so that a year is as short to read as a season."""

    __tablename__ = "measures_of_week"
    player_id: Mapped[str] = mapped_column(ForeignKey(_PLAYER, ondelete="CASCADE"), primary_key=True)
    instrument: Mapped[str] = mapped_column(primary_key=True)
    day: Mapped[int] = mapped_column(primary_key=True)
    stats_json: Mapped[str]


class NoteDayRow(Base):
    """The notes of a day in one row, each by one way of playing it: how often, and sums of what was measured."""

    __tablename__ = "notes_of_day"
    player_id: Mapped[str] = mapped_column(ForeignKey(_PLAYER, ondelete="CASCADE"), primary_key=True)
    instrument: Mapped[str] = mapped_column(primary_key=True)
    day: Mapped[int] = mapped_column(primary_key=True)
    stats_json: Mapped[str]


class ProjectionRow(Base):
    """By which version of its rules each summary was made; another version, and it is made again at the next start."""

    __tablename__ = "projection"
    name: Mapped[str] = mapped_column(primary_key=True)
    version: Mapped[int]


class UpkeepRow(Base):
    """Since which ordinal date something is done for this record by itself. "trash": takes thrown away go for good."""

    __tablename__ = "upkeep"
    task: Mapped[str] = mapped_column(primary_key=True)
    since: Mapped[int]
