"""The verdict on a take: pure rules over measures, never over sound.

`clean`: everything that the exercise judges lies within the standard's limits. `close`: one measure of one note lies
beyond by less than half its limit (or as its declaration says). `not_yet`: more than that, or a wrong or missing note.
`not_heard`: the sound does not allow a judgement, which says nothing about the playing.
"""

from collections.abc import Callable, Mapping
from dataclasses import dataclass, replace
from enum import StrEnum

from orexis.core.approaches import Approaches
from orexis.core.coach.judging import (
    JUDGED,
    NOT_HEARD,
    ORDER,
    REASONS,
    Cue,
    Fault,
    JudgingContext,
    Limits,
    ReasonId,
    cue_for,
    describe_left_open,
    faults_told_again,
    find_faults,
    has_doubtful,
    remove_faults_of_breaths,
    split_by_confirmation,
)
from orexis.core.exercises import Exercise, Medium
from orexis.core.measures import NO_TOP, Measures, NoteMeasures
from orexis.core.messages import tell


class Outcome(StrEnum):
    """The result of a take, the best first."""

    CLEAN = "clean"
    CLOSE = "close"
    NOT_YET = "not_yet"
    NOT_HEARD = "not_heard"
    DONE = "done"  # nothing to be judged: breathing, free pedal tones

    @property
    def is_good(self) -> bool:
        """Whether practice goes on from it: clean, or done where nothing is judged."""
        return self in (Outcome.CLEAN, Outcome.DONE)


OUTCOMES = tuple(Outcome)
_SMALL_LOSS_MS = 60.0  # what a long tone can lose without a change to any of its measures
_CLIPPED_SHARE = 0.002  # above it flat tops add harmonics that the player did not play
_LEAST_OVER_NOISE_DB = 12.0  # under it pitch is still told, level and tone are not
_LOUD_BESIDE_DB = -9.0  # against the player: more of a loudspeaker leaves too little to be sure of
_MAIN = {judged.measure: judged.main for judged in JUDGED if judged.main}


@dataclass(frozen=True, slots=True)
class Verdict:
    """What was decided, and the one thing to work on first. All findings are kept, first things first."""

    outcome: Outcome
    reason: ReasonId | None = None
    note: str | None = None
    at_s: float | None = None
    value: float | None = None
    limit: float | None = None
    unit: str | None = None
    cause: str | None = None
    cue: str | None = None
    findings: tuple[Fault, ...] = ()
    skipped: tuple[str, ...] = ()  # judged measures that could not be taken
    hidden: str | None = None  # what the room or a loudspeaker did not let through of them, in words


def judge(
    measures: Measures,
    exercise: Exercise,
    limits: Limits,
    *,
    misses_before: Mapping[str, int] | None = None,
    approaches: Approaches | None = None,
    without_echoes: Callable[[], Measures] | None = None,
) -> Verdict:
    """The verdict. `misses_before` counts the latest misses in a row for each reason of this exercise.

    `without_echoes`: the measures of the same sound with the room's echoes turned down, where it rings; asked for only when
    something was found that echoes can bring about.
    """
    if exercise.medium == Medium.AIR:
        return Verdict(Outcome.DONE)
    silent = _not_heard(measures, exercise)
    if silent is not None:
        return silent
    sheet = find_faults(JudgingContext(measures, exercise, limits))
    left_open: tuple[Fault, ...] = ()
    if without_echoes is not None and has_doubtful(sheet.found):
        beside = find_faults(JudgingContext(without_echoes(), exercise, limits)).found
        stand, left_open = split_by_confirmation(sheet.found, measures, exercise, beside)
        sheet.found = [*stand, *faults_told_again(left_open, beside)]
    said = _said(sheet, misses_before, approaches)
    return replace(said, hidden=_hidden(measures, exercise, said.skipped, left_open))


def _hidden(
    measures: Measures, exercise: Exercise, skipped: tuple[str, ...], left_open: tuple[Fault, ...]
) -> str | None:
    """What this room and a loudspeaker did not let through, in words."""
    hides_ms = measures.sound.room_hides_ms
    told = []
    if hides_ms is not None and "gap" in skipped:
        told.append(
            tell(
                "Gaps in the slurs weren’t measured: this room echoes and hides gaps under {hides_ms:.0f} ms.",
                hides_ms=hides_ms,
            )
        )
    if _ring_is_hidden(measures, exercise):
        told.append("Where the note rings best wasn’t measured: the room’s echoes can hide it.")
    if left_open:
        told.append(describe_left_open(left_open))
    beside_db = measures.sound.loudspeaker_db
    if beside_db is not None and beside_db > _LOUD_BESIDE_DB:
        told.append("The loudspeaker was almost as loud as you. Turn it down, or wear headphones.")
    return " ".join(told) or None


def _said(sheet: JudgingContext, misses_before: Mapping[str, int] | None, approaches: Approaches | None) -> Verdict:
    measures, exercise = sheet.measures, sheet.exercise
    findings = remove_faults_of_breaths([item for item in sheet.found if not _allowed(item, approaches)], exercise)
    ordered = tuple(sorted(findings, key=lambda item: (ORDER.index(item.reason), -item.share_beyond)))
    skipped = tuple(sorted(sheet.skipped))
    if not ordered:
        return _held(measures, exercise, skipped)
    first, declared = ordered[0], REASONS[ordered[0].reason]
    if measures.sound.lost_ms > (_SMALL_LOSS_MS if declared.survives_loss else 0.0):
        return _unheard("lost")
    near = len(ordered) == 1 and declared.near.holds(first.beyond, first.limit)
    misses = (misses_before or {}).get(first.reason, 0)
    pair = cue_for(first.reason, first.side, misses, approaches)
    if declared.own_cue is not None and misses < 2:
        pair = declared.own_cue(first, exercise) or pair
    return _verdict(Outcome.CLOSE if near else Outcome.NOT_YET, first, pair, ordered, skipped)


def _held(measures: Measures, exercise: Exercise, skipped: tuple[str, ...]) -> Verdict:
    """Held; where the middle was looked for, with where it rang best, in cents from where the note is asked."""
    held = Verdict(Outcome.CLEAN if exercise.judged else Outcome.DONE, skipped=skipped)
    note = next((note for note in measures.notes if note.ring_cents is not None), None)
    if note is None or exercise.judged[:1] != ("ring",):
        return held
    return replace(held, note=note.target, value=note.ring_cents, unit="c")


def _verdict(
    outcome: Outcome, first: Fault, pair: Cue, ordered: tuple[Fault, ...], skipped: tuple[str, ...]
) -> Verdict:
    return Verdict(
        outcome, ReasonId(first.reason), first.note, first.at_s, first.value, first.limit, first.unit, pair.cause,
        pair.cue, ordered, skipped,
    )  # fmt: skip


def _allowed(finding: Fault, approaches: Approaches | None) -> bool:
    """What an approach does not ask for is not held against anyone."""
    allowed = REASONS[finding.reason].allowed_by
    return allowed is not None and approaches is not None and approaches[allowed[0]] == allowed[1]


def _not_heard(measures: Measures, exercise: Exercise) -> Verdict | None:
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
    elif _main_unmeasured(measures, exercise) and not _ring_is_hidden(measures, exercise):
        key = "no-lean" if exercise.judged[0] == "ring" else "unmeasured"
    return _unheard(key) if key else None


def _unheard(key: str) -> Verdict:
    pair = NOT_HEARD[key][1]
    return Verdict(Outcome.NOT_HEARD, ReasonId(key), cause=pair.cause, cue=pair.cue)


def _ring_is_hidden(measures: Measures, exercise: Exercise) -> bool:
    """Whether a note was led through its slot and nothing stood out: echoes rise and fall more with the pitch than its ring does."""
    return exercise.judged[:1] == ("ring",) and any(
        note.unmeasured.get("ring_cents") == NO_TOP for note in measures.notes
    )


def _main_unmeasured(measures: Measures, exercise: Exercise) -> bool:
    """Whether the measure that the exercise mainly judges is missing wherever it was played."""
    main = exercise.judged[0] if exercise.judged else ""
    if main == "siren":
        return measures.exercise.siren_low_hz is None
    name = _MAIN.get(main)
    heard: list[NoteMeasures] = [note for note in measures.notes if note.target and note.sounded]
    return name is not None and bool(heard) and all(getattr(note, name) is None for note in heard)
