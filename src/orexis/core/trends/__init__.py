"""What the record shows over weeks: values of takes, days, claims that the interval allows."""

from orexis.core.coach.judging import TrendMeasure
from orexis.core.trends.claims import Claim, DayPoint, Direction, Trend, claim_of, compared, trend_of
from orexis.core.trends.measures import (
    REGISTERS,
    SCOPES,
    TREND_MEASURES,
    values_of,
)

__all__ = [
    "REGISTERS",
    "SCOPES",
    "TREND_MEASURES",
    "Claim",
    "DayPoint",
    "Direction",
    "Trend",
    "TrendMeasure",
    "claim_of",
    "compared",
    "trend_of",
    "values_of",
]
