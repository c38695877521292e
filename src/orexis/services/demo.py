"""The demo: a made-up tuba player in the sixth week of two programmes, the last ten days through the real ear.

Invented throughout: Ottoline Brask plays the E flat tuba in the works band of Hollowmere and works on low notes that
do not sag. The weeks before were rehearsed at measure level and have no sound. She gets steadier, in no straight line.
"""

import os
from datetime import UTC, datetime, time, timedelta
from pathlib import Path

from orexis.core.player import manner_flaws, play
from orexis.core.practice import Event, EventName, Phase
from orexis.services.clock import now
from orexis.services.demo_weeks import rehearse_weeks
from orexis.services.house import House

NAME = "Ottoline Brask"
_MARK = "demo-ready"
_WEEKS_SEED = 6
# Day before today, hour, family, parameters, and how each take was played: a capital letter goes on to the next figure.
_DAYS: tuple[tuple[int, int, str, dict[str, str], tuple[str, ...]], ...] = (
    (7, 18, "long-low-tones", {"steps": "3"}, ("breathless", "sagging", "sagging", "human", "sagging", "clean")),
    (6, 18, "two-partial-slur", {}, ("breathless", "catching", "human", "clean", "catching")),
    (5, 19, "long-low-tones", {"steps": "3"}, ("sliding", "sagging", "clean", "human", "clean")),
    (3, 18, "two-partial-slur", {}, ("catching", "human", "clean", "clean", "human")),
    (2, 17, "long-low-tones", {"steps": "4"}, ("human", "clean", "sagging", "clean", "human", "clean")),
    (1, 18, "two-partial-slur", {"tempo": "76"}, ("clean", "human", "catching", "clean", "clean", "human")),
    (9, 19, "step-ladder", {"start": "Eb3", "rungs": "6"}, ("clean", "clean", "clean", "human", "sagging")),
    (6, 19, "step-ladder", {"start": "Eb3", "rungs": "6"}, ("clean", "clean", "clean", "clean", "sliding")),
    (4, 18, "step-ladder", {"start": "Eb3", "rungs": "8"}, ("clean", "clean", "clean", "clean", "clean", "breathless")),
    (2, 18, "step-ladder", {"start": "F3", "rungs": "6"}, ("clean", "clean", "clean", "clean", "sagging")),
    (4, 19, "falling-scale", {"start": "Eb3", "keys": "4"}, ("clean", "human", "clean")),
    (3, 19, "to-the-pedal", {"tube": "0"}, ("clean",)),
)


def demo_folder() -> Path:
    """Where the demo lives: beside nothing of the user's own."""
    return Path(os.environ.get("OREXIS_DEMO", ".demo")).resolve()


def fill(folder: Path) -> None:
    """Make the demo data once; a folder that has them is left alone."""
    mark = folder / _MARK
    if mark.exists():
        return
    house = House(folder)
    try:
        if not house.players.all():
            _play_week(house)
        mark.write_text("1")
    finally:
        house.close()


def _play_week(house: House) -> None:
    player = house.players.add(name=NAME, stage="growing", horn="tuba-eb", part="bass")
    today = now().date()
    rehearse_weeks(house, player, today, seed=_WEEKS_SEED)
    seed = 40
    for days, hour, family, params, manners in sorted(_DAYS, key=lambda day: (-day[0], day[1])):
        start = datetime.combine(today - timedelta(days=days), time(hour, 5), UTC)
        session = house.sessions.open(player.id, family, params, at=start)
        moment = start
        for manner in manners:
            seed += 1
            figure = house.sessions.get(session.id).figure
            sound, _ = play(figure, flaws=manner_flaws(manner, figure, seed), seed=seed)
            device = {"label": "simulated player", "manner": manner}
            house.takes.whole(session.id, sound, source="simulated", first_beat_sample=0, device=device, at=moment)
            moment += timedelta(seconds=sound.duration_s + 20.0)
            chosen = EventName.NEXT if manner in ("clean", "human") else EventName.AGAIN
            after = house.takes.happen(session.id, Event(chosen))
            if after.phase == Phase.DONE:
                break
        else:
            house.takes.happen(session.id, Event(EventName.STOP))
