"""What is done to the server, in any order, and what must hold after each step."""

import contextlib
import functools
import json
import random
import shutil
import struct
import tempfile
import threading
import time
import uuid
from collections import Counter
from collections.abc import Callable
from pathlib import Path
from typing import Any

from hypothesis import strategies as st
from hypothesis.stateful import RuleBasedStateMachine, initialize, invariant, precondition, rule
from websockets.exceptions import WebSocketException

from benchmarks.hostile import PAGES
from benchmarks.torture.server import DiedError, Disk, Server
from orexis.core.exercises import exercise_type_named
from orexis.core.instruments import instrument_named
from orexis.core.player import play
from orexis.core.sound import Samples

_BLOCK = 896
_FRAMES = "<IIQfIdId"
_LOST_S = 1.0  # of sound that was acknowledged, at the most
_SETTLES_S = 90.0  # until what a crash left is finished, or a take is judged
_MOST_GROWN_MB, _MOST_GROWN_FILES = 700.0, 60  # what one life may take beyond its beginning
_EXERCISES = ("long-low-tones", "two-partial-slur", "step-ladder")
# What leads from a phase of the session to its next take.
_TO_PREVIEW = {"verdict": ("again",), "rest": ("rest-over",), "count-in": ("drop",), "listening": ("drop",)}
COUNTS: Counter[str] = Counter()


class Torture(RuleBasedStateMachine):
    """One record and the servers that open it one after another."""

    def __init__(self) -> None:
        super().__init__()
        self.disk = Disk(Path(tempfile.mkdtemp(prefix="torture-")) / "disk")
        self.days = 0.0
        self.acked: dict[str, tuple[int, int]] = {}  # by take: samples that were acknowledged, and their rate
        self.exported: bytes | None = None
        self.full = False
        self.server = Server(self.disk.data, self.days)

    def teardown(self) -> None:
        self.server.kill()
        self.disk.close()
        shutil.rmtree(self.disk.folder.parent, ignore_errors=True)

    # -- what is done ------------------------------------------------------------------------------

    @initialize()
    def begin(self) -> None:
        self._add_player()
        self._open("two-partial-slur")

    @rule()
    @precondition(lambda self: len(self._players()) < 4)
    def add_player(self) -> None:
        self._add_player()

    @rule(name=st.sampled_from(_EXERCISES))
    def open_session(self, name: str) -> None:
        self._open(name)

    @rule(
        share=st.floats(0.05, 1.0),
        end=st.sampled_from(("judged", "judged", "cut", "cut", "killed", "killed", "dropped")),
    )
    def play_live(self, share: float, end: str) -> None:
        """A take through the live socket: to its verdict, or until the connection, the server or the player breaks it off."""
        if self._unfinished() is None:
            self._open("two-partial-slur")
        session = self._unfinished()
        if session is None:
            return  # a full disk
        sound, rate = _performance(_EXERCISES[1])
        key = uuid.uuid4().hex
        try:
            self._stream(session, key, sound[: max(_BLOCK, int(share * len(sound)))], rate, end)
        except (WebSocketException, OSError, TimeoutError, DiedError):
            COUNTS["cut off"] += 1
        if end == "killed":
            self._killed("live")

    @rule(
        event=st.sampled_from(
            ("again", "next", "back", "easier", "harder", "skip", "pause", "resume", "rest-over", "stop", "go-on")
        )
    )
    def press(self, event: str) -> None:
        session = self._unfinished()
        if session is None:
            return
        with self.server.live() as socket:
            socket.send(_hello(session))
            if _until(socket, "welcome", "error")["type"] == "welcome":
                socket.send(json.dumps({"type": "event", "name": event}))
                time.sleep(0.05)

    @rule(kill=st.booleans(), wait=st.floats(0.0, 1.5))
    def simulated_take(self, kill: bool, wait: float) -> None:
        session = self._unfinished()
        if session:
            self._ask(
                "POST",
                f"/api/sessions/{session['id']}/simulated-take",
                {"manner": "clean", "seed": 1},
                kill and ("simulated", wait),
            )

    @rule(kill=st.booleans(), wait=st.floats(0.0, 2.0))
    def bring_in(self, kill: bool, wait: float) -> None:
        self.exported = self.exported or self._ask("GET", "/api/export")[1]
        if self.exported:
            self._ask("POST", "/api/import", self.exported, kill and ("import", wait))

    @rule()
    def take_out(self) -> None:
        status, data = self._ask("GET", "/api/export")
        if status == 200:
            self.exported = data

    @rule(kill=st.booleans(), wait=st.floats(0.0, 1.0))
    def restore(self, kill: bool, wait: float) -> None:
        copies = [copy for copy in self._get("/api/copies") or [] if copy["whole"]]
        if copies:
            name = random.choice(copies)["name"]
            self._ask("POST", f"/api/copies/{name}/restore", {}, kill and ("restore", wait))

    @rule()
    def copy(self) -> None:
        self._ask("POST", "/api/copies", {})

    @rule(kill=st.booleans(), wait=st.floats(0.0, 1.5))
    def record_in_file(self, kill: bool, wait: float) -> None:
        """A recording of playing without an exercise is read."""
        player = random.choice(self._players())["id"]
        status, sound = self._ask("POST", f"/api/players/{player}/free-performance", {"seconds": 6.0, "seed": 3})
        if status == 200:
            self._ask("POST", f"/api/players/{player}/free-recordings", sound, kill and ("file", wait))

    @rule()
    def throw_away(self) -> None:
        take = self._some_take()
        if take:
            self._ask("PUT", f"/api/takes/{take}/discarded", {"discarded": random.random() < 0.6})

    @rule()
    def delete_take(self) -> None:
        take = self._some_take()
        if take and self._ask("DELETE", f"/api/takes/{take}")[0] in (200, 204):
            self.acked.pop(take, None)

    @rule()
    def remark(self) -> None:
        take = self._some_take()
        if take:
            self._ask("POST", f"/api/takes/{take}/marks", {"at_s": 0.5, "nearer": False, "words": "w", "by": "B"})

    @rule(minutes=st.integers(10, 60))
    def plan(self, minutes: int) -> None:
        mine = f"/api/players/{random.choice(self._players())['id']}"
        self._ask("PATCH", f"{mine}/settings", {"minutes": [minutes] * 7})
        self._ask("POST", f"{mine}/day", {"minutes": minutes, "anyway": True})
        self._ask("POST", f"{mine}/goals", {"kind": "hold", "value": float(minutes), "date": "2027-05-01"})

    @rule(left_kb=st.sampled_from((0, 60, 200, 2000)))
    @precondition(lambda self: self.disk.small)
    def fill_disk(self, left_kb: int) -> None:
        self.disk.fill(left_kb)
        self.full = True

    @rule()
    @precondition(lambda self: self.full)
    def free_disk(self) -> None:
        self.disk.free()
        self.full = False

    @rule(days=st.sampled_from((0.0, 1.0, 8.0, 400.0)))
    def clock_jumps(self, days: float) -> None:
        self.days = days
        self._killed("clock")

    @rule()
    def kill(self) -> None:
        self._killed("quiet")

    # -- what must hold ----------------------------------------------------------------------------

    @invariant()
    def pages_answer(self) -> None:
        players = self._players()
        chosen = random.sample(PAGES, 4)
        for player in players[:2]:
            session, take = self._ids(player["id"])
            for page in chosen:
                path = page.format(player=player["id"], session=session, take=take)
                status, said = self.server.ask("GET", path)
                assert status < 500 or (self.full and status == 507), f"{path}: {status} {said[:300]!r}"

    @invariant()
    def nothing_acknowledged_is_lost(self) -> None:
        until = time.monotonic() + _SETTLES_S
        for key, (samples, rate) in self.acked.items():
            while (lost := self._lost(key, samples, rate)) and time.monotonic() < until:
                time.sleep(0.3)  # it is being judged, or finished after a crash
            assert not lost, f"take {key}: {lost}"

    @invariant()
    def summaries_are_those_of_a_rebuild(self) -> None:
        if self.full or random.random() < 0.7:
            return
        status, said = self.server.ask("POST", "/api/check", {}, seconds=300.0)
        assert status == 200, said
        wrong = [fault for fault in json.loads(said) if "summar" in fault["says"] or "no sound" in fault["says"]]
        assert not wrong, wrong

    @invariant()
    def memory_and_files_are_flat(self) -> None:
        megabytes, files = self.server.grown()
        assert megabytes < _MOST_GROWN_MB, f"{megabytes:.0f} MB more than at the beginning"
        assert files < _MOST_GROWN_FILES, f"{files} files more than at the beginning"

    # -- how ---------------------------------------------------------------------------------------

    def _ask(
        self, method: str, path: str, body: Any = None, kill: tuple[str, float] | bool = False
    ) -> tuple[int, bytes]:
        """Ask, and be killed meanwhile where that is wanted. A full disk may say so; nothing else may break."""
        COUNTS[f"{method} {path.split('/')[-1][:12]}" if len(path) < 20 else method] += 1
        if not kill:
            status, said = self.server.ask(method, path, body)
            assert status < 500 or (status == 507 and self.full), f"{method} {path}: {status} {said[:300]!r}"
            return status, said
        what, wait = kill  # type: ignore[misc]
        asked = threading.Thread(target=_ignoring(self.server.ask), args=(method, path, body))
        asked.start()
        time.sleep(wait)
        self._killed(what)
        asked.join()
        return 0, b""

    def _killed(self, what: str) -> None:
        COUNTS[f"killed: {what}"] += 1
        self.server.kill()
        self.server = Server(self.disk.data, self.days)

    def _stream(self, session: dict[str, Any], key: str, sound: Samples, rate: int, end: str) -> None:
        with self.server.live() as socket:
            socket.send(_hello(session))
            welcome = _until(socket, "welcome", "error")
            if welcome["type"] == "error":
                return
            if welcome["take"] is not None:
                _until(socket, "frames")  # of the take that goes on: what it acknowledges is not the new one's
            for event in _TO_PREVIEW.get(welcome["state"]["phase"], ()):
                if event == "drop":  # the player's own wish
                    self.acked.pop(welcome["state"]["take_key"], None)
                socket.send(json.dumps({"type": "event", "name": event}))
                time.sleep(0.05)
            socket.send(
                json.dumps({"type": "begin", "take": key, "rate": rate, "first_beat_sample": 0, "source": "microphone"})
            )
            socket.send(json.dumps({"type": "event", "name": "counted-in"}))
            for number, at in enumerate(range(0, len(sound), _BLOCK)):
                block = sound[at : at + _BLOCK]
                socket.send(struct.pack("<IId", number, at, float(at)) + block.astype("<f4").tobytes())
            COUNTS[f"take {end}"] += 1
            until = time.monotonic() + 20.0
            while time.monotonic() < until:
                message = _read(socket)
                if message["type"] == "frames":
                    self.acked[key] = (max(message["received"], self.acked.get(key, (0, rate))[0]), rate)
                    if message["received"] >= len(sound) or end == "killed":
                        break
                elif message["type"] in ("full", "error", "verdict"):
                    break
            if end == "dropped" and key in self.acked:
                self.acked.pop(key, None)  # the player's own wish
                socket.send(json.dumps({"type": "event", "name": "drop"}))
                time.sleep(0.2)
            elif end == "judged" and key in self.acked:
                socket.send(json.dumps({"type": "event", "name": "ended"}))
                _until(socket, "verdict", "error", "full")

    def _lost(self, key: str, samples: int, rate: int) -> str:
        """What is missing of a take that was acknowledged so far; nothing where it is kept, under way, or set aside."""
        wanted_s = samples / rate - _LOST_S
        if wanted_s <= 0:
            return ""
        data = self.disk.data
        sound = data / "takes" / key[:2] / f"{key}.flac"
        status, said = self.server.ask("GET", f"/api/takes/{key}")
        if status == 200:
            kept_s = json.loads(said)["duration_s"]
            if not sound.exists():
                return "its sound is gone"
            return "" if kept_s >= wanted_s else f"{kept_s:.1f} of {samples / rate:.1f} s"
        if status != 404:
            return f"{status} {said[:200]!r}"
        places = [*(data / "journal").rglob(f"{key}*"), *(data / "set-aside").rglob(f"*{key}*"), sound]
        here = [path for path in places if path.exists() and path.suffix in (".f32", ".flac")]
        if not here:
            return "it is nowhere"
        raw = next((path for path in here if path.suffix == ".f32"), None)
        return "" if raw is None or raw.stat().st_size / 4 / rate >= wanted_s else "its journal is short"

    def _add_player(self) -> None:
        body = {"name": f"P {uuid.uuid4().hex[:4]}", "standard": "developing", "instrument": "tuba-eb", "part": "bass"}
        self._ask("POST", "/api/players", body)

    def _open(self, name: str) -> None:
        for player in self._players()[:1]:
            self._ask("POST", "/api/sessions", {"player_id": player["id"], "exercise_type": name, "params": {}})

    def _get(self, path: str) -> Any:
        status, said = self.server.ask("GET", path)
        assert status < 500, f"{path}: {status} {said[:300]!r}"
        return json.loads(said) if status == 200 else None

    def _players(self) -> list[dict[str, Any]]:
        return [player for player in self._get("/api/players") if not player["guest"]]

    def _unfinished(self) -> dict[str, Any] | None:
        """A session that somebody could go on with."""
        for player in self._players():
            session: dict[str, Any] | None = self._get(f"/api/players/{player['id']}/session")
            if session and session["state"]["phase"] != "done" and session["exercise_type"] in _EXERCISES:
                return session
        return None

    def _ids(self, player: str) -> tuple[str, str]:
        sessions = (self._get(f"/api/players/{player}/log") or {}).get("sessions", [])
        if not sessions:
            return "0" * 32, "0" * 32
        return sessions[0]["id"], (sessions[0]["summary"].get("take_ids") or ["0" * 32])[0]

    def _some_take(self) -> str | None:
        for player in self._players():
            take = self._ids(player["id"])[1]
            if take != "0" * 32:
                return take
        return None


@functools.cache
def _performance(name: str) -> tuple[Samples, int]:
    """Somebody plays an exercise of that type: not always the one that is asked, as people do."""
    sound, _ = play(exercise_type_named(name).series(instrument_named("tuba-eb"), {}).exercises[0], seed=1)
    return sound.samples, sound.rate


def _ignoring(ask: Callable[..., Any]) -> Callable[..., None]:
    def asked(*given: Any) -> None:
        with contextlib.suppress(DiedError, AssertionError, ConnectionError):  # it was killed: that was the wish
            ask(*given)

    return asked


def _hello(session: dict[str, Any]) -> str:
    told = {"type": "hello", "protocol": 2, "session": session["id"], "token": None, "take_over": True}
    return json.dumps(told)


def _read(socket: Any) -> dict[str, Any]:
    raw = socket.recv(timeout=60)
    if isinstance(raw, str):
        return dict(json.loads(raw))
    _, flags, received, *_ = struct.unpack_from(_FRAMES, raw)
    return {"type": "frames", "received": received, "hole": bool(flags & 1)}


def _until(socket: Any, *kinds: str) -> dict[str, Any]:
    while True:
        message = _read(socket)
        if message["type"] in kinds:
            return message
