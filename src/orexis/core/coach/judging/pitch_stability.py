"""How a note begins, goes on and ends."""

from orexis.core.approaches import Ask, Choice
from orexis.core.coach.judging.context import JudgingContext
from orexis.core.coach.judging.criterion import (
    About,
    Column,
    Criterion,
    Cue,
    FaultType,
    Limit,
    TrendMeasure,
    TrendSource,
    size_of,
    upper_limit_rule,
)
from orexis.core.coach.judging.echoes import near_by, on_the_same_note
from orexis.core.exercises import Exercise, ExerciseNote, Medium
from orexis.core.measures import Measures, NoteMeasures


def _entry(sheet: JudgingContext, note: NoteMeasures, written: ExerciseNote | None) -> None:
    """An entry fails when it spoils more of the note than a straight slide of the limit's depth over the limit's time."""
    if note.slurred:
        return
    limit = sheet.limits["attack_error_cents"]
    most_area = 0.5 * limit * sheet.limits["attack_settle_ms"] / 1000.0
    if note.attack_error_cents is None or note.attack_error_cents_s is None:
        sheet.skipped.add("attack")
    elif note.attack_error_cents_s > most_area and abs(note.attack_error_cents) > 0.5 * limit:
        side = "below" if note.attack_error_cents < 0 else "above"
        if abs(note.attack_error_cents) <= limit:  # not too far off, but for too long: as far as it might have been so
            limit = round(abs(note.attack_error_cents) * most_area / note.attack_error_cents_s, 1)
        sheet.find("attack", note.target, note.onset_s, note.attack_error_cents, limit, "c", side=side)


_wanders = upper_limit_rule("pitch_wobble", "pitch-wobble", "pitch_wobble_cents", "pitch_wobble_cents")
_late = upper_limit_rule("response", "response", "response_ms", "response_ms", "ms")


_BUZZ_DRIFTS = 3.0  # times what a note on the instrument may


def _spread(sheet: JudgingContext, note: NoteMeasures, written: ExerciseNote | None) -> None:
    """Where the exercise type asks for calm; and in any exercise where a note was so restless that nothing else could be told of it."""
    if sheet.judges("pitch_wobble") or note.judged_error_cents is None:
        _wanders(sheet, note, written)


_drifts = upper_limit_rule("pitch_drift", "pitch-drift", "pitch_drift_cents", "pitch_drift_cents", sides=("down", "up"))


def _drift(sheet: JudgingContext, note: NoteMeasures, written: ExerciseNote | None) -> None:
    """On the mouthpiece nothing holds the pitch: there only a large drop or rise is told."""
    drift, buzzed = note.pitch_drift_cents, sheet.exercise.medium == Medium.MOUTHPIECE
    if not buzzed or drift is None or abs(drift) > _BUZZ_DRIFTS * sheet.limits["pitch_drift_cents"]:
        _drifts(sheet, note, written)


def _response(sheet: JudgingContext, note: NoteMeasures, written: ExerciseNote | None) -> None:
    if not note.slurred:
        _late(sheet, note, written)


def _hold(sheet: JudgingContext, note: NoteMeasures, written: ExerciseNote | None) -> None:
    asked = sheet.exercise.hold_asked_s(written) if written is not None else None
    if asked is not None and note.hold_s is not None and note.hold_s < asked:
        sheet.find("hold", note.target, note.release_s, note.hold_s, round(asked, 2), "s", least=True)


def _longest_of_a_breath(exercise: Exercise, measures: Measures) -> float | None:
    to_the_end = {note.id for note in exercise.notes if note.to_breath_end and not note.free}
    return max((row.hold_s or 0.0 for row in measures.notes if row.right and row.target in to_the_end), default=None)


COURSE = (
    Criterion(
        "attack",
        "deviation of the first 30 ms, and the time until settled",
        (
            FaultType(
                "attack",
                "attack",
                "{note} started {value?flat and slid up|sharp and slid down}",
                {
                    "below": (
                        Cue(
                            "not heard beforehand, or late air",
                            "Think of the note before you start it.",
                        ),
                        Cue(
                            "not heard beforehand, or late air",
                            "Start with the breath alone, no tongue, until it starts on pitch.",
                            body=True,
                        ),
                    ),
                    "above": (
                        Cue("started too tight", "Start more softly, with the pitch already in your ear."),
                        Cue(
                            "started too tight",
                            "Breathe out a silent 'ho' first. Let the note join that air.",
                            body=True,
                        ),
                    ),
                },
                told_again=True,
            ),
        ),
        limits=(
            Limit("attack_error_cents", "Attack off by, cents", (60.0, 40.0, 25.0, 15.0)),
            Limit("attack_settle_ms", "Attack settles within, ms", (250.0, 180.0, 120.0, 80.0)),
        ),
        column=Column(6, "Attack", ("attack_error_cents", "attack_settle_ms"), "entry"),
        of_note=_entry,
        trend=TrendSource(
            TrendMeasure("attack", 5, "Attack off the pitch", "cents", False, False, 0.0, 20.0, "attack"),
            of_note=size_of("attack_error_cents"),
        ),
    ),
    Criterion(
        "response",
        "breath heard before the tone",
        (
            FaultType(
                "response",
                "air before the note",
                "air came {value:s} before {note} spoke",
                {
                    "": (
                        Cue(
                            "lips apart or stiff",
                            "Play a breath attack on an easy low note. Then come back to this.",
                        ),
                        Cue(
                            "the lips weren’t sealed yet",
                            "Close the lips before you blow, no firmer than needed.",
                            True,
                            (Ask.PRESSURE, Choice.FIRM_SEAL),
                        ),
                        Cue(
                            "lips apart or stiff",
                            "Let the lips just touch before the air comes.",
                            body=True,
                        ),
                    )
                },
                about=About.BESIDE,
            ),
        ),
        limits=(Limit("response_ms", "Air before the note, ms", (250.0, 150.0, 90.0, 50.0)),),
        column=Column(9, "Air first", ("response_ms",), "ms"),
        of_note=_response,
        trend=TrendSource(
            TrendMeasure("response", 6, "Air before the note", "ms", False, False, 0.0, 60.0, "response"),
            of_note=size_of("response_ms"),
        ),
    ),
    Criterion(
        "pitch_drift",
        "slope of the pitch over the settled part times its length",
        (
            FaultType(
                "pitch-drift",
                "drop or rise",
                "{note} {value?dropped|rose} by {value} cents",
                {
                    "down": (
                        Cue(
                            "the air slowed",
                            "Keep the air moving to the end. Play it shorter first, then longer.",
                        ),
                        Cue("the air slowed", "Get very slightly louder to the end."),
                        Cue(
                            "the air slowed",
                            "Use firmer air from the start and keep it there.",
                            True,
                            (Ask.LOW_AIR, Choice.FAST_AND_FIRM),
                        ),
                    ),
                    "up": (
                        Cue("tightened towards the end", "Stop before you squeeze. Leave some breath unused."),
                        Cue("tightened towards the end", "Keep the corners firm and the middle relaxed.", body=True),
                    ),
                },
                survives_loss=True,
                echoes=near_by(
                    "pitch", "pitch-drift", "clipped-partial", "wrong-partial", "wrong-fingering", "wrong-note"
                ),
                told_again=True,
            ),
        ),
        limits=(Limit("pitch_drift_cents", "Drop or rise in a note, cents", (25.0, 15.0, 10.0, 6.0)),),
        column=Column(5, "Drift", ("pitch_drift_cents",), "whole"),
        of_note=_drift,
        main="pitch_drift_cents",
        trend=TrendSource(
            TrendMeasure("pitch_drift", 4, "Drop or rise in a note", "cents", False, True, 0.0, 10.0, "pitch-drift"),
            of_note=size_of("pitch_drift_cents"),
        ),
    ),
    Criterion(
        "pitch_wobble",
        "how unsteady the pitch is, drift and vibrato taken out",
        (
            FaultType(
                "pitch-wobble",
                "wobble",
                "{note} wobbled by {value} cents",
                {
                    "": (
                        Cue("the pitch wobbled", "Play it half as long. Then add a beat at a time."),
                        Cue("the pitch wobbled", "Blow evenly, as if through a straw."),
                    )
                },
                echoes=on_the_same_note,
            ),
        ),
        limits=(Limit("pitch_wobble_cents", "Wobble, cents", (15.0, 10.0, 7.0, 4.0)),),
        column=Column(4, "Wobble", ("pitch_wobble_cents",), "one"),
        of_note=_spread,
        trend=TrendSource(
            TrendMeasure("pitch_wobble", 3, "Pitch wobble", "cents", False, True, 0.0, 8.0, "pitch-wobble"),
            of_note=size_of("pitch_wobble_cents"),
        ),
    ),
    Criterion(
        "fall_off",
        "the last 150 ms against the centre",
        (
            FaultType(
                "fall-off",
                "end of the note",
                "{note} {value?dropped|rose} {value} cents at the end",
                {
                    "": (
                        Cue("the end was let go", "Stop while the sound is still good. Then add a beat."),
                        Cue("the end was let go", "End the note with the breath, not with the lips.", body=True),
                    )
                },
            ),
        ),
        limits=(Limit("fall_off_cents", "End of a note, cents", (30.0, 20.0, 12.0, 8.0)),),
        column=Column(7, "End", ("fall_off_cents",), "whole"),
        of_note=upper_limit_rule("fall_off", "fall-off", "fall_off_cents", "fall_off_cents"),
    ),
    Criterion(
        "hold",
        "onset to release, against the share of the written length that is asked",
        (
            FaultType(
                "hold",
                "length",
                "{note} lasted {value:1} of {limit:1} seconds",
                {
                    "": (
                        Cue("the breath ran out", "Take a lower, quieter, fuller breath. Start a little softer."),
                        Cue("the breath ran out", "Start gently, so that the air lasts."),
                    )
                },
                about=About.BESIDE,
            ),
        ),
        column=Column(10, "Length", ("hold_s",), "s"),
        of_note=_hold,
        trend=TrendSource(
            TrendMeasure("hold", 11, "Longest note on one breath", "s", True, False, 0.0, 12.0, "hold"),
            of_take=_longest_of_a_breath,
        ),
    ),
)
