"""What a judged take brings to its session: playing time, load, and for a check note how fresh the lips are."""

from sqlalchemy import select
from sqlalchemy.orm import Session

from orexis.core.coach import BASELINE_AFTER_S, Endurance, endurance_of, load_of
from orexis.core.figures import Figure
from orexis.core.listen import Hearing
from orexis.core.measures import Measures, NoteMeasures, day_drift, endurance_change
from orexis.core.practice import Heard, SessionState, warmth_takes
from orexis.services.codec import from_json
from orexis.services.values import Player
from orexis.store.models import TakeRow


def heard_of(
    db: Session, state: SessionState, person: Player, figure: Figure, hearing: Hearing, take_s: float
) -> Heard:
    """The take as the session counts it."""
    verdict, measures, horn = hearing.verdict, hearing.measures, person.instrument
    assert verdict is not None
    middle_hz = horn.middle_partial * horn.sides[0].fundamental.frequency()
    load = load_of(measures, middle_hz=middle_hz, top_hz=horn.highest.frequency(), failed=verdict.outcome == "not yet")
    fresh = _endurance(db, state, measures) if state.checking else Endurance(None)
    return Heard(
        verdict.outcome,
        verdict.reason,
        measures.figure.playing_s,
        round(take_s, 2),
        load,
        fresh.state,
        tuple(f"{sign.value:g} {sign.words}" for sign in fresh.signs),
    )


def _endurance(db: Session, state: SessionState, measures: Measures) -> Endurance:
    """Against the first check after ten minutes of playing, or today's first before there is one."""
    now = _note(measures)
    if now is None or not state.checks:
        return endurance_of(None)
    baseline = next((check for check in state.checks if check.playing_s >= BASELINE_AFTER_S), state.checks[0])
    row = db.get(TakeRow, baseline.take_id)
    first = _note(from_json(Measures, row.analyses[-1].measures)) if row else None
    if first is None:
        return endurance_of(None)
    return endurance_of(endurance_change(now, first, day_drift_cents=_drift(db, state, baseline.take_id)))


def _drift(db: Session, state: SessionState, baseline: str) -> float:
    """What the horn's warmth has moved since the baseline: easy notes just after it against those just before now."""
    first, last = warmth_takes(state, baseline)
    return day_drift(_centres(db, first), _centres(db, last))


def _centres(db: Session, take_ids: tuple[str, ...]) -> list[float]:
    rows = db.scalars(select(TakeRow).where(TakeRow.id.in_(take_ids)))
    notes = [note for row in rows for note in from_json(Measures, row.analyses[-1].measures).notes]
    return [note.centre_cents for note in notes if note.target and note.centre_cents is not None]


def _note(measures: Measures) -> NoteMeasures | None:
    return next((note for note in measures.notes if note.target and note.sounded), None)
