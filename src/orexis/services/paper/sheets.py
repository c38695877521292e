"""Sheets: an exercise, a series, a day, the instrument's chart, a report of a span."""

import re
from collections.abc import Iterable
from dataclasses import replace
from datetime import date

from orexis.core.exercises import EXERCISE_TYPES, Exercise, Medium, Series
from orexis.core.instruments import Instrument, Part
from orexis.core.messages import in_use, tell
from orexis.core.planning import DayKind, DayPlan, Week
from orexis.core.theory import pitch_of_midi
from orexis.core.theory.naming import NoteNames, called
from orexis.files.engraving import exercise_to_svg
from orexis.files.sheets import Picture, PracticeSheet, SheetPart
from orexis.services.material.chart import ChartOption, ChartRow
from orexis.services.material.staff_words import with_staff_words
from orexis.services.paper.charts import RangeOverTime, report_charts
from orexis.services.paper.dates import full_date, long_date, weekday
from orexis.services.queries.instrument_or_player import InstrumentOrPlayer
from orexis.services.queries.progress import ProgressShown
from orexis.services.queries.spans import SideBySide
from orexis.services.values.lessons import Lesson
from orexis.services.values.planning import GoalShown
from orexis.services.values.players import Player

FOOT = "Orexis. Stop when something is sore, numb or swollen. Your teacher and doctor come first."
_FULL_LINE = 620.0  # width of an engraving that fills the line
_MOST_OF_A_BLOCK = 4  # so that a half hour fits one page
_SMALL = 0.5  # of the staff on a sheet of its own
_NEAR = 20.0  # cents: further off no alternate is played, unless a slide brings it in tune
_KINDS = {
    DayKind.HEAVY: "Heavy day",
    DayKind.MEDIUM: "Medium day",
    DayKind.LIGHT: "Light day",
    DayKind.OFF: "Day off",
}
_BEATS = {1.0: "♩", 1.5: "♩.", 0.5: "♪", 0.75: "♪.", 2.0: "half note", 3.0: "dotted half note"}


def in_names(sheet: PracticeSheet, names: NoteNames) -> PracticeSheet:
    """The sheet with its notes called as the player calls them."""

    def told(texts: tuple[str, ...]) -> tuple[str, ...]:
        return tuple(called(text, names) for text in texts)

    parts = tuple(
        replace(
            part, title=called(part.title, names), lines=told(part.lines), rows=tuple(told(row) for row in part.rows)
        )
        for part in sheet.parts
    )
    return replace(sheet, title=called(sheet.title, names), under=called(sheet.under, names), parts=parts)


def in_words(sheet: PracticeSheet) -> PracticeSheet:
    """The sheet in the language in use."""
    said = in_use().said

    def told(texts: tuple[str, ...]) -> tuple[str, ...]:
        return tuple(said(text) for text in texts)

    parts = tuple(
        replace(
            part, title=said(part.title), lines=told(part.lines), head=told(part.head), rows=tuple(map(told, part.rows))
        )
        for part in sheet.parts
    )
    return replace(sheet, title=said(sheet.title), under=said(sheet.under), foot=said(sheet.foot), parts=parts)


def engraved(exercise: Exercise, instrument: Instrument, part: Part, *, scale: float = 1.0) -> Picture:
    """An exercise on the staff, as large on every sheet; smaller ones stand side by side."""
    svg = exercise_to_svg(with_staff_words(exercise), instrument, part)
    box = re.search(r'viewBox="0 0 ([\d.]+)', svg)
    width = min(100.0, scale * 100.0 * float(box[1]) / _FULL_LINE) if box else 100.0
    return Picture(svg, width)


def exercise_part(exercise: Exercise, instrument: Instrument, part: Part) -> SheetPart:
    """An exercise with its title, tempo and advice."""
    tempo = f"{_BEATS.get(exercise.beat_quarters, 'beat')} = {exercise.tempo_bpm:g}"
    asked = (exercise.hint,) if exercise.hint else ()
    return SheetPart(exercise.title, tempo, asked, (engraved(exercise, instrument, part),))


def series_sheet(person: Player, series: Series, *, only: int | None = None) -> PracticeSheet:
    """A series, or one exercise of it."""
    instrument, part = person.own_instrument, person.own_instrument.part(person.part)
    exercises = series.exercises if only is None else (series.exercises[only],)
    exercise_type = EXERCISE_TYPES.get(series.exercise_type)
    under = f"{instrument.name}. {exercise_type.purpose}" if exercise_type else instrument.name
    return PracticeSheet(
        series.title, under, FOOT, tuple(exercise_part(exercise, instrument, part) for exercise in exercises)
    )


def day_sheet(person: Player, plan: DayPlan, series: Iterable[Series], day: date) -> PracticeSheet:
    """A day as it is planned: each block with its minutes, its reason, its first exercises."""
    title = full_date(day)
    said = " ".join(plan.says)
    return PracticeSheet(
        title,
        tell(
            "{instrument}, {minutes} minutes. {said}",
            instrument=person.own_instrument.name,
            minutes=plan.minutes,
            said=said,
        ).strip(),
        FOOT,
        _blocks(person, plan, series),
    )


def week_sheet(
    person: Player,
    week: Week,
    goals: Iterable[GoalShown],
    lessons: Iterable[Lesson],
    plan: DayPlan,
    series: Iterable[Series],
) -> PracticeSheet:
    """A week: its days, goals and lessons, then the exercises of a day of it."""
    days = tuple(
        (weekday(date.fromordinal(day.day)), tell("{minutes} min", minutes=day.minutes), _KINDS[day.kind])
        for day in week.days
        if day.minutes
    )
    parts = [
        SheetPart("Days", rows=days, head=("Day", "Time", "Kind"), columns=(2, 1, 1), align=("left", "right", "left"))
    ]
    told = tuple(
        tell("{goal}, by {day}", goal=goal.says, day=long_date(date.fromisoformat(goal.date)))
        for goal in goals
        if goal.state == "on"
    )
    parts += [SheetPart("Goals", lines=told)] if told else []
    for lesson in lessons:
        words = (lesson.words, *(": ".join(filter(None, (one.name, one.words))) for one in lesson.exercises))
        parts.append(SheetPart(lesson.title, lines=tuple(filter(None, words))))
    title = tell("{name}, week of {day}", name=person.name, day=long_date(date.fromordinal(week.start)))
    return PracticeSheet(title, person.own_instrument.name, FOOT, (*parts, *_blocks(person, plan, series)))


def _blocks(person: Player, plan: DayPlan, series: Iterable[Series]) -> tuple[SheetPart, ...]:
    instrument, part = person.own_instrument, person.own_instrument.part(person.part)
    parts: list[SheetPart] = []
    for block, made in zip(plan.blocks, series, strict=False):
        exercise_type, first = EXERCISE_TYPES[block.exercise_type], made.exercises[0]
        shown = made.exercises[:1] if exercise_type.medium == Medium.AIR else made.exercises[:_MOST_OF_A_BLOCK]
        more = len(made.exercises) - len(shown)
        tempo = f", {_BEATS.get(first.beat_quarters, 'beat')} = {first.tempo_bpm:g}" if first.click else ""
        lines = (
            exercise_type.asks,
            *((tell("And {more} more, each like the one before.", more=more),) if more > 0 else ()),
        )
        pictures = tuple(engraved(exercise, instrument, part, scale=_SMALL) for exercise in shown)
        parts.append(
            SheetPart(
                exercise_type.name, tell("{minutes:g} min{tempo}", minutes=block.minutes, tempo=tempo), lines, pictures
            )
        )
    return tuple(parts)


def chart_sheet(person: Player, rows: Iterable[ChartRow]) -> PracticeSheet:
    """Every note with its ways, the highest first, on the player's own instrument."""
    table = tuple(
        (
            row.written,
            row.sounding,
            row.options[0].label if row.options else "bent with the lip",
            f"{row.options[0].cents:+.0f}" if row.options else "",
            _pull(row),
            ", ".join(f"{option.label} ({option.cents:+.0f})" for option in row.options[1:] if _is_played(option))[:80],
        )
        for row in reversed(list(rows))
    )
    part = SheetPart(
        head=("Written", "Sounds", "Fingering", "Cents", "Slide", "Alternates"),
        rows=table,
        columns=(1.1, 1.0, 1.2, 0.8, 1.6, 3.6),
        align=("left", "left", "left", "right", "left", "left"),
    )
    own = "with what was learned of this instrument" if person.setup.learned else "by theory"
    under = tell("A4 = {a4_hz:g} Hz, {own}; sharp is positive.", a4_hz=person.a4_hz, own=own)
    return PracticeSheet(person.own_instrument.name, under, FOOT, (part,))


def report_sheet(
    person: Player,
    shown: ProgressShown,
    sides: Iterable[SideBySide],
    tuning: InstrumentOrPlayer,
    until: date,
    *,
    history: RangeOverTime = (),
) -> PracticeSheet:
    """A span on a page: what changed, the measures at its two ends, weeks, what came for the first time."""
    transposition = person.own_instrument.part(person.part).transposition

    def name_of(midi: int) -> str:
        return transposition.written(pitch_of_midi(midi)).name

    told = (("Improving", shown.improving), ("Slipped", shown.slipped))
    parts = [SheetPart(name, lines=tuple(line.says for line in lines) or ("no clear change",)) for name, lines in told]
    parts.append(SheetPart("At a glance", pictures=report_charts(shown, history, name_of)))
    rows = tuple(
        (side.measure.label, f"{side.first:.3g}", f"{side.last:.3g}", side.measure.unit, side.says or "")
        for side in sides
        if not side.scope
    )
    if rows:
        parts.append(
            SheetPart(
                "Start and end of this period",
                head=("Measure", "First", "Last", "", "Change"),
                rows=rows,
                columns=(3.0, 0.8, 0.8, 1.0, 3.4),
                align=("left", "right", "right", "left", "left"),
            )
        )
    if shown.playing:
        parts.append(_weeks(shown))
    if tuning.missing is None:
        parts.append(SheetPart("Your instrument", lines=tuple(tuning.advice) or ("nothing to move",)))
        parts.append(SheetPart("You", lines=tuple(tuning.habits)))
    if shown.milestones:
        parts.append(SheetPart("First times", lines=tuple(f"{one.day}: {one.says}" for one in shown.milestones)))
    under = tell(
        "{own_instrument}, {standard}; {weeks} weeks until {isoformat}.",
        own_instrument=person.own_instrument.name,
        standard=person.standard,
        weeks=shown.weeks,
        isoformat=until.isoformat(),
    )
    return PracticeSheet(person.name, under, FOOT, tuple(parts))


def _weeks(shown: ProgressShown) -> SheetPart:
    rows = tuple(
        (
            week.start,
            f"{week.days}",
            f"{week.playing_min:.0f}",
            f"{week.load / 60.0:.1f}",
            f"{100 * week.clean / week.takes:.0f}%" if week.takes else "",
            "" if week.minutes_to_tiring is None else f"{week.minutes_to_tiring:g}",
        )
        for week in shown.playing
    )
    return SheetPart(
        "Weeks",
        head=("Week of", "Days", "Minutes of playing", "Load, min", "Clean", "Minutes to tiring"),
        rows=rows,
        columns=(1.4, 0.8, 1.4, 1.0, 1.0, 1.6),
        align=("left", "right", "right", "right", "right", "right"),
    )


def _is_played(option: ChartOption) -> bool:
    return abs(option.cents) <= _NEAR or (option.reachable and option.slide is not None)


def _pull(row: ChartRow) -> str:
    if not row.options:
        return ""
    best = row.options[0]
    if best.slide is None or best.slide_mm is None or abs(best.slide_mm) < 2:
        return ""
    if not best.reachable:
        return "cannot be reached"
    if best.slide_mm > 0:
        return tell("{slide} {mm:.0f} mm out", slide=best.slide, mm=best.slide_mm)
    return tell("{slide} {mm:.0f} mm in", slide=best.slide, mm=-best.slide_mm)
