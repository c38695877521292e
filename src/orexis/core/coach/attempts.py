"""Which rung a take was a try at: read off the figure, its measures and the verdict."""

from orexis.core.coach.ladder import Attempt
from orexis.core.figures import Figure
from orexis.core.measures import Measures

# Families whose take is a try at a rung -> which of its notes is the rung, and whether it was reached along a line.
_RUNG_OF: dict[str, tuple[str, bool]] = {
    "long-low-tones": ("low", False),
    "step-ladder": ("high", False),
    "top-note-cold": ("high", False),
    "pair-ladder": ("far", True),
    "glide-ladder": ("high", True),
    "triad-with-reset": ("high", True),
    "one-octave-scale": ("high", True),
    "two-octave-scale": ("high", True),
    "broken-stairs": ("high", True),
    "partial-chain": ("high", True),
    "add-one-arpeggio": ("high", True),
    "interval-stairs": ("low", True),
    "falling-scale": ("low", True),
    "to-the-pedal": ("low", True),
    "pedal-sets": ("low", False),
}


def attempt_of(
    figure: Figure, measures: Measures, outcome: str, *, day: int, take_id: str | None = None
) -> Attempt | None:
    """The try that this take was; None where it was none, or could not be heard."""
    rule = _RUNG_OF.get(figure.family)
    if rule is None or outcome == "not heard":
        return None
    which, connected = rule
    start = figure.notes[0].pitch.midi
    midis = [note.pitch.midi for note in figure.notes]
    rung = {"high": max(midis), "low": min(midis), "far": max(midis, key=lambda midi: abs(midi - start))}[which]
    ids = {note.id for note in figure.notes if note.pitch.midi == rung}
    rows = [row for row in measures.notes if row.target in ids and row.right]
    sounded = max((row.hold_s or 0.0 for row in rows), default=0.0)
    match = min((row.sound_match for row in rows if row.sound_match is not None), default=None)
    return Attempt(
        midi=rung,
        day=day,
        held=outcome == "held",
        sounded_s=round(sounded, 2),
        connected=connected,
        from_midi=start if connected else None,
        take_id=take_id,
        match=match,
    )
