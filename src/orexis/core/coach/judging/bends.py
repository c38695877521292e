"""Where the lip bends a note: how deep, how it comes back, and whether it stays where it is until then."""

from orexis.core.coach.judging.context import JudgingContext
from orexis.core.coach.judging.criterion import About, Criterion, Cue, FaultType
from orexis.core.coach.judging.echoes import on_the_same_note
from orexis.core.exercises import ExerciseNote
from orexis.core.measures import NoteMeasures
from orexis.core.theory import cents_between

_BEND_SHARE = 0.8  # of the depth asked for


def _bends(sheet: JudgingContext) -> set[str | None]:
    """Bends by the lip: depth and return. Gives the ids of the bent notes, which no other rule looks at.

    A bend that is too shallow is heard as one note that moved: its depth is then that of the movement.
    """
    exercise, rows = sheet.exercise, {note.target: note for note in sheet.measures.notes}
    asked = exercise.least("bend")
    seen: set[str | None] = set()
    if asked is None:
        return seen
    for before, bent, after in zip(exercise.notes, exercise.notes[1:], exercise.notes[2:], strict=False):
        first, low, last = (rows.get(note.id) for note in (before, bent, after))
        if not _is_bent(before, bent) or first is None or first.f0_hz is None:
            continue
        apart = low is not None and low.right and low.f0_hz is not None
        depth = (
            cents_between(low.f0_hz, first.f0_hz) if apart and low and low.f0_hz else abs(first.bend_down_cents or 0.0)
        )
        seen.add(bent.id)
        if not apart and (last is None or not last.sounded):
            seen.add(after.id)
        if depth < _BEND_SHARE * asked:
            sheet.find("bend", bent.id, first.onset_s, round(depth, 1), _BEND_SHARE * asked, "c", least=True)
        if sheet.judges("bend_back") and apart and last is not None and last.f0_hz is not None:
            off, limit = round(cents_between(first.f0_hz, last.f0_hz), 1), sheet.limits["pitch_error_cents"]
            if abs(off) > limit:
                sheet.find("bend-back", after.id, last.onset_s, off, limit, "c")
    return seen


def _dip(sheet: JudgingContext, note: NoteMeasures, written: ExerciseNote | None) -> None:
    """A note that is held while the fingers show what comes, by itself or before a bend, stays where it is."""
    notes = sheet.exercise.notes
    at = next((i for i, item in enumerate(notes) if item is written), None)
    if at is None or at + 1 >= len(notes):
        return
    alone = not notes[at].slurred and not notes[at + 1].slurred
    if not alone and not _is_bent(notes[at], notes[at + 1]):
        return
    limit = sheet.limits["pitch_drift_cents"]
    if note.pitch_drift_cents is None:
        sheet.skipped.add("dip")
        return
    down = min(note.pitch_drift_cents, -(note.bend_down_cents or 0.0) if alone else 0.0)
    if down < -limit:
        sheet.find("dip", note.target, note.onset_s, round(down, 1), limit, "c")


def _is_bent(before: ExerciseNote, note: ExerciseNote) -> bool:
    same = before.fingering == note.fingering and before.partial == note.partial
    return same and note.slurred and note.pitch.midi < before.pitch.midi


BENDS = (
    Criterion(
        "bend",
        "how deep the lip bends a note",
        (
            FaultType(
                "bend",
                "bend",
                "the bend to {note} went down {value} of {limit} cents",
                {
                    "": (
                        Cue(
                            "the bend didn’t go far enough",
                            "Sing the lower note first. Then take the sound there.",
                        ),
                        Cue(
                            "the bend didn’t go far enough",
                            "Make more room in the mouth. Leave the corners where they are.",
                            body=True,
                        ),
                    )
                },
                survives_loss=True,
                about=About.BESIDE,
                echoes=on_the_same_note,
            ),
        ),
        claims=_bends,
    ),
    Criterion(
        "dip",
        "how far a note sinks while the fingers show the next one",
        (
            FaultType(
                "dip",
                "dropped under moving fingers",
                "{note} dropped {value} cents under moving fingers",
                {
                    "": (
                        Cue(
                            "the note dropped early",
                            "Hold it as if nothing were coming. The lips wait for the fingers.",
                        ),
                        Cue(
                            "the note dropped early",
                            "Let only the fingers think of the next note. Keep the air on this one.",
                        ),
                    )
                },
                survives_loss=True,
                about=About.BESIDE,
            ),
        ),
        of_note=_dip,
    ),
    Criterion(
        "bend_back",
        "how well a bent note comes back",
        (
            FaultType(
                "bend-back",
                "return from the bend",
                "{note} came back {value:side}",
                {
                    "": (
                        Cue(
                            "the pitch didn’t come back",
                            "Let go instead of pushing up. The note finds its place.",
                        ),
                        Cue(
                            "the pitch didn’t come back",
                            "Bend half as far, and keep hearing the first note.",
                        ),
                    )
                },
                survives_loss=True,
                about=About.BESIDE,
            ),
        ),
    ),
)
