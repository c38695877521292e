"""The simulated player at the stand: a manner, or a person with habits whose lips tire over the session."""

import secrets

from orexis.core.player import Flaws, SimulatedLips, after_rest, manner_flaws, performance_flaws, play
from orexis.core.player import person as drawn
from orexis.core.sound import Sound
from orexis.services.sessions.use import Sessions
from orexis.services.takes.life import Takes
from orexis.services.values.sessions import PracticeSession
from orexis.services.values.takes import Take


class SimulatedPlayer:
    """Plays in the place of whoever's session it is."""

    def __init__(self, sessions: Sessions, takes: Takes) -> None:
        self._sessions, self._takes = sessions, takes

    def perform(self, session_id: str, manner: str, seed: int | None) -> tuple[Sound, int]:
        """The session's present exercise and the seed it was played by; sample 0 is the first beat of the count-in."""
        drawn_seed = secrets.randbelow(2**31) if seed is None else seed
        return performance_of(self._sessions.get(session_id), manner, drawn_seed), drawn_seed

    def take(self, session_id: str, manner: str, seed: int | None) -> Take:
        """Play, hear and judge the present exercise in one go."""
        sound, _ = self.perform(session_id, manner, seed)
        device = {"label": "simulated player", "manner": manner}
        return self._takes.whole(session_id, sound, source="simulated", first_beat_sample=0, device=device)


def performance_of(session: PracticeSession, manner: str, seed: int) -> Sound:
    """Return what the simulated player plays for an exercise, with its manner's faults."""
    sound, _ = play(session.exercise, a4=session.terms.a4_hz, flaws=_flaws(session, manner, seed), seed=seed)
    return sound


def _flaws(session: PracticeSession, manner: str, seed: int) -> Flaws:
    if manner != "person":
        return manner_flaws(manner, session.exercise, seed)
    # The same player is the same person; what the session weighed so far is on the lips, less what rest took off.
    someone = drawn(int(session.player_id[:8], 16), standard=session.terms.standard)
    lips = after_rest(SimulatedLips(session.state.load), session.state.playing_s)
    return performance_flaws(someone, lips, session.exercise, seed=seed)
