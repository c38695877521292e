"""The sound to compare with: a take that the player named, or today's easiest held note, as this device heard it."""

import hashlib
import json
from datetime import timedelta
from typing import Any

from sqlalchemy import select
from sqlalchemy.orm import Session

from orexis.core.measures import Voice
from orexis.services.clock import now
from orexis.services.codec import unpacked
from orexis.services.journal import TakeHead
from orexis.services.players.values import Terms
from orexis.store.models import TakeRow, VoiceRow

_TODAY = timedelta(hours=12)


def device_key(facts: dict[str, Any]) -> str:
    """What makes a device another one: its name, what it does to the sound, and its rate."""
    names = ("label", "echo_cancellation", "noise_suppression", "auto_gain_control", "context_rate")
    text = json.dumps([facts.get(name) for name in names])
    return hashlib.sha256(text.encode()).hexdigest()[:32]


def reference_voice(db: Session, player_id: str, terms: Terms, head: TakeHead) -> Voice | None:
    """The easiest note of the take that the player named; without one, of the last twelve hours' held takes.

    None before there is one. Another device, or the same with other settings, hears another sound and is left out.
    """
    mine = (
        select(VoiceRow.voice)
        .join(TakeRow, TakeRow.id == VoiceRow.take_id)
        .where(VoiceRow.player_id == player_id, VoiceRow.horn == terms.horn)
        .where(VoiceRow.device_key == device_key(head.device), TakeRow.discarded_at.is_(None))
    )
    named = db.scalar(mine.where(VoiceRow.take_id == terms.reference_take)) if terms.reference_take else None
    recent = mine.where(VoiceRow.source == head.source, VoiceRow.held, VoiceRow.started_at > now() - _TODAY)
    text = named or db.scalar(recent.order_by(VoiceRow.away).limit(1))
    return unpacked(Voice, text) if text else None
