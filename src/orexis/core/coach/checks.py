"""What a figure judges, each a small rule over measures: what lies beyond which limit. No sound, no words."""

from itertools import pairwise
from statistics import median

from orexis.core.coach.shapes import bends, siren, two_ways
from orexis.core.coach.sheet import Finding, Sheet
from orexis.core.figures import FigureNote
from orexis.core.measures import MoveMeasures, NoteMeasures


def check(sheet: Sheet) -> None:
    """All checks; findings and what was skipped stay on the sheet."""
    if sheet.judges("siren"):
        siren(sheet)
        return
    bent = bends(sheet)
    for note in sheet.measures.notes:
        written = sheet.written(note)
        # A slow glide of a semitone is heard as one note that moves: its end is no missing note.
        glided = written is not None and written.glide_beats > 0 and note.sounded is None
        if (written and written.free) or note.target in bent or glided:
            continue
        _answer(sheet, note)
        if note.target is not None and note.right:
            _note(sheet, note, written)
    for move in sheet.measures.moves:
        if move.slurred:
            _move(sheet, move)
    for rule in (_count, _timing, _across, _breath, _trill, _loudness, two_ways):
        rule(sheet)


def _answer(sheet: Sheet, note: NoteMeasures) -> None:
    """Was the right note there at all? In a counted set what is missing is counted, not named."""
    if sheet.judges("count") and note.target is not None and not note.right:
        return
    if note.target is None:
        sheet.found.append(Finding("extra", "extra", None, note.onset_s, note.f0_hz, None, "Hz"))
    elif note.sounded is None:
        sheet.found.append(Finding("missing", "missing", note.target, note.due_s, None, None, ""))
    elif not note.right:
        sheet.found.append(Finding("wrong-partial", "wrong-partial", note.target, note.onset_s, note.f0_hz, None, "Hz"))


def _note(sheet: Sheet, note: NoteMeasures, written: FigureNote | None) -> None:
    limits, figure = sheet.limits, sheet.figure
    centre, sag = note.judged_cents, note.sag_cents
    sheet.most("centre", note, centre, limits.centre_cents, "centre-high" if (centre or 0) > 0 else "centre-low")
    sheet.most("spread", note, note.spread_cents, limits.spread_cents, "spread")
    sheet.most("sag", note, sag, limits.sag_cents, "sag-up" if (sag or 0) > 0 else "sag-down")
    sheet.most("fall_off", note, note.fall_off_cents, limits.fall_off_cents, "fall-off")
    sheet.most("level", note, note.level_wander_db, limits.level_wander_db, "level", "dB")
    if written is not None and written.shape is not None:
        sheet.most("shape", note, note.shape_off_db, limits.level_wander_db, "shape", "dB")
        _went(sheet, note, written.shape)
    if not note.slurred:
        _entry(sheet, note)
        sheet.most("response", note, note.response_ms, limits.response_ms, "response", "ms")
    if sheet.judges("splits") and note.splits + note.cracks:
        sheet.found.append(Finding("split", "split", note.target, note.onset_s, note.splits + note.cracks, None, ""))
    if sheet.judges("sound_match"):
        _match(sheet, note)
    asked = figure.hold_s if written is not None and written.to_breath_end else None
    if sheet.judges("hold") and asked is not None and note.hold_s is not None and note.hold_s < asked:
        sheet.found.append(
            Finding("hold", "hold", note.target, note.release_s, note.hold_s, round(asked, 2), "s", least=True)
        )


def _went(sheet: Sheet, note: NoteMeasures, shape: str) -> None:
    """A swell rises and a fade falls by more than the loudness may wander; what stays flat was not shaped."""
    least = sheet.limits.level_wander_db
    for wanted, moved in (("swell", note.level_rise_db), ("fade", note.level_fall_db)):
        if wanted in shape and sheet.judges("shape") and moved is not None and abs(moved) < least:
            found = Finding("shape", "shape", note.target, note.onset_s, round(abs(moved), 1), least, "dB", least=True)
            sheet.found.append(found)


def _entry(sheet: Sheet, note: NoteMeasures) -> None:
    """An entry fails when it starts further out than the limit and needs longer than the limit's time to settle."""
    if not sheet.judges("entry"):
        return
    if note.entry_cents is None or note.entry_ms is None:
        sheet.skipped.add("entry")
    elif abs(note.entry_cents) > sheet.limits.entry_cents and note.entry_ms > sheet.limits.entry_ms:
        key = "entry-below" if note.entry_cents < 0 else "entry-above"
        sheet.found.append(
            Finding("entry", key, note.target, note.onset_s, note.entry_cents, sheet.limits.entry_cents, "c")
        )


def _match(sheet: Sheet, note: NoteMeasures) -> None:
    if note.sound_match is None:
        sheet.skipped.add("sound_match")
    elif note.sound_match < sheet.limits.sound_match:
        sheet.found.append(
            Finding(
                "sound-match", "sound-match", note.target, note.onset_s, note.sound_match, sheet.limits.sound_match, "",
                least=True, near=10.0,
            )
        )  # fmt: skip


def _move(sheet: Sheet, move: MoveMeasures) -> None:
    note, limits = sheet.measures.notes[move.after].target, sheet.limits
    if sheet.judges("gap"):
        if move.gap_ms is None:
            sheet.skipped.add("gap")
        elif move.gap_ms > limits.gap_ms:
            sheet.found.append(Finding("gap", "gap", note, move.gap_start_s, move.gap_ms, limits.gap_ms, "ms"))
    if sheet.judges("caught"):
        for touch in move.caught:
            if touch.ms > limits.caught_ms:
                sheet.found.append(Finding("caught", "caught", note, touch.start_s, touch.ms, limits.caught_ms, "ms"))
    if sheet.judges("bump") and (move.bump_db or 0.0) > limits.bump_db:
        sheet.found.append(Finding("bump", "bump", note, move.start_s, move.bump_db, limits.bump_db, "dB"))


def _count(sheet: Sheet) -> None:
    asked = [note for note in sheet.measures.notes if note.target is not None]
    right = sum(note.right for note in asked)
    if sheet.judges("count") and right < len(asked):
        found = Finding("count", "count", None, None, float(right), float(len(asked)), "notes", least=True, near=1.5)
        sheet.found.append(found)


def _timing(sheet: Sheet) -> None:
    spread, limit = sheet.measures.figure.timing_spread_ms, sheet.limits.timing_spread_ms
    if not sheet.judges("timing"):
        return
    if spread is None:
        sheet.skipped.add("timing")
    elif spread > limit:
        sheet.found.append(Finding("timing", "timing", None, None, spread, limit, "ms"))


def _across(sheet: Sheet) -> None:
    across, limit = sheet.measures.figure.sound_across, sheet.limits.sound_match
    if not sheet.judges("sound_across"):
        return
    if across is None:
        sheet.skipped.add("sound_across")
    elif across < limit:
        worst = sheet.measures.figure.worst_step
        note = sheet.measures.notes[worst] if worst is not None else None
        sheet.found.append(
            Finding(
                "sound-across", "sound-across", note.target if note else None, note.onset_s if note else None,
                across, limit, "", least=True, near=10.0,
            )
        )  # fmt: skip


def _breath(sheet: Sheet) -> None:
    inside = sheet.measures.figure.breaths_inside
    if sheet.judges("one_breath"):
        if inside is None:
            sheet.skipped.add("one_breath")
        elif inside:
            sheet.found.append(Finding("breath-inside", "breath-inside", None, None, float(inside), None, ""))


def _trill(sheet: Sheet) -> None:
    asked = sheet.need("trill")
    if not sheet.judges("trill") or asked is None:
        return
    rate = _fastest_rate(sheet) or sheet.measures.figure.trill_hz
    if rate is None:
        sheet.skipped.add("trill")
    elif rate < asked:
        sheet.found.append(Finding("trill", "trill", None, None, rate, asked, "Hz", least=True))


def _fastest_rate(sheet: Sheet) -> float | None:
    """There-and-backs a second over the figure's shortest notes, from the first of them to the last."""
    shortest = min(note.beats for note in sheet.figure.notes)
    wanted = {note.id for note in sheet.figure.notes if note.beats < shortest + 1e-6}
    onsets = [n.onset_s for n in sheet.measures.notes if n.target in wanted and n.right and n.onset_s is not None]
    if len(onsets) < 0.75 * len(wanted) or len(onsets) < 4:
        return None
    apart = median(later - earlier for earlier, later in pairwise(sorted(onsets)))
    return round(1.0 / (2.0 * apart), 2) if apart > 0 else None


def _loudness(sheet: Sheet) -> None:
    """Grow: not softer going up. Ease: not louder. Even: within the stage's wander for an octave."""
    asked, slope = sheet.figure.loudness, sheet.measures.figure.loudness_by_height_db_octave
    if not sheet.judges("loudness_by_height") or asked is None:
        return
    if slope is None:
        sheet.skipped.add("loudness_by_height")
        return
    off = {"grow": -slope, "ease": slope, "even": abs(slope)}[asked]
    limit = sheet.limits.level_wander_db if asked == "even" else 0.5
    if off > limit:
        sheet.found.append(Finding("loudness", f"loudness-{asked}", None, None, slope, limit, "dB/octave"))
