"""The demo: a made-up tuba player, and a week of sessions whose numbers came through the real ear.

Invented throughout: Ottoline Brask plays the E flat tuba in the works band of Hollowmere and works on low notes that
do not sag. She gets steadier over the week, in no straight line.
"""

import os
from datetime import UTC, datetime, time, timedelta
from pathlib import Path

from orexis.core.player import play
from orexis.core.practice import Event
from orexis.services.clock import now
from orexis.services.manners import manner_flaws
from orexis.services.practice import Practice

NAME = "Ottoline Brask"
_MARK = "demo-ready"
# Day before today, hour, family, parameters, and how each take was played: a capital letter goes on to the next figure.
_DAYS: tuple[tuple[int, int, str, dict[str, str], tuple[str, ...]], ...] = (
    (7, 18, "long-low-tones", {"steps": "3"}, ("breathless", "sagging", "sagging", "human", "sagging", "clean")),
    (6, 18, "two-partial-slur", {}, ("breathless", "catching", "human", "clean", "catching")),
    (5, 19, "long-low-tones", {"steps": "3"}, ("sliding", "sagging", "clean", "human", "clean")),
    (3, 18, "two-partial-slur", {}, ("catching", "human", "clean", "clean", "human")),
    (2, 17, "long-low-tones", {"steps": "4"}, ("human", "clean", "sagging", "clean", "human", "clean")),
    (1, 18, "two-partial-slur", {"tempo": "76"}, ("clean", "human", "catching", "clean", "clean", "human")),
)


def demo_folder() -> Path:
    """Where the demo lives: beside nothing of the user's own."""
    return Path(os.environ.get("OREXIS_DEMO", ".demo")).resolve()


def fill(folder: Path) -> None:
    """Make the demo data once; a folder that has them is left alone."""
    mark = folder / _MARK
    if mark.exists():
        return
    practice = Practice(folder)
    try:
        if not practice.players():
            _play_week(practice)
        mark.write_text("1")
    finally:
        practice.database.close()


def _play_week(practice: Practice) -> None:
    player = practice.add_player(name=NAME, stage="growing", horn="tuba-eb", part="bass")
    today = now().date()
    seed = 40
    for days, hour, family, params, manners in _DAYS:
        start = datetime.combine(today - timedelta(days=days), time(hour, 5), UTC)
        session = practice.open_session(player.id, family, params, at=start)
        moment = start
        for manner in manners:
            seed += 1
            state = practice.session(session.id).state
            figure = session.series.figures[state.figure_index]
            sound, _ = play(figure, flaws=manner_flaws(manner, figure, seed), seed=seed)
            practice.add_simulated_take(
                session.id, sound, device={"label": "simulated player", "manner": manner}, at=moment
            )
            moment += timedelta(seconds=sound.duration_s + 20.0)
            practice.advance(session.id, Event("next" if manner in ("clean", "human") else "again"))
        practice.advance(session.id, Event("stop"))
