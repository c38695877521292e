"""The demo: a made-up household of two, the last two weeks of both through the real ear.

Invented throughout. Ottoline Brask plays the E flat tuba in the works band of Hollowmere, has sixteen weeks behind her, and is in the
sixth week of two goals; she gets steadier, in no straight line. Pell Ardiman began on the cornet five weeks ago. A teacher, Marra Quill, has
heard some of her takes and sent a lesson. The weeks before were rehearsed at measure level and have no sound. Each is made by a process of its own: they share nothing but the folder.
"""

import multiprocessing
import os
from collections.abc import Sequence
from concurrent.futures import ThreadPoolExecutor
from datetime import UTC, date, datetime, time, timedelta
from pathlib import Path

from orexis.core.player import manner_flaws, play
from orexis.core.practice import Event, EventName, Phase
from orexis.errors import OrexisError
from orexis.services.application import Application
from orexis.services.clock import now
from orexis.services.demo_lesson import teach
from orexis.services.demo_weeks import DemoWeeks, rehearse_weeks
from orexis.services.folder_lock import FolderLock

NAME, SECOND = "Ottoline Brask", "Pell Ardiman"
_MARK = "demo-ready"
# Day before today at the latest, hour, exercise type, parameters, and how each take was played: a capital letter goes on to the next exercise.
_Day = tuple[int, int, str, dict[str, str], tuple[str, ...]]
_DAYS: tuple[_Day, ...] = (
    (13, 18, "long-low-tones", {"steps": "3"}, ("breathless", "sagging", "human", "clean")),
    (12, 18, "two-partial-slur", {}, ("breathless", "catching", "human")),
    (10, 19, "step-ladder", {"start": "Eb3", "steps": "6"}, ("clean", "clean", "clean", "sliding")),
    (9, 18, "long-low-tones", {"steps": "3"}, ("sliding", "sagging", "clean", "human")),
    (8, 18, "two-partial-slur", {}, ("catching", "human", "clean")),
    (6, 19, "step-ladder", {"start": "Eb3", "steps": "8"}, ("clean", "clean", "clean", "breathless")),
    (5, 19, "falling-scale", {"start": "Eb3", "keys": "4"}, ("clean", "human")),
    (4, 19, "to-the-pedal", {"fingering": "0"}, ("clean",)),
    (3, 17, "long-low-tones", {"steps": "4"}, ("human", "clean", "sagging", "clean")),
    (2, 18, "step-ladder", {"start": "F3", "steps": "6"}, ("clean", "clean", "clean", "sagging")),
    (1, 18, "two-partial-slur", {"tempo": "76"}, ("clean", "human", "catching", "clean", "clean")),
)
_SECOND_DAYS: tuple[_Day, ...] = (
    (11, 17, "two-partial-slur", {}, ("breathless", "human")),
    (8, 17, "long-low-tones", {"steps": "2"}, ("sagging", "human", "sagging")),
    (4, 17, "two-partial-slur", {}, ("breathless", "human", "clean")),
    (1, 17, "long-low-tones", {"steps": "2"}, ("human", "sagging", "clean")),
)
_WEEKS = DemoWeeks(
    weeks=16,
    given=(20, 20, 0, 20, 0, 20, 0),
    hour=18,
    kind="steady",
    habit=(4.5, 1.5),
    goals_since=6,
    thin_until=6,
    thin_days=(0, 3),
    register=5.0,
    instrument={"1": 9.0, "1-2": 4.0, "2": -2.0},
)
_SECOND_WEEKS = DemoWeeks(weeks=5, given=(0, 15, 0, 15, 0, 15, 0), hour=16, kind="beginner", habit=(3.5, 2.5))
_MADE_WITHIN_S = 600.0  # far longer than making it takes


def demo_folder() -> Path:
    """Where the demo lives: beside nothing of the user's own."""
    return Path(os.environ.get("OREXIS_DEMO", ".demo")).resolve()


def fill(folder: Path) -> None:
    """Make the demo data once; a folder that has them is left alone."""
    mark = folder / _MARK
    if mark.exists():
        return
    lock = FolderLock(folder)
    try:
        _filled(folder)
    finally:
        lock.release()
    mark.write_text("1")


def _filled(folder: Path) -> None:
    """The data, by two processes of ours on one folder."""
    house = Application(folder, locked=False)
    try:
        fresh = not house.players.all()
        if fresh:
            first = house.players.add(name=NAME, standard="developing", instrument="tuba-eb", part="bass").id
            second = house.players.add(name=SECOND, standard="beginner", instrument="cornet-bb", part="treble").id
    finally:
        house.close()
    if fresh:
        today = now().date()
        context = multiprocessing.get_context("spawn")
        beside = context.Process(target=_practise, args=(folder, second, today, _SECOND_WEEKS, _SECOND_DAYS, 8))
        beside.start()
        _practise(folder, first, today, _WEEKS, _DAYS, 6)
        teach(folder, first)
        beside.join(_MADE_WITHIN_S)
        if beside.exitcode != 0:
            beside.kill()
            raise OrexisError("The demo could not be made: delete its folder and try again.")


def _practise(folder: Path, player_id: str, today: date, weeks: DemoWeeks, days: tuple[_Day, ...], seed: int) -> None:
    """One of the two: the weeks, then the days with sound."""
    house = Application(folder, workers=1, locked=False)
    try:
        player = house.players.get(player_id)
        rehearse_weeks(house, player, today, weeks, seed=seed)
        # One plays while the other is judged; days are kept whole, because takes of a day are compared.
        heard = _on_days_of_practice(days, today, weeks)
        halves = [tuple(day for day in heard if day[0] % 2 == odd) for odd in (0, 1)]
        with ThreadPoolExecutor(len(halves)) as pool:
            list(pool.map(lambda half: _play_days(house, player_id, today, half), halves))
    finally:
        house.close()


def _on_days_of_practice(days: tuple[_Day, ...], today: date, weeks: DemoWeeks) -> list[_Day]:
    """Sessions with sound, each after the practice of the day on which it fell, or of the last one before it."""
    moved: list[_Day] = []
    for before, _, exercise_type, params, manners in sorted(days, key=lambda day: -day[0]):
        there = next(at for at in range(before, before + 7) if weeks.given[(today - timedelta(days=at)).weekday()])
        later = sum(day[0] == there for day in moved)
        moved.append((there, weeks.hour + 1 + later, exercise_type, params, manners))
    return moved


def _play_days(house: Application, player_id: str, today: date, played: Sequence[_Day]) -> None:
    for days, hour, exercise_type, params, manners in sorted(played, key=lambda day: (-day[0], day[1])):
        seed = 1000 + 100 * days + hour
        start = datetime.combine(today - timedelta(days=days), time(hour, 5), UTC)
        session = house.sessions.open(player_id, exercise_type, params, at=start)
        moment = start
        for manner in manners:
            seed += 1
            exercise = house.sessions.get(session.id).exercise
            sound, _ = play(exercise, flaws=manner_flaws(manner, exercise, seed), seed=seed)
            device = {"label": "simulated player", "manner": manner}
            house.takes.whole(session.id, sound, source="simulated", first_beat_sample=0, device=device, at=moment)
            moment += timedelta(seconds=sound.duration_s + 20.0)
            chosen = EventName.NEXT if manner in ("clean", "human") else EventName.AGAIN
            after = house.takes.happen(session.id, Event(chosen))
            if after.phase == Phase.DONE:
                break
        else:
            house.takes.happen(session.id, Event(EventName.STOP))
