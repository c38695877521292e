"""Looking a take over: every rule of what the figure judges, and whether the right notes are there."""

from orexis.core.coach.judging.declare import Judged
from orexis.core.coach.judging.sheet import Sheet
from orexis.core.coach.judging.table import JUDGED
from orexis.core.coach.judging.there import answered


def looked_over(sheet: Sheet) -> Sheet:
    """The sheet with its findings, in the order in which they are worked on."""
    wanted = [judged for judged in JUDGED if judged.measure and sheet.judges(judged.measure)]
    alone = [judged for judged in wanted if judged.alone]
    if alone:
        wanted = alone
    else:
        _notes(sheet, [judged for judged in wanted if judged.claims or judged.of_note])
    for judged in wanted:
        if judged.of_move and not alone:
            for move in sheet.measures.moves:
                if move.slurred:
                    judged.of_move(sheet, move)
        if judged.of_whole:
            judged.of_whole(sheet)
    return sheet


def _notes(sheet: Sheet, wanted: list[Judged]) -> None:
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
        for judged in wanted:
            if judged.of_note and note.target is not None and note.right:
                judged.of_note(sheet, note, written)
