"""A glide is judged by what it is: it leaves, moves evenly without a jump or a hole, arrives, and settles."""

from orexis.core.coach.judging.context import JudgingContext
from orexis.core.coach.judging.criterion import NEVER, About, Criterion, Cue, FaultType, Nearness
from orexis.core.coach.judging.echoes import on_the_same_note
from orexis.core.figures import FigureNote

_JUMP_CENTS = 60.0  # in 20 ms: no slide goes so fast, but a slot does


def _glide(sheet: JudgingContext) -> None:
    """Every note that a glide goes to, one after the other."""
    targets: dict[str | None, FigureNote] = {note.id: note for note in sheet.figure.notes}
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
        elif (note.glide_over_cents or 0.0) > 2.0 * sheet.limits["centre_cents"]:
            sheet.find("glide-past", note.target, at, note.glide_over_cents, 2.0 * sheet.limits["centre_cents"], "c")
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
                "a hole in the glide",
                "a silence of {value} ms on the way to {note} (limit {limit})",
                {
                    "": (
                        Cue(
                            "the air stopped on the way", "Blow through the slide: the air does not know that it moves."
                        ),
                        Cue("the air stopped on the way", "Half the way and back on one breath, then the whole way."),
                    )
                },
                about=About.BESIDE,
                echoes=on_the_same_note,
            ),
            FaultType(
                "glide-jump",
                "a jump in the glide",
                "the glide to {note} jumped by {value} cents",
                {
                    "": (
                        Cue(
                            "another slot answered on the way",
                            "Slower, and keep the lips where the first note had them.",
                        ),
                        Cue(
                            "another slot answered on the way",
                            "Soft and even; let the slide do the work, not the lips.",
                        ),
                    )
                },
                near=Nearness(by=20.0),
                about=About.BESIDE,
                echoes=on_the_same_note,
            ),
            FaultType(
                "glide-short",
                "the glide did not arrive",
                "the glide did not come to rest at {note}",
                {
                    "": (
                        Cue("it stopped short of the next slot", "Go on until the new note rings, then stay there."),
                        Cue(
                            "it stopped short of the next slot",
                            "Play the note it goes to first; then glide into that sound.",
                        ),
                    )
                },
                near=NEVER,
            ),
            FaultType(
                "glide-past",
                "beyond the end of the glide",
                "the glide went {value} cents beyond {note}",
                {
                    "": (
                        Cue("it went past the next slot", "Arrive slower: the last finger's width takes the longest."),
                        Cue("it went past the next slot", "Hear the note it goes to before you leave."),
                    )
                },
            ),
        ),
        of_whole=_glide,
    ),
)
