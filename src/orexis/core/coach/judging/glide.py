"""A glide is judged by what it is: it leaves, moves evenly without a jump or a hole, arrives, and settles."""

from orexis.core.coach.judging.context import JudgingContext
from orexis.core.coach.judging.criterion import NEVER, About, Criterion, Cue, FaultType, Nearness
from orexis.core.coach.judging.echoes import on_the_same_note
from orexis.core.exercises import ExerciseNote

_JUMP_CENTS = 60.0  # in 20 ms: no slide goes so fast, but a slot does


def _glide(sheet: JudgingContext) -> None:
    """Every note that a glide goes to, one after the other."""
    targets: dict[str | None, ExerciseNote] = {note.id: note for note in sheet.exercise.notes}
    for note in sheet.measures.notes:
        written = targets.get(note.target)
        if written is None or written.glide_beats <= 0.0 or written.free:
            continue
        if note.glide_off_cents is None or note.glide_arrived_s is None:
            sheet.find("glide-short", note.target, note.due_s)
            continue
        at = note.onset_s if note.onset_s is not None else note.due_s
        if not note.glide_arrived_s:
            sheet.find("glide-short", note.target, at, note.glide_off_cents, None, "c")
        elif (note.glide_over_cents or 0.0) > 2.0 * sheet.limits["pitch_error_cents"]:
            sheet.find(
                "glide-past", note.target, at, note.glide_over_cents, 2.0 * sheet.limits["pitch_error_cents"], "c"
            )
        if (note.glide_hole_ms or 0.0) > sheet.limits["gap_ms"]:
            sheet.find("glide-break", note.target, at, note.glide_hole_ms, sheet.limits["gap_ms"], "ms")
        if (note.glide_jump_cents or 0.0) > _JUMP_CENTS:
            sheet.find("glide-jump", note.target, at, note.glide_jump_cents, _JUMP_CENTS, "c")


GLIDE = (
    Criterion(
        "glide",
        "a glide into the next note: whether it arrives and settles, moves evenly, without a hole",
        (
            FaultType(
                "glide-break",
                "gap in the glissando",
                "there was a gap of {value:s} on the way to {note}",
                {
                    "": (
                        Cue("the air stopped on the way", "Keep blowing while the slide moves."),
                        Cue("the air stopped on the way", "Go half way and back on one breath. Then go all the way."),
                    )
                },
                about=About.BESIDE,
                echoes=on_the_same_note,
            ),
            FaultType(
                "glide-jump",
                "jump in the glissando",
                "the glissando to {note} jumped by {value} cents",
                {
                    "": (
                        Cue(
                            "another partial spoke on the way",
                            "Go more slowly. Keep the lips as they were on the first note.",
                        ),
                        Cue(
                            "another partial spoke on the way",
                            "Play softly and evenly. Let the slide do the work, not the lips.",
                        ),
                    )
                },
                near=Nearness(by=20.0),
                about=About.BESIDE,
                echoes=on_the_same_note,
            ),
            FaultType(
                "glide-short",
                "glissando stopped short",
                "the glissando stopped short of {note}",
                {
                    "": (
                        Cue("it stopped before the next note", "Keep going until the new note rings. Then stay there."),
                        Cue(
                            "it stopped before the next note",
                            "Play the top note first. Then glide into that sound.",
                        ),
                    )
                },
                near=NEVER,
            ),
            FaultType(
                "glide-past",
                "glissando too far",
                "the glissando went {value} cents past {note}",
                {
                    "": (
                        Cue("it went past the note", "Slow down as you arrive. The last bit takes longest."),
                        Cue("it went past the note", "Hear the next note before you leave the first."),
                    )
                },
            ),
        ),
        of_whole=_glide,
    ),
)
