"""Dates from a calendar file (RFC 5545): what is a performance, a rehearsal or a lesson by its name, to be chosen from.

Of repeated events, a weekly one without a near end is one entry; what ends within half a year is told date by date. What another
calendar program repeats in other ways is told once. Practice that this program wrote is left out.
"""

from collections.abc import Iterator
from dataclasses import dataclass
from datetime import date, datetime, timedelta
from enum import StrEnum
from typing import TYPE_CHECKING

from orexis.core.messages import tell
from orexis.errors import InputError

if TYPE_CHECKING:
    from icalendar import Event

MAX_BYTES = 1_000_000  # ten years of a busy calendar
_MOST_EVENTS = 5_000  # read of one file
MOST_ENTRIES = 200  # more cannot be chosen from
_LONG = timedelta(days=182)  # a weekly event that goes on for longer is told once
_FARTHEST = timedelta(days=730)
_USUAL_MINUTES = 120  # of what has no times


class EntryKind(StrEnum):
    """What a date is to the plan."""

    PERFORMANCE = "performance"
    REHEARSAL = "rehearsal"
    OTHER = "other"


_PERFORMANCES = ("concert", "performance", "audition", "gig", "recital", "contest", "exam", "show", "wedding")
_REHEARSALS = ("rehearsal", "band", "orchestra", "ensemble", "lesson", "brass", "quintet", "sectional", "choir")


@dataclass(frozen=True, slots=True)
class CalendarEntry:
    """One date: `day` as year-month-day; `minutes` as long as it lasts; `weekly`: from then on every week."""

    title: str
    day: str
    minutes: int
    kind: EntryKind
    weekly: bool = False


def entries_of_calendar(data: bytes, today: date) -> tuple[CalendarEntry, ...]:
    """Dates from today on, the earliest first; InputError for what is no calendar."""
    from icalendar import Calendar, Event  # slow to load, and rarely needed

    if len(data) > MAX_BYTES:
        raise InputError(
            tell(
                "The calendar has {count:.1f} MB: export a shorter span, at most {max_bytes}.",
                count=len(data) / 1e6,
                max_bytes=MAX_BYTES // 10**6,
            )
        )
    try:
        calendar = Calendar.from_ical(data)
        events = [item for item in calendar.walk("VEVENT") if isinstance(item, Event)][:_MOST_EVENTS]
        entries = [entry for event in events for entry in _entries(event, today)]
    except (ValueError, KeyError, IndexError, TypeError, AttributeError, OverflowError, OSError) as error:
        # OSError: the name of a time zone that no file can have
        raise InputError("This is no calendar: export it as an iCalendar file (.ics).") from error
    return tuple(sorted(set(entries), key=lambda entry: (entry.day, entry.title)))[:MOST_ENTRIES]


def _entries(event: "Event", today: date) -> Iterator[CalendarEntry]:
    if str(event.get("uid", "")).endswith("@orexis") or "dtstart" not in event:
        return
    start = event.decoded("dtstart")
    first = _day(start)
    title = " ".join(str(event.get("summary", "")).split())[:80] or "Without a name"
    minutes, kind = _minutes(event, start), _kind(title)
    days, weekly = _days(event, first, today)
    for day in days:
        if today <= day <= today + _FARTHEST:
            yield CalendarEntry(title, day.isoformat(), minutes, kind, weekly)


def _day(moment: date | datetime) -> date:
    if not isinstance(moment, datetime):
        return moment
    return (moment.astimezone() if moment.tzinfo else moment).date()


def _minutes(event: "Event", start: date | datetime) -> int:
    if not isinstance(start, datetime):
        return _USUAL_MINUTES
    if "dtend" in event:
        length = event.decoded("dtend") - start
    elif "duration" in event:
        length = event.decoded("duration")
    else:
        return _USUAL_MINUTES
    return min(600, max(5, round(length.total_seconds() / 60.0)))


def _days(event: "Event", first: date, today: date) -> tuple[list[date], bool]:
    """Its dates, and whether it goes on every week."""
    rule = event.get("rrule")
    every = int((rule.get("interval") or [1])[0]) if rule else 1
    if not rule or (rule.get("freq") or [""])[0] != "WEEKLY" or every != 1:
        return [first], False
    count = (rule.get("count") or [None])[0]
    until = (rule.get("until") or [None])[0]
    end = first + timedelta(weeks=int(count) - 1) if count else _day(until) if until else None
    behind = max(0, -(-(today - first).days // 7))
    following = first + timedelta(weeks=behind)  # the first that is not over
    if end is None or end - today > _LONG:
        return [following], True
    left = (end - following).days // 7 + 1
    return [following + timedelta(weeks=week) for week in range(max(0, left))], False


def _kind(title: str) -> EntryKind:
    lower = title.lower()
    if "rehearsal" in lower:  # of a concert, too
        return EntryKind.REHEARSAL
    if any(word in lower for word in _PERFORMANCES):
        return EntryKind.PERFORMANCE
    return EntryKind.REHEARSAL if any(word in lower for word in _REHEARSALS) else EntryKind.OTHER
