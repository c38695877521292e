"""The verdict on a take: pure rules over measures, never over sound.

`held`: everything that the figure judges lies within the stage's limits. `nearly`: one measure of one note lies
beyond by less than half its limit. `not yet`: more than that, or a wrong or missing note. `not heard`: the sound does
not allow a judgement, which says nothing about the playing.
"""

from dataclasses import dataclass

from orexis.core.coach.limits import Limits
from orexis.core.coach.reasons import NOT_HEARD, ORDER, cue_for
from orexis.core.figures import Figure
from orexis.core.measures import Measures, MoveMeasures, NoteMeasures

OUTCOMES = ("held", "nearly", "not yet", "not heard")
_NEARLY = 0.5  # beyond by less than this share of the limit
_CLIPPED_SHARE = 0.002
_LEAST_OVER_NOISE_DB = 12.0
_NEVER_NEARLY = {"missing", "wrong-partial", "extra"}


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

    @property
    def share_beyond(self) -> float:
        """How far beyond, as a share of the limit; infinite for what has none."""
        if self.value is None or not self.limit:
            return float("inf")
        if self.reason == "hold":
            return (self.limit - self.value) / self.limit
        return (abs(self.value) - self.limit) / self.limit


@dataclass(frozen=True, slots=True)
class Verdict:
    """What was decided, and the one thing to work on first. All findings are kept, first things first."""

    outcome: str
    reason: str | None
    note: str | None
    at_s: float | None
    value: float | None
    limit: float | None
    unit: str | None
    cause: str | None
    cue: str | None
    findings: tuple[Finding, ...] = ()
    skipped: tuple[str, ...] = ()  # judged measures that could not be taken


def judge(
    measures: Measures, figure: Figure, limits: Limits, *, misses_before: dict[str, int] | None = None
) -> Verdict:
    """The verdict. `misses_before` counts the latest misses in a row for each reason of this figure."""
    silent = _not_heard(measures, figure)
    if silent is not None:
        return silent
    findings, skipped = _findings(measures, figure, limits)
    ordered = tuple(sorted(findings, key=lambda f: (ORDER.index(f.reason), -f.share_beyond)))
    if not ordered:
        return Verdict("held", None, None, None, None, None, None, None, None, (), skipped)
    first = ordered[0]
    outcome = "nearly" if len(ordered) == 1 and _is_near(first) else "not yet"
    pair = cue_for(first.cue_key, (misses_before or {}).get(first.reason, 0))
    return Verdict(
        outcome,
        first.reason,
        first.note,
        first.at_s,
        first.value,
        first.limit,
        first.unit,
        pair.cause,
        pair.cue,
        ordered,
        skipped,
    )


def _is_near(finding: Finding) -> bool:
    return finding.reason not in _NEVER_NEARLY and finding.share_beyond < _NEARLY


def _not_heard(measures: Measures, figure: Figure) -> Verdict | None:
    sound = measures.sound
    key = None
    if not any(note.sounded for note in measures.notes):
        key = "silence"
    elif sound.clipped_share > _CLIPPED_SHARE:
        key = "clipped"
    elif (
        sound.noise_db is not None
        and sound.tone_db_fs is not None
        and sound.tone_db_fs - sound.noise_db < _LEAST_OVER_NOISE_DB
    ):
        key = "too-quiet"
    elif _main_unmeasured(measures, figure):
        key = "unmeasured"
    if key is None:
        return None
    pair = NOT_HEARD[key]
    return Verdict("not heard", key, None, None, None, None, None, pair.cause, pair.cue)


def _main_unmeasured(measures: Measures, figure: Figure) -> bool:
    """Whether the measure that the figure mainly judges is missing on every note that was played."""
    heard = [note for note in measures.notes if note.target and note.sounded]
    return figure.judged[0] == "centre" and bool(heard) and all(note.judged_cents is None for note in heard)


def _findings(measures: Measures, figure: Figure, limits: Limits) -> tuple[list[Finding], tuple[str, ...]]:
    found: list[Finding] = []
    skipped: set[str] = set()
    for note in measures.notes:
        found += _answer(note)
        if note.target is not None and note.right:
            found += _of_note(note, figure, limits, skipped)
    for move in measures.moves:
        if move.slurred:
            found += _of_move(move, measures, figure, limits, skipped)
    found += _of_figure(measures, figure, limits, skipped)
    return found, tuple(sorted(skipped))


def _answer(note: NoteMeasures) -> list[Finding]:
    """Was the right note there at all?"""
    if note.target is None:
        return [Finding("extra", "extra", None, note.onset_s, note.f0_hz, None, "Hz")]
    if note.sounded is None:
        return [Finding("missing", "missing", note.target, note.due_s, None, None, "")]
    if not note.right:
        return [Finding("wrong-partial", "wrong-partial", note.target, note.onset_s, note.f0_hz, note.written_hz, "Hz")]
    return []


def _of_note(note: NoteMeasures, figure: Figure, limits: Limits, skipped: set[str]) -> list[Finding]:
    found: list[Finding] = []

    def check(name: str, value: float | None, limit: float, key: str, unit: str = "c") -> None:
        if name.replace("-", "_") not in figure.judged:
            return
        if value is None:
            skipped.add(name)
        elif abs(value) > limit:
            found.append(Finding(name, key, note.target, note.onset_s, value, limit, unit))

    centre, sag = note.judged_cents, note.sag_cents
    check("centre", centre, limits.centre_cents, "centre-high" if (centre or 0) > 0 else "centre-low")
    check("spread", note.spread_cents, limits.spread_cents, "spread")
    check("sag", sag, limits.sag_cents, "sag-up" if (sag or 0) > 0 else "sag-down")
    check("fall-off", note.fall_off_cents, limits.fall_off_cents, "fall-off")
    if not note.slurred:
        found += _entry(note, figure, limits, skipped)
    if (
        "hold" in figure.judged
        and figure.hold_s is not None
        and note.hold_s is not None
        and note.hold_s < figure.hold_s
    ):
        found.append(Finding("hold", "hold", note.target, note.release_s, note.hold_s, round(figure.hold_s, 2), "s"))
    return found


def _entry(note: NoteMeasures, figure: Figure, limits: Limits, skipped: set[str]) -> list[Finding]:
    """An entry fails when it starts further out than the limit and needs longer than the limit's time to settle."""
    if "entry" not in figure.judged:
        return []
    if note.entry_cents is None or note.entry_ms is None:
        skipped.add("entry")
        return []
    if abs(note.entry_cents) <= limits.entry_cents:
        return []
    if note.entry_ms <= limits.entry_ms:
        return []
    key = "entry-below" if note.entry_cents < 0 else "entry-above"
    return [Finding("entry", key, note.target, note.onset_s, note.entry_cents, limits.entry_cents, "c")]


def _of_move(
    move: MoveMeasures, measures: Measures, figure: Figure, limits: Limits, skipped: set[str]
) -> list[Finding]:
    found: list[Finding] = []
    note = measures.notes[move.after].target
    if "gap" in figure.judged:
        if move.gap_ms is None:
            skipped.add("gap")
        elif move.gap_ms > limits.gap_ms:
            found.append(Finding("gap", "gap", note, move.gap_start_s, move.gap_ms, limits.gap_ms, "ms"))
    if "caught" in figure.judged:
        for touch in move.caught:
            if touch.ms > limits.caught_ms:
                found.append(Finding("caught", "caught", note, touch.start_s, touch.ms, limits.caught_ms, "ms"))
    return found


def _of_figure(measures: Measures, figure: Figure, limits: Limits, skipped: set[str]) -> list[Finding]:
    if "timing" not in figure.judged:
        return []
    spread = measures.figure.timing_spread_ms
    if spread is None:
        skipped.add("timing")
        return []
    if spread <= limits.timing_spread_ms:
        return []
    return [Finding("timing", "timing", None, None, spread, limits.timing_spread_ms, "ms")]
