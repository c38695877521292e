"""The clock; the only place that looks at it."""

from datetime import UTC, datetime


def now() -> datetime:
    """The present moment, in UTC."""
    return datetime.now(UTC)
