"""docs/changes.md, proved: add an exercise, a judged measure and an instrument in a scratch copy, then play, judge, keep and read them.

`python -m scripts.prove_changes` prints the files that each change took and what came of it; exit 1 where a change took more
files than the page promises, or where something did not follow.
"""

import json
import os
import subprocess
import sys
import tempfile
from dataclasses import dataclass
from pathlib import Path

HOME = Path(__file__).parent.parent
_CORE = "src/orexis/core"
# What is changed is copied; all else is the original, so that nothing has to be compiled again.
_COPIED = ("core/exercises", "core/measures", "core/coach", "core/instruments")


@dataclass(frozen=True, slots=True)
class Edit:
    """Text put before something that stands in a file once."""

    file: str
    before: str
    text: str


@dataclass(frozen=True, slots=True)
class Change:
    """A row of docs/changes.md, made for real."""

    what: str
    most_files: int
    edits: tuple[Edit, ...]

    @property
    def files(self) -> tuple[str, ...]:
        """Touched by it."""
        return tuple(sorted({edit.file for edit in self.edits}))


EXERCISE = Change(
    "an exercise type",
    1,
    (
        Edit(
            f"{_CORE}/exercises/stairs.py",
            "STAIRS = (",
            """def _echo_params(instrument: Instrument) -> tuple[Param, ...]:
    return note("start", "First note", middle_note(instrument)), count("beats", "Beats", 4, 2, 12), tempo(60)


def _echo(exercise_type: ExerciseType, instrument: Instrument, values: Values) -> Series:
    line = ExerciseBuilder(instrument)
    for turn in range(2):
        line.note(values.pitch("start"), float(values.integer("beats")), slurred=False)
        if turn == 0:
            line.rest(2.0)
    return series_of(exercise_type, instrument, [line.exercise(exercise_type, "echo", "Echo tones", tempo=values.integer("tempo"))])


def _echo_levels(instrument: Instrument) -> Iterable[PathStep]:
    for beats in (4, 6, 8):
        yield level(f"{beats} beats each", beats=beats)


ECHO_TONES = ExerciseType(
    id="echo-tones",
    name="Echo tones",
    place=DayPlace.TONES,
    purpose="The same note twice.",
    asks="The second as the first.",
    load=Load.EASY,
    serves=("sound",),
    judged=("centre", "edge"),  # judged here
    grows="longer",
    params=_echo_params,
    make=_echo,
    levels=_echo_levels,
)
""",
        ),
        Edit(f"{_CORE}/exercises/stairs.py", "    INTERVAL_STAIRS,\n", "    ECHO_TONES,\n"),
    ),
)
MEASURE = Change(
    "a measure with a limit, a reason and a cue",
    4,
    (
        Edit(
            f"{_CORE}/measures/values.py",
            "    bend_down_cents: float | None = None\n",
            "    edge: float | None = None\n",
        ),
        Edit(
            f"{_CORE}/measures/note.py",
            '        "bend_down_cents": _rounded(bent.down',
            '        "edge": _rounded(float(np.median(settled.spectral_centroid_hz)) / heard.f0_hz, 2),\n',
        ),
        Edit(
            f"{_CORE}/coach/judging/likeness.py",
            "LIKENESS = (\n",
            """def _edge(sheet: JudgingContext, note: NoteMeasures, written: ExerciseNote | None) -> None:
    if note.edge is not None and note.edge > sheet.limits["edge"]:
        sheet.find("edgy", note.target, note.onset_s, note.edge, sheet.limits["edge"])


""",
        ),
        Edit(
            f"{_CORE}/coach/judging/likeness.py",
            """    Criterion(
        "tone_match",""",
            """    Criterion(
        "edge",
        "spectral centroid over pitch",
        (FaultType("edgy", "an edge", "{note} had an edge", {"": (Cue("pushed", "Warmer air."),)}),),
        limits=(Limit("edge", "Edge", (0.4, 0.3, 0.2, 0.1), 0.1),),
        column=Column(30, "Edge", ("edge",), "one"),
        of_note=_edge,
        trend=TrendSource(TrendMeasure("edge", 30, "Edge", "", False, reason="edgy"), size_of("edge")),
    ),
""",
        ),
        Edit(f"{_CORE}/exercises/stairs.py", '"edge"),  # judged here', ""),
    ),
)
INSTRUMENT = Change(
    "an instrument",
    1,
    (
        Edit(
            f"{_CORE}/instruments/catalogue.py",
            "INSTRUMENTS: dict",
            """_INSTRUMENTS = (
    *_INSTRUMENTS,
    replace(
        next(instrument for instrument in _INSTRUMENTS if instrument.id == "tenor-horn-eb"), id="tenor-horn-proof", name="Tenor horn of the proof"
    ),
)
""",
        ),
    ),
)
_DRIVER = """
import json, sys
from pathlib import Path
from orexis.core.coach import LIMITS
from orexis.core.trends import TREND_MEASURES
from orexis.services.application import Application
from orexis.services.paper.tables import notes_csv
from orexis.services.archive import check

out = {}
house = Application(Path(sys.argv[1]))
player = house.players.add(name="Wim Olde", standard="developing", instrument="tenor-horn-proof")
out["listed"] = "echo-tones" in {exercise_type.id for exercise_type in __import__("orexis.core.exercises", fromlist=["x"]).exercise_types_for(player.own_instrument)}
out["level"] = next(item.step for item in house.planning.paths(player.id) if item.exercise_type == "echo-tones")
session = house.sessions.open(player.id, "echo-tones", {})
take = house.simulated.take(session.id, "clean", seed=2)
out["outcome"], out["reason"] = take.verdict.outcome, take.verdict.reason
out["cue"] = take.verdict.cue
ladder = house.range_summary(house.players.get(player.id))
out["credited"] = sum(note.days_held for note in ladder.range_notes.values())
out["tried"] = len(ladder.range_notes)
house.players.change_settings(player.id, {"limits": {"edge": 900.0}})
session = house.sessions.open(player.id, "echo-tones", {})
out["eased"] = house.simulated.take(session.id, "clean", seed=2).verdict.outcome
out["credited_then"] = sum(note.days_held for note in house.range_summary(house.players.get(player.id)).range_notes.values())
out["limit"], out["trend"] = "edge" in LIMITS, "edge" in TREND_MEASURES
out["followed"] = any(one.measure.id == "edge" for one in house.progress.read(player.id, 6).trends)
out["csv"] = "edge" in next(iter(notes_csv(house.record, player.id))).strip().split(",")
out["check"] = [fault.says for fault in check(house.record, mend=False)]
house.close()
print(json.dumps(out))
"""


def scratch(place: Path) -> Path:
    """A copy of the sources in which only what is changed is copied."""
    import shutil

    root = place / "src" / "orexis"
    (root / "core").mkdir(parents=True)
    source = HOME / "src" / "orexis"
    for item in sorted(source.iterdir()):
        if item.name != "core" and item.name != "__pycache__":
            os.symlink(item, root / item.name)
    for item in sorted((source / "core").iterdir()):
        if f"core/{item.name}" in _COPIED:
            shutil.copytree(item, root / "core" / item.name, ignore=shutil.ignore_patterns("__pycache__"))
        elif item.name != "__pycache__":
            os.symlink(item, root / "core" / item.name)
    return place


def make(change: Change, place: Path) -> None:
    """The change in the copy; AssertionError where what it stands before is not there once."""
    for edit in change.edits:
        path = place / edit.file
        text = path.read_text()
        assert text.count(edit.before) == 1, (
            f"{edit.file}: {edit.before!r} stands there {text.count(edit.before)} times"
        )
        path.write_text(text.replace(edit.before, edit.text + edit.before))


def driven(place: Path) -> dict[str, object]:
    """What came of playing, judging, keeping and reading them."""
    with tempfile.TemporaryDirectory() as data:
        env = dict(os.environ, PYTHONPATH=str(place / "src"))
        done = subprocess.run(
            [sys.executable, "-c", _DRIVER, data], capture_output=True, text=True, env=env, timeout=300, check=False
        )
    assert done.returncode == 0, done.stderr[-2000:]
    found: dict[str, object] = json.loads(done.stdout.splitlines()[-1])
    return found


EXPECTED: dict[str, object] = {
    "listed": True,
    "outcome": "not_yet",
    "reason": "edgy",
    "cue": "Warmer air.",
    "credited": 0,  # a finding of a new kind takes its note out of the evidence, unless it says otherwise
    "tried": 1,
    "eased": "clean",
    "credited_then": 1,
    "limit": True,
    "trend": True,
    "followed": True,
    "csv": True,
    "check": [],
}


def main() -> None:
    """Print what was done and found."""
    with tempfile.TemporaryDirectory() as folder:
        place = scratch(Path(folder))
        for change in (EXERCISE, MEASURE, INSTRUMENT):
            make(change, place)
            print(f"{change.what}: {len(change.files)} files ({', '.join(change.files)})")
            if len(change.files) > change.most_files:
                raise SystemExit(f"The page promises {change.most_files}.")
        found = driven(place)
    wrong = {name: found.get(name) for name, value in EXPECTED.items() if found.get(name) != value}
    if wrong:
        raise SystemExit(f"Not as it should be: {wrong}")
    print("played, judged, kept and read: " + ", ".join(f"{name} {value}" for name, value in found.items()))


if __name__ == "__main__":
    main()
