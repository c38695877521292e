"""The simulated player at the stand: a manner, or a person with habits whose lips tire over the session."""

import secrets

from orexis.core.player import Flaws, Lips, after_rest, manner_flaws, performance_flaws, play
from orexis.core.player import person as drawn
from orexis.core.sound import Sound
from orexis.services.clock import now
from orexis.services.practice import Practice
from orexis.services.values import Player, PracticeSession, Take


def performed(session: PracticeSession, person: Player, manner: str, seed: int) -> Sound:
    """The session's present figure, played; sample 0 is the first beat of the count-in."""
    sound, _ = play(session.figure, a4=person.a4_hz, flaws=_flaws(session, person, manner, seed), seed=seed)
    return sound


def _flaws(session: PracticeSession, person: Player, manner: str, seed: int) -> Flaws:
    if manner != "person":
        return manner_flaws(manner, session.figure, seed)
    # The same player is the same person; what the session weighed so far is on the lips, less what rest took off.
    someone = drawn(int(person.id[:8], 16), stage=person.stage)
    lips = after_rest(Lips(session.state.load), session.state.playing_s)
    return performance_flaws(someone, lips, session.figure, seed=seed)


def simulated_take(practice: Practice, session_id: str, manner: str, seed: int | None) -> Take:
    """Play, hear and judge the present figure in one go."""
    session = practice.session(session_id)
    drawn_seed = secrets.randbelow(2**31) if seed is None else seed
    sound = performed(session, practice.player(session.player_id), manner, drawn_seed)
    device = {"label": "simulated player", "manner": manner}
    return practice.add_simulated_take(session_id, sound, device=device, at=now())
