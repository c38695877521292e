"""The clock; the only place that looks at it, and at where on the earth this machine says it is."""

import os
from datetime import UTC, datetime, timedelta

# Days by which the clock is put on, so that weeks can be clicked through in an hour.
AHEAD = timedelta(days=float(os.environ.get("OREXIS_DAYS_AHEAD", "0")))


def now() -> datetime:
    """Return the present moment in UTC, or the moment that a test has set."""
    return datetime.now(UTC) + AHEAD


def local_day(moment: datetime) -> int:
    """The ordinal date that the calendar on the wall shows at a moment: what counts as one day for a player."""
    return moment.astimezone().date().toordinal()


def utc(moment: datetime) -> datetime:
    """SQLite forgets the zone; everything is written in UTC."""
    return moment if moment.tzinfo else moment.replace(tzinfo=UTC)
