"""Planning: the day with what the player changed in it, the weeks, paths, programmes, own routines."""

import re
from collections.abc import Iterable, Mapping
from dataclasses import replace
from datetime import date, datetime
from uuid import uuid4

from sqlalchemy import delete, select
from sqlalchemy.orm import Session

from orexis.core.figures import FAMILIES, families_for, family_named
from orexis.core.horn import Part
from orexis.core.planning import (
    MOST_MINUTES,
    PRIOR_DAYS,
    Aim,
    DayPlan,
    Days,
    Forecast,
    Gained,
    Kept,
    Known,
    Place,
    Practised,
    Said,
    Week,
    as_arranged,
    checked_aim,
    compose,
    family_of,
    forecast,
    instead,
    monday,
    place_of,
    plan_week,
    said_of,
    wish_of,
    would_change,
)
from orexis.core.progress import needed, path_of
from orexis.core.theory import parse_pitch
from orexis.errors import ConflictError, InputError
from orexis.services.clock import local_day, now
from orexis.services.codec import packed, unpacked
from orexis.services.planning.days import set_by_hand
from orexis.services.planning.remember import days_of, known_from, practised_of, shown_of, whose_of
from orexis.services.planning.values import DayShown, OwnBlock, OwnRoutine, PathShown, ProgrammeShown, Weeks
from orexis.services.players import Player, Players
from orexis.services.record import Record, found
from orexis.store.models import OwnRoutineRow, ProgrammeDayRow, ProgrammeRow

WEEKS_AHEAD, WEEKS_BACK = 3, 4
STATES = ("on", "paused", "given up", "reached")
_MOST_PROGRAMMES, _MOST_ROUTINES, _NAME = 6, 40, 60
_LONGEST_AIM = 3 * 366
_MOST_SWAPS = 8
_CONCERT = re.compile(r"\b([A-G][#b]?-?\d)(?: \(concert\))?(?![\w.])")


class Planning:
    """Everything about what comes next."""

    def __init__(self, record: Record, players: Players) -> None:
        self._record, self._players = record, players

    # -- the day -----------------------------------------------------------------------------------------------------

    def known(self, person: Player, said: Said, at: datetime) -> Known:
        """All that today is planned from, the wishes of the programmes that are on included."""
        today = local_day(at)
        with self._record.database.reading() as db:
            bare = known_from(db, person, said, today)
            rows = _programmes(db, person, states=("on",))
        return replace(bare, wishes=tuple(wish_of(unpacked(Aim, row.aim), bare) for row in rows))

    def day(
        self,
        person: Player,
        minutes: int,
        said: Said,
        *,
        kept: Iterable[Kept] = (),
        without: Iterable[str] = (),
        arranged: bool = False,
        at: datetime | None = None,
    ) -> tuple[Known, DayPlan]:
        """The day. `arranged`: exactly the kept blocks in their order; otherwise composed around those."""
        known = self.known(person, said, at or now())
        blocks = tuple(kept)
        for block in blocks:
            if not family_named(block.family).suits(person.instrument):
                raise InputError(f"{family_named(block.family).name} does not suit the {person.instrument.name}.")
        if arranged:
            return known, as_arranged(known, blocks)
        return known, compose(known, minutes, kept=blocks, without=without)

    def shown(self, person: Player, known: Known, plan: DayPlan) -> DayShown:
        """A day for the page, its notes as the player reads them."""
        part = person.instrument.part(person.part)
        names = {family.id: family.name for family in families_for(known.horn)}
        here = {block.family for block in plan.blocks}
        others = {
            block.family: instead(known, block.family, plan.minutes, without=here)[:_MOST_SWAPS]
            for block in plan.blocks
        }
        blocks = tuple(
            replace(block, why=in_written(block.why, part), says=in_written(block.says, part)) for block in plan.blocks
        )
        return DayShown(replace(plan, blocks=blocks), names, others)

    # -- the weeks ---------------------------------------------------------------------------------------------------

    def weeks(self, player_id: str, *, at: datetime | None = None) -> Weeks:
        """The weeks played, this one as it is planned now, and those ahead if they go as planned."""
        person, today = self._players.get(player_id), local_day(at or now())
        with self._record.database.reading() as db:
            practised = practised_of(db, person.id, today)
        given, start = days_of(person), monday(today)
        back = [_past(today, start - 7 * n, practised, given, person) for n in range(WEEKS_BACK, 0, -1)]
        found = [week for week in back if any(day.played for day in week.days)]
        for ahead in range(WEEKS_AHEAD + 1):
            week = plan_week(max(today, start + 7 * ahead), start + 7 * ahead, practised, given, stage=person.stage)
            found.append(week)
            practised = _as_planned(practised, week, today)
        return Weeks(
            today,
            tuple(found),
            given.minutes,
            tuple(sorted(person.settings.performances)),
            dict(person.settings.moved),
            tuple(_warnings(found, today)),
        )

    # -- paths -------------------------------------------------------------------------------------------------------

    def paths(self, player_id: str, *, at: datetime | None = None) -> tuple[PathShown, ...]:
        """Every path of the horn in hand, and where the player stands on it."""
        person, today = self._players.get(player_id), local_day(at or now())
        with self._record.database.reading() as db:
            known = known_from(db, person, Said(), today)
        shown, part = [], person.instrument.part(person.part)
        for family in families_for(person.instrument):
            path = path_of(family.id, person.instrument)
            if path is None:
                continue
            standing, need = known.standing(path), needed(path)
            lately = known.lately.get(family.id)
            back = lately is not None and bool(lately.comes_back) and (lately.last_day or today) < today
            shown.append(
                PathShown(
                    family.id,
                    family.name,
                    standing.step,
                    tuple(in_written(step.say, part) for step in path.steps),
                    dict(path.steps[standing.step].params),
                    standing.held_days,
                    need,
                    _opens(standing.step, len(path.steps), standing.held_days, need),
                    standing.change,
                    back,
                )
            )
        return tuple(shown)

    def set_step(self, player_id: str, family_id: str, step: int, *, at: datetime | None = None) -> None:
        """The player's own word about where they stand; InputError for a step that there is not."""
        person = self._players.get(player_id)
        path = path_of(family_named(family_id).id, person.instrument)
        if path is None:
            raise InputError(f"{FAMILIES[family_id].name} has no path here: its start follows your range.")
        if not 0 <= step < len(path.steps):
            raise InputError(f"Step {step + 1} is not on this path: choose 1 to {len(path.steps)}.")
        with self._record.database.writing() as db:
            set_by_hand(db, whose_of(person), family_id, step, local_day(at or now()))

    # -- programmes --------------------------------------------------------------------------------------------------

    def programmes(self, player_id: str, *, at: datetime | None = None) -> tuple[ProgrammeShown, ...]:
        """All of the horn in hand, those that are on first. One whose aim is met is closed as reached."""
        person, today = self._players.get(player_id), local_day(at or now())
        with self._record.database.reading() as db:
            rows = _programmes(db, person, states=STATES)
            if not rows:
                return ()
            known, shown = known_from(db, person, Said(), today), shown_of(db, person)
            positions = {row.id: _positions(db, row.id) for row in rows}
        places = {row.id: place_of(unpacked(Aim, row.aim), known, shown) for row in rows}
        self._note(rows, places, known, today)
        ordered = sorted(rows, key=lambda row: (STATES.index(row.state), row.day, row.id))
        return tuple(_shown(row, places[row.id], positions[row.id], person, today) for row in ordered)

    def add_programme(self, player_id: str, aim: Aim, by: date, *, at: datetime | None = None) -> ProgrammeShown:
        """A new aim; InputError for one that is met, impossible, or before today."""
        person, today = self._players.get(player_id), local_day(at or now())
        checked_aim(aim, person.instrument)
        if by.toordinal() <= today:
            raise InputError("The date is not after today: choose a later one.")
        if by.toordinal() > today + _LONGEST_AIM:
            raise InputError("The date is more than three years away: choose a nearer one.")
        with self._record.database.reading() as db:
            place = place_of(aim, known_from(db, person, Said(), today), shown_of(db, person))
            others = _programmes(db, person, states=("on", "paused"))
        if place.reached:
            raise InputError(f"That is yours already ({place.now}): aim further.")
        if any(unpacked(Aim, row.aim) == aim for row in others):
            raise ConflictError("There is a programme with this aim already.")
        if len(others) >= _MOST_PROGRAMMES:
            raise ConflictError(f"{_MOST_PROGRAMMES} programmes share the week: finish or pause one first.")
        row = ProgrammeRow(
            id=uuid4().hex,
            player_id=person.id,
            horn=person.horn,
            aim=packed(aim),
            day=by.toordinal(),
            state="on",
            began=today,
            ended=None,
        )
        with self._record.database.writing() as db:
            db.add(row)
            db.flush()
            db.add(ProgrammeDayRow(programme_id=row.id, day=today, position=place.position))
        return next(item for item in self.programmes(player_id, at=at) if item.id == row.id)

    def change_programme(self, player_id: str, programme_id: str, *, state: str, by: date | None) -> None:
        """Go on, pause, give up, or move the date."""
        if state not in STATES[:3]:
            raise InputError(f"A programme is {', '.join(STATES[:3])}, not “{state[:20]}”.")
        with self._record.database.writing() as db:
            row = found(db, ProgrammeRow, programme_id, "programme")
            if row.player_id != player_id:
                raise InputError("This programme belongs to another player.")
            if row.state == "reached":
                raise ConflictError("This one is reached: begin another.")
            row.state = state
            row.ended = local_day(now()) if state == "given up" else None
            if by is not None:
                if by.toordinal() <= local_day(now()):
                    raise InputError("The date is not after today: choose a later one.")
                row.day = by.toordinal()

    def _note(self, rows: list[ProgrammeRow], places: Mapping[str, Place], known: Known, today: int) -> None:
        """Where each stands today, once for each day on which something was played, and reached where it is."""
        latest = max((own.last_day for own in known.lately.values() if own.last_day is not None), default=None)
        with self._record.database.reading() as db:
            fresh = [
                row
                for row in rows
                if row.state == "on"
                and (places[row.id].reached or (latest is not None and _is_new(db, row, latest, places)))
            ]
        if not fresh:
            return
        with self._record.database.writing() as db:
            for row in fresh:
                place = places[row.id]
                db.merge(ProgrammeDayRow(programme_id=row.id, day=latest or today, position=place.position))
                if place.reached:
                    kept = found(db, ProgrammeRow, row.id, "programme")
                    kept.state, kept.ended = "reached", today
                    row.state, row.ended = "reached", today

    # -- own routines ------------------------------------------------------------------------------------------------

    def routines(self, player_id: str) -> tuple[OwnRoutine, ...]:
        """By name."""
        query = select(OwnRoutineRow).where(OwnRoutineRow.player_id == player_id).order_by(OwnRoutineRow.name)
        with self._record.database.reading() as db:
            return tuple(
                OwnRoutine(row.id, row.name, unpacked(tuple[OwnBlock, ...], row.blocks)) for row in db.scalars(query)
            )

    def keep_routine(self, player_id: str, name: str, blocks: tuple[OwnBlock, ...]) -> OwnRoutine:
        """Keep a day; one of the same name is replaced."""
        cleaned = " ".join(name.split())
        if not 1 <= len(cleaned) <= _NAME:
            raise InputError(f"The name has {len(cleaned)} letters: write 1 to {_NAME}.")
        minutes = sum(block.minutes for block in blocks)
        if not blocks or not 1 <= minutes <= MOST_MINUTES or any(block.minutes <= 0 for block in blocks):
            raise InputError(
                f"The blocks make {minutes:g} minutes: a day has up to {MOST_MINUTES}, and every block some."
            )
        for block in blocks:
            family_named(block.family)
        with self._record.database.writing() as db:
            db.execute(delete(OwnRoutineRow).where(OwnRoutineRow.player_id == player_id, OwnRoutineRow.name == cleaned))
            count = len(db.scalars(select(OwnRoutineRow.id).where(OwnRoutineRow.player_id == player_id)).all())
            if count >= _MOST_ROUTINES:
                raise ConflictError(f"{_MOST_ROUTINES} routines are kept already: delete one first.")
            row = OwnRoutineRow(id=uuid4().hex, player_id=player_id, name=cleaned, blocks=packed(blocks), made_at=now())
            db.add(row)
            db.flush()
            return OwnRoutine(row.id, cleaned, blocks)

    def drop_routine(self, player_id: str, routine_id: str) -> None:
        """Delete one."""
        with self._record.database.writing() as db:
            row = found(db, OwnRoutineRow, routine_id, "routine")
            if row.player_id == player_id:
                db.delete(row)


def _programmes(db: Session, person: Player, *, states: tuple[str, ...]) -> list[ProgrammeRow]:
    row = ProgrammeRow
    query = select(row).where(row.player_id == person.id, row.horn == person.horn, row.state.in_(states))
    rows = list(db.scalars(query.order_by(row.day, row.id)))
    db.expunge_all()
    return rows


def _positions(db: Session, programme_id: str) -> list[float]:
    row = ProgrammeDayRow
    query = select(row.position).where(row.programme_id == programme_id).order_by(row.day.desc()).limit(60)
    return list(reversed(db.scalars(query).all()))


def _is_new(db: Session, row: ProgrammeRow, day: int, places: Mapping[str, Place]) -> bool:
    known = db.get(ProgrammeDayRow, (row.id, day))
    return known is None or known.position != places[row.id].position


def _shown(row: ProgrammeRow, place: Place, positions: list[float], person: Player, today: int) -> ProgrammeShown:
    aim, part = unpacked(Aim, row.aim), person.instrument.part(person.part)
    first = positions[0] if positions else place.position
    gained = Gained([*positions, place.position])
    days = float(sum(minutes > 0 for minutes in person.settings.minutes))
    prior = PRIOR_DAYS[aim.kind]
    told: Forecast | None = None
    otherwise = None
    if row.state == "on":
        told = forecast(place, gained, prior_days=prior, today=today, days_a_week=days)
        otherwise = would_change(place, gained, aim.kind, prior_days=prior, today=today, days_a_week=days, date=row.day)
    way = place.goal - first
    return ProgrammeShown(
        id=row.id,
        aim=aim,
        says=in_written(said_of(aim), part),
        family=family_of(aim, person.instrument),
        date=_iso(row.day) or "",
        state=row.state,
        began=_iso(row.began) or "",
        ended=_iso(row.ended),
        now=in_written(place.now, part),
        asked=in_written(place.asked, part),
        share=1.0
        if place.reached or row.state == "reached"
        else round(max(0.0, (place.position - first) / way), 3)
        if way > 0
        else 0.0,
        steps_left=place.steps_left,
        forecast=told,
        median=_iso(told.median) if told else None,
        low=_iso(told.low) if told else None,
        high=_iso(told.high) if told else None,
        otherwise=otherwise,
    )


def in_written(text: str, part: Part) -> str:
    """A line whose concert notes stand as this part writes them."""
    return _CONCERT.sub(lambda found: part.transposition.written(parse_pitch(found.group(1))).name, text)


def _iso(day: int | None) -> str | None:
    return None if day is None else date.fromordinal(day).isoformat()


def _opens(step: int, steps: int, held: int, need: int) -> str:
    if step + 1 >= steps:
        return "the last step: it is kept up from here"
    left = max(1, need - held)
    return f"held on {left} more {'day' if left == 1 else 'days'} opens the next step"


def _past(today: int, start: int, practised: Practised, given: Days, person: Player) -> Week:
    """A week that is over: what was played on its days, under the bound that it had."""
    before = Practised(
        {day: load for day, load in practised.loads.items() if day < start}, practised.spent, practised.heavy
    )
    planned = plan_week(start, start, before, given, stage=person.stage)
    days = tuple(replace(day, played=practised.loads.get(day.day)) for day in planned.days)
    return replace(planned, days=days)


def _as_planned(practised: Practised, week: Week, today: int) -> Practised:
    """As if the days ahead went as planned."""
    ahead = {day.day: day.target for day in week.days if day.day >= today and day.target}
    heavy = {day.day for day in week.days if day.kind == "heavy"}
    return Practised({**practised.loads, **ahead}, practised.spent, practised.heavy | heavy)


def _warnings(weeks: list[Week], today: int) -> Iterable[str]:
    for week in weeks:
        played = sum(day.played or 0.0 for day in week.days)
        if week.start <= today < week.start + 7 and played > week.bound:
            yield f"This week went beyond its bound ({played:.0f} of {week.bound:.0f}): the days left are off."
    if not any(day.minutes for week in weeks for day in week.days if day.day >= today):
        yield "No time is set aside on any day: give at least one."
