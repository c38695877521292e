"""Files and requests that a hostile hand made, of every kind that comes in: none may end in a traceback or break a page.

`python -m benchmarks.hostile_files [--count 10000] [--seed 1]`: so many, in turn a lesson, a review request, MusicXML, MXL, MIDI, an
exercise, a calendar, a recording, a line of text, and the body of a request. Prints by kind how many were refused and taken in, and
each that broke something with its seed. Exports have a bench of their own (`benchmarks.hostile`).
"""

import argparse
import io
import json
import random
import re
import shutil
import tempfile
import time
import zipfile
from collections import Counter
from collections.abc import Callable
from contextlib import ExitStack
from dataclasses import dataclass
from datetime import UTC, datetime, timedelta
from pathlib import Path
from typing import Any

from fastapi.testclient import TestClient

from benchmarks.hostile import HOSTILE, PAGES, first_session, mutant
from orexis.api.app import create_app
from orexis.core.planning import GoalKind, GoalTarget
from orexis.core.player import play
from orexis.core.sound import Sound
from orexis.files.exercise_json import exercise_to_json
from orexis.files.midi import exercise_to_midi
from orexis.files.musicxml import exercise_to_musicxml
from orexis.files.soundfiles import wav_bytes
from orexis.services.application import Application
from orexis.services.demo_lesson import teach
from orexis.services.lessons.use import ChosenItem, LessonWish
from orexis.services.material.exercises import ExerciseRequest
from orexis.services.values.planning import OwnBlock

_EVERY = 100  # inputs between two looks at all pages
_CALENDAR = b"""BEGIN:VCALENDAR
VERSION:2.0
BEGIN:VEVENT
UID:1
DTSTART;TZID=Europe/Lisbon:20261205T193000
DURATION:PT1H30M
RRULE:FREQ=WEEKLY;INTERVAL=2;BYDAY=SA;UNTIL=20270301T000000Z
EXDATE:20261219T193000
SUMMARY:Rehearsal\\, hall
END:VEVENT
BEGIN:VEVENT
DTSTART;VALUE=DATE:20261224
DTEND;VALUE=DATE:20261227
SUMMARY:Holiday
END:VEVENT
END:VCALENDAR
"""
_LINE = "Bb2:1 (p) C3:0.5 D3:0.5 Eb3:2 - F3:1 G3:1, rest:1 (f) Bb2:3"
_TOKENS = (
    b"\0",
    b"\xff\xfe",
    b"999999999999",
    b"-1",
    b"0",
    b"1e999",
    b"NaN",
    b"<a>",
    b"&amp;",
    b"]]>",
    b"%s",
    b"\n\n",
    b"x" * 3000,
)


@dataclass(frozen=True, slots=True)
class Samples:
    """A good file of each kind, and whom they are sent to."""

    player: str
    files: dict[str, bytes]
    bodies: tuple[tuple[str, str, dict[str, Any]], ...]


def samples_in(folder: Path) -> Samples:
    """Made by the application itself, in a record of its own."""
    house = Application(folder)
    person = house.players.add(name="Wim Olde", standard="developing", instrument="tuba-eb", part="bass", a4_hz=440.0)
    at = datetime(2026, 3, 2, 18, 0, tzinfo=UTC)
    for number, name in enumerate(("long-low-tones", "two-partial-slur")):
        session = house.sessions.open(person.id, name, {}, at=at + timedelta(minutes=10 * number))
        house.simulated.take(session.id, "clean", seed=1)
    exercise = house.sessions.get(session.id).exercise
    instrument = person.own_instrument
    teach(folder, person.id)
    takes = tuple(take.id for take in house.log.takes(session.id))
    request = house.lessons.review_request(person.id, takes, to="A", title="T", words="W", weeks=True)
    made = {"request": b"".join(house.lessons.file(request.id)), "lesson": _lesson_file(house, person.id)}
    xml = exercise_to_musicxml(exercise, instrument, instrument.part(person.part))
    played, _ = play(exercise, seed=1)
    sound = Sound(played.samples[: 4 * played.rate], played.rate)  # enough for a reading
    files = made | {
        "musicxml": xml,
        "mxl": _mxl(xml),
        "midi": exercise_to_midi(exercise),
        "exercise": exercise_to_json(exercise),
        "calendar": _CALENDAR,
        "recording": wav_bytes(sound),
        "line": _LINE.encode(),
    }
    house.close()
    return Samples(person.id, files, _bodies(person.id))


def _lesson_file(house: Application, player: str) -> bytes:
    """A lesson as this player would send it."""
    person = house.players.get(player)
    kept = house.material.keep(person, "Low slurs", ExerciseRequest("two-partial-slur", {"tempo": "63"}))
    day = house.routines.keep(player, "Twenty minutes", (OwnBlock("long-low-tones", 8.0, {}),))
    goal = house.goals.add(player, GoalTarget(GoalKind.HOLD, 14.0), datetime(2027, 3, 2, tzinfo=UTC).date())
    take = house.log.takes(house.log.page(player).sessions[0].id)[0]
    wish = LessonWish(
        "A",
        "T",
        "W",
        (ChosenItem(kept.id),),
        (ChosenItem(day.id),),
        (ChosenItem(goal.id),),
        (ChosenItem(take.id),),
        True,
    )
    return b"".join(house.lessons.file(house.lessons.lesson(player, wish).id))


def _mxl(xml: bytes) -> bytes:
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED) as packed:
        packed.writestr(
            "META-INF/container.xml",
            '<container><rootfiles><rootfile full-path="score.musicxml"/></rootfiles></container>',
        )
        packed.writestr("score.musicxml", xml)
    return out.getvalue()


def _bodies(player: str) -> tuple[tuple[str, str, dict[str, Any]], ...]:
    """Requests as the page sends them."""
    mine = f"/api/players/{player}"
    wish = {"player_id": player, "exercise_type": "two-partial-slur", "params": {"tempo": "63"}, "index": 0}
    block = {"exercise_type": "long-low-tones", "minutes": 5, "params": {"steps": "2"}}
    elsewhere = {"day": "2026-11-28", "minutes": 90, "effort": "medium", "weekly": True}
    return (
        ("PATCH", f"{mine}/settings", {"minutes": [20] * 7, "quiet_from": 21, "limits": {"pitch_error_cents": 15}, "mute": "none",
                                       "approaches": {"pressure": "firm-seal"}, "performances": ["2027-02-03"], "moved": {"2026-12-01": 20},
                                       "plays_now": 90, "elsewhere": [elsewhere], "practice_at": "18:00", "keeping_days": 90}),
        ("PUT", mine, {"name": "Wim Olde", "standard": "developing", "instrument": "tuba-eb", "part": "bass", "a4_hz": 440.0}),
        ("PUT", f"{mine}/instrument", {"temperature_c": 21.0, "slides_mm": {"1": 2.0}, "corrections_cents": {"12": 3.0}}),
        ("POST", f"{mine}/day/plan", {"minutes": 30, "lips": "fresh", "quiet": False, "kept": [block], "without": ["long-low-tones"]}),
        ("POST", f"{mine}/day", {"minutes": 30, "lips": "fresh", "kept": [block], "arranged": True, "anyway": True}),
        ("POST", f"{mine}/goals", {"kind": "hold", "value": 20.0, "date": "2027-03-02", "joined": False}),
        ("POST", f"{mine}/routines", {"name": "R", "blocks": [block]}),
        ("PUT", f"{mine}/paths/two-partial-slur", {"step": 2}),
        ("POST", "/api/exercises/view", wish),
        ("POST", "/api/exercises/export", {**wish, "format": "json"}),
        ("POST", "/api/exercises/sound", wish),
        ("POST", "/api/exercises/keep", {**wish, "name": "K"}),
        ("POST", "/api/exercises/line/view", {"player_id": player, "line": _LINE, "tempo": 80, "beats_per_bar": 4}),
        ("POST", "/api/sessions", {"player_id": player, "exercise_type": "two-partial-slur", "params": {}}),
        ("POST", f"{mine}/lessons", {"to": "A", "title": "T", "words": "W", "exercises": [], "routines": [], "goals": [],
                                     "recordings": [], "limits": False}),
        ("POST", f"{mine}/free-performance", {"seconds": 5.0, "seed": 1}),
        ("POST", "/api/players", {"name": "Nel", "standard": "starting", "instrument": "tuba-eb", "part": "bass", "a4_hz": 440.0}),
    )  # fmt: skip


def spoiled(data: bytes, rng: random.Random) -> bytes:
    """Bytes with a few places changed, left out, written twice or cut off."""
    out = bytearray(data)
    for _ in range(rng.choice((1, 1, 1, 2, 5))):
        if not out:
            break
        at, size = rng.randrange(len(out)), rng.choice((1, 1, 2, 8, 60, 400))
        way = rng.randrange(6)
        if way == 0:
            out[at] ^= 1 << rng.randrange(8)
        elif way == 1:
            del out[at : at + size]
        elif way == 2:
            out[at:at] = out[at : at + size] * rng.choice((1, 2, 30))
        elif way == 3:
            del out[at:]
        elif way == 4:
            out[at : at + rng.choice((0, 1, 4))] = rng.choice(_TOKENS)
        else:
            out[at : at + size] = rng.randbytes(min(size, len(out) - at))
    return bytes(out)


def reworded(data: bytes, rng: random.Random) -> bytes:
    """Text with one number, name or value of it in another form; half of the time spoiled as bytes instead."""
    words = [found.span() for found in re.finditer(rb"[A-Za-z_-]+|-?\d+(?:\.\d+)?|\"[^\"]*\"", data)]
    if not words or rng.random() < 0.4:
        return spoiled(data, rng)
    start, end = rng.choice(words)
    other = rng.choice(words)
    new = rng.choice((rng.choice(HOSTILE).encode(), rng.choice(_TOKENS), data[other[0] : other[1]]))
    return data[:start] + new + data[end:]


def body_of(wanted: dict[str, Any], rng: random.Random) -> bytes:
    """A request's JSON with one value changed, or one name."""
    mark = "\u0001"
    body: dict[str, Any] = json.loads(json.dumps(wanted))
    place: Any = body
    key = rng.choice(list(body))
    while isinstance(place[key], dict | list) and place[key] and rng.random() < 0.7:
        place = place[key]
        key = rng.choice(list(place)) if isinstance(place, dict) else rng.randrange(len(place))
    if isinstance(place, dict) and rng.random() < 0.15:
        place[rng.choice(HOSTILE)] = place.pop(key)
    else:
        place[key] = mark
    return json.dumps(body).replace(json.dumps(mark), rng.choice(HOSTILE)).encode(errors="surrogatepass")


class Attack:
    """One server that goes on running, as a player's would; lessons have a fresh record each, since a known one is not opened twice."""

    def __init__(self, work: Path) -> None:
        self.samples = samples_in(work / "base")
        house = Application(work / "empty")
        house.players.add(name="Una Reith", standard="developing", instrument="tuba-eb", part="bass", a4_hz=440.0)
        house.close()
        self._work, self._stack = work, ExitStack()
        self._client = self._open(work / "base", self._stack)
        self._reader: TestClient | None = None
        self._readers = ExitStack()

    def close(self) -> None:
        """Stop the servers."""
        self._readers.close()
        self._stack.close()

    def send(self, kind: str, seed: int) -> str | None:
        """What goes wrong: None where the input is refused in a sentence; "" where it is taken in."""
        rng = random.Random(seed)
        if kind in ("lesson", "request"):
            return self._exchange(mutant(self.samples.files[kind], seed)[0])
        if kind == "body":
            method, path, body = rng.choice(self.samples.bodies)
            answer = self._client.request(
                method, path, content=body_of(body, rng), headers={"content-type": "application/json"}
            )
            return self._told(f"{method} {path}", answer)
        data = self.samples.files[kind]
        change: Callable[[bytes, random.Random], bytes] = spoiled if kind in ("mxl", "midi", "recording") else reworded
        return self._file(kind, change(data, rng))

    def pages(self) -> str | None:
        """The first page that is broken; None where all answer."""
        return broken_page(self._client)

    def _file(self, kind: str, data: bytes) -> str | None:
        mine = f"/api/players/{self.samples.player}"
        if kind == "calendar":
            answer = self._client.post(f"{mine}/calendar/view", files={"file": ("c.ics", data)})
        elif kind == "recording":
            answer = self._client.post(f"{mine}/free-recordings", content=data)
        elif kind == "line":
            body = {"player_id": self.samples.player, "line": data.decode(errors="replace"), "tempo": 80}
            answer = self._client.post("/api/exercises/line/view", json=body)
        else:
            answer = self._client.post(f"{mine}/exercises", files={"file": ("t.xml", data)}, data={"name": "T"})
        told = self._told(kind, answer)
        if told == "" and kind in ("musicxml", "mxl", "midi", "exercise"):
            return self._kept(answer.json()["id"])
        return told

    def _kept(self, own: str) -> str:
        """An exercise that was taken in: it is engraved, printed, heard, practised, and goes again."""
        wish = {"player_id": self.samples.player, "own": own}
        for path in ("/api/exercises/view", "/api/exercises/sheet", "/api/sessions"):
            answer = self._client.post(path, json=wish)
            if answer.status_code >= 500:
                return f"{path} of what was taken in: {answer.status_code}"
        self._client.delete(f"/api/players/{self.samples.player}/exercises/{own}")
        return ""

    def _exchange(self, data: bytes) -> str | None:
        client = self._reader or self._fresh_reader()
        player = client.get("/api/players").json()[0]["id"]
        answer = client.post(f"/api/players/{player}/exchanges", content=data)
        told = self._told("exchange", answer)
        if told != "":
            return told
        self._reader = None  # something is in it now
        opened = answer.json()["exchange"]["id"]
        kinds = ("exercise", "routine", "goal", "limits", "recording")
        parts = {"parts": [f"{kind} {number}" for kind in kinds for number in range(2)]}
        client.post(f"/api/players/{player}/exchanges/{opened}/taken", json=parts)
        for path in (f"/api/exchanges/{opened}", f"/api/exchanges/{opened}/file", f"/api/players/{player}/exchanges"):
            if client.get(path).status_code >= 500:
                return f"{path}: 500"
        return broken_page(client) or ""

    def _fresh_reader(self) -> TestClient:
        """A server whose record knows no exchange."""
        self._readers.close()
        folder = self._work / "one"
        shutil.rmtree(folder, ignore_errors=True)
        shutil.copytree(self._work / "empty", folder)
        self._reader = self._open(folder, self._readers)
        return self._reader

    @staticmethod
    def _open(folder: Path, stack: ExitStack) -> TestClient:
        app = create_app(folder)
        return stack.enter_context(TestClient(app, base_url="http://127.0.0.1", raise_server_exceptions=False))

    @staticmethod
    def _told(what: str, answer: Any) -> str | None:
        if answer.status_code >= 500 and answer.status_code != 507:
            return f"{what}: {answer.status_code}"
        return None if answer.status_code >= 400 else ""


def broken_page(client: TestClient) -> str | None:
    """The first page that does not answer."""
    players = client.get("/api/players")
    if players.status_code >= 500:
        return f"/api/players: {players.status_code}"
    for player in players.json():
        session, take = first_session(client, player["id"])
        for page in PAGES:
            status = client.get(page.format(player=player["id"], session=session, take=take)).status_code
            if status >= 500:
                return f"{page}: {status}"
    return None


KINDS = (
    "lesson",
    "request",
    "musicxml",
    "mxl",
    "midi",
    "exercise",
    "calendar",
    "recording",
    "line",
    "body",
    "body",
    "body",
)


def attack(count: int, first: int) -> tuple[Counter[str], Counter[str], list[str]]:
    """By kind how many were refused and taken in, and what was broken."""
    refused: Counter[str] = Counter()
    taken: Counter[str] = Counter()
    broken = []
    with tempfile.TemporaryDirectory() as scratch:
        running = Attack(Path(scratch))
        try:
            for number in range(count):
                kind, seed = KINDS[number % len(KINDS)], first + number
                told = running.send(kind, seed)
                (refused if told is None else taken)[kind] += not told
                if not told and number % _EVERY == _EVERY - 1:
                    told = running.pages()
                if told:
                    broken.append(f"{kind}, seed {seed}: {told}")
        finally:
            running.close()
    return refused, taken, broken


def main() -> None:
    """Print the counts and what was broken."""
    parser = argparse.ArgumentParser(description=__doc__)
    parser.add_argument("--count", type=int, default=10_000)
    parser.add_argument("--seed", type=int, default=1)
    told = parser.parse_args()
    began = time.monotonic()
    refused, taken, broken = attack(told.count, told.seed)
    for kind in dict.fromkeys(KINDS):
        print(f"{kind:10} {refused[kind]:5d} refused {taken[kind]:5d} taken in")
    print(f"{told.count} inputs: {len(broken)} broke something ({time.monotonic() - began:.0f} s)")
    for line in broken:
        print(line)


if __name__ == "__main__":
    main()
