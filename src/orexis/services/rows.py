"""Rows of the store to values."""

import hashlib
import json
from datetime import UTC, datetime
from typing import Any

from orexis.core.coach import Limits, Verdict
from orexis.core.device import DeviceCheck
from orexis.core.figures import Figure
from orexis.core.horn import Setup, horn_named
from orexis.core.measures import Measures, NoteMeasures
from orexis.core.practice import Overruling, SessionState
from orexis.services.codec import from_json
from orexis.services.values import (
    Device,
    LogSession,
    LogTake,
    OwnFigure,
    Player,
    PlayerSettings,
    PracticeSession,
    RoutineKept,
    Take,
)
from orexis.store.models import AnalysisRow, DeviceRow, OwnFigureRow, PlayerRow, SessionRow, TakeRow


def utc(moment: datetime) -> datetime:
    """SQLite forgets the zone; everything is written in UTC."""
    return moment if moment.tzinfo else moment.replace(tzinfo=UTC)


def device_key(facts: dict[str, Any]) -> str:
    """What makes a device another one: its name, what it does to the sound, and its rate."""
    names = ("label", "echo_cancellation", "noise_suppression", "auto_gain_control", "context_rate")
    text = json.dumps([facts.get(name) for name in names])
    return hashlib.sha256(text.encode()).hexdigest()[:32]


def device_of(row: DeviceRow) -> Device:
    """A device."""
    return Device(row.key, row.label, utc(row.checked_at), DeviceCheck(**row.found))


def player_of(row: PlayerRow) -> Player:
    """A player with the horn in hand."""
    horn = next(horn for horn in row.horns if horn.id == row.horn_id)
    return Player(
        row.id,
        row.name,
        row.stage,
        horn.instrument,
        horn.part,
        horn.a4_hz,
        from_json(Setup, horn.setup or {}),
        from_json(PlayerSettings, row.settings or {}),
    )


def own_figure_of(row: OwnFigureRow) -> OwnFigure:
    """A figure that a player keeps."""
    figure = from_json(Figure, row.figure) if row.figure else None
    params = {key: str(value) for key, value in row.params.items()}
    return OwnFigure(row.id, row.name, row.horn, row.family, params, figure, utc(row.made_at))


def session_of(row: SessionRow) -> PracticeSession:
    """A session."""
    return PracticeSession(
        id=row.id,
        player_id=row.player_id,
        family=row.family,
        horn=row.horn,
        params={key: str(value) for key, value in row.params.items()},
        routine=from_json(RoutineKept, row.routine),
        state=from_json(SessionState, row.state["machine"]),
        started_at=utc(row.started_at),
        ended_at=utc(row.ended_at) if row.ended_at else None,
        rest_since=datetime.fromisoformat(row.state["rest_since"]) if row.state.get("rest_since") else None,
    )


def take_of(row: TakeRow, player_id: str) -> Take:
    """A take with the verdict that was given first and the newest measures."""
    first, newest = row.analyses[0], row.analyses[-1]
    return Take(
        id=row.id,
        session_id=row.session_id,
        player_id=player_id,
        number=row.number,
        figure_index=row.figure_index,
        started_at=utc(row.started_at),
        duration_s=row.duration_s,
        rate=row.rate,
        first_beat_s=row.first_beat_s,
        source=row.source,
        figure=from_json(Figure, row.figure),
        horn=row.horn,
        part=row.part,
        a4_hz=row.a4_hz,
        stage=row.stage,
        limits=from_json(Limits, row.limits),
        device=row.device,
        recovered=row.recovered,
        remark=row.remark,
        discarded=row.discarded_at is not None,
        analysis_version=newest.version,
        measures=from_json(Measures, newest.measures),
        verdict=from_json(Verdict, first.verdict),
    )


def log_session_of(row: SessionRow) -> LogSession:
    """A session with the takes that were kept."""
    takes = [take for take in row.takes if take.discarded_at is None and take.analyses]
    takes.sort(key=lambda take: take.number)
    machine = row.state["machine"]
    playing = sum(take.analyses[-1].measures["figure"]["playing_s"] for take in takes)
    return LogSession(
        id=row.id,
        family=row.family,
        title=_title(row),
        horn=row.horn,
        started_at=utc(row.started_at),
        playing_s=round(playing, 1),
        takes=tuple(_log_take(take, take.analyses[-1]) for take in takes),
        checks=tuple(check["state"] for check in machine.get("checks", ()) if check.get("state")),
        stopped=machine.get("stopped"),
        overruled=tuple(Overruling(**item) for item in machine.get("overruled", ())),
    )


def _title(row: SessionRow) -> str:
    """The one block's title, or how long a routine it was."""
    blocks = row.routine["blocks"]
    return str(blocks[0]["title"]) if len(blocks) == 1 else f"Routine of {len(blocks)} blocks"


def _log_take(row: TakeRow, analysis: AnalysisRow) -> LogTake:
    figure = from_json(Figure, row.figure)
    part = horn_named(row.horn).part(row.part)
    notes = from_json(Measures, analysis.measures).notes
    return LogTake(
        id=row.id,
        number=row.number,
        figure_title=figure.title,
        written=" ".join(part.transposition.written(note.pitch).name for note in figure.notes),
        tube=figure.notes[0].tube.label,
        outcome=analysis.outcome,
        reason=analysis.reason,
        started_at=utc(row.started_at),
        duration_s=row.duration_s,
        source=row.source,
        centre_cents=_worst(notes, "judged_cents"),
        spread_cents=_worst(notes, "spread_cents"),
        sag_cents=_worst(notes, "sag_cents"),
        hold_s=_worst(notes, "hold_s"),
        recovered=row.recovered,
    )


def _worst(notes: tuple[NoteMeasures, ...], name: str) -> float | None:
    """The value furthest from 0 among the right notes."""
    values = [getattr(note, name) for note in notes if note.right and getattr(note, name) is not None]
    return max(values, key=abs) if values else None
