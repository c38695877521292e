"""How long a note is held, where its length is written: what a teacher hears as let go too early.

Notes to the end of a breath have a length of their own ("hold"). Short notes, notes that are led through a glide, and exercises
without a click, where the player's own tempo counts, are left alone. Where notes are to be *full* the exercise asks for a larger share.
"""

from orexis.core.coach.judging.context import JudgingContext
from orexis.core.coach.judging.criterion import Criterion, Cue, FaultType, Limit, Nearness
from orexis.core.exercises import Exercise, ExerciseNote
from orexis.core.measures import NoteMeasures

_LEAST_S = 0.75  # a shorter note may be played short: that is style
_LEAST_FULL_S = 0.4  # where notes are to be full
_ROUND = 0.05  # of the share: a tenth of a second of a long note is nobody's fault


def asks_length(exercise: Exercise, note: ExerciseNote) -> bool:
    """Whether so long a note is written that its length is judged."""
    notes = exercise.notes
    at = notes.index(note)
    led = note.glide_beats > 0.0 or (at + 1 < len(notes) and notes[at + 1].glide_beats > 0.0)
    least = _LEAST_S if exercise.share("length") is None else _LEAST_FULL_S
    return exercise.click and not (note.free or note.to_breath_end or led) and note.beats * exercise.beat_s >= least


def _length(sheet: JudgingContext, note: NoteMeasures, written: ExerciseNote | None) -> None:
    if written is None or note.hold_s is None or not asks_length(sheet.exercise, written):
        return
    lasts = written.beats * sheet.exercise.beat_s
    least = (sheet.exercise.share("length") or sheet.limits["length_share"]) * lasts
    if note.hold_s >= least:
        return
    if note.hold_s + sheet.measures.sound.lost_ms / 1000.0 >= least - _ROUND * lasts:
        sheet.skipped.add("length")
        return
    sheet.find("length", note.target, note.release_s, round(note.hold_s, 2), round(lasts, 2), "s", least=True)


LENGTH = (
    Criterion(
        "length",
        "onset to release, as a share of the written length",
        (
            FaultType(
                "length",
                "note length",
                "{note} lasted {value:1} of {limit:1} seconds",
                {
                    "": (
                        Cue("the note was let go early", "Keep the air going to the end of each note."),
                        Cue("the note was let go early", "Count the beats while you hold it."),
                    )
                },
                near=Nearness(share=0.5),
            ),
        ),
        limits=(
            Limit("length_share", "Least length of a note, share of what is written", (0.3, 0.4, 0.5, 0.55), 0.05, 0.9),
        ),
        of_note=_length,
    ),
)
