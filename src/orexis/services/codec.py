"""Core values to JSON columns and back: one adapter per value, made once."""

from typing import Any, TypeVar

from pydantic import TypeAdapter

from orexis.core.coach import Limits, Verdict
from orexis.core.figures import Figure, Series
from orexis.core.horn import Setup
from orexis.core.measures import Measures
from orexis.core.practice import SessionState
from orexis.services.values import PlayerSettings, RoutineKept

_T = TypeVar("_T")
_ADAPTERS: dict[Any, TypeAdapter[Any]] = {
    kind: TypeAdapter(kind)
    for kind in (Figure, Series, Setup, Limits, Measures, Verdict, SessionState, PlayerSettings, RoutineKept)
}


def to_json(value: object) -> dict[str, Any]:
    """A dictionary of plain JSON values."""
    out: dict[str, Any] = _ADAPTERS[type(value)].dump_python(value, mode="json")
    return out


def from_json(kind: type[_T], data: dict[str, Any]) -> _T:
    """The value again."""
    value: _T = _ADAPTERS[kind].validate_python(data)
    return value
