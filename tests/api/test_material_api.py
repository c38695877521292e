"""Exercises, instruments, settings, ladders and sessions over HTTP: answers, refusals, bounds."""

import io
from collections.abc import Iterator
from pathlib import Path
from typing import Any

import numpy as np
import pytest
from fastapi.testclient import TestClient

from orexis.api.app import create_app
from orexis.files.soundfiles import read_sound
from orexis.services.clock import local_day, now
from tests.files.test_readers import NOTE, score

BASE = "http://127.0.0.1:8722"


@pytest.fixture
def client(tmp_path: Path) -> Iterator[TestClient]:
    with TestClient(create_app(tmp_path / "data"), base_url=BASE) as made:
        yield made


def player(client: TestClient, instrument: str = "trumpet-bb") -> str:
    return str(
        client.post("/api/players", json={"name": "Wim", "standard": "developing", "instrument": instrument}).json()[
            "id"
        ]
    )


def wish(player_id: str, exercise_type: str, **more: Any) -> dict[str, Any]:
    return {"player_id": player_id, "exercise_type": exercise_type, **more}


def test_material_of_the_instrument_in_hand(client: TestClient) -> None:
    found = client.get(f"/api/players/{player(client)}/material").json()
    assert len(found["exercise_types"]) == 34
    assert {"sounding": "Bb3", "written": "C4"} in found["notes"]
    assert found["fingerings"][:3] == ["0", "2", "1"]


def test_a_exercise_is_shown_heard_and_exported(client: TestClient) -> None:
    asked = wish(player(client), "two-octave-scale", params={"start": "Bb3"}, index=1)
    view = client.post("/api/exercises/view", json=asked).json()
    assert view["advance"] == "climb"
    assert view["index"] == 1
    assert [span["fingering"] for span in view["exercise"]["spans"]][:2] == ["1-2-3", "2-3"]
    assert view["exercise"]["notes"][0]["written"] == "C#4"
    sound = read_sound(io.BytesIO(client.post("/api/exercises/sound", json=asked).content))
    assert sound.duration_s == pytest.approx(view["exercise"]["duration_s"], abs=1.5)
    assert float(np.max(np.abs(sound.samples))) > 0.05
    for form, head in (("json", b"{"), ("musicxml", b"<?xml"), ("midi", b"MThd")):
        answer = client.post("/api/exercises/export", json={**asked, "format": form})
        assert answer.content.startswith(head)
        assert "attachment" in answer.headers["content-disposition"]


@pytest.mark.parametrize(
    ("body", "status", "says"),
    [
        ({"exercise_type": "scales-of-doom"}, 422, "long-low-tones"),
        ({"exercise_type": "step-ladder", "params": {"steps": "99"}}, 422, "1 to 36"),
        ({"exercise_type": "step-ladder", "index": 500}, 404, "exercises"),
        ({"exercise_type": "glide-ladder"}, 422, "hand slide"),
        ({"own": "nothing"}, 404, "no such exercise"),
    ],
)
def test_what_cannot_be_made_is_said(client: TestClient, body: dict[str, Any], status: int, says: str) -> None:
    answer = client.post("/api/exercises/view", json={"player_id": player(client), **body})
    assert answer.status_code == status
    assert says in answer.json()["message"]


def test_own_exercises_are_kept_played_and_forgotten(client: TestClient) -> None:
    who = player(client)
    body = {**wish(who, "lip-bend", params={"depth": "2"}), "name": "  Deep   bends "}
    kept = client.post("/api/exercises/keep", json=body).json()
    assert kept["name"] == "Deep bends"
    session = client.post("/api/sessions", json={"player_id": who, "own": kept["id"]}).json()
    assert "whole step" in client.get(f"/api/sessions/{session['id']}/exercise").json()["exercise"]["title"]
    assert client.delete(f"/api/players/{who}/exercises/{kept['id']}").status_code == 204
    assert client.get(f"/api/players/{who}/exercises").json() == []
    assert client.delete(f"/api/players/{who}/exercises/{kept['id']}").status_code == 404
    assert client.post("/api/exercises/keep", json={**body, "name": " "}).status_code == 422


def test_a_tune_is_imported_and_a_bad_one_changes_nothing(client: TestClient) -> None:
    who = player(client, "tuba-eb")
    notes = "".join(NOTE.format(octave=octave) for octave in (4, 4, 5))
    made = client.post(f"/api/players/{who}/exercises", files={"file": ("t.xml", score(notes=notes))})
    assert made.status_code == 201
    wish = {"player_id": who, "own": made.json()["id"], "params": {}}
    shown = client.post("/api/exercises/view", json=wish).json()["exercise"]["exercise"]
    midis = [n["pitch"]["octave"] for n in shown["notes"]]
    assert max(midis) <= 4
    # Chosen on the page: an octave down, a tone up; kept so under another name, and played so.
    assert [item["key"] for item in made.json()["choices"]] == ["octave", "semitones", "tempo", "way", "fingerings"]
    wish["params"] = {"octave": "an octave down", "semitones": "2"}
    lower = client.post("/api/exercises/view", json=wish).json()["exercise"]["exercise"]
    assert [n["pitch"]["step"] for n in lower["notes"]] == ["D", "D", "D"]
    kept = client.post("/api/exercises/keep", json={**wish, "name": "Lower"}).json()
    assert kept["params"] == wish["params"]
    session = client.post("/api/sessions", json={"player_id": who, "own": kept["id"]}).json()
    assert client.get(f"/api/sessions/{session['id']}/exercise").json()["exercise"]["notes"] == lower["notes"]
    assert client.post("/api/exercises/view", json={**wish, "params": {"part": "x"}}).status_code == 422
    for data, says in ((b"nonsense", "none of those"), (b"MThd....", "MIDI"), (b"", "none of those")):
        answer = client.post(f"/api/players/{who}/exercises", files={"file": ("t", data)})
        assert answer.status_code == 422
        assert says in answer.json()["message"]
    assert len(client.get(f"/api/players/{who}/exercises").json()) == 2


def test_the_chart_knows_pedals_and_false_tones(client: TestClient) -> None:
    rows = client.get(f"/api/players/{player(client)}/chart").json()
    kinds = {row["written"]: row["kind"] for row in rows}
    assert kinds["F#3"] == "usual"
    assert kinds["E3"] == "false"
    assert kinds["C3"] == "pedal"
    best = next(row["options"][0] for row in rows if row["written"] == "C#4")
    assert (best["label"], best["slide"], round(best["slide_mm"])) == ("1-2-3", "third", 33)


def test_settings_are_checked_and_reach_the_verdict(client: TestClient) -> None:
    who = player(client)
    kept = client.patch(f"/api/players/{who}/settings", json={"limits": {"pitch_error_cents": 4.0}, "goes_on": False})
    assert kept.json()["settings"]["limits"] == {"pitch_error_cents": 4.0}
    for body, says in (
        ({"limits": {"centre": 4.0}}, "no limit"),
        ({"approaches": {"pressure": "grow"}}, "no choice"),
        ({"start": "now"}, "count-in"),
    ):
        answer = client.patch(f"/api/players/{who}/settings", json=body)
        assert answer.status_code == 422
        assert says in answer.json()["message"]
    session = client.post("/api/sessions", json={"player_id": who, "exercise_type": "long-low-tones"}).json()
    made = client.post(f"/api/sessions/{session['id']}/simulated-take", json={"manner": "clean", "seed": 3})
    assert made.json()["limits"]["pitch_error_cents"] == 4.0


def test_a_day_opens_and_a_wrong_one_does_not(client: TestClient) -> None:
    who = player(client)
    shown = client.post(f"/api/players/{who}/day/plan", json={"minutes": 15}).json()
    exercise_types = [block["exercise_type"] for block in shown["plan"]["blocks"]]
    assert exercise_types[:2] == ["buzz-answer", "long-low-tones"]
    assert sum(block["minutes"] for block in shown["plan"]["blocks"]) == 15
    session = client.post(f"/api/players/{who}/day", json={"minutes": 15, "lips": "tired"}).json()
    assert session["state"]["checking"]
    view = client.get(f"/api/sessions/{session['id']}/exercise").json()
    assert view["exercise"]["exercise_type"] == "check-note"
    for wrong in (
        {"minutes": 9},
        {"minutes": 121},
        {"minutes": 15, "lips": "blue"},
        {"minutes": 15, "kept": [{"exercise_type": "x"}]},
    ):
        assert client.post(f"/api/players/{who}/day", json=wrong).status_code == 422


def test_quiet_hours_and_approaches_reach_the_pages(client: TestClient) -> None:
    who = player(client)
    today = local_day(now()) - 1  # day 1 of the calendar was a Monday
    only_today = [30 if weekday == today % 7 else 0 for weekday in range(7)]  # so it is neither light nor off
    client.patch(f"/api/players/{who}/settings", json={"minutes": only_today})
    loud = client.post(f"/api/players/{who}/day/plan", json={"minutes": 30}).json()["plan"]["blocks"]
    quiet = client.post(f"/api/players/{who}/day/plan", json={"minutes": 30, "quiet": True}).json()["plan"]["blocks"]
    assert "step-ladder" in {block["exercise_type"] for block in loud}
    assert {block["place"] for block in quiet} == {"breath", "buzz", "tones"}
    session = client.post(f"/api/players/{who}/day", json={"minutes": 30, "quiet": True}).json()
    planned = [block["exercise_type"] for block in session["state"]["plan"] if not block["spare"]]
    assert planned == [block["exercise_type"] for block in quiet]
    assert client.patch(f"/api/players/{who}/settings", json={"quiet_from": 24}).status_code == 422

    def default(exercise_type: str, key: str) -> str:
        exercise_types = client.get(f"/api/players/{who}/material").json()["exercise_types"]
        params = next(item["params"] for item in exercise_types if item["id"] == exercise_type)
        return str(next(item["default"] for item in params if item["key"] == key))

    assert default("wide-slur", "first") == "tongue"
    chosen = {"approaches": {"wide-slurs": "slur-first", "loudness-upwards": "ease"}, "quiet_from": 21}
    assert client.patch(f"/api/players/{who}/settings", json=chosen).json()["settings"]["quiet_from"] == 21
    assert default("wide-slur", "first") == "slur"
    assert default("one-octave-scale", "loudness") == "ease"
    # What is chosen by hand goes before the approach.
    for params, expected in (({}, "slur"), ({"first": "tongue"}, "tongue")):
        made = client.post(
            "/api/sessions", json={"player_id": who, "exercise_type": "wide-slur", "params": params}
        ).json()
        shown = client.get(f"/api/sessions/{made['id']}/exercise").json()
        slurred = [note["slurred"] for note in shown["exercise"]["notes"]]
        assert any(slurred[1:3]) == (expected == "slur")


def test_a_held_range_note_is_on_the_ladder(client: TestClient) -> None:
    who = player(client, "tuba-eb")
    body = {"player_id": who, "exercise_type": "step-ladder", "params": {"start": "Eb3"}}
    session = client.post("/api/sessions", json=body).json()
    take = client.post(f"/api/sessions/{session['id']}/simulated-take", json={"manner": "clean", "seed": 3}).json()
    assert take["verdict"]["outcome"] == "clean"
    ladder = client.get(f"/api/players/{who}/range").json()
    range_note = next(item for item in ladder["range_notes"] if item["sounding"] == "Eb3")
    assert (range_note["state"], range_note["joined"], range_note["latest_take"]) == ("reaching", False, take["id"])
    assert ladder["high"] is None
    assert [(item["low"], item["high"]) for item in ladder["history"]] == [(None, None)]
    assert client.get(f"/api/takes/{take['id']}/ideal").content[:4] == b"RIFF"
    assert client.get(f"/api/takes/{take['id']}/like").json() == []


@pytest.mark.parametrize(
    ("hz", "says"),
    [(155.56, "That’s the note"), (311.1, "That’s the note"), (160.2, "sharp"), (200.0, "another note")],
)
def test_a_sung_note_counts_in_any_octave(client: TestClient, hz: float, says: str) -> None:
    who = player(client, "tuba-eb")
    session = client.post("/api/sessions", json={"player_id": who, "exercise_type": "long-low-tones"}).json()
    t = np.arange(2 * 22_050) / 22_050
    tone = sum(np.sin(2 * np.pi * hz * n * t) / n**1.5 for n in range(1, 8))
    data = (0.1 * tone).astype("<f4").tobytes()
    answer = client.post(f"/api/sessions/{session['id']}/sung", files={"samples": ("s", data)}, data={"rate": "22050"})
    assert says in answer.json()["said"]
    quiet = client.post(
        f"/api/sessions/{session['id']}/sung", files={"samples": ("s", b"\0" * 8000)}, data={"rate": "22050"}
    )
    assert quiet.json()["hz"] is None


def test_titles_name_notes_as_the_player_writes_them(client: TestClient) -> None:
    player = client.post(
        "/api/players", json={"name": "Pell", "standard": "developing", "instrument": "cornet-bb"}
    ).json()
    wish = {"player_id": player["id"], "exercise_type": "step-ladder", "params": {"start": "Bb4", "steps": "2"}}
    assert client.post("/api/exercises/view", json=wish).json()["titles"] == ["Single note, C5", "Single note, C#5"]
