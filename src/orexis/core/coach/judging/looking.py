"""Looking a take over: every rule of what the figure judges, and whether the right notes are there."""

from orexis.core.coach.judging.basics import judged_in, left_at
from orexis.core.coach.judging.declare import Judged
from orexis.core.coach.judging.sheet import Finding, Sheet
from orexis.core.coach.judging.table import JUDGED
from orexis.core.coach.judging.there import answered


def looked_over(sheet: Sheet) -> Sheet:
    """The sheet with its findings, in the order in which they are worked on."""
    names = judged_in(sheet.figure)
    wanted = [judged for judged in JUDGED if judged.measure in names]
    alone = [judged for judged in wanted if judged.alone]
    if alone:
        wanted = alone
    else:
        _notes(sheet, [judged for judged in wanted if judged.claims or judged.of_note])
    for judged in wanted:
        if judged.of_move and not alone:
            for move in sheet.measures.moves:
                if move.slurred and judged.measure not in left_at(sheet.figure, sheet.written_after(move)):
                    judged.of_move(sheet, move)
        if judged.of_whole:
            judged.of_whole(sheet)
    lost = _lost_to_a_breath(sheet)
    found = [item for item in sheet.found if item.reason != "missing" or item.note not in lost]
    sheet.found = [item for item in found if not _follows(item, found)]
    return sheet


def _follows(finding: Finding, found: list[Finding]) -> bool:
    """Whether another finding on the same note brings this one about: what sinks from where it was right lies low."""
    if finding.reason == "gap":
        return any(item.reason == "breath-inside" and _within(item, finding) for item in found)
    if finding.reason == "bump":
        return any(item.reason == "gap" and item.note == finding.note for item in found)
    if finding.reason != "centre" or finding.value is None or finding.limit is None:
        return False
    sags = [item.value for item in found if item.reason == "sag" and item.note == finding.note and item.value]
    return any(value * finding.value > 0 and abs(finding.value) - 0.5 * abs(value) <= finding.limit for value in sags)


def _lost_to_a_breath(sheet: Sheet) -> set[str | None]:
    """The missing notes right before the one that follows a breath: that is why they are missing."""
    missing = {item.note for item in sheet.found if item.reason == "missing"}
    order = [note.id for note in sheet.figure.notes]
    lost: set[str | None] = set()
    for breath in sheet.found:
        place = order.index(breath.note) if breath.reason == "breath-inside" and breath.note in order else 0
        while place > 0 and order[place - 1] in missing:
            place -= 1
            lost.add(order[place])
    return lost


def _within(breath: Finding, gap: Finding) -> bool:
    """Whether a silence is that of a breath."""
    if breath.at_s is None or gap.at_s is None or gap.value is None:
        return False
    return gap.at_s <= breath.at_s <= gap.at_s + gap.value / 1000.0


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
        left = left_at(sheet.figure, written)
        for judged in wanted:
            if judged.of_note and note.target is not None and note.right and judged.measure not in left:
                judged.of_note(sheet, note, written)
