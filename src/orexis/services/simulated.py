"""The simulated player at the stand: a manner, or a person with habits whose lips tire over the session."""

import secrets
from itertools import pairwise

from sqlalchemy import select
from sqlalchemy.orm import Session

from orexis.core.player import Flaws, SimulatedLips, after_days, after_rest, manner_flaws, performance_flaws, play
from orexis.core.player import person as drawn
from orexis.core.sound import Sound
from orexis.services.clock import local_day, now
from orexis.services.record import Record
from orexis.services.sessions.use import Sessions
from orexis.services.takes.life import Takes
from orexis.services.values.sessions import PracticeSession
from orexis.services.values.takes import Take
from orexis.store.models import PracticeDayRow

_LOSES_NOTHING = 2  # days without, as in rehearsed weeks


class SimulatedPlayer:
    """Plays in the place of whoever's session it is."""

    def __init__(self, record: Record, sessions: Sessions, takes: Takes) -> None:
        self._record, self._sessions, self._takes = record, sessions, takes

    def perform(self, session_id: str, manner: str, seed: int | None) -> tuple[Sound, int]:
        """The session's present exercise and the seed it was played by; sample 0 is the first beat of the count-in."""
        drawn_seed = secrets.randbelow(2**31) if seed is None else seed
        session = self._sessions.get(session_id)
        with self._record.database.reading() as db:
            days = practised_days(db, session.player_id)
        sound, _ = play(
            session.exercise, a4=session.terms.a4_hz, flaws=flaws_of(session, days, manner, drawn_seed), seed=drawn_seed
        )
        return sound, drawn_seed

    def take(self, session_id: str, manner: str, seed: int | None) -> Take:
        """Play, hear and judge the present exercise in one go."""
        sound, _ = self.perform(session_id, manner, seed)
        device = {"label": "simulated player", "manner": manner}
        return self._takes.whole(session_id, sound, source="simulated", first_beat_sample=0, device=device)


def practised_days(db: Session, player_id: str) -> tuple[int, int]:
    """How many days somebody practised, and how many lay idle beyond the two in a row that lose nothing."""
    row = PracticeDayRow
    query = select(row.day).where(row.player_id == player_id, row.takes > 0).distinct().order_by(row.day)
    days = [*db.scalars(query)]
    gaps = (after - before - 1 for before, after in pairwise([*days, local_day(now())]))
    return len(days), sum(max(0, gap - _LOSES_NOTHING) for gap in gaps)


def flaws_of(session: PracticeSession, days: tuple[int, int], manner: str, seed: int) -> Flaws:
    """What is wrong with a performance in a manner, or by this player after so many days of practice and days idle."""
    if manner != "person":
        return manner_flaws(manner, session.exercise, seed)
    # The same player is the same person, and gets better by practice; what the session weighed so far is on the lips, less
    # what rest took off.
    practised, idle = days
    first = drawn(int(session.player_id[:8], 16), standard=session.terms.standard)
    someone = after_days(first, practised=practised, idle=idle)
    lips = after_rest(SimulatedLips(session.state.load), session.state.playing_s)
    return performance_flaws(someone, lips, session.exercise, seed=seed)
