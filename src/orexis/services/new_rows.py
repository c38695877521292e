"""Values to rows of the store: a player, a take with its snapshots, an analysis with its note table."""

from dataclasses import asdict
from datetime import datetime
from typing import Any
from uuid import uuid4

from orexis.core.coach import Verdict, limits_of
from orexis.core.figures import Figure
from orexis.core.horn import horn_named
from orexis.core.listen import ANALYSIS_VERSION, Hearing
from orexis.core.measures import Measures
from orexis.core.sound import Sound
from orexis.errors import InputError
from orexis.services.clock import now
from orexis.services.codec import to_json
from orexis.services.journal import TakeHead
from orexis.services.values import Player, PracticeSession
from orexis.store.models import AnalysisRow, HornRow, NoteMeasureRow, PlayerRow, TakeRow

_A4_RANGE = (392.0, 466.0)
_NAME_LENGTH = 60


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
        limits=asdict(person.limits),
        schools=person.settings.chosen,
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


def whole_take_head(
    session_id: str, sound: Sound, source: str, first_beat_sample: int | None, device: dict[str, Any], at: datetime
) -> TakeHead:
    """The head of a take that comes in one piece."""
    return TakeHead(uuid4().hex, session_id, sound.rate, first_beat_sample, source, device, at.isoformat())


def fill_player(row: PlayerRow, *, name: str, stage: str, horn: str, part: str | None, a4_hz: float) -> None:
    """Settings of the person, and of the horn that is taken in hand."""
    cleaned = " ".join(name.split())
    if not 1 <= len(cleaned) <= _NAME_LENGTH:
        raise InputError(f"The name has {len(cleaned)} letters: write 1 to {_NAME_LENGTH}.")
    low, high = _A4_RANGE
    if not low <= a4_hz <= high:
        raise InputError(f"A4 is {a4_hz:g} Hz: choose {low:g} to {high:g}.")
    limits_of(stage)
    instrument = horn_named(horn)
    row.name, row.stage = cleaned, stage
    own = next((item for item in row.horns if item.instrument == horn), None)
    if own is None:
        own = HornRow(id=uuid4().hex, instrument=horn)
        row.horns.append(own)
    own.part, own.a4_hz = instrument.part(part).id, a4_hz
    row.horn_id = own.id
