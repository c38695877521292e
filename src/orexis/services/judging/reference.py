"""The sound to compare with: a take that the player named, or today's easiest held note, as this device heard it."""

import hashlib
import json
from datetime import datetime, timedelta
from typing import Any

from sqlalchemy import select
from sqlalchemy.orm import Session

from orexis.core.exercises import Exercise
from orexis.core.instruments import Instrument
from orexis.core.measures import Measures, Reference, TimbreProfile
from orexis.services.documents import Facts, from_json
from orexis.services.journal import TakeHead
from orexis.services.judging.judge import easiest_timbre
from orexis.services.values.players import Terms
from orexis.store.models import AnalysisRow, TakeRow, TimbreRow

_TODAY = timedelta(hours=12)
MUTE = "mute"  # in the facts of a take: what was in the bell; not there where nothing was


def device_key(facts: dict[str, Any]) -> str:
    """What makes a device another one: its name, what it does to the sound, and its rate."""
    names = ("label", "echo_cancellation", "noise_suppression", "auto_gain_control", "context_rate")
    text = json.dumps([facts.get(name) for name in names])
    return hashlib.sha256(text.encode()).hexdigest()[:32]


def sound_key(facts: dict[str, Any]) -> str:
    """The device, and the mute in the bell: only sounds of the same key are compared."""
    mute = facts.get(MUTE)
    return device_key(facts) + (f" {mute}" if mute else "")


def reference_of(db: Session, player_id: str, terms: Terms, head: TakeHead) -> Reference | None:
    """The easiest note of the take that the player named, whoever played it and whatever heard it; without one, of the last
    twelve hours' held takes, as this device hears them. None before there is one.
    """
    named = _named(db, terms, head) if terms.reference_take else None
    if named is not None:
        return named
    at = datetime.fromisoformat(head.started_at)
    recent = (
        select(TimbreRow.timbre)
        .join(TakeRow, TakeRow.id == TimbreRow.take_id)
        .where(TimbreRow.player_id == player_id, TimbreRow.instrument == terms.instrument)
        .where(TimbreRow.device_key == sound_key(head.device), TakeRow.discarded_at.is_(None))
        .where(
            TimbreRow.source == head.source,
            TimbreRow.clean,
            TimbreRow.started_at > at - _TODAY,
            TimbreRow.started_at < at,
        )
        .order_by(TimbreRow.away)
        .limit(1)
    )
    text = db.scalar(recent)
    return Reference(from_json(TimbreProfile, text)) if text else None


def _named(db: Session, terms: Terms, head: TakeHead) -> Reference | None:
    """Another instrument's sound is no measure of this one's."""
    take = db.get(TakeRow, terms.reference_take)
    if take is None or take.discarded_at is not None or take.instrument != terms.instrument:
        return None
    text = db.scalar(select(TimbreRow.timbre).where(TimbreRow.take_id == take.id))
    timbre = from_json(TimbreProfile, text) if text else _timbre_in(db, take, terms.own_instrument)
    if timbre is None:
        return None
    return Reference(timbre, sound_key(from_json(Facts, take.device)) != sound_key(head.device))


def _timbre_in(db: Session, take: TakeRow, instrument: Instrument) -> TimbreProfile | None:
    """Of a take that came in a file, whose timbres are not kept apart."""
    newest = (
        select(AnalysisRow.measures).where(AnalysisRow.take_id == take.id).order_by(AnalysisRow.version.desc()).limit(1)
    )
    text = db.scalar(newest)
    easiest = (
        easiest_timbre(from_json(Exercise, take.exercise), instrument, from_json(Measures, text)) if text else None
    )
    return None if easiest is None else easiest.timbre
