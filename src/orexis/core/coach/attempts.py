"""Which rung a take was a try at: read off its family's role, its measures and the verdict."""

from orexis.core.coach.ladder import Attempt
from orexis.core.coach.verdict import Outcome
from orexis.core.figures import FAMILIES, Figure, Reach
from orexis.core.measures import Measures


def attempt_of(
    figure: Figure, measures: Measures, outcome: Outcome, *, day: int, take_id: str | None = None
) -> Attempt | None:
    """The try that this take was; None where it was none, or could not be heard."""
    family = FAMILIES.get(figure.family)
    if family is None or family.rung is None or outcome == Outcome.NOT_HEARD:
        return None
    start, rung = figure.notes[0].pitch.midi, _rung(figure, family.rung.reach)
    ids = {note.id for note in figure.notes if note.pitch.midi == rung}
    rows = [row for row in measures.notes if row.target in ids and row.right]
    sounded = max((row.hold_s or 0.0 for row in rows), default=0.0)
    match = min((row.sound_match for row in rows if row.sound_match is not None), default=None)
    return Attempt(
        midi=rung,
        day=day,
        held=outcome == Outcome.HELD,
        sounded_s=round(sounded, 2),
        connected=family.rung.joined,
        from_midi=start if family.rung.joined else None,
        take_id=take_id,
        match=match,
    )


def _rung(figure: Figure, reach: Reach) -> int:
    """Keyboard number of the note that is the rung."""
    midis = [note.pitch.midi for note in figure.notes]
    match reach:
        case Reach.HIGHEST:
            return max(midis)
        case Reach.LOWEST:
            return min(midis)
    return max(midis, key=lambda midi: abs(midi - midis[0]))
