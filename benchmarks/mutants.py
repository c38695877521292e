"""Do the tests find what matters? Small wrong changes in rules, measures, plans and the record, one at a time; a test must catch each.

`python -m benchmarks.mutants [--only coach] [--processes 2]` copies the house aside, changes one line, runs the tests of that part,
and prints whether they noticed.
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
_SOURCE = "src/orexis"
_RULES = ("core/test_boundaries", "core/test_advance", "core/test_machine", "core/test_edge", "core/test_coach", "core/test_verdict", "core/test_evidence",
          "core/test_loudness", "core/test_exercise_types_judged")  # fmt: skip
_MEASURES = ("core/test_boundaries", "core/test_measures", "core/test_shape", "core/test_notes", "core/test_whole_exercise", "core/test_lost",
             "core/test_exercise_types_judged", "core/test_verdict", "core/test_evidence")  # fmt: skip
_PLANS = (
    "core/test_limits_of_plans",
    "core/test_paths",
    "core/test_planning",
    "core/test_goals",
    "core/test_trends",
    "core/test_tuning",
    "core/test_exercises",
    "core/test_ways",
    "core/test_advance",
    "core/test_rehearsal",
)  # fmt: skip
_RECORD = ("store/test_ownership", "store/test_sessions")
_SUMMARIES = ("store/test_projections",)


@dataclass(frozen=True, slots=True)
class Mutant:
    """One wrong change: the file under src/orexis, what stands there, what is put in its place, and the tests that must notice."""

    file: str
    old: str
    new: str
    tests: tuple[str, ...]


def _rule(file: str, old: str, new: str) -> Mutant:
    return Mutant(f"core/coach/{file}", old, new, _RULES)


def _measure(file: str, old: str, new: str) -> Mutant:
    return Mutant(f"core/measures/{file}", old, new, _MEASURES)


def _plan(file: str, old: str, new: str) -> Mutant:
    return Mutant(f"core/{file}", old, new, _PLANS)


def _record(file: str, old: str, new: str, *tests: str) -> Mutant:
    return Mutant(file, old, new, tests or _RECORD)


MUTANTS = (
    _rule("advance/climb.py", "now.comfort is not None and now.index > now.comfort", "now.comfort is not None and now.index >= now.comfort"),
    _rule("advance/climb.py", "now.index <= now.comfort", "now.index < now.comfort"),
    _rule("advance/climb.py", "now.past_tries >= 2", "now.past_tries >= 3"),
    _rule("advance/climb.py", "now.failures >= MOST_FAILURES", "now.failures > MOST_FAILURES"),
    _rule("advance/climb.py", "now.lost_in_a_row >= MOST_LOST", "now.lost_in_a_row > MOST_LOST"),
    _rule("advance/climb.py", "now.index > now.first", "now.index >= now.first"),
    _rule("advance/climb.py", "now.outcome == Outcome.CLOSE and now.failures == 1", "now.outcome == Outcome.CLOSE"),
    _rule("advance/falling.py", "now.failures < 2", "now.failures < 3"),
    _rule("advance/fan.py", "now.failures >= 2", "now.failures >= 3"),
    _rule("advance/limit.py", "now.index % 2", "(now.index + 1) % 2"),
    _rule("advance/limit.py", "now.before_lost >= _TRIES", "now.before_lost > _TRIES"),
    _rule("advance/in_order.py", "now.failures >= MOST_MISSES", "now.failures > MOST_MISSES"),
    _rule("endurance.py", "> row[2])", ">= 2.0 * row[2])"),
    _rule("endurance.py", ">= 2:", ">= 1:"),
    _rule("endurance.py", "> 2.0 * row[2]", "> 1.5 * row[2]"),
    _rule("range_notes.py", "attempt.day - day < IN_RANGE_WITHIN", "attempt.day - day <= IN_RANGE_WITHIN"),
    _rule("range_notes.py", "len(recent) >= IN_RANGE_DAYS", "len(recent) > IN_RANGE_DAYS"),
    _rule("range_notes.py", "len(range_note.failed_days) >= LOST_DAYS", "len(range_note.failed_days) > LOST_DAYS"),
    _rule("range_notes.py", "edge - INSIDE if up else edge + INSIDE", "edge - INSIDE if up else edge - INSIDE"),
    _rule("range_notes.py", "above - below > LOPSIDED", "above - below >= LOPSIDED"),
    _rule("load.py", "max(asked) >= third", "max(asked) > 2.0 * third"),
    _rule("load.py", "/ 12.0", "/ 6.0"),
    _rule("evidence.py", "2 * sum(good for good, _ in results) >= len(results)", "sum(good for good, _ in results) >= 1"),
    _rule("evidence.py", "row.right and (row.hold_s or 0.0)", "(row.hold_s or 0.0)"),
    _rule("judging/continuity.py", "move.gap_ms > limit", "move.gap_ms > 1.5 * limit"),
    _rule("judging/continuity.py", "touch.ms > limit", "touch.ms >= 2.0 * limit"),
    _rule("judging/continuity.py", "move.overshoot_cents > limit", "move.overshoot_cents < limit"),
    _rule("judging/continuity.py", "reached < asked", "reached < asked - 300"),
    _rule("judging/pitch_stability.py", "note.judged_error_cents is None", "False"),
    _rule("judging/criterion.py", "abs(value) > sheet.limits[limit]", "value > sheet.limits[limit]"),
    _rule("verdict.py", "len(ordered) == 1 and", "len(ordered) <= 2 and"),
    _rule("verdict.py", "sound.clipped_share > _CLIPPED_SHARE", "sound.clipped_share > 10 * _CLIPPED_SHARE"),
    _rule("verdict.py", "-item.share_beyond", "item.share_beyond"),
    _measure("entry.py", "_FIRST_S = 0.03", "_FIRST_S = 0.12"),
    _measure("entry.py", "np.sign(start) * cents", "cents"),
    _measure("note.py", "part = trace.part(heard.onset_s + _SLOW_START * length, heard.release_s - _BEFORE_RELEASE_S)", "part = trace.part(heard.onset_s, heard.release_s - _BEFORE_RELEASE_S)"),
    _measure("note.py", "_SETTLED_SHARE, _SLOW_START = 0.8, 0.4, 0.4", "_SETTLED_SHARE, _SLOW_START = 9.0, 0.4, 0.4"),
    _measure("note.py", "_MAD_TO_SIGMA * median", "median"),
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
    _measure("exercise.py", "float(off.mean()) - 1000.0 * taken.delay_s", "float(off.mean())"),
    _plan("progress/standing.py", "HELD_DAYS, HELD_DAYS_EASY, AMONG, MISSED_DAYS = 3, 2, 5, 3", "HELD_DAYS, HELD_DAYS_EASY, AMONG, MISSED_DAYS = 3, 2, 6, 3"),
    _plan("progress/standing.py", "played.step < now.step", "played.step <= now.step"),
    _plan("planning/week.py", "day - 1 in heavy or day + 1 in heavy", "day - 1 in heavy"),
    _plan("planning/week.py", "day - 1 in practised.spent", "day in practised.spent"),
    _plan("exercises/growth.py", "done > FIRST_WEEKS and", "done >= FIRST_WEEKS and"),
    _plan("exercises/growth.py", "empty >= START_AGAIN", "empty > START_AGAIN"),
    _plan("instruments/choosing.py", "turn = -1.0 if rule == LONGEST else 1.0", "turn = 1.0 if rule == LONGEST else -1.0"),
    # Whose it is, in one place, and who asks it there.
    _record("services/record.py", "    if getattr(row, column) != owner_id:", "    if False:"),
    _record("services/planning/routines.py", "require_owned(db, OwnRoutineRow, routine_id, player_id,", "require_owned(db, OwnRoutineRow, routine_id, db.get_one(OwnRoutineRow, routine_id).player_id,"),
    _record("services/takes/marks.py", "require_owned(db, MarkRow, mark_id, take_id,", "require_owned(db, MarkRow, mark_id, db.get_one(MarkRow, mark_id).take_id,"),
    _record("services/material/exercises.py", "require_owned(db, OwnExerciseRow, own_id, person.id,", "require_owned(db, OwnExerciseRow, own_id, db.get_one(OwnExerciseRow, own_id).player_id,"),
    _record("services/players/use.py", "    if not (owner.guest or owner.settings.teaches):", "    if False:"),
    _record("services/planning/goals.py", "require_owned(db, GoalRow, goal_id, player_id,", "require_owned(db, GoalRow, goal_id, db.get_one(GoalRow, goal_id).player_id,"),
    # What is thrown away, and for how long.
    _record("services/takes/trash.py", "    if local_day(now()) - _since(record) < KEPT_DAYS or not believed:", "    if local_day(now()) - _since(record) < 0 or not believed:"),
    _record("services/takes/trash.py", "TakeRow.discarded_at.is_not(None), TakeRow.discarded_at < before", "TakeRow.discarded_at.is_not(None)"),
    _record("services/takes/trash.py", """                db.execute(delete(TakeRow).where(TakeRow.id == key))
    for key in keys:
        record.sound_path(key).unlink(missing_ok=True)""", """                db.execute(delete(TakeRow).where(TakeRow.id == key))"""),
    _record("services/takes/trash.py", "values(sound_gone_at=moment))\n    for key in keys:\n        record.sound_path(key).unlink(missing_ok=True)", "values(sound_gone_at=moment))"),
    _record("services/takes/keeping.py", "stays = key == own.reference_take or utc(at) >= before", "stays = utc(at) >= before", "store/test_sessions", "store/test_record", "store/test_moving", "store/test_ownership"),
    _record("services/takes/keeping.py", "utc(at) >= before or", "utc(at) > before + timedelta(days=3650) or", "store/test_sessions", "store/test_record", "store/test_moving", "store/test_ownership"),
    # A take and its session, its summaries and everything else in one transaction; late takes; discarded takes.
    _record("services/takes/life.py", """            )
            write_state(db)""", """            )
        with self._record.database.writing() as db:
            write_state(db)"""),
    _record("services/takes/recorded.py", "            (retract_take if discarded else apply_take)(db, take)", "            None if discarded else apply_take(db, take)", *_SUMMARIES),
    _record("services/rows/takes.py", "if 0.0 <= rested <= LONGEST_REST_S else usual", "if 0.0 <= rested else usual"),
    _record("services/takes/given.py", "round(last.played_before_s + last.playing_s, 3)", "round(last.playing_s, 3)"),
    _record("services/projections/ranges.py", "        if _has_later_tries(db, take):", "        if False:", *_SUMMARIES),
    _record("services/projections/ranges.py", "        if take.judgement.attempts and take.row.fact is not None:\n            self._rebuild", "        if False:\n            self._rebuild", *_SUMMARIES),
    _record("services/projections/note_days.py", "        if db.scalar(later.limit(1)) is not None:", "        if False:", *_SUMMARIES),
    _record("services/projections/note_days.py", '        """Make its day from the takes that are left."""\n        self._refresh(db, take.owner, take.row.day)', '        """Make its day from the takes that are left."""', *_SUMMARIES),
    _record("services/projections/levels.py", "        if latest != before:\n            self._move_all(db, owner, latest)\n        elif", "        if", *_SUMMARIES),
    _record("services/projections/levels.py", "        elif latest is not None and day < latest:\n            self._move(db, owner, take.row.exercise_type, known=False, since=0, before=latest)\n\n    def retract", "\n    def retract", *_SUMMARIES),
    _record("services/projections/levels.py", "if day.day < before\n", "if day.day <= before\n", *_SUMMARIES),
    _record("services/projections/levels.py", "        terms = terms_of_take(values, values.terms)", "        terms = Terms(values.instrument, values.part, values.a4_hz, standard=Standard(values.standard))", *_SUMMARIES),
    _record("services/projections/days.py", "        if playing_s is None:\n", "        if takes is None:\n", *_SUMMARIES),
    _record("services/projections/days.py", ".where(*of_day, planned.is_not(None))", ".where(*takes_that_count(owner), planned.is_not(None))", *_SUMMARIES),
    _record("services/projections/evidence.py", "        for table in self.tables:\n            db.execute(delete(table).where(table.take_id == take.row.id))", "        pass", *_SUMMARIES),
    _record("services/projections/kept_take.py", "        .order_by(AnalysisRow.version.desc())", "        .order_by(AnalysisRow.version)", "store/test_remeasuring"),
    _record("services/remeasuring.py", "            if not self._takes.is_quiet(_QUIET_S):", "            if False:", "store/test_remeasuring"),
    _record("services/remeasuring.py", "        row.discarded_at = now()\n        retract_take(db, before)", "        row.discarded_at = now()", "store/test_remeasuring"),
    _record("services/planning/remember.py", "        .group_by(TakeRow.id)\n", "        .group_by(AnalysisRow.id)\n", "store/test_remeasuring"),
    _record("services/projections/rebuild.py", "        if row.id not in checks[row.session_id]:", "        if True:", "store/test_projections", "store/test_old_records", "store/test_planning", "store/test_lessons"),
    # Out and in again.
    _record("services/archive/zip_files.py", """        if digest.hexdigest() != said["sha256"]:""", "        if False:", "store/test_moving"),
    _record("services/archive/importer.py", "    if out.added:\n        rebuild(db", "    if False:\n        rebuild(db", "store/test_moving", "store/test_projections"),
    _record("services/archive/rows.py", "        if key not in known:", "        if True:", "store/test_moving"),
    _record("services/documents.py", "    for upcast in document.upcasts[version - 1 :]:", "    for upcast in document.upcasts:", "store/test_documents"),
    _record("services/documents.py", "    if version > document.version:", "    if version > document.version + 1:", "store/test_documents"),
    _record("store/database.py", """    ("SQLITE_FULL", StorageError,""", """    ("SQLITE_FULL", BusyError,""", "store/test_ownership"),
    _record("services/work.py", "            raise BusyError(", "            raise InputError(", "api/test_workers"),
    # Plans: what today may bring.
    _plan("planning/fitting.py", "* known.care.share - known.played_load)", "* known.care.share)"),
    _plan("planning/fitting.py", "{Lips.WORKED: WORKED, Lips.TIRED", "{Lips.TIRED"),
    _plan("planning/fitting.py", "* lips * known.care.share -", "* lips -"),
    _plan("planning/fitting.py", "        bound = most if bound is None else min(bound, most)", "        bound = most"),
    _plan("planning/fitting.py", "replace(block, most_load=round(block.load * share, 1))", "replace(block, most_load=None)"),
    _plan("planning/week.py", "        most = 1.5 * rate * minutes[day]", "        most = 15.0 * rate * minutes[day]"),
    _plan("planning/week.py", "    if weeks[0][0] < start - 7:", "    if weeks[0][0] < start - 14:"),
    _plan("planning/week.py", "    if day + 1 in given.performances:", "    if False:"),
    _plan("planning/week.py", "    if len(practised) > MOST_DAYS:", "    if False:"),
    _plan("planning/week.py", "(later - began) // 7 > PAUSE_WEEKS:", "False:"),
    _plan("progress/standing.py", "        if away >= least:", "        if away > least:"),
    _plan("progress/standing.py", "back if path.heavy else back // 2", "back"),
    _plan("planning/history.py", "pedals_yesterday=today - 1 in pedal_days", "pedals_yesterday=today in pedal_days"),
    _plan("planning/history.py", "pedal_days=sum(day >= monday(today) for day in pedal_days)", "pedal_days=len(pedal_days)"),
    _plan("planning/history.py", "            if today - tried >= NOTES_AFTER:", "            if today - tried > NOTES_AFTER:"),
    _plan("planning/candidates.py", "    if exercise_type.load == Load.HIGH and exercise_type.id in known.heavy_yesterday:", "    if False:"),
    _plan("planning/candidates.py", "    if known.no_heavy is not None:\n        return False\n", ""),
    _plan("planning/forecast.py", "    rate *= rng.lognormal(0.0, DRIFT, DRAWS)", "    pass"),
    _plan("planning/forecast.py", "np.percentile(calendar, (10.0, 50.0, 90.0))", "np.percentile(calendar, (25.0, 50.0, 75.0))"),
    _plan("planning/levels.py", "        while waiting and waiting[0][0] <= day.day:", "        while waiting and waiting[0][0] < day.day:"),
    _plan("exercises/growth.py", "    if returning:\n", "    if returning and not braces:\n"),
    _plan("exercises/growth.py", "        level = max(FEWEST, level - 1)", "        level = level"),
    _plan("coach/load.py", "total += _FAILED_S * _within(max(asked) / middle_hz)", "total += _FAILED_S"),
    _plan("coach/care.py", "return 0.5 if self.returning else 0.7", "return 0.7 if self.returning else 0.7"),
    _rule("evidence.py", "REASONS[finding.reason].about == About.NOTE", "False"),
    Mutant("core/coach/judging/find_faults.py", "order[place - 1] in missing", "False", ("core/test_places",)),
    Mutant("core/practice/advising.py", "min(_TEMPO_RANGE[1], max(", "min(1000, max(", _RULES),
    _plan("coach/judging/bends.py", "        if depth < _BEND_SHARE * asked:", "        if depth < 0.5 * asked:"),
    _measure("breath.py", "    return 1000.0 * max(0.0, length - _WINDOW_S)", "    return max(0.0, length - _WINDOW_S)"),
    _measure("breath.py", "_OVER_DB = 6.0", "_OVER_DB = 1.0"),
)  # fmt: skip


def tried(mutant: Mutant, house: Path) -> str:
    """Killed, lived, or no longer there; in a copy of its own."""
    target = house / _SOURCE / mutant.file
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
    files = [f"tests/{name}.py" for name in tests]
    command = [sys.executable, "-m", "pytest", "-q", "-x", "-p", "no:cacheprovider", "-m", "not broad", *files]
    env = dict(os.environ, PYTHONPATH=str(house / "src"))
    return subprocess.run(command, cwd=house, env=env, capture_output=True, timeout=900, check=False).returncode


def _copied(place: Path) -> Path:
    house = Path(tempfile.mkdtemp(dir=place))
    for part in ("src", "tests", "docs", "benchmarks", "scripts"):
        shutil.copytree(_HOME / part, house / part, ignore=shutil.ignore_patterns("web", "__pycache__"))
    shutil.copy(_HOME / "pyproject.toml", house)
    return house


def main() -> None:
    """Try all of them and print a line each."""
    read = argparse.ArgumentParser(description=__doc__)
    read.add_argument("--only", default="", help="a part of the file's name")
    read.add_argument("--processes", type=int, default=2)
    read.add_argument("--first", type=int, default=0, help="leave out so many at the beginning")
    read.add_argument("--trust", action="store_true", help="do not run the tests on the unchanged house first")
    given = read.parse_args()
    wanted = [mutant for mutant in MUTANTS[given.first :] if given.only in mutant.file]
    with tempfile.TemporaryDirectory() as place:
        houses = [_copied(Path(place)) for _ in range(given.processes)]
        for tests in {mutant.tests for mutant in wanted} if not given.trust else ():
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
