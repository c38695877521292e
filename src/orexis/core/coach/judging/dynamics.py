"""Is the written loudness followed? Compared inside one take, because nobody knows how far off the microphone stands.

Where loudness is to go with the height, the lowest note is compared with the highest; else each written dynamic with the one
before it; in a set whose notes are to grow one by one, its first half with its end.
"""

from statistics import median

from orexis.core.coach.judging.context import JudgingContext
from orexis.core.coach.judging.criterion import About, Criterion, Cue, FaultType, Limit
from orexis.core.coach.judging.echoes import on_the_same_note
from orexis.core.exercises import DYNAMICS, Exercise, ExerciseNote, Loudness

_DIRECTION_DB = 0.3  # less is no difference that anyone hears
_LAST_SHARE = 0.25  # what is reached is heard on the last quarter


def written_dynamics(exercise: Exercise) -> list[tuple[str, list[ExerciseNote]]]:
    """The dynamics in turn, each with the notes that stand under it; what swells or fades stands under none."""
    spans: list[tuple[str, list[ExerciseNote]]] = []
    for place, note in enumerate(exercise.notes):
        mark = note.dynamic or (exercise.dynamic if place == 0 else None)
        if mark and (not spans or spans[-1][0] != mark):
            spans.append((mark, []))
        if note.shape in (None, "steady") and not note.free:
            spans[-1][1].append(note)
    return [(mark, notes) for mark, notes in spans if notes]


def _with_height(exercise: Exercise) -> bool:
    """Whether loudness is asked to change with the height, by dynamics at its two ends."""
    marked = {note.pitch.midi: note.dynamic for note in exercise.notes if note.dynamic}
    return exercise.loudness in (Loudness.GROW, Loudness.EASE) and len(marked) > 1


def _ends(exercise: Exercise) -> list[tuple[str, list[ExerciseNote]]]:
    """The lowest and the highest note of a line, wherever they come, with their dynamics."""
    marked = [note for note in exercise.notes if note.dynamic]
    out = []
    for pick in (min, max):
        end = pick(marked, key=lambda note: note.pitch.midi)
        out.append((end.dynamic or "", [note for note in exercise.notes if note.pitch.midi == end.pitch.midi]))
    return out


def _dynamics(sheet: JudgingContext) -> None:
    exercise = sheet.exercise
    groups = _ends(exercise) if _with_height(exercise) else written_dynamics(exercise)
    before: tuple[str, float] | None = None
    for mark, notes in groups:
        levels = _levels(sheet, notes)
        if not levels:
            sheet.skipped.add("dynamics")
            continue
        level = median(levels)
        if before is not None:
            _step(sheet, notes[0], DYNAMICS.index(mark) - DYNAMICS.index(before[0]), level - before[1])
        before = (mark, level)


def _step(sheet: JudgingContext, note: ExerciseNote, steps: int, moved_db: float) -> None:
    if not steps:
        return
    least = max(_DIRECTION_DB, sheet.limits["dynamic_step_db"] * abs(steps))
    along = moved_db if steps > 0 else -moved_db
    if least - sheet.echoes_db <= along < least:
        sheet.skipped.add("dynamics")
    elif along < least:
        heard = next((item for item in sheet.measures.notes if item.target == note.id), None)
        at_s = heard.onset_s if heard else None
        side = "louder" if steps > 0 else "softer"
        sheet.find("dynamics", note.id, at_s, round(along, 1), round(least, 1), "dB", least=True, side=side)


def _levels(sheet: JudgingContext, notes: list[ExerciseNote]) -> list[float]:
    ids = {note.id for note in notes}
    return [n.level_db for n in sheet.measures.notes if n.target in ids and n.right and n.level_db is not None]


def _each_louder(sheet: JudgingContext) -> None:
    least = sheet.exercise.least("rise")
    if least is None:
        return
    notes = list(sheet.exercise.notes)
    first = _levels(sheet, notes[: len(notes) // 2])
    last = _levels(sheet, notes[-max(1, round(_LAST_SHARE * len(notes))) :])
    if not first or not last:
        sheet.skipped.add("rise")
        return
    rise = median(last) - median(first)
    if least - sheet.echoes_db <= rise < least:
        sheet.skipped.add("rise")
    elif rise < least:
        sheet.find("rise", notes[-1].id, None, round(rise, 1), least, "dB", least=True)


DYNAMICS_JUDGED = (
    Criterion(
        "dynamics",
        "the steps between written dynamics, inside one take",
        (
            FaultType(
                "dynamics",
                "loud and soft",
                "loud and soft were hardly different{at}",
                {
                    "louder": (
                        Cue("the loud notes were hardly louder", "Start softer to leave room. Then use more air, not more lip."),
                        Cue("the loud notes were hardly louder", "Say loud and soft aloud, then play them that way."),
                    ),
                    "softer": (
                        Cue("the soft notes were hardly softer", "Use less air, just as fast. Keep the lips close together."),
                        Cue("the soft notes were hardly softer", "Play it like an echo from another room."),
                    ),
                },
                survives_loss=True, about=About.BESIDE, echoes=on_the_same_note,),
        ),
        limits=(Limit("dynamic_step_db", "Between two dynamics, dB a step", (0.3, 2.0, 3.0, 3.5), 0.3, 12.0),),
        of_whole=_dynamics,
    ),
    Criterion(
        "rise",
        "how much louder a set ends than its first half",
        (
            FaultType(
                "rise",
                "each a little louder",
                "the second half of the set was hardly louder",
                {
                    "": (
                        Cue("the notes didn’t get louder", "Use a little more air for each note. Leave the lips where they are."),
                        Cue("the notes didn’t get louder", "Start the second half soft and get louder note by note."),
                    )
                },
                survives_loss=True, about=About.BESIDE,),
        ),
        of_whole=_each_louder,
    ),
)  # fmt: skip
