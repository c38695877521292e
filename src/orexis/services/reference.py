"""The sound to compare with: a take that the player named, or today's easiest note, as this device heard it."""

import math
from collections.abc import Iterable
from datetime import timedelta

from sqlalchemy import select
from sqlalchemy.orm import Session

from orexis.core.horn import horn_named
from orexis.core.measures import Measures, Voice, voice_of
from orexis.services.clock import now
from orexis.services.codec import from_json
from orexis.services.journal import TakeHead
from orexis.services.rows import device_key
from orexis.store.models import SessionRow, TakeRow

_EASY_PARTIAL = 4.0
_TODAY = timedelta(hours=12)
_MOST_TAKES = 40


def reference_voice(db: Session, session: SessionRow, head: TakeHead, named: str | None = None) -> Voice | None:
    """The easiest note of the take that the player named; without one, of the last twelve hours' held takes.

    The easiest is the one nearest to the open tube's fourth partial. None before there is one. Another device, or the
    same with other settings, hears another sound and is left out.
    """
    easy_hz = _EASY_PARTIAL * horn_named(session.horn).sides[0].fundamental.frequency()
    chosen = db.get(TakeRow, named) if named else None
    if chosen and chosen.horn == session.horn and chosen.session.player_id == session.player_id:
        voice = _easiest([chosen], head, easy_hz)
        if voice is not None:
            return voice
    query = (
        select(TakeRow)
        .join(SessionRow)
        .where(SessionRow.player_id == session.player_id, TakeRow.horn == session.horn, TakeRow.source == head.source)
        .where(TakeRow.discarded_at.is_(None), TakeRow.started_at > now() - _TODAY)
        .order_by(TakeRow.started_at)
        .limit(_MOST_TAKES)
    )
    takes = [take for take in db.scalars(query) if take.analyses[-1].outcome == "held"]
    return _easiest(takes, head, easy_hz)


def _easiest(takes: Iterable[TakeRow], head: TakeHead, easy_hz: float) -> Voice | None:
    best: tuple[float, Voice] | None = None
    for take in takes:
        if device_key(take.device) != device_key(head.device):
            continue
        for note in from_json(Measures, take.analyses[-1].measures).notes:
            voice = voice_of(note)
            away = abs(math.log2(voice.f0_hz / easy_hz)) if voice else math.inf
            if voice and (best is None or away < best[0]):
                best = (away, voice)
    return best[1] if best else None
