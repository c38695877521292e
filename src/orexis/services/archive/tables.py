"""What an export holds, table by table, in the order in which it can be read back: docs/export.md is made from this."""

from collections.abc import Container, Mapping
from dataclasses import dataclass, field
from typing import Any

from sqlalchemy import ColumnElement, Table

from orexis.core.approaches import Ask, Choice
from orexis.core.coach import RangeNote, Verdict
from orexis.core.device import DeviceCheck
from orexis.core.earlier_names import TABLES as TABLES_BEFORE
from orexis.core.exercises import Exercise, Series, TunePart
from orexis.core.instruments import Setup
from orexis.core.measures import Measures, TimbreProfile
from orexis.core.planning import ByHand, ExerciseTypeDay, GoalTarget, TakeFact
from orexis.core.practice import SessionState
from orexis.core.progress import PathPosition
from orexis.services.documents import DayStats, Facts, Notes, Params
from orexis.services.values.lessons import Lesson, ReviewRequest
from orexis.services.values.planning import OwnBlock
from orexis.services.values.players import PlayerSettings, Terms
from orexis.services.values.sessions import SessionSummary
from orexis.store import models as m


@dataclass(frozen=True, slots=True)
class ByKind:
    """What a column holds, by the row's `kind`."""

    kinds: Mapping[str, Any]

    def of(self, row: Mapping[str, Any]) -> Any:
        """The document's type; ValueError for a kind that there is not."""
        kind = self.kinds.get(str(row.get("kind")))
        if kind is None:
            raise ValueError(f"there is no kind “{str(row.get('kind'))[:20]}”")
        return kind


@dataclass(frozen=True, slots=True)
class ExportedTable:
    """One table as a file of JSON lines. `values`: columns that hold JSON, with what they must be.

    `key` orders the lines and tells one from another; `left_out` is made by the database itself. `derived`: a summary of takes, which
    is written for other readers and made again from the takes where the file is read.
    """

    file: str
    model: Any
    about: str
    key: tuple[str, ...] = ("id",)
    values: Mapping[str, Any] = field(default_factory=dict)
    left_out: frozenset[str] = frozenset()
    derived: bool = False

    def name_in(self, files: Container[str]) -> str | None:
        """The name of its lines among the files of an export, also of an earlier schema; None where it has none."""
        known = (self.file, *(before for before, now in TABLES_BEFORE.items() if now == self.file))
        return next((name for file in known if (name := f"{file}.jsonl") in files), None)

    @property
    def table(self) -> Table:
        """The table as the database has it."""
        table: Table = self.model.__table__
        return table

    @property
    def columns(self) -> tuple[str, ...]:
        """The names of the columns that are written, in order."""
        return tuple(column.name for column in self.table.columns if column.name not in self.left_out)

    @property
    def order(self) -> tuple[ColumnElement[Any], ...]:
        """By the key, so that the same record gives the same lines whatever way it came about."""
        return tuple(self.table.c[name] for name in self.key)


_DAY = ("player_id", "instrument", "day")
TABLES: tuple[ExportedTable, ...] = (
    ExportedTable("players", m.PlayerRow, "Who there is.", values={"settings": PlayerSettings}),
    ExportedTable("instruments", m.InstrumentRow, "Their instruments, each with its setup.", values={"setup": Setup}),
    ExportedTable(
        "devices", m.DeviceRow, "Microphones as a check found them.", ("key",), {"facts": Facts, "found": DeviceCheck}
    ),
    ExportedTable(
        "exercises",
        m.OwnExerciseRow,
        "Exercises that were kept.",
        values={"params": Params, "exercise": Exercise, "tune": tuple[TunePart, ...]},
    ),
    ExportedTable("routines", m.OwnRoutineRow, "Days that were kept.", values={"blocks": tuple[OwnBlock, ...]}),
    ExportedTable("goals", m.GoalRow, "Goals with their dates.", values={"target": GoalTarget}),
    ExportedTable("goal_days", m.GoalDayRow, "How far a goal was on a day.", ("goal_id", "day")),
    ExportedTable(
        "sessions",
        m.SessionRow,
        "Sessions: what was asked, by what it was judged, how it stands.",
        values={"params": Params, "terms": Terms, "state": SessionState, "summary": SessionSummary},
        left_out=frozenset({"owner", "endurance"}),
    ),
    ExportedTable(
        "blocks",
        m.SessionBlockRow,
        "The exercises of each block of a session.",
        ("session_id", "number"),
        {"series": Series},
    ),
    ExportedTable(
        "takes",
        m.TakeRow,
        "Takes with the exercise, limits and approaches that they were judged by.",
        values={
            "exercise": Exercise,
            "limits": dict[str, float],
            "approaches": dict[Ask, Choice],
            "device": Facts,
            "fact": TakeFact,
        },
    ),
    ExportedTable(
        "analyses",
        m.AnalysisRow,
        "What was heard and said of a take; version 1 is what was said at the time.",
        ("take_id", "version"),
        {"measures": Measures, "verdict": Verdict},
        frozenset({"id"}),
    ),
    ExportedTable("marks", m.MarkRow, "Words at moments of takes."),
    ExportedTable(
        "exchanges",
        m.ExchangeRow,
        "Lessons and review requests, sent and received.",
        values={"contents": ByKind({"lesson": Lesson, "review_request": ReviewRequest}), "taken": tuple[str, ...]},
    ),
    ExportedTable(
        "timbres",
        m.TimbreRow,
        "How a take's easiest note sounds.",
        ("take_id",),
        {"timbre": TimbreProfile},
        derived=True,
    ),
    ExportedTable(
        "tries",
        m.RangeAttemptRow,
        "Tries at notes of the range.",
        ("take_id", "midi", "day", "connected", "sounded_s"),
        left_out=frozenset({"id"}),
        derived=True,
    ),
    ExportedTable(
        "range_notes",
        m.RangeNoteRow,
        "The range, note by note.",
        ("player_id", "instrument", "midi"),
        {"range_note": RangeNote},
        derived=True,
    ),
    ExportedTable("range_days", m.RangeDayRow, "The range at the end of a day.", _DAY, derived=True),
    ExportedTable("practice_days", m.PracticeDayRow, "What was played on a day.", _DAY, derived=True),
    ExportedTable(
        "exercise_type_days",
        m.ExerciseTypeDayRow,
        "Exercise types by day.",
        (*_DAY, "exercise_type"),
        {"stats_json": ExerciseTypeDay},
        derived=True,
    ),
    ExportedTable("measures_by_day", m.MeasureDayRow, "Measures by day.", _DAY, {"stats_json": DayStats}, derived=True),
    ExportedTable(
        "measures_by_week", m.MeasureWeekRow, "Measures by week.", _DAY, {"stats_json": DayStats}, derived=True
    ),
    ExportedTable("notes_by_day", m.NoteDayRow, "Notes by day.", _DAY, {"stats_json": Notes}, derived=True),
    ExportedTable(
        "places",
        m.PathPlaceRow,
        "Where somebody stands on an exercise type's path, and where they set it by hand.",
        ("player_id", "instrument", "exercise_type"),
        {"standing": PathPosition, "by_hand": ByHand},
    ),
)
