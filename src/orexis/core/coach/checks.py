"""What a figure judges, each a small rule over measures: what lies beyond which limit. No sound, no words."""

from dataclasses import dataclass, field
from itertools import pairwise
from statistics import fmean, median

from orexis.core.coach.limits import Limits
from orexis.core.figures import Figure, FigureNote
from orexis.core.measures import Measures, MoveMeasures, NoteMeasures
from orexis.core.theory import cents_between

_SIREN_STEP_CENTS = 150.0  # in 20 ms: no glide goes so fast
_SIREN_SHORT_CENTS = 100.0
_BEND_SHARE = 0.8  # of the depth asked for


@dataclass(frozen=True, slots=True)
class Finding:
    """One thing beyond its limit. `note` is the figure's note id, `at_s` where it is in the sound."""

    reason: str
    cue_key: str
    note: str | None
    at_s: float | None
    value: float | None
    limit: float | None
    unit: str
    least: bool = False  # the limit is the least that passes, not the most
    near: float | None = None  # how far beyond still counts as nearly; None: half the limit

    @property
    def beyond(self) -> float:
        """How far beyond the limit, in its unit; infinite for what has none."""
        if self.value is None or self.limit is None:
            return float("inf")
        return self.limit - self.value if self.least else abs(self.value) - self.limit

    @property
    def share_beyond(self) -> float:
        """The same as a share of the limit."""
        return self.beyond / self.limit if self.limit else float("inf")

    @property
    def is_near(self) -> bool:
        """Whether a take that misses by this alone is nearly held."""
        if self.limit is None:
            return False
        return self.beyond < (self.near if self.near is not None else 0.5 * self.limit)


@dataclass(slots=True)
class Sheet:
    """Everything a check needs, and what it leaves behind."""

    measures: Measures
    figure: Figure
    limits: Limits
    found: list[Finding] = field(default_factory=list)
    skipped: set[str] = field(default_factory=set)

    def judges(self, name: str) -> bool:
        """Whether the figure judges this."""
        return name in self.figure.judged

    def written(self, note: NoteMeasures) -> FigureNote | None:
        """The figure's note that a row answers."""
        return next((item for item in self.figure.notes if item.id == note.target), None)

    def most(self, name: str, note: NoteMeasures, value: float | None, limit: float, key: str, unit: str = "c") -> None:
        """A measure of a note that must not exceed a limit."""
        if not self.judges(name):
            return
        if value is None:
            self.skipped.add(name)
        elif abs(value) > limit:
            self.found.append(Finding(name.replace("_", "-"), key, note.target, note.onset_s, value, limit, unit))

    def need(self, name: str) -> float | None:
        """What the figure itself asks at least."""
        return next((item.least for item in self.figure.needs if item.measure == name), None)


def check(sheet: Sheet) -> None:
    """All checks; findings and what was skipped stay on the sheet."""
    if sheet.judges("siren"):
        _siren(sheet)
        return
    bent = _bends(sheet)
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
    for rule in (_count, _timing, _across, _breath, _trill, _loudness, _two_ways):
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


def _two_ways(sheet: Sheet) -> None:
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


def _bends(sheet: Sheet) -> set[str | None]:
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


def _siren(sheet: Sheet) -> None:
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
