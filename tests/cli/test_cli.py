"""The command line as documented: results on stdout, one clear line on stderr, stable fields."""

import csv
import io
import json
import os
import subprocess
import sys
from pathlib import Path
from typing import Any

import pytest

from orexis.cli.main import run
from orexis.core.exercises import exercise_type_named
from orexis.core.instruments import instrument_named
from orexis.files.exercise_files import exported

NOTE_FIELDS = {
    "index", "target", "sounded", "f0_hz", "onset_s", "release_s", "pitch_error_cents", "pitch_wobble_cents", "pitch_drift_cents",
    "attack_error_cents", "attack_settle_ms", "hold_s", "response_ms", "level_db",
}  # fmt: skip
MOVE_FIELDS = {
    "from", "to", "slurred", "move_ms", "gap_ms", "gap_start_s", "caught", "bump_db", "overshoot_cents",
}  # fmt: skip
VERDICT_FIELDS = {"outcome", "reason", "note", "value", "limit", "cause", "cue"}


class Ran:
    def __init__(self, code: int, out: str, err: str) -> None:
        self.code, self.out, self.err = code, out, err

    @property
    def json(self) -> Any:
        return json.loads(self.out)


@pytest.fixture
def orexis(monkeypatch: pytest.MonkeyPatch, capfdbinary: pytest.CaptureFixture[bytes]) -> Any:
    def call(*words: object) -> Ran:
        monkeypatch.setattr(sys, "argv", ["orexis", *(str(word) for word in words)])
        code = 0
        try:
            run()
        except SystemExit as ended:
            code = int(ended.code or 0)
        sys.stdout.flush()
        out, err = capfdbinary.readouterr()
        return Ran(code, out.decode("utf-8", "replace"), err.decode())

    return call


@pytest.fixture
def slur(orexis: Any, tmp_path: Path) -> Path:
    path = tmp_path / "slur.json"
    path.write_text(orexis("figure", "two-partial-slur", "--horn", "tuba-eb").out)
    return path


def test_exercise_play_listen(orexis: Any, slur: Path, tmp_path: Path) -> None:
    take, truth = tmp_path / "take.wav", tmp_path / "truth.json"
    played = orexis("play", slur, "--out", take, "--truth", truth, "--seed", 4, "--flaw", "gap=130ms@n2")
    assert (played.code, played.out.strip()) == (0, str(take))
    true = json.loads(truth.read_text())
    assert [note["id"] for note in true["notes"]] == ["n1", "n2", "n3"]
    assert true["defects"][0]["name"] == "gap"
    heard = orexis("listen", take, "--horn", "tuba-eb", "--figure", slur).json
    assert heard["schema"] == 2
    assert set(heard["notes"][0]) >= NOTE_FIELDS
    assert set(heard["moves"][0]) >= MOVE_FIELDS
    assert set(heard["verdict"]) >= VERDICT_FIELDS
    assert (heard["verdict"]["outcome"], heard["verdict"]["reason"], heard["verdict"]["note"]) == (
        "not_yet",
        "gap",
        "n2",
    )
    for note, real in zip(heard["notes"], true["notes"], strict=True):
        assert note["target"] == real["id"]
        assert note["onset_s"] == pytest.approx(real["onset_s"], abs=0.09)
    assert heard["notes"][0]["response_ms"] == pytest.approx(15.0, abs=15.0)


def test_listen_without_a_exercise(orexis: Any, slur: Path, tmp_path: Path) -> None:
    orexis("play", slur, "--out", tmp_path / "t.wav")
    heard = orexis("listen", tmp_path / "t.wav", "--horn", "tuba-eb").json
    assert heard["verdict"] is None
    assert [note["target"] for note in heard["notes"]] == [None] * 3


def test_trace_is_csv_with_empty_pitch_where_there_is_none(orexis: Any, slur: Path, tmp_path: Path) -> None:
    orexis("play", slur, "--out", tmp_path / "t.wav")
    rows = list(csv.DictReader(io.StringIO(orexis("trace", tmp_path / "t.wav").out)))
    assert list(rows[0]) == ["time_s", "f0_hz", "confidence", "level_db", "tone_to_noise_db", "brightness"]
    assert [float(row["time_s"]) for row in rows[:3]] == [0.0, 0.005, 0.01]
    assert rows[100]["f0_hz"] == ""
    assert float(rows[800]["f0_hz"]) == pytest.approx(116.6, abs=0.6)
    sparse = list(csv.DictReader(io.StringIO(orexis("trace", tmp_path / "t.wav", "--hop-ms", 20).out)))
    assert len(sparse) == -(-len(rows) // 4)


def test_instrument_prints_ways(orexis: Any) -> None:
    found = orexis("horn", "trumpet-bb", "F#3").json
    assert (found["note"], found["written"]) == ("F#3", "G#3")
    best = found["ways"][0]
    assert (best["partial"], best["valves"], best["rank"]) == (2, [2, 3], 1)
    assert best["cents"] == pytest.approx(15.5, abs=0.1)
    assert best["slide"] == "third"
    assert best["reachable"]
    assert orexis("horn", "trumpet-bb", "C4", "--written").json["note"] == "Bb3"
    assert orexis("horn", "tuba-eb").json["fundamentals"] == {"open": "Eb1"}


@pytest.mark.parametrize(("form", "head"), [("musicxml", "<?xml"), ("svg", "<svg"), ("midi", "MThd"), ("json", "{")])
def test_every_format(orexis: Any, form: str, head: str) -> None:
    assert orexis("figure", "long-low-tones", "--horn", "horn-f-bb", "--format", form).out.startswith(head)


def test_parameters_and_list(orexis: Any) -> None:
    made = orexis("figure", "long-low-tones", "--horn", "tuba-eb", "--param", "start=D2", "--param", "beats=4").json
    assert (made["notes"][0]["pitch"], made["notes"][0]["beats"]) == ({"step": "D", "alter": 0, "octave": 2}, 4.0)
    exercise_types = {
        exercise_type["id"]: exercise_type
        for exercise_type in orexis("figure", "--list", "--horn", "tuba-eb").json["exercise_types"]
    }
    assert len(exercise_types) == 34
    assert "glide-ladder" not in exercise_types


@pytest.mark.parametrize(
    ("words", "says"),
    [
        (("horn", "kazoo"), "trumpet-bb"),
        (("horn", "trumpet-bb", "H4"), "H4"),
        (("horn", "trumpet-bb", "C2"), "E3 to F6"),
        (("figure", "no-such", "--horn", "tuba-eb"), "long-low-tones"),
        (("figure", "long-low-tones", "--param", "tempo"), "key=value"),
        (("figure", "long-low-tones", "--param", "tmepo=60"), "tmepo"),
        (("figure", "long-low-tones", "--index", "99"), "0 to 8"),
        (("figure", "long-low-tones", "--format", "png"), "svg"),
        (("trace", "/nowhere.wav"), "WAV or FLAC"),
        (("trace", "/nowhere.wav", "--hop-ms", "3"), "multiple of 5"),
        (("listen", "/nowhere.wav", "--horn", "tuba-eb", "--stage", "wizard"), "developing"),
        (("play", "/nowhere.json", "--out", "/tmp/x.wav"), "cannot be read"),
        (("serve", "--host", "0.0.0.0"), "HTTPS"),
    ],
)
def test_an_error_is_one_line(orexis: Any, words: tuple[str, ...], says: str) -> None:
    ran = orexis(*words)
    assert ran.code == 1
    assert ran.out == ""
    assert says in ran.err
    assert ran.err.startswith("orexis: ")
    assert len(ran.err.strip().splitlines()) == 1


def test_the_installed_command_runs() -> None:
    done = subprocess.run(
        [sys.executable, "-m", "orexis.cli.main", "version"], capture_output=True, text=True, check=True
    )
    assert done.stdout.strip() == "0.1.0"


def test_help_and_wrong_uses_are_in_the_language_of_the_machine() -> None:
    def told(*words: str) -> subprocess.CompletedProcess[str]:
        return subprocess.run(
            [sys.executable, "-m", "orexis.cli.main", *words],
            env=os.environ | {"LANG": "de_DE.UTF-8", "LANGUAGE": ""},
            capture_output=True,
            text=True,
        )

    helped = told("serve", "--help")
    assert "Orexis starten und seine Adresse ausgeben." in helped.stdout
    assert "Optionen:" in helped.stdout
    assert "[sonst 8722]" in helped.stdout
    wrong = told("polka")
    assert (wrong.returncode, wrong.stdout) == (2, "")
    assert wrong.stderr == "orexis: Es gibt keinen Befehl 'polka'. Meintest du 'play'?\n"
    assert "Befehle:" in told("desktop").stderr


@pytest.mark.parametrize(
    "words",
    ["version", "horn trumpet-bb", "horn trumpet-bb C5", "figure --list"]
    + [f"figure two-partial-slur --format {form}" for form in ("json", "musicxml", "midi", "svg")]
    + ["tune {folder}/t.musicxml --format midi", "tune {folder}/t.mid"],
)
def test_an_answer_without_sound_waits_for_no_large_library(words: str, tmp_path: Path) -> None:
    trumpet = instrument_named("trumpet-bb")
    slur = exercise_type_named("two-partial-slur").series(trumpet, {}).exercises[0]
    for form, ending in (("musicxml", "musicxml"), ("midi", "mid")):
        (tmp_path / f"t.{ending}").write_bytes(exported(slur, trumpet, trumpet.parts[0], form)[0])
    script = (
        "import sys\nfrom orexis.cli.main import run\n"
        f"sys.argv = ['orexis', *{words.format(folder=tmp_path).split()!r}]\n"
        "try: run()\n"
        "finally: print(*{'fastapi', 'numpy', 'pydantic', 'sqlalchemy'} & set(sys.modules), file=sys.stderr)"
    )
    done = subprocess.run([sys.executable, "-c", script], capture_output=True)
    assert (done.returncode, done.stderr.strip()) == (0, b"")
    assert done.stdout
