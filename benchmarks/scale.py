"""What a page's data costs with five years of daily practice, against an almost empty record: `python -m benchmarks.scale`.

Both records are filled by the same code with takes of the same kind. The small one reaches back as far as any page shows, a year,
and holds almost nothing: 122 sessions three days apart, of one take each but for the last two of 39, so that a session's page has as
much to show (198 takes). The large one has 1,513 sessions of 39, five in six days (59,000 takes). Printed for each page: CPU and SQL statements in both, and the ratio.
"""

import sys
import tempfile
import time
from collections.abc import Callable
from contextlib import contextmanager
from dataclasses import replace
from datetime import datetime, timedelta
from pathlib import Path
from uuid import uuid4

from sqlalchemy import event, insert

from orexis.core.coach import Attempt, Outcome, limits_of
from orexis.core.instruments import instrument_named
from orexis.core.listen import ANALYSIS_VERSION, JudgingTerms, ListeningTask, listen
from orexis.core.planning import CheckIn, ExerciseTypeDay, GoalKind, GoalTarget, TakeFact, with_take
from orexis.core.player import play
from orexis.core.practice import Phase, SessionState, TakeMark
from orexis.core.sound import Sound
from orexis.core.trends import SCOPES, TREND_MEASURES
from orexis.core.tuning import NoteDay
from orexis.services.application import Application
from orexis.services.clock import local_day, now
from orexis.services.documents import Notes, from_json, to_json
from orexis.services.journal import TakeHead
from orexis.services.judging.judge import judgement_of
from orexis.services.projections.days import put_day
from orexis.services.projections.evidence import fill_columns, timbre_row, try_row
from orexis.services.projections.kept_take import Owner
from orexis.services.projections.ranges import Ranges
from orexis.services.projections.registry import LEVELS
from orexis.services.queries.spans import Span
from orexis.services.rows.takes import take_row
from orexis.services.values.players import Player
from orexis.services.values.sessions import summary_of
from orexis.store.models import (
    AnalysisRow,
    ExerciseTypeDayRow,
    NoteDayRow,
    PracticeDayRow,
    RangeAttemptRow,
    SessionRow,
    TakeRow,
    TimbreRow,
)

TAKES = 39  # of a session
INSTRUMENT = "tuba-eb"
EXERCISE_TYPES_PLAYED = (
    "breath", "buzz-answer", "long-low-tones", "two-partial-slur", "find-the-middle", "step-ladder", "tune",
)  # fmt: skip
VALUES = (
    {
        key: 3.0
        for measure in TREND_MEASURES.values()
        for key in (measure.id, *((f"{measure.id}@{r}" for r in SCOPES) if measure.by_register else ()))
    }
    | {
        f"{measure}@{exercise_type}": 3.0
        for measure in ("centre", "gap", "sag")
        for exercise_type in EXERCISE_TYPES_PLAYED
    }
    | {"pitch_error_cents": 4.0}
)
WAYS = [(midi, fingering, partial) for midi in range(39, 69) for fingering, partial in (("0", 4), ("1-2", 5))][:40]


SHORT, SHORT_EVERY, EVERY = 120, 3.0, 1.2  # sessions of one take in the small record; days from one session to the next


def filled(
    folder: Path,
    sessions: int,
    *,
    takes: int = TAKES,
    short: int = 0,
    every: float = EVERY,
    until: datetime | None = None,
) -> tuple[Application, Player]:
    """A record of so many sessions, so many days apart, the last one yesterday; the first `short` have one take."""
    house = Application(folder)
    return house, fill(house, sessions, takes=takes, short=short, every=every, until=until)


def fill(
    house: Application,
    sessions: int,
    *,
    name: str = "B",
    takes: int = TAKES,
    short: int = 0,
    every: float = EVERY,
    until: datetime | None = None,
) -> Player:
    """A player more with such a record."""
    player = house.players.add(name=name, standard="developing", instrument=INSTRUMENT)
    last = (until or now()) - timedelta(days=1)
    opened = house.sessions.open(player.id, "step-ladder", {"start": "Eb3", "steps": "6"}, at=last)
    exercise = opened.exercise
    sound, _ = play(exercise, seed=1)
    heard = listen(
        sound,
        ListeningTask(instrument_named(INSTRUMENT), exercise, first_beat_s=0.0),
        JudgingTerms(limits_of("developing")),
    )
    assert heard.verdict is not None
    template = judgement_of("0" * 32, 0, exercise, opened.terms, heard.measures, heard.verdict)
    with house.record.database.writing() as db:
        model = db.get_one(SessionRow, opened.id)
        blank = {c.name: getattr(model, c.name) for c in SessionRow.__table__.columns if c.computed is None}
        for number in range(sessions):
            at = last - timedelta(days=every * (sessions - number))
            _session(db, blank, opened, sound, template, at, 1 if number < short else takes)
        db.flush()
    with house.record.database.writing() as db:
        owner = Owner(player.id, INSTRUMENT)
        Ranges().finish(db, owner)
        LEVELS.finish(db, owner)
    return player


def _session(db, blank, opened, sound: Sound, template, at: datetime, takes: int) -> None:  # type: ignore[no-untyped-def]
    key = uuid4().hex
    day = local_day(at)
    marks, rows, analyses, timbres, tries = [], [], [], [], []
    by_exercise_type: dict[str, ExerciseTypeDay] = {}
    for number in range(1, takes + 1):
        head = TakeHead(
            uuid4().hex,
            key,
            sound.rate,
            0,
            "simulated",
            {"label": "x"},
            (at + timedelta(seconds=20 * number)).isoformat(),
        )
        held = number % 3 > 0
        row = take_row(head, sound, opened, template, number, recovered=False)
        fill_columns(row, opened.exercise, template)
        row.session_id, row.day, row.outcome = key, day, Outcome.CLEAN if held else Outcome.NOT_YET
        timbre = timbre_row(row, template)
        fact = TakeFact(
            EXERCISE_TYPES_PLAYED[number % len(EXERCISE_TYPES_PLAYED)], day, row.exercise_id, Outcome(row.outcome), step=3,
            reason=None if held else "sag", load=4.0, playing_s=4.0, spent_s=20.0, values=VALUES,
        )  # fmt: skip
        row.fact, row.exercise_type, row.played_before_s = to_json(fact), fact.exercise_type, 4.0 * (number - 1)
        by_exercise_type[fact.exercise_type] = with_take(by_exercise_type.get(fact.exercise_type), fact)
        columns = {c.name: getattr(row, c.name) for c in TakeRow.__table__.columns}
        rows.append(columns)
        analyses.append({"take_id": row.id, "version": ANALYSIS_VERSION, "made_at": at, "outcome": row.outcome, "reason": None,
                         "measures": template.measures_text, "verdict": template.verdict_text})  # fmt: skip
        timbres.append({c.name: getattr(timbre, c.name) for c in TimbreRow.__table__.columns})
        tried = try_row(row, Attempt(51 + number % 12, day, held, 4.0, take_id=row.id))
        tries.append({c.name: getattr(tried, c.name) for c in RangeAttemptRow.__table__.columns if c.name != "id"})
        marks.append(TakeMark(row.id, 0, 0, row.outcome, None))

    state = replace(from_json(SessionState, blank["state"]), takes=tuple(marks), phase=Phase.DONE)
    values = blank | {
        "id": key,
        "started_at": at,
        "ended_at": at,
        "played": True,
        "state": to_json(state),
        "summary": to_json(summary_of(state)),
    }
    db.execute(insert(SessionRow), [values])
    for table, found in ((TakeRow, rows), (AnalysisRow, analyses), (TimbreRow, timbres), (RangeAttemptRow, tries)):
        db.execute(insert(table), found)
    whose = {"player_id": blank["player_id"], "instrument": INSTRUMENT, "day": day}
    for told in by_exercise_type.values():
        db.merge(ExerciseTypeDayRow(**whose, exercise_type=told.exercise_type, stats_json=to_json(told)))
    put_day(db, Owner(whose["player_id"], INSTRUMENT), day, dict.fromkeys(VALUES, (2.0, 3.0 + day % 5, 9.0, takes)))
    notes = tuple(
        NoteDay(day, midi, fingering, partial, 8, 8.0 * (day % 7 - 3), 0.0, 40.0, 2.0, 4.0, -160.0, 8, -80.0, 8)
        for midi, fingering, partial in WAYS
    )
    db.merge(NoteDayRow(**whose, stats_json=to_json(notes, Notes)))
    db.merge(
        PracticeDayRow(
            player_id=blank["player_id"],
            instrument=INSTRUMENT,
            day=day,
            takes=takes,
            clean=26,
            playing_s=160.0,
            load=160.0,
        )
    )


@contextmanager
def counted(house: Application):  # type: ignore[no-untyped-def]
    """How many SQL statements run inside."""
    said: list[str] = []

    def note(conn, cursor, statement, *rest) -> None:  # type: ignore[no-untyped-def]
        said.append(statement)

    event.listen(house.record.database.engine, "before_cursor_execute", note)
    try:
        yield said
    finally:
        event.remove(house.record.database.engine, "before_cursor_execute", note)


def pages(house: Application, player: Player) -> dict[str, Callable[[], object]]:
    """Every page's data, and what opens and ends a take."""
    house.goals.add(player.id, GoalTarget(GoalKind.HOLD, 20.0), (now() + timedelta(days=60)).date())
    opened = house.sessions.open(player.id, "long-low-tones", {})
    shown, today = house.log.page(player.id), now().date()
    latest = shown.sessions[0]
    take = latest.summary.take_ids[0]
    sound, _ = play(opened.exercise, seed=2)

    def a_take() -> object:
        session = house.sessions.open(player.id, "long-low-tones", {})
        return house.takes.whole(session.id, sound, source="file", first_beat_sample=None, device={})

    return {
        "players": lambda: house.players.all(),
        "today: left open": lambda: house.sessions.latest(player.id),
        "today: so far": lambda: house.log.today(player.id, player.instrument),
        "today: day": lambda: house.planning.day(player, 30, CheckIn()),
        "weeks": lambda: house.planning.weeks(player.id),
        "goals": lambda: house.goals.all(player.id),
        "paths": lambda: house.planning.paths(player.id),
        "progress: 12 weeks": lambda: house.progress.read(player.id, 12),
        "progress: a year": lambda: house.progress.read(player.id, 52),
        "progress: two spans": lambda: house.spans.compare(
            player.id,
            Span(today - timedelta(days=84), today - timedelta(days=57)),
            Span(today - timedelta(days=28), today),
        ),
        "progress: then and now": lambda: house.spans.then_and_now(player.id),
        "instrument or me": lambda: house.tuning.read(player.id),
        "ladder": lambda: house.range_summary(player),
        "log": lambda: house.log.page(player.id),
        "log: last page": lambda: house.log.page(player.id, offset=max(0, shown.total - 2)),
        "log: a session": lambda: house.log.takes(latest.id),
        "log: a session's page": lambda: house.log.session(latest.id),
        "log: thrown away": lambda: house.log.thrown_away(player.id),
        "take": lambda: house.takes.get(take),
        "take: others like it": lambda: house.log.like(take),
        "open a session": lambda: house.sessions.open(player.id, "long-low-tones", {}),
        "a session": lambda: house.sessions.get(opened.id),
        "a take from a file": a_take,
    }


def costs(
    houses: tuple[Application, Application], asks: tuple[Callable[[], object], Callable[[], object]], repeats: int = 25
) -> list[tuple[float, int]]:
    """Least CPU in milliseconds, and SQL statements, of both: asked in turns, so that a slow moment meets both."""
    statements = []
    for house, ask in zip(houses, asks, strict=True):
        ask()
        with counted(house) as said:
            ask()
        statements.append(len(said))
    times: tuple[list[float], list[float]] = ([], [])
    for _ in range(repeats):
        for ask, found in zip(asks, times, strict=True):
            start = time.process_time()
            ask()
            found.append(time.process_time() - start)
    return [(1000.0 * min(found), count) for found, count in zip(times, statements, strict=True)]


def main(sessions: int) -> None:
    """The table."""
    with tempfile.TemporaryDirectory() as folder:
        small, large = (
            filled(Path(folder) / "small", SHORT + 2, short=SHORT, every=SHORT_EVERY),
            filled(Path(folder) / "large", sessions),
        )
        print(f"scale      {SHORT + 2 * TAKES} takes over as long as any page shows against {sessions * TAKES}")
        few_pages, many_pages = pages(*small), pages(*large)
        asked = {name: (few_pages[name], many_pages[name]) for name in few_pages}
        for name, (few, many) in asked.items():
            repeats = 3 if name.startswith("a take") else 25
            (a, sql_a), (b, sql_b) = costs((small[0], large[0]), (few, many), repeats)
            print(f"scale      {name:22} {a:8.2f} ms {b:8.2f} ms   {b / a:5.2f} times   {sql_a} and {sql_b} statements")
        for house, _ in (small, large):
            house.close()


if __name__ == "__main__":
    main(int(sys.argv[1]) if len(sys.argv) > 1 else 1513)
