"""Is the right note there at all? Looked at in every figure; in a counted set what is missing is counted, not named."""

from orexis.core.coach.judging.context import JudgingContext
from orexis.core.coach.judging.criterion import NEVER, About, Criterion, Cue, FaultKind, FaultType, Nearness
from orexis.core.coach.judging.echoes import as_silence_or, told_as
from orexis.core.figures import FigureNote, Medium
from orexis.core.measures import NoteMeasures
from orexis.core.schools import Ask, Choice


def answered(sheet: JudgingContext, note: NoteMeasures) -> None:
    """Every row of the note table: a note that was not written, one that is missing, one in another slot."""
    if sheet.judges("count") and note.target is not None and not note.right:
        return
    if note.target is None:
        sheet.find("extra", None, note.onset_s, note.f0_hz, unit="Hz")
    elif note.sounded is None:
        sheet.find("missing", note.target, note.due_s)
    elif not note.right:
        # A mouthpiece has no slots.
        reason = "wrong-note" if sheet.figure.medium == Medium.MOUTHPIECE else "wrong-partial"
        sheet.find(reason, note.target, note.onset_s, note.f0_hz, unit="Hz")


def _count(sheet: JudgingContext) -> None:
    asked = [note for note in sheet.measures.notes if note.target is not None]
    right = sum(note.right for note in asked)
    if right < len(asked):
        first = next(note.target for note in asked if not note.right)
        sheet.find("count", *sheet.place_of(first), float(right), float(len(asked)), "notes", least=True)


def _split(sheet: JudgingContext, note: NoteMeasures, written: FigureNote | None) -> None:
    if note.splits + note.cracks:
        sheet.find("split", note.target, note.onset_s, note.splits + note.cracks)


THERE = (
    Criterion(
        "",
        "a written note that did not sound",
        (
            FaultType(
                "missing",
                "a note missing",
                "{note} was not there",
                {
                    "": (
                        Cue(
                            "the note did not speak",
                            "Full breath first, then let the note start on it. Was the air moving?",
                        ),
                        Cue(
                            "the note did not speak",
                            "Sing the note, then play it softly by itself before the whole figure.",
                        ),
                        Cue(
                            "the note did not speak",
                            "Lips flat and firm from side to side, then the breath.",
                            True,
                            (Ask.LIPS, Choice.FIRM_AND_FLAT),
                        ),
                    )
                },
                near=NEVER,
                echoes=as_silence_or(told_as("missing", "wrong-partial", "wrong-note")),
                kind=FaultKind.ABSENT,
            ),
        ),
    ),
    Criterion(
        "count",
        "how many notes of a set were there",
        (
            FaultType(
                "count",
                "notes of the set",
                "{value} of {limit} notes were there",
                {
                    "": (
                        Cue(
                            "some of the set did not speak",
                            "Fewer notes, each on a full breath; the number grows by itself.",
                        ),
                        Cue(
                            "some of the set did not speak",
                            "Leave two beats more between them, and start each with air alone.",
                        ),
                    )
                },
                near=Nearness(by=1.5),
                about=About.WHOLE,
            ),
        ),
        of_whole=_count,
    ),
    Criterion(
        "",
        "another partial than the written one",
        (
            FaultType(
                "wrong-partial",
                "another slot",
                "another slot sounded for {note}",
                {
                    "": (
                        Cue(
                            "another slot answered",
                            "Hear the note in your head before you start; aim there and only there.",
                        ),
                        Cue(
                            "another slot answered",
                            "Sing it first. Then a soft start with the breath, no push of the tongue.",
                            body=True,
                        ),
                    )
                },
                near=NEVER,
                echoes=told_as("missing", "wrong-partial", "wrong-note"),
            ),
            FaultType(
                "wrong-note",
                "another note",
                "another note was buzzed for {note}",
                {
                    "": (
                        Cue(
                            "another note was buzzed", "Hear it, sing it, and keep singing in your head while you buzz."
                        ),
                        Cue("another note was buzzed", "Slide to it from the note before, then take the slide away."),
                    )
                },
                near=NEVER,
                about=About.BESIDE,
                echoes=told_as("missing", "wrong-partial", "wrong-note"),
            ),
        ),
    ),
    Criterion(
        "splits",
        "starts on another partial, and breaks to one and back",
        (
            FaultType(
                "split",
                "broke to another slot",
                "{note} broke to another slot",
                {
                    "": (
                        Cue("it broke to another slot", "A softer start, with the sound already in your ear."),
                        Cue(
                            "it broke to another slot",
                            "Tongue low, jaw a little forward, the usual setting, a shade louder.",
                            body=True,
                        ),
                    )
                },
                near=NEVER,
            ),
        ),
        of_note=_split,
    ),
)
