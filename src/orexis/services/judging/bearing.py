"""What a judged take brings to its session: playing time, load, and for a check note how fresh the lips are."""

from sqlalchemy import select
from sqlalchemy.orm import Session

from orexis.core.coach import BASELINE_AFTER_S, Endurance, endurance_of
from orexis.core.measures import Measures, NoteMeasures, day_drift, endurance_change
from orexis.core.practice import SessionState, TakeResult, warmth_takes
from orexis.services.documents import from_json
from orexis.services.judging.judge import Judgement
from orexis.services.values.sessions import PracticeSession
from orexis.store.models import AnalysisRow


def result_of(
    db: Session, session: PracticeSession, judgement: Judgement, take_s: float, first_beat_s: float | None
) -> TakeResult:
    """The take as the session counts it. `take_s`: length of its sound; `first_beat_s`: where in it the count-in begins."""
    state = session.state
    released = [note.release_s for note in judgement.measures.notes if note.release_s is not None]
    stopped_s = max(released) - (first_beat_s or 0.0) if released else None
    fresh = _endurance(db, state, judgement.measures) if state.checking else Endurance(None)
    return TakeResult(
        judgement.verdict.outcome,
        judgement.verdict.reason,
        judgement.summary.playing_s,
        round(take_s, 2),
        judgement.summary.load,
        state.bars_after(session.exercise, stopped_s),
        fresh.state,
        tuple(f"{sign.value:g} {sign.words}" for sign in fresh.signs),
    )


def _endurance(db: Session, state: SessionState, measures: Measures) -> Endurance:
    """Against the first check after ten minutes of playing, or today's first before there is one."""
    present = _first_note(measures)
    if present is None or not state.checks:
        return endurance_of(None)
    baseline = next((check for check in state.checks if check.playing_s >= BASELINE_AFTER_S), state.checks[0])
    before, after = warmth_takes(state, baseline.take_id)
    kept = _measures(db, (baseline.take_id, *before, *after))
    first = _first_note(kept[baseline.take_id]) if baseline.take_id in kept else None
    if first is None:
        return endurance_of(None)
    # What the instrument's warmth has moved since the baseline: easy notes just after it against those just before now.
    drift = day_drift(_centres(kept, before), _centres(kept, after))
    return endurance_of(endurance_change(present, first, day_drift_cents=drift))


def _measures(db: Session, take_ids: tuple[str, ...]) -> dict[str, Measures]:
    """The newest measures of these takes."""
    query = (
        select(AnalysisRow.take_id, AnalysisRow.measures)
        .where(AnalysisRow.take_id.in_(take_ids))
        .order_by(AnalysisRow.version)
    )
    return {take_id: from_json(Measures, text) for take_id, text in db.execute(query)}


def _centres(kept: dict[str, Measures], take_ids: tuple[str, ...]) -> list[float]:
    notes = [note for take_id in take_ids if take_id in kept for note in kept[take_id].notes]
    return [note.pitch_error_cents for note in notes if note.target and note.pitch_error_cents is not None]


def _first_note(measures: Measures) -> NoteMeasures | None:
    return next((note for note in measures.notes if note.target and note.sounded), None)
