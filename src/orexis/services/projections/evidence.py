"""What each take proves, kept beside it: columns of lists, tries at notes, how its easiest note sounds, its day's fact."""

from dataclasses import replace
from typing import Any

from sqlalchemy import delete
from sqlalchemy.orm import Session

from orexis.core.coach import Attempt, Outcome
from orexis.core.exercises import Exercise
from orexis.core.planning import TakeFact
from orexis.services.documents import Facts, from_json, to_json
from orexis.services.judging.judge import Judgement
from orexis.services.judging.reference import sound_key
from orexis.services.projections.kept_take import KeptTake, Owner
from orexis.store.models import RangeAttemptRow, TakeRow, TimbreRow


class Evidence:
    """One row of columns, its tries and its sound for each take that counts."""

    name, version = "evidence", 10
    tables: tuple[Any, ...] = (RangeAttemptRow, TimbreRow)

    def apply(self, db: Session, take: KeptTake) -> None:
        """Write the attempts and the timbre that a kept take proves."""
        row, judgement = take.row, take.judgement
        fill_columns(row, take.exercise, judgement)
        if row.fact is not None:
            fact = from_json(TakeFact, row.fact)
            row.fact = to_json(replace(fact, load=row.load, playing_s=row.playing_s, values=judgement.values))
        db.flush()
        if row.fact is not None:
            db.add_all(try_row(row, tried) for tried in judgement.attempts)
        if judgement.easiest is not None:
            db.add(timbre_row(row, judgement))
        db.flush()

    def retract(self, db: Session, take: KeptTake) -> None:
        """Take away what it proved; its columns stay, so that lists can show it."""
        for table in self.tables:
            db.execute(delete(table).where(table.take_id == take.row.id))

    def begin(self, db: Session, owner: Owner) -> None:
        """Delete what is summarised for an owner, before it is made again."""
        for table in self.tables:
            db.execute(delete(table).filter_by(**owner.key))

    def collect(self, db: Session, take: KeptTake) -> None:
        """Add one more take of a rebuild; takes come in order."""
        self.apply(db, take)

    def finish(self, db: Session, owner: Owner) -> None:
        """Nothing is left to do after the last take."""


def fill_columns(row: TakeRow, exercise: Exercise, judgement: Judgement) -> None:
    """What lists show of a take, by its newest analysis; its outcome is the one that was told."""
    summary = judgement.summary
    row.exercise_type, row.exercise_id, row.title = exercise.exercise_type, exercise.id, exercise.title
    row.written, row.fingering = summary.written, summary.fingering
    row.playing_s, row.load = summary.playing_s, summary.load
    row.pitch_error_cents, row.pitch_wobble_cents = summary.pitch_error_cents, summary.pitch_wobble_cents
    row.pitch_drift_cents, row.hold_s = summary.pitch_drift_cents, summary.hold_s


def timbre_row(row: TakeRow, judgement: Judgement) -> TimbreRow:
    """How its easiest note sounds, as a row."""
    assert judgement.easiest is not None
    return TimbreRow(
        take_id=row.id,
        player_id=row.player_id,
        instrument=row.instrument,
        source=row.source,
        device_key=sound_key(from_json(Facts, row.device)),
        started_at=row.started_at,
        clean=row.outcome == Outcome.CLEAN,
        away=judgement.easiest.away,
        timbre=to_json(judgement.easiest.timbre),
    )


def try_row(row: TakeRow, tried: Attempt) -> RangeAttemptRow:
    """A try at a note as a row."""
    return RangeAttemptRow(
        player_id=row.player_id,
        instrument=row.instrument,
        take_id=row.id,
        midi=tried.midi,
        day=tried.day,
        clean=tried.clean,
        sounded_s=tried.sounded_s,
        connected=tried.connected,
        match=tried.match,
    )
