"""The weeks as a calendar that any calendar program reads (RFC 5545): days to practise, performances, goals with their dates."""

from collections.abc import Iterable
from datetime import date, datetime, time, timedelta

from icalendar import Calendar, Event

from orexis.core.messages import tell
from orexis.core.planning import DayKind, PlannedDay
from orexis.services.clock import now
from orexis.services.values.planning import GoalShown, WeeksShown
from orexis.services.values.players import Player


def weeks_as_calendar(person: Player, weeks: WeeksShown, goals: Iterable[GoalShown]) -> bytes:
    """Days from today on that are for practice, at the player's time of day or as whole days; performances and goals are whole days."""
    calendar = Calendar()
    calendar.add("prodid", "-//Orexis//practice//EN")
    calendar.add("version", "2.0")
    calendar.add("x-wr-calname", tell("Practice, {person}", person=person.name))
    stamp = now()
    for week in weeks.weeks:
        for day in week.days:
            if day.day >= weeks.today and day.kind != DayKind.OFF and day.minutes:
                calendar.add_component(_practice(person, day, stamp))
    for text in weeks.performances:
        calendar.add_component(
            _whole_day(f"performance-{text}-{person.id}", "Performance", date.fromisoformat(text), stamp)
        )
    for item in goals:
        if item.state == "on":
            event = _whole_day(
                f"aim-{item.id}", tell("Goal: {says}", says=item.says), date.fromisoformat(item.date), stamp
            )
            calendar.add_component(event)
    return bytes(calendar.to_ical())


def _practice(person: Player, day: PlannedDay, stamp: datetime) -> Event:
    key, summary = (
        f"day-{day.day}-{person.id}",
        tell("Practice, {minutes} min, {kind}", minutes=day.minutes, kind=day.kind),
    )
    on, at = date.fromordinal(day.day), person.settings.practice_at
    if at is None:
        event = _whole_day(key, summary, on, stamp)
    else:
        start = datetime.combine(on, time.fromisoformat(at))
        event = _event(key, summary, stamp)
        event.add("dtstart", start)
        event.add("dtend", start + timedelta(minutes=day.minutes))
    event.add("description", tell("{why}; load up to {target:.1f} min", why=day.why, target=day.target / 60.0))
    return event


def _event(key: str, summary: str, stamp: datetime) -> Event:
    event = Event()
    event.add("uid", f"{key}@orexis")
    event.add("dtstamp", stamp)
    event.add("summary", summary)
    return event


def _whole_day(key: str, summary: str, day: date, stamp: datetime) -> Event:
    event = _event(key, summary, stamp)
    event.add("dtstart", day)
    event.add("dtend", day + timedelta(days=1))
    event.add("transp", "TRANSPARENT")
    return event
