"""How long a note is held, where its length is written: what a teacher hears as let go too early, or as not short.

Notes to the end of a breath have a length of their own ("hold"). Short notes, notes that are led through a glide, and exercises
without a click, where the player's own tempo counts, are left alone. *Full* notes last longer; *portato* leaves a small space after each; *short*
ones are let go soon. What the room hides is no note's fault.
"""

from orexis.core.coach.judging.context import JudgingContext
from orexis.core.coach.judging.criterion import Criterion, Cue, FaultType, Limit, Nearness
from orexis.core.exercises import Articulation, Exercise, ExerciseNote
from orexis.core.measures import NoteMeasures

_LEAST_S = 0.75  # a shorter note may be played short: that is style
_LEAST_ASKED_S = 0.3  # where notes say how they are tongued
_LEAST_FULL_S = 0.4  # where the exercise as a whole asks for full notes, as earlier releases wrote it
_ROUND = 0.05  # of the share: a tenth of a second of a long note is nobody's fault
_TONGUE_S = 0.1  # may lie between two full notes, however short they are
_LIVELY_MS = 65.0  # a room that hides longer silences tells nothing of notes that are too long
# How much longer notes seem in a room, against the silence that it hides. A short one is heard until its echoes are gone.
_SEEM_LONGER = {Articulation.PORTATO: 1.0, Articulation.SHORT: 3.0}
# Least and most share of the written length.
_SHARES = {Articulation.FULL: (0.8, None), Articulation.PORTATO: (0.5, 0.93), Articulation.SHORT: (0.1, 0.6)}


def asks_length(exercise: Exercise, note: ExerciseNote) -> bool:
    """Whether so long a note is written that its length is judged."""
    notes = exercise.notes
    at = notes.index(note)
    led = note.glide_beats > 0.0 or (at + 1 < len(notes) and notes[at + 1].glide_beats > 0.0)
    whole = _LEAST_S if exercise.share("length") is None else _LEAST_FULL_S
    least = whole if note.articulation is None else _LEAST_ASKED_S
    return exercise.click and not (note.free or note.to_breath_end or led) and note.beats * exercise.beat_s >= least


def _length(sheet: JudgingContext, note: NoteMeasures, written: ExerciseNote | None) -> None:
    if written is None or note.hold_s is None or not asks_length(sheet.exercise, written):
        return
    lasts = written.beats * sheet.exercise.beat_s
    usual = sheet.exercise.share("length") or sheet.limits["length_share"]
    share, most = _SHARES[written.articulation] if written.articulation else (usual, None)
    least = share * lasts
    if written.articulation is not None:
        least = min(least, max(0.5 * lasts, lasts - _TONGUE_S))
        if most is not None:
            _too_long(sheet, note, written.articulation, most * lasts, lasts)
    if note.hold_s >= least:
        return
    if note.hold_s + sheet.measures.sound.lost_ms / 1000.0 >= least - _ROUND * lasts:
        sheet.skipped.add("length")
        return
    sheet.find("length", note.target, note.release_s, round(note.hold_s, 2), round(lasts, 2), "s", least=True)


def _too_long(
    sheet: JudgingContext, note: NoteMeasures, articulation: Articulation, most_s: float, lasts: float
) -> None:
    """Find a note that is held longer than its articulation asks; skip it where the room cannot tell."""
    hides_ms = sheet.measures.sound.room_hides_ms or 0.0
    most_s += _SEEM_LONGER[articulation] * hides_ms / 1000.0
    if hides_ms > _LIVELY_MS or (hides_ms and most_s >= lasts):
        sheet.skipped.add("length")
    elif note.hold_s is not None and note.hold_s > most_s:
        reason = "not-short" if articulation == Articulation.SHORT else "not-apart"
        sheet.find(reason, note.target, note.release_s, round(note.hold_s, 2), round(most_s, 2), "s")


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
            FaultType(
                "not-short",
                "notes too long",
                "{note} was not short: it lasted {value:1} seconds",
                {
                    "": (
                        Cue(
                            "the note went on too long",
                            "Let go of each note at once. The air stops it, not the tongue.",
                        ),
                        Cue("the note went on too long", "Think of each note as the start of a long one, and no more."),
                    )
                },
                near=Nearness(share=0.3),
            ),
            FaultType(
                "not-apart",
                "no space between notes",
                "there was no space after {note}",
                {
                    "": (
                        Cue("the notes ran together", "Leave a little space after each note. Keep the tongue soft."),
                        Cue("the notes ran together", "Say “doo, doo, doo” in the rhythm. Then play it like that."),
                    )
                },
                near=Nearness(share=0.2),
            ),
        ),
        limits=(
            Limit("length_share", "Least length of a note, share of what is written", (0.3, 0.4, 0.5, 0.55), 0.05, 0.9),
        ),
        of_note=_length,
    ),
)
