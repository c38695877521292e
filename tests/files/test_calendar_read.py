"""A calendar file: what is read of it, what is guessed by name, and what is refused."""

import contextlib
from datetime import date

import pytest

from orexis.errors import InputError
from orexis.files.calendar_read import MAX_BYTES, EntryKind, entries_of_calendar

TODAY = date(2026, 3, 4)  # a Wednesday


def calendar(*events: str) -> bytes:
    inner = "\r\n".join(f"BEGIN:VEVENT\r\nDTSTAMP:20260101T000000Z\r\n{event}\r\nEND:VEVENT" for event in events)
    return f"BEGIN:VCALENDAR\r\nVERSION:2.0\r\nPRODID:-//x//EN\r\n{inner}\r\nEND:VCALENDAR\r\n".encode()


def test_performances_and_rehearsals_are_told_by_their_names() -> None:
    read = entries_of_calendar(
        calendar(
            "UID:1\r\nSUMMARY:Spring concert\r\nDTSTART;VALUE=DATE:20260321",
            "UID:2\r\nSUMMARY:Concert rehearsal\r\nDTSTART:20260318T190000\r\nDTEND:20260318T213000",
            "UID:3\r\nSUMMARY:Dentist\r\nDTSTART:20260305T090000\r\nDURATION:PT30M",
            "UID:4\r\nSUMMARY:Audition\r\nDTSTART:20250305T090000",  # over
            "UID:day-1@orexis\r\nSUMMARY:Practice\\, 30 min\r\nDTSTART:20260306T090000",
        ),
        TODAY,
    )
    assert [(entry.title, entry.day, entry.kind) for entry in read] == [
        ("Dentist", "2026-03-05", EntryKind.OTHER),
        ("Concert rehearsal", "2026-03-18", EntryKind.REHEARSAL),
        ("Spring concert", "2026-03-21", EntryKind.PERFORMANCE),
    ]
    assert [entry.minutes for entry in read] == [30, 150, 120]


def test_what_is_weekly_is_one_entry_and_what_ends_soon_is_told_by_date() -> None:
    weekly = "UID:1\r\nSUMMARY:Town band\r\nDTSTART:20250902T193000\r\nDTEND:20250902T213000\r\nRRULE:FREQ=WEEKLY"
    (band,) = entries_of_calendar(calendar(weekly), TODAY)
    assert (band.day, band.weekly, band.minutes) == ("2026-03-10", True, 120)  # the next Tuesday
    ends = weekly + ";UNTIL=20260325T000000Z"
    assert [entry.day for entry in entries_of_calendar(calendar(ends), TODAY)] == [
        "2026-03-10",
        "2026-03-17",
        "2026-03-24",
    ]
    assert not any(entry.weekly for entry in entries_of_calendar(calendar(ends), TODAY))
    counted = "UID:2\r\nSUMMARY:Lesson\r\nDTSTART:20260306T160000\r\nRRULE:FREQ=WEEKLY;COUNT=3"
    assert len(entries_of_calendar(calendar(counted), TODAY)) == 3
    monthly = "UID:3\r\nSUMMARY:Lesson\r\nDTSTART:20260306T160000\r\nRRULE:FREQ=MONTHLY"
    assert len(entries_of_calendar(calendar(monthly), TODAY)) == 1


@pytest.mark.parametrize("data", [b"no calendar", b"\xff\xfe\x00", b"BEGIN:VEVENT\r\nSUMMARY:x"])
def test_what_is_no_calendar_is_refused(data: bytes) -> None:
    with pytest.raises(InputError, match="no calendar"):
        entries_of_calendar(data, TODAY)


def test_a_calendar_that_is_too_large_is_refused() -> None:
    with pytest.raises(InputError, match="shorter span"):
        entries_of_calendar(b" " * (MAX_BYTES + 1), TODAY)


@pytest.mark.parametrize(
    "start",
    [
        "DTSTART:garbage",
        "DTSTART:99991231T235959",
        "DTSTART;TZID=Nowhere:20260310T100000",
        f"DTSTART;TZID={'Nowhere' * 99}:20260310T100000",
        "",
    ],
)
def test_a_strange_date_breaks_nothing(start: str) -> None:
    with contextlib.suppress(InputError):
        assert len(entries_of_calendar(calendar(f"UID:1\r\nSUMMARY:Gig\r\n{start}"), TODAY)) <= 1
