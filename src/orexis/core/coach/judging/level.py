"""How loudness goes: pushed moves, shapes, steadiness, and with the height."""

import math
from collections.abc import Iterable
from itertools import pairwise
from statistics import median

from orexis.core.coach.judging.context import Fault, JudgingContext
from orexis.core.coach.judging.criterion import (
    About,
    Criterion,
    Cue,
    FaultType,
    Limit,
    TrendMeasure,
    TrendSource,
    size_of,
    upper_limit_rule,
)
from orexis.core.coach.judging.dynamics import written_dynamics
from orexis.core.coach.judging.echoes import anywhere, on_the_same_note, told_as
from orexis.core.exercises import ExerciseNote, Loudness
from orexis.core.measures import MoveMeasures, NoteMeasures

_HEARD_DB_OCTAVE = 0.5  # so little is no change going up


def _bump(sheet: JudgingContext, move: MoveMeasures) -> None:
    limit = sheet.limits["bump_db"]
    if (move.bump_db or 0.0) > limit:
        sheet.find("bump", sheet.measures.notes[move.after].target, move.start_s, move.bump_db, limit, "dB")


_ECHOED = 0.6  # of what echoes do to a note, what they do to how it goes
_LONG_S, _ONE_WAY = 2.0, 3.0  # so many times the limit from end to end of a long note is nothing that echoes do
_off_shape = upper_limit_rule("shape", "shape", "shape_off_db", "level_wobble_db", "dB")


def _shape(sheet: JudgingContext, note: NoteMeasures, written: ExerciseNote | None) -> None:
    """Near the loudness asked for; and a swell rises and a fade falls: what stays flat was not shaped."""
    if written is None or written.shape is None:
        return
    least = sheet.limits["level_wobble_db"]
    echoed = note.shape_off_db is not None and least < note.shape_off_db <= least + _ECHOED * sheet.echoes_db
    if echoed and not _goes_one_way(note, written, _ONE_WAY * least):
        sheet.skipped.add("shape")  # the room's echoes do as much
    else:
        _off_shape(sheet, note, written)
    for wanted, moved in (("swell", note.level_rise_db), ("fade", note.level_fall_db)):
        if wanted in written.shape and moved is not None and abs(moved) < least:
            sheet.find("shape", note.target, note.onset_s, round(abs(moved), 1), least, "dB", least=True)


def _goes_one_way(note: NoteMeasures, written: ExerciseNote, least_db: float) -> bool:
    """A long note that was asked to stay and went from loud to soft, or the other way."""
    if written.shape != "steady" or note.level_rise_db is None or note.level_fall_db is None:
        return False
    return (note.hold_s or 0.0) > _LONG_S and abs(note.level_rise_db - note.level_fall_db) > least_db


_wanders = upper_limit_rule("level_wobble", "level-wobble", "level_wobble_db", "level_wobble_db", "dB")


def _level(sheet: JudgingContext, note: NoteMeasures, written: ExerciseNote | None) -> None:
    """A note whose loudness is meant to change does not wander by doing so."""
    if written is None or written.shape in (None, "steady"):
        _wanders(sheet, note, written)


_LEAST_S, _FEWEST = 0.15, 4  # of a note; notes that make a line
_ASKED_UPWARDS: dict[Loudness | None, float] = {Loudness.GROW: 1.0, Loudness.EASE: -1.0}
_NATURAL_DB_OCTAVE = 6.0  # between neighbours, by their height


def _line(sheet: JudgingContext) -> None:
    """Where no change is written, a note that drops out of the line or sticks out of it: by the step from its neighbour."""
    marks = {note.id: mark for mark, notes in written_dynamics(sheet.exercise) for note in notes if not note.accent}
    rows = [
        row
        for row in sheet.measures.notes
        if row.right and row.target in marks and row.level_db is not None and (row.hold_s or 0.0) >= _LEAST_S
    ]
    if len(rows) < _FEWEST:
        return
    middle, limit = median(row.level_db or 0.0 for row in rows), sheet.limits["line_level_db"] + sheet.echoes_db
    steps: dict[str | None, float] = {}
    for a, b in pairwise(rows):
        if marks[a.target or ""] != marks[b.target or ""] or not a.f0_hz or not b.f0_hz or a.level_db is None:
            continue
        step, octaves = (b.level_db or 0.0) - a.level_db, math.log2(b.f0_hz / a.f0_hz)
        if step * octaves * _ASKED_UPWARDS.get(sheet.exercise.loudness, 0.0) > 0.0:
            continue  # louder, or softer, going up, as it is asked
        if abs(step) > limit + _NATURAL_DB_OCTAVE * abs(octaves):
            a_is_odd = abs(a.level_db - middle) > abs((b.level_db or 0.0) - middle)
            steps.setdefault(a.target if a_is_odd else b.target, -step if a_is_odd else step)
    for target, step in steps.items():
        sheet.find(
            "line-level", *sheet.place_of(target), round(step, 1), limit, "dB", side="soft" if step < 0 else "loud"
        )


def _highest(sheet: JudgingContext) -> tuple[str | None, float | None]:
    """Where loudness by height shows most: at the top."""
    heard = [(note.f0_hz, note.target) for note in sheet.measures.notes if note.f0_hz and note.target]
    return sheet.place_of(max(heard)[1] if heard else None)


def _by_height(sheet: JudgingContext) -> None:
    """Grow: louder going up. Ease: softer. Even: within the standard's wander for an octave."""
    asked, slope = sheet.exercise.loudness, sheet.measures.exercise.loudness_by_height_db_octave
    if asked is None:
        return
    if slope is None:
        sheet.skipped.add("loudness_by_height")
        return
    off = {Loudness.GROW: -slope, Loudness.EASE: slope, Loudness.EVEN: abs(slope)}[asked]
    limit = sheet.limits["level_wobble_db"] if asked == Loudness.EVEN else -_HEARD_DB_OCTAVE
    if limit < off <= limit + sheet.echoes_db:
        sheet.skipped.add("loudness_by_height")
    elif off > limit:
        sheet.find("loudness", *_highest(sheet), slope, limit, "dB/octave", side=asked)


def _follows_a_gap(finding: Fault, on_its_note: Iterable[Fault]) -> bool:
    """What is silent dips as well."""
    return any(item.reason == "gap" for item in on_its_note)


LEVEL = (
    Criterion(
        "bump",
        "dip and return of level in a slur",
        (
            FaultType(
                "bump",
                "a pushed move",
                "a dip of {value} dB before {note} (limit {limit})",
                {
                    "": (
                        Cue("the move was pushed", "No help from the tongue: breath only, like one long note."),
                        Cue("the move was pushed", "Softer, and let the upper note be the softer one."),
                    )
                },
                about=About.BESIDE,
                echoes=told_as("gap", "bump"),
                follows=_follows_a_gap,
            ),
        ),
        limits=(Limit("bump_db", "Bump, dB", (10.0, 7.0, 5.0, 3.0)),),
        of_move=_bump,
    ),
    Criterion(
        "shape",
        "the loudness along a note against the shape that is written",
        (
            FaultType(
                "shape",
                "the shape",
                "the loudness of {note} was {value:1} dB off what was asked",
                {
                    "": (
                        Cue(
                            "the loudness went another way",
                            "Exaggerate it: start softer, arrive louder, and count the beats to the top.",
                        ),
                        Cue("the loudness went another way", "Play it on air alone first, and hear the shape."),
                    )
                },
                survives_loss=True,
                about=About.BESIDE,
            ),
        ),
        of_note=_shape,
    ),
    Criterion(
        "level_wobble",
        "how unsteady the volume of a steady note is",
        (
            FaultType(
                "level-wobble",
                "volume",
                "the volume of {note} was unsteady",
                {
                    "": (
                        Cue("the volume was unsteady", "Blow one even stream, like a long bow."),
                        Cue("the volume was unsteady", "Play shorter and softer. Then as long as it stays even."),
                    )
                },
                about=About.BESIDE,
                echoes=on_the_same_note,
            ),
        ),
        limits=(Limit("level_wobble_db", "Unsteady volume, dB", (4.0, 3.0, 2.0, 1.5)),),
        of_note=_level,
        main="level_wobble_db",
        trend=TrendSource(
            TrendMeasure("level_wobble", 9, "Unsteady volume in a note", "dB", False, False, 0.0, 3.0, "level-wobble"),
            of_note=size_of("level_wobble_db"),
        ),
    ),
    Criterion(
        "line_level",
        "the step in level between neighbours of a line without written change",
        (
            FaultType(
                "line-level",
                "one note softer or louder",
                "{note} was much {value?softer|louder} than the notes beside it",
                {
                    "soft": (
                        Cue(
                            "the air gave way on one note",
                            "Keep the same air through the line. Lead it into that note.",
                        ),
                        Cue(
                            "the air gave way on one note", "Play that note and its neighbour in turn until they match."
                        ),
                    ),
                    "loud": (
                        Cue("one note was pushed", "Blow through the line, not at the note."),
                        Cue("one note was pushed", "Play that note and its neighbour in turn until they match."),
                    ),
                },
                about=About.BESIDE,
                echoes=on_the_same_note,
            ),
        ),
        limits=(Limit("line_level_db", "Step in volume between neighbours, dB", (14.0, 10.0, 8.0, 6.0), 3.0, 40.0),),
        of_whole=_line,
    ),
    Criterion(
        "loudness_by_height",
        "slope of level against pitch",
        (
            FaultType(
                "loudness",
                "volume with height",
                "the volume changed by {value:signed} dB for each octave up",
                {
                    "grow": (
                        Cue(
                            "it got softer on the way up",
                            "Grow into the top. Make the last note the loudest.",
                        ),
                        Cue(
                            "it got softer on the way up",
                            "Breathe in two steps, low then high. Blow past the top note.",
                            body=True,
                        ),
                    ),
                    "even": (
                        Cue(
                            "the volume changed with height",
                            "Remember how loud the first note was. Match it at the top.",
                        ),
                        Cue("the volume changed with height", "Play only the lowest and the highest note in turn."),
                    ),
                    "ease": (
                        Cue("it got louder on the way up", "Play strong at the bottom and light on top."),
                        Cue("it got louder on the way up", "Start a little louder, so that you can get softer."),
                    ),
                },
                survives_loss=True,
                about=About.WHOLE,
                echoes=anywhere,
            ),
        ),
        of_whole=_by_height,
    ),
)
