"""Is the right note there at all? Looked at in every exercise; in a counted set what is missing is counted, not named."""

from orexis.core.approaches import Ask, Choice
from orexis.core.coach.judging.context import JudgingContext
from orexis.core.coach.judging.criterion import NEVER, About, Criterion, Cue, FaultKind, FaultType, Nearness
from orexis.core.coach.judging.echoes import as_silence_or, as_wave_or, told_as
from orexis.core.exercises import Exercise, ExerciseNote, Medium
from orexis.core.instruments import instrument_named, slots_hz
from orexis.core.measures import NoteMeasures
from orexis.core.theory import cents_between

_COVERED = 0.5  # of its length, sounded through by the note before
_ON_PARTIAL_CENTS = 80.0  # as far as lips pull a note off its partial


def answered(sheet: JudgingContext, note: NoteMeasures) -> None:
    """Every row of the note table: a note that was not written, one that is missing, one in another slot."""
    if sheet.judges("count") and note.target is not None and not note.right:
        return
    if note.target is None:
        sheet.find("extra", None, note.onset_s, note.f0_hz, unit="Hz")
    elif note.sounded is None:
        _absent(sheet, note)
    elif not note.right:
        sheet.find(_wrong(sheet.exercise, note), note.target, note.onset_s, note.f0_hz, unit="Hz")


def _absent(sheet: JudgingContext, note: NoteMeasures) -> None:
    """A note that did not sound: because the slur into it never moved, which is told once, or for its own sake."""
    before = next((row for row in reversed(sheet.measures.notes[: note.index]) if row.sounded is not None), None)
    written, held = sheet.written(note), sheet.written(before) if before else None
    if before is None or written is None or held is None or not _sounds_through(sheet, before, note, written):
        sheet.find("missing", note.target, note.due_s)
        return
    told = any(item.reason == "stuck" and item.at_s == before.onset_s for item in sheet.found)
    if written.slurred and written.pitch != held.pitch and not told:
        side = "up" if written.pitch.midi > held.pitch.midi else "down"
        sheet.find("stuck", note.target, before.onset_s, side=side)
    elif not told:
        sheet.find("missing", note.target, note.due_s)


def _sounds_through(sheet: JudgingContext, before: NoteMeasures, note: NoteMeasures, written: ExerciseNote) -> bool:
    """Whether the note before was held through most of this one."""
    if before.release_s is None or note.due_s is None or before.pitch_error_cents is None:  # a sweep is held nowhere
        return False
    return before.release_s > note.due_s + _COVERED * written.beats * sheet.exercise.beat_s


def _wrong(exercise: Exercise, note: NoteMeasures) -> str:
    """Return what kind of wrong note it is: a mouthpiece has no partials, and not every note lies on one of the fingering."""
    if exercise.medium == Medium.MOUTHPIECE:
        return "wrong-note"
    written = next(item for item in exercise.notes if item.id == note.target)
    partials = slots_hz(instrument_named(exercise.instrument), written.fingering)
    near = note.f0_hz is None or any(abs(cents_between(hz, note.f0_hz)) < _ON_PARTIAL_CENTS for _, hz in partials)
    return "wrong-partial" if near else "wrong-fingering"


def _count(sheet: JudgingContext) -> None:
    asked = [note for note in sheet.measures.notes if note.target is not None]
    right = sum(note.right for note in asked)
    if right < len(asked):
        first = next(note.target for note in asked if not note.right)
        sheet.find("count", *sheet.place_of(first), float(right), float(len(asked)), "notes", least=True)


def _split(sheet: JudgingContext, note: NoteMeasures, written: ExerciseNote | None) -> None:
    if note.splits + note.cracks:
        sheet.find("split", note.target, note.onset_s, note.splits + note.cracks)


THERE = (
    Criterion(
        "",
        "a written note that did not sound",
        (
            FaultType(
                "missing",
                "missing note",
                "{note} didn’t sound",
                {
                    "": (
                        Cue(
                            "the note didn’t speak",
                            "Take a full breath and start the note on moving air.",
                        ),
                        Cue(
                            "the note didn’t speak",
                            "Sing the note, then play it softly on its own before the whole exercise.",
                        ),
                        Cue(
                            "the note didn’t speak",
                            "Set the lips flat and firm from side to side, then breathe.",
                            True,
                            (Ask.LIPS, Choice.FIRM_AND_FLAT),
                        ),
                    )
                },
                near=NEVER,
                echoes=as_silence_or(
                    as_wave_or(told_as("missing", "stuck", "wrong-partial", "wrong-fingering", "wrong-note"))
                ),
                kind=FaultKind.ABSENT,
            ),
            FaultType(
                "stuck",
                "slur that didn’t move",
                "the slur never moved to {note}",
                {
                    "up": (
                        Cue("the slur up didn’t move", "Speed up the air and say 'ah-ee' as you go up."),
                        Cue(
                            "the slur up didn’t move", "Slide up on the mouthpiece first. Then slur with the same air."
                        ),
                    ),
                    "down": (
                        Cue("the slur down didn’t move", "Say 'ee-oh' and let the jaw open. Keep the air going."),
                        Cue(
                            "the slur down didn’t move",
                            "Slide down on the mouthpiece first. Then slur with the same air.",
                        ),
                    ),
                },
                near=NEVER,
                echoes=told_as("missing", "stuck", "wrong-partial", "wrong-fingering", "wrong-note"),
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
                "notes in the set",
                "{value} of {limit} notes spoke",
                {
                    "": (
                        Cue(
                            "some notes didn’t speak",
                            "Play fewer notes, each on a full breath.",
                        ),
                        Cue(
                            "some notes didn’t speak",
                            "Leave two more beats between notes and start each with air alone.",
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
        "another note than the written one",
        (
            FaultType(
                "wrong-partial",
                "wrong partial",
                "{note} came out on another partial",
                {
                    "": (
                        Cue(
                            "another partial spoke",
                            "Hear the note in your head before you start it.",
                        ),
                        Cue(
                            "another partial spoke",
                            "Sing it first. Then start softly with the breath, no push from the tongue.",
                            body=True,
                        ),
                    )
                },
                near=NEVER,
                echoes=told_as("missing", "stuck", "wrong-partial", "wrong-fingering", "wrong-note"),
            ),
            FaultType(
                "wrong-fingering",
                "wrong note",
                "{note} came out as another note",
                {
                    "": (
                        Cue(
                            "another note spoke",
                            "Check your fingering or position. Then play the note on its own.",
                        ),
                        Cue(
                            "another note spoke",
                            "Sing the note, name its fingering or position, then play it.",
                        ),
                    )
                },
                near=NEVER,
                echoes=told_as("missing", "stuck", "wrong-partial", "wrong-fingering", "wrong-note"),
            ),
            FaultType(
                "wrong-note",
                "wrong note",
                "{note} was buzzed as another note",
                {
                    "": (
                        Cue(
                            "another note was buzzed", "Sing the note, and keep singing it in your head while you buzz."
                        ),
                        Cue(
                            "another note was buzzed",
                            "Slide to it from the note before. Then play it without the slide.",
                        ),
                    )
                },
                near=NEVER,
                about=About.BESIDE,
                echoes=told_as("missing", "stuck", "wrong-partial", "wrong-fingering", "wrong-note"),
            ),
        ),
    ),
    Criterion(
        "splits",
        "starts on another partial, and breaks to one and back",
        (
            FaultType(
                "split",
                "split note",
                "{note} split",
                {
                    "": (
                        Cue("the note split", "Start more softly, with the sound already in your ear."),
                        Cue(
                            "the note split",
                            "Keep the tongue low and the jaw a little forward. Keep your usual setting, a little louder.",
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
