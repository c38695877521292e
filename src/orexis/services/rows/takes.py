"""Read the rows of a take and its analyses as values, and write them back."""

from datetime import datetime
from typing import Any

from sqlalchemy import Select, select

from orexis.core.approaches import Ask, Choice
from orexis.core.coach import Outcome, ReasonId, Standard, Verdict, limits_of
from orexis.core.exercises import Exercise
from orexis.core.listen import ANALYSIS_VERSION
from orexis.core.measures import Measures
from orexis.core.planning import TakeFact
from orexis.core.practice import LONGEST_REST_S, usual_spent_s
from orexis.core.sound import Sound
from orexis.services.clock import now, utc
from orexis.services.documents import Facts, from_json, to_json
from orexis.services.journal import MICROPHONE, TakeHead
from orexis.services.judging.judge import Judgement
from orexis.services.values.sessions import PracticeSession
from orexis.services.values.takes import ListedTake, Take
from orexis.store.models import AnalysisRow, TakeRow


def take_row(
    head: TakeHead, sound: Sound, session: PracticeSession, judgement: Judgement, number: int, *, recovered: bool
) -> TakeRow:
    """A take as it was made, snapshots included, with its first analysis. Lists' columns are filled when it is counted."""
    terms, verdict, summary = session.terms, judgement.verdict, judgement.summary
    row = TakeRow(
        id=head.take_id,
        session_id=session.id,
        player_id=session.player_id,
        exercise_index=session.state.exercise_index,
        number=number,
        started_at=datetime.fromisoformat(head.started_at),
        duration_s=round(sound.duration_s, 3),
        rate=sound.rate,
        first_beat_s=head.first_beat_s,
        source=head.source,
        exercise=judgement.exercise_text,
        instrument=terms.instrument,
        part=terms.part,
        a4_hz=terms.a4_hz,
        standard=terms.standard,
        limits=to_json(terms.limits, dict[str, float]),
        approaches=to_json(terms.chosen, dict[Ask, Choice]),
        device=to_json(head.device, Facts),
        recovered=recovered,
        sound_sha256=judgement.sound_sha256,
        remark="",
        discarded_at=None,
        day=judgement.day,
        exercise_type=session.exercise.exercise_type,
        exercise_id=session.exercise.id,
        outcome=verdict.outcome,
        reason=verdict.reason,
        playing_s=summary.playing_s,
        load=summary.load,
    )
    row.analyses = [
        AnalysisRow(
            version=ANALYSIS_VERSION,
            made_at=now(),
            outcome=verdict.outcome,
            reason=verdict.reason,
            measures=judgement.measures_text,
            verdict=judgement.verdict_text,
        )
    ]
    return row


def fact_of(row: TakeRow, session: PracticeSession, judgement: Judgement, *, last_end: datetime | None) -> TakeFact:
    """What its day remembers of a take. `last_end`: when the take before it in its session was over."""
    state, plan = session.state, session.state.current
    return TakeFact(
        exercise_type=row.exercise_type,
        day=row.day,
        exercise=session.block.exercises[state.exercise_index].id,
        outcome=judgement.verdict.outcome,
        step=plan.step,
        form=state.form,
        last=state.exercise_index + 1 == plan.exercises,
        climb=plan.advance.has_edge,
        asked=plan.sets_asked,
        reason=judgement.verdict.reason,
        load=row.load,
        playing_s=row.playing_s,
        spent_s=_spent_s(row, last_end),
        values=judgement.values,
    )


def _spent_s(row: TakeRow, last_end: datetime | None) -> float:
    """What the take cost of the day: itself, and what was rested before it by the clock.

    A pause that no rest is as long as belongs to nothing here. The first of a session, and takes that no clock ran beside (files,
    the simulated player), are counted with the usual rest: as long as was played.
    """
    usual = usual_spent_s(row.duration_s, row.playing_s)
    if last_end is None or row.source != MICROPHONE:
        return usual
    rested = (row.started_at - last_end).total_seconds()
    return round(row.duration_s + rested if 0.0 <= rested <= LONGEST_REST_S else usual, 2)


def take_of(row: TakeRow, first: AnalysisRow, newest: AnalysisRow) -> Take:
    """A take with the verdict that was given first and the newest measures."""
    return Take(
        id=row.id,
        session_id=row.session_id,
        player_id=row.player_id,
        number=row.number,
        exercise_index=row.exercise_index,
        started_at=utc(row.started_at),
        duration_s=row.duration_s,
        rate=row.rate,
        first_beat_s=row.first_beat_s,
        source=row.source,
        exercise=from_json(Exercise, row.exercise),
        instrument=row.instrument,
        part=row.part,
        a4_hz=row.a4_hz,
        standard=Standard(row.standard),
        limits=limits_of(row.standard) | from_json(dict[str, float], row.limits),
        device=from_json(Facts, row.device),
        recovered=row.recovered,
        remark=row.remark,
        discarded=row.discarded_at is not None,
        analysis_version=newest.version,
        is_old=newest.version < ANALYSIS_VERSION,
        measures=from_json(Measures, newest.measures),
        verdict=from_json(Verdict, first.verdict),
    )


def listed(sessions: tuple[str, ...]) -> Select[*tuple[Any, ...]]:
    """The kept takes of these sessions, without their snapshots, in order."""
    row = TakeRow
    return (
        select(
            row.id, row.number, row.title, row.written, row.fingering, row.outcome, row.reason, row.started_at, row.duration_s,
            row.source, row.pitch_error_cents, row.pitch_wobble_cents, row.pitch_drift_cents, row.hold_s, row.recovered,
        )
        .where(row.session_id.in_(sessions), row.discarded_at.is_(None))
        .order_by(row.session_id, row.number)
    )  # fmt: skip


def listed_take(values: Any) -> ListedTake:
    """A line of such a list."""
    id_, number, title, written, fingering, outcome, reason, started_at, *rest = values
    return ListedTake(
        id_,
        number,
        title,
        written,
        fingering,
        Outcome(outcome),
        ReasonId(reason) if reason else None,
        utc(started_at),
        *rest,
    )
