"""The verdict on a take: pure rules over measures, never over sound.

`held`: everything that the figure judges lies within the stage's limits. `nearly`: one measure of one note lies
beyond by less than half its limit (sound match: by less than 10). `not yet`: more than that, or a wrong or missing note.
`not heard`: the sound does not allow a judgement, which says nothing about the playing.
"""

from collections.abc import Mapping
from dataclasses import dataclass, replace

from orexis.core.coach.checks import check
from orexis.core.coach.limits import Limits
from orexis.core.coach.reasons import NOT_HEARD, ORDER, Cue, cue_for
from orexis.core.coach.sheet import Finding, Sheet
from orexis.core.figures import Figure
from orexis.core.measures import Measures, NoteMeasures

OUTCOMES = ("held", "nearly", "not yet", "not heard")
# What a hole of a few packets in the sound cannot bring about; it can look like any other fault.
_WHOLE = frozenset({"centre", "sag", "bend", "bend-back", "two-ways", "sound-match", "shape", "loudness"})
_SMALL_LOSS_MS = 60.0
_CLIPPED_SHARE = 0.002
_LEAST_OVER_NOISE_DB = 12.0
_NEVER_NEARLY = {"missing", "wrong-partial", "extra", "split", "breath-inside", "siren-break"}
# The measure a figure mainly judges, where it is one of the notes': null on every note means that nothing was judged.
_MAIN_OF_NOTES = {"centre": "judged_cents", "ring": "ring_cents", "sag": "sag_cents", "level": "level_wander_db"}


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
    measures: Measures,
    figure: Figure,
    limits: Limits,
    *,
    misses_before: Mapping[str, int] | None = None,
    schools: Mapping[str, str] | None = None,
) -> Verdict:
    """The verdict. `misses_before` counts the latest misses in a row for each reason of this figure."""
    if figure.medium == "air":
        return _held()  # breath is ticked, not judged
    silent = _not_heard(measures, figure)
    if silent is not None:
        return silent
    sheet = Sheet(measures, figure, limits)
    check(sheet)
    findings = [item for item in sheet.found if not _allowed(item, schools)]
    ordered = tuple(sorted(findings, key=lambda f: (ORDER.index(f.reason), -f.share_beyond)))
    skipped = tuple(sorted(sheet.skipped))
    if not ordered:
        return _rings(measures, skipped) if figure.judged[:1] == ("ring",) else _held(skipped)
    first = ordered[0]
    if measures.sound.lost_ms > (_SMALL_LOSS_MS if first.reason in _WHOLE else 0.0):
        return _unheard("lost")
    near = len(ordered) == 1 and first.reason not in _NEVER_NEARLY and first.is_near
    pair = cue_for(first.cue_key, (misses_before or {}).get(first.reason, 0), schools)
    return _verdict("nearly" if near else "not yet", first, pair, ordered, skipped)


def _held(skipped: tuple[str, ...] = ()) -> Verdict:
    return Verdict("held", None, None, None, None, None, None, None, None, (), skipped)


def _rings(measures: Measures, skipped: tuple[str, ...]) -> Verdict:
    """Held, and where it rang best, in cents from where the note is asked."""
    note = next((note for note in measures.notes if note.ring_cents is not None), None)
    if note is None:
        return _held(skipped)
    return replace(_held(skipped), note=note.target, value=note.ring_cents, unit="c")


def _verdict(
    outcome: str, first: Finding, pair: Cue, ordered: tuple[Finding, ...], skipped: tuple[str, ...]
) -> Verdict:
    return Verdict(
        outcome, first.reason, first.note, first.at_s, first.value, first.limit, first.unit, pair.cause, pair.cue,
        ordered, skipped,
    )  # fmt: skip


def _allowed(finding: Finding, schools: Mapping[str, str] | None) -> bool:
    """What a school does not ask for is not held against anyone."""
    return finding.reason == "breath-inside" and (schools or {}).get("breath-inside", "").startswith("a nose breath")


def _not_heard(measures: Measures, figure: Figure) -> Verdict | None:
    sound = measures.sound
    key = None
    if sound.talking:
        key = "talking"
    elif not any(note.sounded for note in measures.notes):
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
        key = "no-lean" if figure.judged[0] == "ring" else "unmeasured"
    return _unheard(key) if key else None


def _unheard(key: str) -> Verdict:
    pair = NOT_HEARD[key]
    return Verdict("not heard", key, None, None, None, None, None, pair.cause, pair.cue)


def _main_unmeasured(measures: Measures, figure: Figure) -> bool:
    """Whether the measure that the figure mainly judges is missing wherever it was played."""
    main = figure.judged[0] if figure.judged else ""
    if main == "siren":
        return measures.figure.siren_low_hz is None
    name = _MAIN_OF_NOTES.get(main)
    heard: list[NoteMeasures] = [note for note in measures.notes if note.target and note.sounded]
    return name is not None and bool(heard) and all(getattr(note, name) is None for note in heard)
