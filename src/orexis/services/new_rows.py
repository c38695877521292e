"""Values to rows of the store: a take with its snapshots, an analysis with its note table."""

from dataclasses import asdict
from datetime import datetime

from orexis.core.coach import Verdict, limits_of
from orexis.core.figures import Figure
from orexis.core.listen import ANALYSIS_VERSION, Hearing
from orexis.core.measures import Measures
from orexis.core.sound import Sound
from orexis.services.clock import now
from orexis.services.codec import to_json
from orexis.services.journal import TakeHead
from orexis.services.values import Player, PracticeSession
from orexis.store.models import AnalysisRow, NoteMeasureRow, TakeRow


def take_row(
    head: TakeHead,
    sound: Sound,
    session: PracticeSession,
    person: Player,
    figure: Figure,
    number: int,
    *,
    recovered: bool,
) -> TakeRow:
    """A take as it was made, snapshots included."""
    return TakeRow(
        id=head.take_id,
        session_id=session.id,
        figure_index=session.state.figure_index,
        number=number,
        started_at=datetime.fromisoformat(head.started_at),
        duration_s=round(sound.duration_s, 3),
        rate=sound.rate,
        first_beat_s=head.first_beat_s,
        source=head.source,
        figure=to_json(figure),
        horn=person.horn,
        part=person.part,
        a4_hz=person.a4_hz,
        stage=person.stage,
        limits=asdict(limits_of(person.stage)),
        device=head.device,
        recovered=recovered,
        remark="",
        discarded_at=None,
    )


def analysis_row(figure: Figure, hearing: Hearing) -> AnalysisRow:
    """What was heard and said, with its note table."""
    verdict = hearing.verdict
    assert isinstance(verdict, Verdict)
    row = AnalysisRow(
        version=ANALYSIS_VERSION,
        made_at=now(),
        outcome=verdict.outcome,
        reason=verdict.reason,
        measures=to_json(hearing.measures),
        verdict=to_json(verdict),
    )
    row.notes = _note_rows(figure, hearing.measures)
    return row


def _note_rows(figure: Figure, measures: Measures) -> list[NoteMeasureRow]:
    midi = {note.id: note.pitch.midi for note in figure.notes}
    return [
        NoteMeasureRow(
            number=note.index,
            target=note.target,
            midi=midi.get(note.target or ""),
            right=note.right,
            centre_cents=note.centre_cents,
            judged_cents=note.judged_cents,
            spread_cents=note.spread_cents,
            sag_cents=note.sag_cents,
            entry_cents=note.entry_cents,
            hold_s=note.hold_s,
            level_db=note.level_db,
        )
        for note in measures.notes
    ]
