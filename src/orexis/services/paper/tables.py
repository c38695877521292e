"""The record as CSV: takes, notes, the chart; a row at a time, so that any length can be written."""

import csv
import io
from collections.abc import Iterable, Iterator
from dataclasses import dataclass
from datetime import datetime
from typing import Any

from sqlalchemy import select

from orexis.core.coach.judging import COLUMNS
from orexis.core.exercises import FREE_PRACTICE
from orexis.core.instruments import Part, instrument_named
from orexis.core.measures import Measures, NoteMeasures
from orexis.core.theory import nearest_pitch
from orexis.services.clock import utc
from orexis.services.documents import from_json
from orexis.services.material.chart import ChartRow
from orexis.services.record import Record
from orexis.store.models import AnalysisRow, TakeRow

TAKES = (
    "id", "session", "number", "started_at", "instrument", "exercise_type", "title", "written", "fingering", "outcome", "reason", "source",
    "duration_s", "playing_s", "load", "pitch_error_cents", "pitch_wobble_cents", "pitch_drift_cents", "hold_s", "standard", "a4_hz", "remark",
)  # fmt: skip
_FIRST_OF_NOTES = (
    "take", "date", "exercise", "index", "note", "right", "slurred", "target_hz", "f0_hz", "partial", "onset_s", "release_s", "pitch_error_cents",
    "judged_error_cents", "pitch_wobble_cents", "pitch_drift_cents", "attack_error_cents", "attack_settle_ms", "fall_off_cents", "hold_s", "response_ms",
    "level_db", "level_wobble_db", "tone_to_noise_db", "spectral_centroid_hz", "tone_match", "splits", "cracks",
)  # fmt: skip
# What is judged of a note stands in the file, too, as soon as it is declared.
NOTES = (*_FIRST_OF_NOTES, *sorted({name for column in COLUMNS for name in column.fields} - set(_FIRST_OF_NOTES)))
FIELD_OF = {"target_hz": "written_hz"}  # where a column says more plainly what a field holds
_ROWS = 500  # read at once, bounds memory
_RISKY = ("=", "+", "-", "@", "\t", "\r")  # a spreadsheet would take them for a formula


def takes_csv(record: Record, player_id: str) -> Iterator[str]:
    """Every take that was kept, the oldest first."""
    row = TakeRow
    query = (
        select(
            row.id, row.session_id, row.number, row.started_at, row.instrument, row.exercise_type, row.title, row.written, row.fingering,
            row.outcome, row.reason, row.source, row.duration_s, row.playing_s, row.load, row.pitch_error_cents,
            row.pitch_wobble_cents, row.pitch_drift_cents, row.hold_s, row.standard, row.a4_hz, row.remark,
        )
        .where(row.player_id == player_id, row.discarded_at.is_(None))
        .order_by(row.started_at, row.number)
        .execution_options(yield_per=_ROWS)
    )  # fmt: skip
    yield _line(TAKES)
    with record.database.reading() as db:
        for values in db.execute(query):
            known = list(values)
            known[3] = utc(known[3]).isoformat()
            yield _line(known)


@dataclass(frozen=True, slots=True)
class TakeOfNotes:
    """What stands before the notes of a take. `written`: their names in order, as the player reads them; `free`: how the part is
    written and at which A, where nothing was asked.
    """

    id: str
    date: str
    exercise: str
    written: str
    free: tuple[Part, float] | None = None

    def name_of(self, note: NoteMeasures) -> str:
        """The name of a note by its id, which counts from n1; an extra note has none. Where nothing was asked, the nearest note's."""
        if self.free is not None and note.f0_hz is not None:
            part, a4 = self.free
            return part.transposition.written(nearest_pitch(note.f0_hz, a4=a4)).name
        names, number = self.written.split(), (note.target or "").removeprefix("n")
        return (
            names[int(number) - 1] if number.isdecimal() and 0 < int(number) <= len(names) else note.target or "extra"
        )


def notes_csv(record: Record, player_id: str) -> Iterator[str]:
    """Every note of those takes, by the newest analysis."""
    query = (
        select(
            TakeRow.id,
            TakeRow.started_at,
            TakeRow.title,
            TakeRow.written,
            TakeRow.exercise_type,
            TakeRow.instrument,
            TakeRow.part,
            TakeRow.a4_hz,
            AnalysisRow.measures,
        )
        .join(AnalysisRow, AnalysisRow.take_id == TakeRow.id)
        .where(TakeRow.player_id == player_id, TakeRow.discarded_at.is_(None))
        .where(
            AnalysisRow.version
            == select(AnalysisRow.version)
            .where(AnalysisRow.take_id == TakeRow.id)
            .order_by(AnalysisRow.version.desc())
            .limit(1)
            .correlate(TakeRow)
            .scalar_subquery()
        )
        .order_by(TakeRow.started_at, TakeRow.number)
        .execution_options(yield_per=50)
    )
    with record.database.reading() as db:
        yield from notes_lines(
            (
                TakeOfNotes(take.id, local_date(take.started_at), take.title, take.written, _free(take)),
                from_json(Measures, take.measures),
            )
            for take in db.execute(query)
        )


def _free(take: Any) -> tuple[Part, float] | None:
    """How its notes are named where nothing was asked."""
    return (
        (instrument_named(take.instrument).part(take.part), take.a4_hz) if take.exercise_type == FREE_PRACTICE else None
    )


def notes_lines(measured: Iterable[tuple[TakeOfNotes, Measures]]) -> Iterator[str]:
    """Every note of these takes with its measures."""
    yield _line(NOTES)
    for take, measures in measured:
        for note in measures.notes:
            first = (take.id, take.date, take.exercise, note.index, take.name_of(note))
            yield _line((*first, *(getattr(note, FIELD_OF.get(name, name)) for name in NOTES[len(first) :])))


def local_date(moment: datetime) -> str:
    """The date where it was played, as ISO 8601."""
    return utc(moment).astimezone().date().isoformat()


def chart_csv(rows: Iterable[ChartRow]) -> Iterator[str]:
    """A line for each way of each note."""
    yield _line(("written", "sounding", "kind", "way", "partial", "cents", "slide", "slide_mm", "reachable", "rank"))
    for row in rows:
        for option in row.options:
            lines = (
                option.label,
                option.partial,
                option.cents,
                option.slide,
                option.slide_mm,
                option.reachable,
                option.rank,
            )
            yield _line((row.written, row.sounding, row.kind, *lines))


def _line(values: Iterable[Any]) -> str:
    out = io.StringIO()
    csv.writer(out, lineterminator="\n").writerow([_plain(value) for value in values])
    return out.getvalue()


def _plain(value: Any) -> Any:
    """Words that begin like a formula are led by an apostrophe."""
    if value is None:
        return ""
    return f"'{value}" if isinstance(value, str) and value.startswith(_RISKY) else value
