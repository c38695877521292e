"""The tables. JSON columns hold snapshots that are never rewritten: what was asked, with what, and what was said then.

    player 1--n horn                 the player's own instruments, one of them in hand
    player 1--n own_figure
    player 1--n rung_attempt         read as the ladder
    player 1--n session 1--n take 1--n analysis 1--n note_measure
    device                           found by a check, looked up by the settings a take was made with

A take keeps its sound as a FLAC file named by its id in the data folder; `discarded_at` marks a take thrown away
whose sound may still be brought back until it is purged.
"""

from datetime import datetime
from typing import Any, ClassVar

from sqlalchemy import JSON, DateTime, ForeignKey, Index, MetaData, UniqueConstraint
from sqlalchemy.orm import DeclarativeBase, Mapped, mapped_column, relationship

_NAMES = {
    "ix": "ix_%(column_0_label)s",
    "uq": "uq_%(table_name)s_%(column_0_name)s",
    "ck": "ck_%(table_name)s_%(constraint_name)s",
    "fk": "fk_%(table_name)s_%(column_0_name)s_%(referred_table_name)s",
    "pk": "pk_%(table_name)s",
}


class Base(DeclarativeBase):
    """All tables."""

    metadata = MetaData(naming_convention=_NAMES)
    type_annotation_map: ClassVar[dict[Any, Any]] = {
        dict[str, Any]: JSON,
        (dict[str, Any] | None): JSON,
        datetime: DateTime(timezone=True),
    }


class PlayerRow(Base):
    """A person at the stand; `horn_id` is the horn in hand."""

    __tablename__ = "player"
    id: Mapped[str] = mapped_column(primary_key=True)
    name: Mapped[str]
    stage: Mapped[str]
    horn_id: Mapped[str | None]
    created_at: Mapped[datetime]
    settings: Mapped[dict[str, Any]] = mapped_column(default=dict, server_default="{}")
    horns: Mapped[list["HornRow"]] = relationship(back_populates="player", cascade="all, delete-orphan")


class HornRow(Base):
    """A player's own instrument and how they play it; each keeps its settings while another is in hand."""

    __tablename__ = "horn"
    __table_args__ = (UniqueConstraint("player_id", "instrument"),)
    id: Mapped[str] = mapped_column(primary_key=True)
    player_id: Mapped[str] = mapped_column(ForeignKey("player.id", ondelete="CASCADE"), index=True)
    instrument: Mapped[str]  # id in the catalogue
    part: Mapped[str]  # how parts for it are written
    a4_hz: Mapped[float]
    setup: Mapped[dict[str, Any]] = mapped_column(default=dict, server_default="{}")
    player: Mapped[PlayerRow] = relationship(back_populates="horns")


class OwnFigureRow(Base):
    """A family with the player's own parameters, or (with `figure`) a figure that came from a file."""

    __tablename__ = "own_figure"
    id: Mapped[str] = mapped_column(primary_key=True)
    player_id: Mapped[str] = mapped_column(ForeignKey("player.id", ondelete="CASCADE"), index=True)
    name: Mapped[str]
    horn: Mapped[str]
    family: Mapped[str]
    params: Mapped[dict[str, Any]]
    figure: Mapped[dict[str, Any] | None]
    made_at: Mapped[datetime]


class SessionRow(Base):
    """One sitting: a routine of series, and the machine's state as JSON so that it goes on after anything.

    `family` names the first block's family, or "routine" for one of several.
    """

    __tablename__ = "session"
    id: Mapped[str] = mapped_column(primary_key=True)
    player_id: Mapped[str] = mapped_column(ForeignKey("player.id", ondelete="CASCADE"), index=True)
    family: Mapped[str]
    horn: Mapped[str]
    params: Mapped[dict[str, Any]]
    routine: Mapped[dict[str, Any]]
    state: Mapped[dict[str, Any]]
    started_at: Mapped[datetime] = mapped_column(index=True)
    ended_at: Mapped[datetime | None]
    takes: Mapped[list["TakeRow"]] = relationship(back_populates="session", cascade="all, delete-orphan")


class TakeRow(Base):
    """One take with its unchanging snapshots."""

    __tablename__ = "take"
    id: Mapped[str] = mapped_column(primary_key=True)
    session_id: Mapped[str] = mapped_column(ForeignKey("session.id", ondelete="CASCADE"), index=True)
    figure_index: Mapped[int]
    number: Mapped[int]
    started_at: Mapped[datetime] = mapped_column(index=True)
    duration_s: Mapped[float]
    rate: Mapped[int]
    first_beat_s: Mapped[float | None]
    source: Mapped[str]  # microphone | simulated | file
    figure: Mapped[dict[str, Any]]
    horn: Mapped[str]
    part: Mapped[str]
    a4_hz: Mapped[float]
    stage: Mapped[str]
    limits: Mapped[dict[str, Any]]
    schools: Mapped[dict[str, Any]] = mapped_column(default=dict, server_default="{}")
    device: Mapped[dict[str, Any]]
    recovered: Mapped[bool] = mapped_column(default=False)
    remark: Mapped[str] = mapped_column(default="")
    discarded_at: Mapped[datetime | None]
    session: Mapped[SessionRow] = relationship(back_populates="takes")
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
    measures: Mapped[dict[str, Any]]
    verdict: Mapped[dict[str, Any]]
    take: Mapped[TakeRow] = relationship(back_populates="analyses")
    notes: Mapped[list["NoteMeasureRow"]] = relationship(cascade="all, delete-orphan")


class DeviceRow(Base):
    """A microphone with its settings, and what the last check of it found."""

    __tablename__ = "device"
    key: Mapped[str] = mapped_column(primary_key=True)
    label: Mapped[str]
    facts: Mapped[dict[str, Any]]
    checked_at: Mapped[datetime]
    delay_s: Mapped[float | None]
    found: Mapped[dict[str, Any]]


class RungAttemptRow(Base):
    """A try at a rung, from which the ladder is read."""

    __tablename__ = "rung_attempt"
    __table_args__ = (Index("ix_rung_attempt_player_id", "player_id", "horn"),)
    id: Mapped[int] = mapped_column(primary_key=True)
    player_id: Mapped[str] = mapped_column(ForeignKey("player.id", ondelete="CASCADE"))
    horn: Mapped[str]
    take_id: Mapped[str | None] = mapped_column(ForeignKey("take.id", ondelete="SET NULL"))
    midi: Mapped[int]
    day: Mapped[int]  # ordinal date
    held: Mapped[bool]
    sounded_s: Mapped[float]
    connected: Mapped[bool]
    from_midi: Mapped[int | None]
    match: Mapped[float | None]


class NoteMeasureRow(Base):
    """The note table as rows, for trends over many takes."""

    __tablename__ = "note_measure"
    id: Mapped[int] = mapped_column(primary_key=True)
    analysis_id: Mapped[int] = mapped_column(ForeignKey("analysis.id", ondelete="CASCADE"), index=True)
    number: Mapped[int]
    target: Mapped[str | None]
    midi: Mapped[int | None] = mapped_column(index=True)
    right: Mapped[bool]
    centre_cents: Mapped[float | None]
    judged_cents: Mapped[float | None]
    spread_cents: Mapped[float | None]
    sag_cents: Mapped[float | None]
    entry_cents: Mapped[float | None]
    hold_s: Mapped[float | None]
    level_db: Mapped[float | None]
