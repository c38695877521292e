"""Looking a take over: every rule of what the exercise judges, and whether the right notes are there."""

from collections.abc import Sequence

from orexis.core.coach.judging.basics import judged_measures_of, left_at
from orexis.core.coach.judging.context import Fault, JudgingContext
from orexis.core.coach.judging.criterion import Criterion, FaultKind
from orexis.core.coach.judging.note_presence import answered
from orexis.core.coach.judging.table import JUDGED, REASONS
from orexis.core.exercises import Exercise


def find_faults(sheet: JudgingContext) -> JudgingContext:
    """The sheet with its findings, in the order in which they are worked on."""
    names = judged_measures_of(sheet.exercise)
    wanted = [judged for judged in JUDGED if judged.measure in names]
    alone = [judged for judged in wanted if judged.alone]
    if alone:
        wanted = alone
    else:
        _notes(sheet, [judged for judged in wanted if judged.claims or judged.of_note])
    for judged in wanted:
        if judged.of_move and not alone:
            for move in sheet.measures.moves:
                if move.slurred and judged.measure not in left_at(sheet.exercise, sheet.written_after(move)):
                    judged.of_move(sheet, move)
        if judged.of_whole:
            judged.of_whole(sheet)
    sheet.found = [item for item in sheet.found if not _follows(item, sheet.found)]
    return sheet


def _follows(finding: Fault, faults: list[Fault]) -> bool:
    """Whether another finding on the same note brings this one about."""
    follows = REASONS[finding.reason].follows
    return follows is not None and follows(finding, [item for item in faults if item.note == finding.note])


def remove_faults_of_breaths(faults: Sequence[Fault], exercise: Exercise) -> list[Fault]:
    """The findings less what a breath inside, where it is among them, explains: its own silence, and the notes lost to it."""
    breaths = [item for item in faults if _is(item, FaultKind.BREATH)]
    missing = {item.note for item in faults if _is(item, FaultKind.ABSENT)}
    order = [note.id for note in exercise.notes]
    lost: set[str | None] = set()
    for breath in breaths:
        place = order.index(breath.note) if breath.note in order else 0
        while place > 0 and order[place - 1] in missing:
            place -= 1
            lost.add(order[place])
    kept = [item for item in faults if not _is(item, FaultKind.ABSENT) or item.note not in lost]
    return [
        item
        for item in kept
        if not _is(item, FaultKind.SILENCE) or not any(_within(breath, item) for breath in breaths)
    ]


def _is(finding: Fault, kind: FaultKind) -> bool:
    return REASONS[finding.reason].kind == kind


def _within(breath: Fault, gap: Fault) -> bool:
    """Whether a silence is that of a breath."""
    if breath.at_s is None or gap.at_s is None or gap.value is None:
        return False
    return gap.at_s <= breath.at_s <= gap.at_s + gap.value / 1000.0


def _notes(sheet: JudgingContext, wanted: list[Criterion]) -> None:
    claimed: set[str | None] = set()
    for judged in wanted:
        if judged.claims:
            claimed |= judged.claims(sheet)
    for note in sheet.measures.notes:
        written = sheet.written(note)
        # A slow glide of a semitone is heard as one note that moves: its end is no missing note.
        glided = written is not None and written.glide_beats > 0 and note.sounded is None
        if (written and written.free) or note.target in claimed or glided:
            continue
        answered(sheet, note)
        left = left_at(sheet.exercise, written)
        for judged in wanted:
            if judged.of_note and note.target is not None and note.right and judged.measure not in left:
                judged.of_note(sheet, note, written)
