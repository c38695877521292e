"""Sheets: a figure, a series, a day, the horn's chart, a report of a span."""

import re
from collections.abc import Iterable
from dataclasses import replace
from datetime import date

from orexis.core.figures import FAMILIES, Figure, Series
from orexis.core.horn import Instrument, Part
from orexis.core.planning import DayPlan
from orexis.core.theory.naming import NoteNames, called
from orexis.files.engraving import figure_to_svg
from orexis.files.sheets import PracticeSheet, SheetPart
from orexis.services.material.chart import ChartRow
from orexis.services.players.values import Player
from orexis.services.queries.horn_or_me import HornOrMe
from orexis.services.queries.progress import ProgressShown
from orexis.services.queries.spans import SideBySide

FOOT = "Orexis. Stop when something is sore, numb or swollen. Your teacher and doctor come first."
_FULL_LINE = 620.0  # width of an engraving that fills the line
_MOST_OF_A_BLOCK = 4
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


def figure_part(figure: Figure, horn: Instrument, part: Part, *, title: str | None = None) -> SheetPart:
    """A figure engraved, its staff as large on every sheet."""
    svg = figure_to_svg(figure, horn, part)
    box = re.search(r'viewBox="0 0 ([\d.]+)', svg)
    width = min(100.0, 100.0 * float(box[1]) / _FULL_LINE) if box else 100.0
    asked = (figure.hint,) if figure.hint else ()
    return SheetPart(
        figure.title if title is None else title,
        f"{_BEATS.get(figure.beat_quarters, 'beat')} = {figure.tempo_bpm:g}",
        asked,
        svg,
        width,
    )


def series_sheet(person: Player, series: Series, *, only: int | None = None) -> PracticeSheet:
    """A series, or one figure of it."""
    horn, part = person.instrument, person.instrument.part(person.part)
    figures = series.figures if only is None else (series.figures[only],)
    family = FAMILIES.get(series.family)
    under = f"{horn.name}. {family.purpose}" if family else horn.name
    return PracticeSheet(series.title, under, FOOT, tuple(figure_part(figure, horn, part) for figure in figures))


def day_sheet(person: Player, plan: DayPlan, series: Iterable[Series], day: date) -> PracticeSheet:
    """A day as it is planned: each block with its minutes, its reason, its first figures."""
    horn, part = person.instrument, person.instrument.part(person.part)
    parts: list[SheetPart] = []
    for block, made in zip(plan.blocks, series, strict=False):
        lines = [line for line in (block.says, block.why) if line]
        parts.append(SheetPart(FAMILIES[block.family].name, f"{block.minutes:g} min", tuple(lines)))
        more = len(made.figures) - _MOST_OF_A_BLOCK
        parts += [figure_part(figure, horn, part, title="") for figure in made.figures[:_MOST_OF_A_BLOCK]]
        if more > 0:
            parts.append(SheetPart(lines=(f"and {more} more, each like the one before",)))
    title = f"{day.strftime('%A')}, {day.day} {day.strftime('%B %Y')}"
    said = " ".join(plan.says)
    return PracticeSheet(title, f"{horn.name}, {plan.minutes} minutes. {said}".strip(), FOOT, tuple(parts))


def chart_sheet(person: Player, rows: Iterable[ChartRow]) -> PracticeSheet:
    """Every note with its ways, the highest first, on the player's own horn."""
    table = tuple(
        (
            row.written,
            row.sounding,
            row.ways[0].label if row.ways else "bent with the lip",
            f"{row.ways[0].cents:+.0f}" if row.ways else "",
            _pull(row),
            ", ".join(f"{way.label} ({way.cents:+.0f})" for way in row.ways[1:5]),
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
    under = f"A4 = {person.a4_hz:g} Hz, {own}; sharp is positive."
    return PracticeSheet(person.instrument.name, under, FOOT, (part,))


def report_sheet(
    person: Player, shown: ProgressShown, sides: Iterable[SideBySide], tuning: HornOrMe, until: date
) -> PracticeSheet:
    """A span on a page: what changed, the measures at its two ends, weeks, what came for the first time."""
    told = (("Improving", shown.improving), ("No change", shown.standing), ("Slipped", shown.slipped))
    parts = [SheetPart(name, lines=tuple(line.says for line in lines) or ("no clear change",)) for name, lines in told]
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
    under = f"{person.instrument.name}, {person.standard}; {shown.weeks} weeks until {until.isoformat()}."
    return PracticeSheet(person.name, under, FOOT, tuple(parts))


def _weeks(shown: ProgressShown) -> SheetPart:
    rows = tuple(
        (
            week.start,
            f"{week.days}",
            f"{week.playing_min:.0f}",
            f"{week.load:.0f}",
            f"{100 * week.clean / week.takes:.0f}%" if week.takes else "",
            "" if week.minutes_to_tiring is None else f"{week.minutes_to_tiring:g}",
        )
        for week in shown.playing
    )
    return SheetPart(
        "Weeks",
        head=("Week of", "Days", "Minutes of playing", "Load", "Held", "Minutes to tiring"),
        rows=rows,
        columns=(1.4, 0.8, 1.4, 1.0, 1.0, 1.6),
        align=("left", "right", "right", "right", "right", "right"),
    )


def _pull(row: ChartRow) -> str:
    if not row.ways:
        return ""
    best = row.ways[0]
    if not best.reachable:
        return "cannot be reached"
    if best.slide is None or best.slide_mm is None or abs(best.slide_mm) < 2:
        return ""
    return f"{best.slide} {abs(best.slide_mm):.0f} mm {'out' if best.slide_mm > 0 else 'in'}"
