"""How a note begins, goes on and ends."""

from orexis.core.coach.judging.context import JudgingContext
from orexis.core.coach.judging.criterion import (
    About,
    Column,
    Criterion,
    Cue,
    FaultType,
    Followed,
    Limit,
    TrendMeasure,
    size_of,
    upper_limit_rule,
)
from orexis.core.coach.judging.echoes import near_by, on_the_same_note
from orexis.core.figures import Figure, FigureNote
from orexis.core.measures import Measures, NoteMeasures
from orexis.core.schools import Ask, Choice


def _entry(sheet: JudgingContext, note: NoteMeasures, written: FigureNote | None) -> None:
    """An entry fails when it spoils more of the note than a straight slide of the limit's depth over the limit's time."""
    if note.slurred:
        return
    limit = sheet.limits["entry_cents"]
    most_area = 0.5 * limit * sheet.limits["entry_ms"] / 1000.0
    if note.entry_cents is None or note.entry_area is None:
        sheet.skipped.add("entry")
    elif note.entry_area > most_area and abs(note.entry_cents) > 0.5 * limit:
        side = "below" if note.entry_cents < 0 else "above"
        sheet.find("entry", note.target, note.onset_s, note.entry_cents, limit, "c", side=side)


_wanders = upper_limit_rule("spread", "spread", "spread_cents", "spread_cents")
_late = upper_limit_rule("response", "response", "response_ms", "response_ms", "ms")


def _spread(sheet: JudgingContext, note: NoteMeasures, written: FigureNote | None) -> None:
    """Where the family asks for calm; and in any figure where a note was so restless that nothing else could be told of it."""
    if sheet.judges("spread") or note.judged_cents is None:
        _wanders(sheet, note, written)


def _response(sheet: JudgingContext, note: NoteMeasures, written: FigureNote | None) -> None:
    if not note.slurred:
        _late(sheet, note, written)


def _hold(sheet: JudgingContext, note: NoteMeasures, written: FigureNote | None) -> None:
    asked = sheet.figure.hold_asked_s(written) if written is not None else None
    if asked is not None and note.hold_s is not None and note.hold_s < asked:
        sheet.find("hold", note.target, note.release_s, note.hold_s, round(asked, 2), "s", least=True)


def _longest_of_a_breath(figure: Figure, measures: Measures) -> float | None:
    to_the_end = {note.id for note in figure.notes if note.to_breath_end and not note.free}
    return max((row.hold_s or 0.0 for row in measures.notes if row.right and row.target in to_the_end), default=None)


COURSE = (
    Criterion(
        "entry",
        "deviation of the first 30 ms, and the time until settled",
        (
            FaultType(
                "entry",
                "the start",
                "{note} began {value:side} (limit {limit})",
                {
                    "below": (
                        Cue(
                            "slid up: not heard beforehand, or the air came late",
                            "Hear it, sing it, then start on the breath.",
                        ),
                        Cue(
                            "slid up: not heard beforehand, or the air came late",
                            "Start with the breath alone, no tongue, until it begins on pitch.",
                            body=True,
                        ),
                    ),
                    "above": (
                        Cue("fell in: started too tight", "A softer start, with the pitch already in your ear."),
                        Cue(
                            "fell in: started too tight",
                            "Breathe out a silent 'ho' first; let the note join that air.",
                            body=True,
                        ),
                    ),
                },
                told_again=True,
            ),
        ),
        limits=(
            Limit("entry_cents", "Start off by, cents", (60.0, 40.0, 25.0, 15.0)),
            Limit("entry_ms", "Start settled in, ms", (250.0, 180.0, 120.0, 80.0)),
        ),
        column=Column(6, "Start", ("entry_cents", "entry_ms"), "entry"),
        of_note=_entry,
        trend=Followed(
            TrendMeasure("entry", 5, "Entry off pitch", "cents", False, False, 0.0, 20.0, "entry"),
            of_note=size_of("entry_cents"),
        ),
    ),
    Criterion(
        "response",
        "breath heard before the tone",
        (
            FaultType(
                "response",
                "air before the tone",
                "air for {value} ms before {note} spoke (limit {limit})",
                {
                    "": (
                        Cue(
                            "air came before the tone: lips apart or stiff",
                            "A breath start on an easy low note, then back to this.",
                        ),
                        Cue(
                            "air came before the tone: no seal yet",
                            "Seal before the breath comes; no firmer than keeps the air in.",
                            True,
                            (Ask.PRESSURE, Choice.FIRM_SEAL),
                        ),
                        Cue(
                            "air came before the tone: lips apart or stiff",
                            "Lips just touching before the air comes.",
                            body=True,
                        ),
                    )
                },
                about=About.BESIDE,
            ),
        ),
        limits=(Limit("response_ms", "Air before tone, ms", (250.0, 150.0, 90.0, 50.0)),),
        column=Column(9, "Breath first", ("response_ms",), "ms"),
        of_note=_response,
        trend=Followed(
            TrendMeasure("response", 6, "Breath before the tone", "ms", False, False, 0.0, 60.0, "response"),
            of_note=size_of("response_ms"),
        ),
    ),
    Criterion(
        "sag",
        "slope of the pitch over the settled part times its length",
        (
            FaultType(
                "sag",
                "sag",
                "{note} {value?sagged|rose} by {value} cents (limit {limit})",
                {
                    "down": (
                        Cue(
                            "the air slowed",
                            "Keep the air moving to the last moment. Play it shorter first, then longer.",
                        ),
                        Cue("the air slowed", "Grow very slightly to the end; feel the breath go past the note."),
                        Cue(
                            "the air slowed",
                            "Firmer air from the start, and keep it there.",
                            True,
                            (Ask.LOW_AIR, Choice.FAST_AND_FIRM),
                        ),
                    ),
                    "up": (
                        Cue("tightened towards the end", "Stop before you squeeze; leave some breath unused."),
                        Cue("tightened towards the end", "Let the corners hold and the middle stay easy.", body=True),
                    ),
                },
                survives_loss=True,
                echoes=near_by("centre", "sag", "caught", "wrong-partial", "wrong-note"),
                told_again=True,
            ),
        ),
        limits=(Limit("sag_cents", "Sag, cents", (25.0, 15.0, 10.0, 6.0)),),
        column=Column(5, "Sag", ("sag_cents",), "whole"),
        of_note=upper_limit_rule("sag", "sag", "sag_cents", "sag_cents", sides=("down", "up")),
        main="sag_cents",
        trend=Followed(
            TrendMeasure("sag", 4, "Sag over a note", "cents", False, True, 0.0, 10.0, "sag"),
            of_note=size_of("sag_cents"),
        ),
    ),
    Criterion(
        "spread",
        "how much the pitch wanders, sag and vibrato taken out",
        (
            FaultType(
                "spread",
                "spread",
                "{note} wandered by {value} cents (limit {limit})",
                {
                    "": (
                        Cue("the pitch wandered", "Half as long, twice as calm. Then add a beat."),
                        Cue(
                            "the pitch wandered", "Even air, as if through a straw. Listen to the middle of the sound."
                        ),
                    )
                },
                echoes=on_the_same_note,
            ),
        ),
        limits=(Limit("spread_cents", "Spread, cents", (15.0, 10.0, 7.0, 4.0)),),
        column=Column(4, "Spread", ("spread_cents",), "one"),
        of_note=_spread,
        trend=Followed(
            TrendMeasure("spread", 3, "Spread around the centre", "cents", False, True, 0.0, 8.0, "spread"),
            of_note=size_of("spread_cents"),
        ),
    ),
    Criterion(
        "fall_off",
        "the last 150 ms against the centre",
        (
            FaultType(
                "fall-off",
                "the end",
                "the end of {note} fell away by {value} cents (limit {limit})",
                {
                    "": (
                        Cue("the end was let go", "Stop while the sound is still good, then make it longer by a beat."),
                        Cue("the end was let go", "End the note with the breath, not with the lips.", body=True),
                    )
                },
            ),
        ),
        limits=(Limit("fall_off_cents", "End, cents", (30.0, 20.0, 12.0, 8.0)),),
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
                "{note} lasted {value:1} s of {limit:1} s",
                {
                    "": (
                        Cue("the breath ended early", "A lower, quieter, fuller breath; start a shade softer."),
                        Cue("the breath ended early", "Let the first beat be gentle, so that the air lasts."),
                    )
                },
                about=About.BESIDE,
            ),
        ),
        column=Column(10, "Hold", ("hold_s",), "s"),
        of_note=_hold,
        trend=Followed(
            TrendMeasure("hold", 11, "Longest tone of a breath", "s", True, False, 0.0, 12.0, "hold"),
            of_take=_longest_of_a_breath,
        ),
    ),
)
