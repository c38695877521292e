"""Does the sound go on? Gaps, touched partials, sirens, breaths inside, and what was not written."""

from orexis.core.approaches import Ask, Choice
from orexis.core.coach.judging.context import JudgingContext
from orexis.core.coach.judging.criterion import (
    NEVER,
    About,
    Criterion,
    Cue,
    FaultKind,
    FaultType,
    Limit,
    Nearness,
    TrendMeasure,
    TrendSource,
)
from orexis.core.coach.judging.echoes import anywhere, as_touch_or, at_the_same_time, on_the_same_note, told_as
from orexis.core.exercises import Exercise, Medium
from orexis.core.measures import Measures, MoveMeasures
from orexis.core.theory import cents_between

_SIREN_STEP_CENTS = 150.0  # in 20 ms: no glide goes so fast
_SIREN_SHORT_CENTS = 100.0  # a siren may stop a semitone short of either end


def _target(sheet: JudgingContext, move: MoveMeasures) -> str | None:
    return sheet.measures.notes[move.after].target


def _gap(sheet: JudgingContext, move: MoveMeasures) -> None:
    limit = sheet.limits["gap_ms"]
    if move.gap_ms is None:
        if move.gap_under_ms is None or move.gap_under_ms > limit:
            sheet.skipped.add("gap")
    elif move.gap_ms > limit:
        sheet.find("gap", _target(sheet, move), move.gap_start_s, move.gap_ms, limit, "ms")


def _caught(sheet: JudgingContext, move: MoveMeasures) -> None:
    limit = sheet.limits["clipped_partial_ms"]
    for touch in move.clipped_partials:
        if touch.ms > limit:
            sheet.find("clipped-partial", _target(sheet, move), touch.start_s, touch.ms, limit, "ms")


def _overshoot(sheet: JudgingContext, move: MoveMeasures) -> None:
    limit = sheet.limits["overshoot_cents"]
    if move.slurred and move.overshoot_cents is not None and move.overshoot_cents > limit:
        sheet.find("overshoot", _target(sheet, move), move.stop_s, move.overshoot_cents, limit, "c")


def _siren(sheet: JudgingContext) -> None:
    """A sweep is judged as a whole: no hole, no step, as far as was asked."""
    told = sheet.measures.exercise
    if told.siren_low_hz is None or told.siren_high_hz is None:
        sheet.skipped.add("siren")
        return
    if told.siren_breaks:
        sheet.find("siren-break", None, told.siren_break_at_s, float(told.siren_breaks))
    if (told.siren_jump_cents or 0.0) > _SIREN_STEP_CENTS:
        sheet.find("siren-jump", None, told.siren_jump_at_s, told.siren_jump_cents, _SIREN_STEP_CENTS, "c")
    midis = [note.pitch.midi for note in sheet.exercise.notes]
    top = sheet.exercise.notes[midis.index(max(midis))].id
    asked = 100.0 * (max(midis) - min(midis)) - _SIREN_SHORT_CENTS
    reached = cents_between(told.siren_low_hz, told.siren_high_hz)
    if reached < asked:
        sheet.find("siren-range", *sheet.place_of(top), round(reached), asked, "c", least=True)


def _breath(sheet: JudgingContext) -> None:
    inside = sheet.measures.exercise.breaths_inside
    if inside is None:
        sheet.skipped.add("one_breath")
    elif inside:
        sheet.find("breath-inside", *sheet.place_at(sheet.measures.exercise.breath_at_s), float(inside))


def _longest_gap(exercise: Exercise, measures: Measures) -> float | None:
    slurs = [move for move in measures.moves if move.slurred]
    return max((move.gap_ms or 0.0 for move in slurs), default=None)


def _share_caught(exercise: Exercise, measures: Measures) -> float | None:
    """Return the percentage of slurs that clipped another partial; None without slurs on an instrument."""
    slurs = [move for move in measures.moves if move.slurred]
    if not slurs or exercise.medium != Medium.INSTRUMENT:
        return None
    return round(100.0 * sum(bool(move.clipped_partials) for move in slurs) / len(slurs), 1)


CONTINUITY = (
    Criterion(
        "gap",
        "time within a slur without tone",
        (
            FaultType(
                "gap",
                "gap in a slur",
                "there was a gap of {value:s} before {note}",
                {
                    "": (
                        Cue(
                            "the air stopped before the note changed",
                            "Send a little more air just before the note changes.",
                        ),
                        Cue(
                            "the air stopped before the note changed",
                            "Blow the rhythm as air alone. Then play it with the same steady air.",
                        ),
                        Cue(
                            "the air stopped before the note changed",
                            "Let the jaw move with the slur, early and small.",
                            True,
                            (Ask.SLURS_LED_BY, Choice.JAW_AND_LIP),
                        ),
                    )
                },
                about=About.BESIDE,
                echoes=told_as("gap", "bump"),
                kind=FaultKind.SILENCE,
            ),
        ),
        limits=(Limit("gap_ms", "Gap in a slur, ms", (120.0, 60.0, 30.0, 15.0)),),
        of_move=_gap,
        trend=TrendSource(
            TrendMeasure("gap", 7, "Longest gap in a slur", "ms", False, False, 0.0, 60.0, "gap"),
            of_take=_longest_gap,
        ),
    ),
    Criterion(
        "clipped_partial",
        "a partial touched on the way",
        (
            FaultType(
                "clipped-partial",
                "clipped partial",
                "you clipped another partial before {note}",
                {
                    "": (
                        Cue(
                            "the change was too slow",
                            "Make it one gesture. Tongue both notes first, then slur them.",
                        ),
                        Cue("the change was too slow", "Play it downwards slowly a few times. Then go up again."),
                        Cue(
                            "the change was too slow",
                            "Move the jaw and lower lip together, in one go.",
                            True,
                            (Ask.SLURS_LED_BY, Choice.JAW_AND_LIP),
                        ),
                    )
                },
                about=About.BESIDE,
                echoes=as_touch_or(on_the_same_note),
            ),
        ),
        limits=(Limit("clipped_partial_ms", "Clipped partial, ms", (80.0, 45.0, 25.0, 15.0)),),
        of_move=_caught,
        trend=TrendSource(
            TrendMeasure(
                "clipped_partial", 8, "Slurs with a clipped partial", "%", False, False, 0.0, 20.0, "clipped-partial"
            ),
            of_take=_share_caught,
        ),
    ),
    Criterion(
        "overshoot",
        "how far a slurred note is reached from beyond",
        (
            FaultType(
                "overshoot",
                "overshoot",
                "you overshot {note} by {value} cents",
                {
                    "": (
                        Cue(
                            "the movement was bigger than the interval",
                            "Move less. Hear the note before you get there.",
                        ),
                        Cue(
                            "the movement was bigger than the interval",
                            "Keep the chin firm and push less. Leave the air as it is.",
                            body=True,
                        ),
                        Cue(
                            "the movement was bigger than the interval",
                            "Sing both notes in turn, then play them the same way.",
                        ),
                    )
                },
                about=About.BESIDE,
                echoes=on_the_same_note,
            ),
        ),
        limits=(Limit("overshoot_cents", "Reached from beyond, cents", (45.0, 30.0, 20.0, 12.0)),),
        of_move=_overshoot,
    ),
    Criterion(
        "siren",
        "a sweep without holes or steps, as far as was asked",
        (
            FaultType(
                "siren-break",
                "buzz stopped",
                "the buzz stopped on the way",
                {
                    "": (
                        Cue("the buzz stopped on the way", "Go half as far and twice as slowly. Keep the air moving."),
                        Cue(
                            "the buzz stopped on the way",
                            "Play a little louder through the place where it stops.",
                            body=True,
                        ),
                    )
                },
                near=NEVER,
                about=About.WHOLE,
                echoes=anywhere,
            ),
            FaultType(
                "siren-jump",
                "jump in the siren",
                "the siren jumped by {value} cents",
                {
                    "": (
                        Cue(
                            "the siren jumped",
                            "Go slowly through that place and listen for every pitch.",
                        ),
                        Cue("the siren jumped", "Start just below the jump and cross it several times."),
                    )
                },
                about=About.WHOLE,
                echoes=anywhere,
            ),
            FaultType(
                "siren-range",
                "siren too short",
                "the siren covered {value:semitones} of {limit:semitones} semitones",
                {
                    "": (
                        Cue("the siren was too short", "Go as far as it stays easy. Go a little further tomorrow."),
                        Cue("the siren was too short", "Start lower, and speed up the air as you rise."),
                    )
                },
                near=Nearness(by=200.0),
                about=About.WHOLE,
            ),
        ),
        of_whole=_siren,
        alone=True,
        proves_nothing=True,
    ),
    Criterion(
        "one_breath",
        "breaths taken inside the exercise",
        (
            FaultType(
                "breath-inside",
                "extra breath",
                "you took a breath{before}",
                {
                    "": (
                        Cue("one breath wasn’t enough", "Play fewer notes, until it fits in one breath."),
                        Cue("one breath wasn’t enough", "Take a fuller breath and start a little softer."),
                    )
                },
                near=NEVER,
                allowed_by=(Ask.BREATH_INSIDE, Choice.NOSE_BREATH),
                about=About.WHOLE,
                echoes=anywhere,
                kind=FaultKind.BREATH,
            ),
        ),
        of_whole=_breath,
    ),
    Criterion(
        "",
        "a note that was not written",
        (
            FaultType(
                "extra",
                "extra note",
                "an extra note sounded",
                {
                    "": (
                        Cue(
                            "an extra note sounded",
                            "Start once, on one breath. Then leave the note alone.",
                        ),
                        Cue(
                            "an extra note sounded",
                            "Play it shorter and calmly. Then make it longer again.",
                        ),
                    )
                },
                near=NEVER,
                about=About.BESIDE,
                echoes=at_the_same_time,
            ),
        ),
    ),
)
