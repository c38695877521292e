"""Dates on paper, in the language of whoever asks."""

from datetime import date

from orexis.core.messages import in_use, tell

_WEEKDAYS = ("Monday", "Tuesday", "Wednesday", "Thursday", "Friday", "Saturday", "Sunday")
_MONTHS = (
    "January", "February", "March", "April", "May", "June", "July", "August", "September", "October", "November", "December",
)  # fmt: skip


def weekday(day: date) -> str:
    """`Sunday`."""
    return in_use().value(_WEEKDAYS[day.weekday()])


def long_date(day: date) -> str:
    """`1 March 2026`."""
    return tell("{day} {month} {year}", day=day.day, month=_MONTHS[day.month - 1], year=day.year)


def full_date(day: date) -> str:
    """`Sunday, 1 March 2026`."""
    return tell("{weekday}, {date}", weekday=weekday(day), date=long_date(day))
