"""Checks of what a figure shapes as a whole: bends by the lip, sirens, the same note two ways."""

from statistics import fmean

from orexis.core.coach.sheet import Finding, Sheet
from orexis.core.figures import FigureNote
from orexis.core.theory import cents_between

_SIREN_STEP_CENTS = 150.0  # in 20 ms: no glide goes so fast
_SIREN_SHORT_CENTS = 100.0
_BEND_SHARE = 0.8  # of the depth asked for


def two_ways(sheet: Sheet) -> None:
    """How far the same note lies apart on two tubes."""
    if not sheet.judges("two_ways"):
        return
    by_tube: dict[str, list[float]] = {}
    for note in sheet.measures.notes:
        written = sheet.written(note)
        if written and note.right and note.judged_cents is not None:
            by_tube.setdefault(written.tube.label, []).append(note.judged_cents)
    if len(by_tube) < 2:
        sheet.skipped.add("two_ways")
        return
    first, second = (fmean(values) for values in list(by_tube.values())[:2])
    if abs(second - first) > sheet.limits.centre_cents:
        apart = round(second - first, 1)
        sheet.found.append(Finding("two-ways", "two-ways", None, None, apart, sheet.limits.centre_cents, "c"))


def bends(sheet: Sheet) -> set[str | None]:
    """Bends by the lip: depth and return. Gives the ids of the bent notes, which no other check looks at.

    A bend that is too shallow is heard as one note that moved: its depth is then that of the movement.
    """
    figure, rows = sheet.figure, {note.target: note for note in sheet.measures.notes}
    asked = sheet.need("bend")
    if asked is None or not sheet.judges("bend"):
        return set()
    seen: set[str | None] = set()
    for before, bent, after in zip(figure.notes, figure.notes[1:], figure.notes[2:], strict=False):
        if not _is_bent(before, bent):
            continue
        first, low, last = (rows.get(note.id) for note in (before, bent, after))
        if first is None or first.f0_hz is None:
            continue
        apart = low is not None and low.right and low.f0_hz is not None
        depth = _cents(first.f0_hz, low.f0_hz) if apart and low and low.f0_hz else abs(first.bend_down_cents or 0.0)
        seen.add(bent.id)
        if not apart and (last is None or not last.sounded):
            seen.add(after.id)
        if depth < _BEND_SHARE * asked:
            sheet.found.append(
                Finding("bend", "bend", bent.id, first.onset_s, round(depth, 1), _BEND_SHARE * asked, "c", least=True)
            )
        if sheet.judges("bend_back") and apart and last is not None and last.f0_hz is not None:
            off = round(-_cents(first.f0_hz, last.f0_hz), 1)
            if abs(off) > sheet.limits.centre_cents:
                sheet.found.append(
                    Finding("bend-back", "bend-back", after.id, last.onset_s, off, sheet.limits.centre_cents, "c")
                )
    return seen


def _is_bent(before: FigureNote, note: FigureNote) -> bool:
    same = before.tube == note.tube and before.partial == note.partial
    return same and note.slurred and note.pitch.midi < before.pitch.midi


def _cents(high_hz: float, low_hz: float) -> float:
    """From the second up to the first."""
    return cents_between(low_hz, high_hz)


def siren(sheet: Sheet) -> None:
    """A sweep is judged as a whole: no hole, no step, as far as was asked."""
    told, notes = sheet.measures.figure, sheet.figure.notes
    if told.siren_low_hz is None or told.siren_high_hz is None:
        sheet.skipped.add("siren")
        return
    if told.siren_breaks:
        sheet.found.append(Finding("siren-break", "siren-break", None, None, float(told.siren_breaks), None, ""))
    if (told.siren_jump_cents or 0.0) > _SIREN_STEP_CENTS:
        sheet.found.append(
            Finding("siren-jump", "siren-jump", None, None, told.siren_jump_cents, _SIREN_STEP_CENTS, "c")
        )
    midis = [note.pitch.midi for note in notes]
    asked = 100.0 * (max(midis) - min(midis)) - _SIREN_SHORT_CENTS
    reached = _cents(told.siren_high_hz, told.siren_low_hz)
    if reached < asked:
        sheet.found.append(
            Finding("siren-range", "siren-range", None, None, round(reached), asked, "c", least=True, near=200.0)
        )
