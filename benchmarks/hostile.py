"""Exports that a hostile hand made: each is refused in a sentence, or taken in without breaking a page.

`python -m benchmarks.hostile [--count 1000] [--seed 1]`: so many exports of which one value was changed, with sums that agree. Prints how
many were refused and taken in, and each that ended in a traceback or broke a page, with its seed. None may.
"""

import argparse
import hashlib
import io
import json
import random
import shutil
import tempfile
import time
import zipfile
from collections.abc import Iterator
from datetime import UTC, datetime, timedelta
from pathlib import Path
from typing import Any

from fastapi.testclient import TestClient

from orexis.api.app import create_app
from orexis.core.planning import GoalKind, GoalTarget
from orexis.core.practice import Event, EventName
from orexis.errors import OrexisError
from orexis.services.application import Application
from orexis.services.archive import bring_in, taken_out
from orexis.services.values.planning import OwnBlock

# As they stand in JSON, so that what Python would not write can be written.
HOSTILE = (
    "NaN", "Infinity", "-Infinity", "1e999", "1e300", "-1e300", "9" * 30, "-1", "0", "1e-320", "true", "null", "[]", "{}", '""',
    '"x"', '"\\ud800"', '"\\u0000"', '"' + "x" * 5000 + '"', '"9999-12-31T23:59:59+00:00"', '"0001-01-01T00:00:00+00:00"',
    '"2026-03-02"', '"../../etc"', "[" * 500 + "]" * 500, '{"$v": 99}', '{"$v": "x"}', '{"a": {"b": [1, null]}}', "[null]", '["x"]',
    "2147483648", "-719163", "800000000", "0.5", '"clean"', '"trumpet-bb"',
)  # fmt: skip
_MARK = "\u0001here\u0001"
PAGES = (
    "/api/household", "/api/players", "/api/players/{player}/log", "/api/players/{player}/progress", "/api/players/{player}/range",
    "/api/players/{player}/weeks", "/api/players/{player}/goals", "/api/players/{player}/paths", "/api/players/{player}/routines",
    "/api/players/{player}/exercises", "/api/players/{player}/exchanges", "/api/players/{player}/day", "/api/players/{player}/session",
    "/api/players/{player}/chart", "/api/players/{player}/tuner?a4=440&temperament=equal&root=0", "/api/players/{player}/weeks.ics",
    "/api/players/{player}/notes.csv", "/api/players/{player}/takes.csv", "/api/players/{player}/thrown-away",
    "/api/players/{player}/then-and-now", "/api/players/{player}/instrument/told", "/api/sessions/{session}",
    "/api/sessions/{session}/page", "/api/sessions/{session}/takes", "/api/takes/{take}", "/api/takes/{take}/exercise",
    "/api/takes/{take}/marks", "/api/takes/{take}/like",
)  # fmt: skip


def base_export(folder: Path) -> bytes:
    """A record with something in most tables, as an export."""
    house = Application(folder)
    person = house.players.add(name="Wim Olde", standard="developing", instrument="tuba-eb", part="bass", a4_hz=440.0)
    house.routines.keep(person.id, "Short", (OwnBlock("long-low-tones", 5.0, {}),))
    at = datetime(2026, 3, 2, 18, 0, tzinfo=UTC)
    house.goals.add(person.id, GoalTarget(GoalKind.HOLD, 12.0), (at + timedelta(days=60)).date(), at=at)
    for name in ("long-low-tones", "two-partial-slur"):
        session = house.sessions.open(person.id, name, {}, at=at)
        take = house.simulated.take(session.id, "clean", seed=1)
        house.marks.add(take.id, at_s=1.0, nearer=False, words="sounds free", by="Wenna Tull")
        house.takes.happen(session.id, Event(EventName.STOP))
    data = b"".join(taken_out(house.record))
    house.close()
    return data


def _paths(value: Any, at: tuple[Any, ...] = ()) -> Iterator[tuple[Any, ...]]:
    yield at
    if isinstance(value, dict):
        for key, inner in value.items():
            yield from _paths(inner, (*at, key))
    elif isinstance(value, list):
        for place, inner in enumerate(value[:3]):
            yield from _paths(inner, (*at, place))


def mutant(data: bytes, seed: int) -> tuple[bytes, str]:
    """The export with one value of one line changed or left out, its manifest agreeing; and what was done."""
    rng = random.Random(seed)
    with zipfile.ZipFile(io.BytesIO(data)) as archive:
        files = {name: archive.read(name) for name in archive.namelist()}
    names = [name for name in files if name.endswith((".jsonl", "exchange.json")) and files[name].strip()]
    name = rng.choice(names)
    lines = files[name].decode().splitlines()
    place = rng.randrange(len(lines))
    row = json.loads(lines[place])
    at = rng.choice([path for path in _paths(row) if path])
    hostile = rng.choice(HOSTILE)
    inner = row
    for key in at[:-1]:
        inner = inner[key]
    if rng.random() < 0.1 and isinstance(inner, dict):
        del inner[at[-1]]
        hostile = "(left out)"
    else:
        inner[at[-1]] = _MARK
    lines[place] = json.dumps(row).replace(json.dumps(_MARK), hostile)
    files[name] = ("\n".join(lines) + "\n").encode()
    manifest = json.loads(files["manifest.json"])
    manifest["files"][name] = {"size": len(files[name]), "sha256": hashlib.sha256(files[name]).hexdigest()}
    files["manifest.json"] = json.dumps(manifest).encode()
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w") as made:
        for entry, content in files.items():
            made.writestr(entry, content)
    return out.getvalue(), f"{name} {'.'.join(map(str, at))} = {hostile[:40]}"


def broken_by(empty: Path, file: bytes, folder: Path) -> str | None:
    """What goes wrong with a file on a fresh record: None where it is refused in a sentence or breaks nothing; "" where it is taken in."""
    shutil.copytree(empty, folder)
    path = folder / "hostile.zip"
    path.write_bytes(file)
    house = Application(folder)
    try:
        bring_in(house.record, path, report=lambda said: None)
    except OrexisError:
        return None
    except Exception as error:
        return f"import: {type(error).__name__}: {str(error)[:120]}"
    finally:
        house.close()
    with TestClient(create_app(folder), base_url="http://127.0.0.1", raise_server_exceptions=False) as client:
        answer = client.get("/api/players")
        if answer.status_code >= 500:
            return f"/api/players: {answer.status_code}"
        for player in answer.json():
            session, take = first_session(client, player["id"])
            for page in PAGES:
                given = page.format(player=player["id"], session=session, take=take)
                if client.get(given).status_code >= 500:
                    return f"{page}: 500"
    return ""


def first_session(client: TestClient, player: str) -> tuple[str, str]:
    """The ids of a player's latest session and of its first take; noughts where there is none."""
    log = client.get(f"/api/players/{player}/log")
    sessions = log.json().get("sessions", []) if log.status_code == 200 else []
    if not sessions:
        return "0" * 32, "0" * 32
    takes = sessions[0]["summary"].get("take_ids") or ["0" * 32]
    return sessions[0]["id"], takes[0]


def attack(count: int, first: int) -> tuple[int, int, list[str]]:
    """So many mutants: refused, taken in, and what was broken."""
    refused, taken, broken = 0, 0, []
    with tempfile.TemporaryDirectory() as scratch:
        work = Path(scratch)
        data = base_export(work / "base")
        Application(work / "empty").close()
        for seed in range(first, first + count):
            file, what = mutant(data, seed)
            told = broken_by(work / "empty", file, work / "one")
            shutil.rmtree(work / "one")
            refused, taken = refused + (told is None), taken + (told == "")
            if told:
                broken.append(f"seed {seed}: {what} -> {told}")
    return refused, taken, broken


def main() -> None:
    """Print the counts and what was broken."""
    parser = argparse.ArgumentParser(description=__doc__)
    parser.add_argument("--count", type=int, default=1000)
    parser.add_argument("--seed", type=int, default=1)
    told = parser.parse_args()
    began = time.monotonic()
    refused, taken, broken = attack(told.count, told.seed)
    print(f"{told.count} exports: {refused} refused, {taken} taken in, {len(broken)} broke something", end="")
    print(f" ({time.monotonic() - began:.0f} s)")
    for line in broken:
        print(line)


if __name__ == "__main__":
    main()
