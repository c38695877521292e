"""Do the tests find what matters? Small wrong changes in the rules and measures, one at a time, each of which a test must catch.

`python -m benchmarks.mutants [--only coach] [--processes 2]` copies the house aside, changes one line, runs the core's tests
of that part, and prints whether they noticed.
"""

import argparse
import os
import shutil
import subprocess
import sys
import tempfile
from concurrent.futures import ThreadPoolExecutor
from dataclasses import dataclass
from pathlib import Path

_HOME = Path(__file__).parent.parent
_CORE = "src/orexis/core"
_RULES = ("test_boundaries", "test_advance", "test_machine", "test_edge", "test_coach", "test_verdict", "test_evidence",
          "test_loudness", "test_families_judged")  # fmt: skip
_MEASURES = ("test_boundaries", "test_measures", "test_shape", "test_notes", "test_whole_figure", "test_lost",
             "test_families_judged", "test_verdict", "test_evidence")  # fmt: skip
_PLANS = ("test_paths", "test_planning", "test_programmes", "test_trends", "test_tuning", "test_figures", "test_ways",
          "test_advance", "test_rehearsal")  # fmt: skip


@dataclass(frozen=True, slots=True)
class Mutant:
    """One wrong change: the file under the core, what stands there and what is put in its place."""

    file: str
    old: str
    new: str
    tests: tuple[str, ...]


def _rule(file: str, old: str, new: str) -> Mutant:
    return Mutant(f"coach/{file}", old, new, _RULES)


def _measure(file: str, old: str, new: str) -> Mutant:
    return Mutant(f"measures/{file}", old, new, _MEASURES)


MUTANTS = (
    _rule("advance/climb.py", "now.comfort is not None and now.index > now.comfort", "now.comfort is not None and now.index >= now.comfort"),
    _rule("advance/climb.py", "now.index <= now.comfort", "now.index < now.comfort"),
    _rule("advance/climb.py", "now.past_tries >= 2", "now.past_tries >= 3"),
    _rule("advance/climb.py", "now.failures >= MOST_FAILURES", "now.failures > MOST_FAILURES"),
    _rule("advance/climb.py", "now.lost_in_a_row >= MOST_LOST", "now.lost_in_a_row > MOST_LOST"),
    _rule("advance/climb.py", "now.index > now.first", "now.index >= now.first"),
    _rule("advance/climb.py", "now.outcome == Outcome.NEARLY and now.failures == 1", "now.outcome == Outcome.NEARLY"),
    _rule("advance/falling.py", "now.failures < 2", "now.failures < 3"),
    _rule("advance/fan.py", "now.failures >= 2", "now.failures >= 3"),
    _rule("advance/limit.py", "now.index % 2", "(now.index + 1) % 2"),
    _rule("advance/limit.py", "now.before_lost >= _TRIES", "now.before_lost > _TRIES"),
    _rule("advance/in_order.py", "now.failures >= MOST_MISSES", "now.failures > MOST_MISSES"),
    _rule("endurance.py", "> row[2])", ">= 2.0 * row[2])"),
    _rule("endurance.py", ">= 2:", ">= 1:"),
    _rule("endurance.py", "> 2.0 * row[2]", "> 1.5 * row[2]"),
    _rule("ladder.py", "attempt.day - day < OWNED_WITHIN", "attempt.day - day <= OWNED_WITHIN"),
    _rule("ladder.py", "len(recent) >= OWNED_DAYS", "len(recent) > OWNED_DAYS"),
    _rule("ladder.py", "len(rung.failed_days) >= LOST_DAYS", "len(rung.failed_days) > LOST_DAYS"),
    _rule("ladder.py", "edge - INSIDE if up else edge + INSIDE", "edge - INSIDE if up else edge - INSIDE"),
    _rule("ladder.py", "above - below > LOPSIDED", "above - below >= LOPSIDED"),
    _rule("load.py", "max(asked) >= third", "max(asked) > 2.0 * third"),
    _rule("load.py", "/ 12.0)", "/ 6.0)"),
    _rule("evidence.py", "2 * sum(good for good, _ in found) >= len(found)", "sum(good for good, _ in found) >= 1"),
    _rule("evidence.py", "row.right and (row.hold_s or 0.0)", "(row.hold_s or 0.0)"),
    _rule("judging/continuity.py", "move.gap_ms > limit", "move.gap_ms > 1.5 * limit"),
    _rule("judging/continuity.py", "touch.ms > limit", "touch.ms >= 2.0 * limit"),
    _rule("judging/continuity.py", "move.overshoot_cents > limit", "move.overshoot_cents < limit"),
    _rule("judging/continuity.py", "reached < asked", "reached < asked - 300"),
    _rule("judging/course.py", "note.judged_cents is None", "False"),
    _rule("judging/declare.py", "abs(value) > sheet.limits[limit]", "value > sheet.limits[limit]"),
    _rule("verdict.py", "len(ordered) == 1 and", "len(ordered) <= 2 and"),
    _rule("verdict.py", "sound.clipped_share > _CLIPPED_SHARE", "sound.clipped_share > 10 * _CLIPPED_SHARE"),
    _rule("verdict.py", "-item.share_beyond", "item.share_beyond"),
    _measure("entry.py", "_FIRST_S = 0.03", "_FIRST_S = 0.12"),
    _measure("entry.py", "np.sign(start) * cents", "cents"),
    _measure("note.py", "heard.release_s - max(_FALL_S, _PERIODS / heard.f0_hz), heard.release_s", "heard.release_s - 3.0 * max(_FALL_S, _PERIODS / heard.f0_hz), heard.release_s"),
    _measure("note.py", "_SETTLED_SHARE, _SLOW_START = 0.8, 0.4, 0.4", "_SETTLED_SHARE, _SLOW_START = 9.0, 0.4, 0.4"),
    _measure("note.py", "float(_MAD_TO_SIGMA * np.median", "float(np.median"),
    _measure("move.py", "direction = 1.0 if pair.after.f0_hz > pair.before.f0_hz else -1.0", "direction = 1.0"),
    _measure("move.py", "return 0.0 if gap_ms and dip > _HOLE_FROM_DB else dip", "return dip"),
    _measure("move.py", "< 1.5 * _NEAR_CENTS", "< 6.0 * _NEAR_CENTS"),
    _measure("silence.py", "HOLE_DB = 12.0", "HOLE_DB = 20.0"),
    _measure("silence.py", "_WIDENING_S = 0.010", "_WIDENING_S = 0.040"),
    _measure("breath.py", "np.percentile(quiet, 10)", "np.percentile(quiet, 60)"),
    _measure("breath.py", "max(0.0, length - _WINDOW_S)", "max(0.0, length - 4.0 * _WINDOW_S)"),
    _measure("shape.py", "(4.5, 7.5)", "(2.0, 7.5)"),
    _measure("lost.py", "(starts > 0)", "(starts >= 0)"),
    _measure("credible.py", "_UNDER_DB = 14.0", "_UNDER_DB = 40.0"),
    _measure("figure.py", "float(off.mean()) - 1000.0 * taken.delay_s", "float(off.mean())"),
    Mutant("progress/standing.py", "HELD_DAYS, HELD_DAYS_EASY, AMONG, MISSED_DAYS = 3, 2, 5, 3", "HELD_DAYS, HELD_DAYS_EASY, AMONG, MISSED_DAYS = 3, 2, 6, 3", _PLANS),
    Mutant("progress/standing.py", "played.step < now.step", "played.step <= now.step", _PLANS),
    Mutant("planning/week.py", "day - 1 in heavy or day + 1 in heavy", "day - 1 in heavy", _PLANS),
    Mutant("planning/week.py", "day - 1 in practised.spent", "day in practised.spent", _PLANS),
    Mutant("figures/growth.py", "done > FIRST_WEEKS and", "done >= FIRST_WEEKS and", _PLANS),
    Mutant("figures/growth.py", "empty >= START_AGAIN", "empty > START_AGAIN", _PLANS),
    Mutant("horn/choosing.py", "(-round(tube_length_m(horn, way.tube), 2), _arm(way))", "(round(tube_length_m(horn, way.tube), 2), _arm(way))", _PLANS),
)  # fmt: skip


def tried(mutant: Mutant, house: Path) -> str:
    """Killed, lived, or no longer there; in a copy of its own."""
    target = house / _CORE / mutant.file
    text = target.read_text()
    if text.count(mutant.old) != 1:
        return f"stands there {text.count(mutant.old)} times"
    target.write_text(text.replace(mutant.old, mutant.new))
    try:
        ended = _ran(house, mutant.tests)
    finally:
        target.write_text(text)
    return "killed" if ended == 1 else "lived" if ended == 0 else f"broken ({ended})"


def _ran(house: Path, tests: tuple[str, ...]) -> int:
    """What the tests ended with: 0 passed, 1 failed."""
    files = [f"tests/core/{name}.py" for name in tests]
    command = [sys.executable, "-m", "pytest", "-q", "-x", "-p", "no:cacheprovider", "-m", "not broad", *files]
    env = dict(os.environ, PYTHONPATH=str(house / "src"))
    return subprocess.run(command, cwd=house, env=env, capture_output=True, timeout=900, check=False).returncode


def _copied(place: Path) -> Path:
    house = Path(tempfile.mkdtemp(dir=place))
    for part in ("src", "tests", "docs"):
        shutil.copytree(_HOME / part, house / part, ignore=shutil.ignore_patterns("web", "__pycache__"))
    shutil.copy(_HOME / "pyproject.toml", house)
    return house


def main() -> None:
    """Try all of them and print a line each."""
    read = argparse.ArgumentParser(description=__doc__)
    read.add_argument("--only", default="", help="a part of the file's name")
    read.add_argument("--processes", type=int, default=2)
    given = read.parse_args()
    wanted = [mutant for mutant in MUTANTS if given.only in mutant.file]
    with tempfile.TemporaryDirectory() as place:
        houses = [_copied(Path(place)) for _ in range(given.processes)]
        for tests in {mutant.tests for mutant in wanted}:
            if _ran(houses[0], tests) != 0:
                raise SystemExit(f"Unchanged, the tests do not pass: {', '.join(tests)}.")

        def shift(at: int) -> list[tuple[Mutant, str]]:
            out = []
            for mutant in wanted[at :: given.processes]:
                said = tried(mutant, houses[at])
                print(f"{said:8} {mutant.file}: {' '.join(mutant.old.split())[:70]}", flush=True)
                out.append((mutant, said))
            return out

        with ThreadPoolExecutor(given.processes) as pool:
            told = [said for part in pool.map(shift, range(given.processes)) for _, said in part]
    print(f"\n{told.count('killed')} of {len(told)} were noticed")


if __name__ == "__main__":
    main()
