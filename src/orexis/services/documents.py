"""Stored JSON: every kind of document has a name, a type and a version, and is written and read here only.

A document of version 1 is the plain JSON of its value. From version 2 on it says its version: an object begins with `"$v"`, anything
else lies in `{"$v": 2, "value": ...}`. Whoever changes what a type may hold (a field's name, the id of a reason) adds an upcast to its
declaration: a function that turns the JSON of the version before into that of the next. Older documents are brought up when they are
read and stay as they are where they lie: what was said then is not rewritten.

Fields that an earlier release did not know take their defaults; that needs no upcast.
"""

import json
from collections.abc import Callable, Iterable
from dataclasses import dataclass, is_dataclass
from typing import Any, TypeVar

from pydantic import TypeAdapter

from orexis.core.approaches import Ask, Choice
from orexis.core.coach import RangeNote, Verdict
from orexis.core.device import DeviceCheck
from orexis.core.earlier_names import (
    FIELDS,
    lesson_part_of_today,
    renamed_keys,
    trend_name,
    with_measures_of_today,
    with_terms_of_today,
)
from orexis.core.exercises import Exercise, Series, TunePart
from orexis.core.instruments import Setup
from orexis.core.measures import Measures, TimbreProfile
from orexis.core.messages import tell
from orexis.core.planning import ByHand, ExerciseTypeDay, GoalTarget, TakeFact
from orexis.core.practice import SessionState
from orexis.core.progress import PathPosition
from orexis.core.tuning import NoteDay
from orexis.errors import NewerDatabaseError
from orexis.services.values.lessons import Lesson, ReviewRequest
from orexis.services.values.planning import OwnBlock
from orexis.services.values.players import PlayerSettings, Terms
from orexis.services.values.sessions import SessionSummary

_T = TypeVar("_T")
Upcast = Callable[[Any], Any]
Notes = tuple[NoteDay, ...]
DayStats = dict[str, tuple[float, float, float, int]]  # by measure: a quarter, a half, three quarters of the way; takes
Params = dict[str, str]
Facts = dict[str, Any]
_MARK = '{"$v":'


@dataclass(frozen=True, slots=True)
class Document:
    """A kind of stored JSON. `upcasts[0]` turns version 1 into 2, and so on."""

    name: str
    kind: Any
    upcasts: tuple[Upcast, ...] = ()

    @property
    def version(self) -> int:
        """The version that is written now."""
        return len(self.upcasts) + 1


def _trends_by_names_of_today(old: Any) -> Any:
    return {trend_name(name): stats for name, stats in old.items()}


def _limits_by_names_of_today(old: Any) -> Any:
    return renamed_keys(old, FIELDS)


def _parts_of_today(old: Any) -> Any:
    return [lesson_part_of_today(part) for part in old]


_TWO_RENAMES = (with_measures_of_today, with_terms_of_today)


def _declared(*documents: Document) -> dict[Any, Document]:
    return {document.kind: document for document in documents}


DOCUMENTS: dict[Any, Document] = _declared(
    Document("settings of a player", PlayerSettings, _TWO_RENAMES),
    Document("setup of an instrument", Setup, (with_terms_of_today,)),
    Document("exercise", Exercise, _TWO_RENAMES),
    Document("series of exercises", Series, _TWO_RENAMES),
    Document("tune", tuple[TunePart, ...]),
    Document("terms of a session", Terms, _TWO_RENAMES),
    Document("state of a session", SessionState, _TWO_RENAMES),
    Document("summary of a session", SessionSummary, _TWO_RENAMES),
    Document("measures", Measures, _TWO_RENAMES),
    Document("verdict", Verdict, (with_measures_of_today,)),
    Document("sound to compare with", TimbreProfile, (with_measures_of_today,)),
    Document("note of a range", RangeNote, _TWO_RENAMES),
    Document("fact of a take", TakeFact, _TWO_RENAMES),
    Document("day of an exercise", ExerciseTypeDay, _TWO_RENAMES),
    Document("level", PathPosition),
    Document("levels set by hand", ByHand),
    Document("goal", GoalTarget),
    Document("blocks of a routine", tuple[OwnBlock, ...], (with_terms_of_today,)),
    Document("measures of a day", DayStats, (_trends_by_names_of_today,)),
    Document("notes of a day", Notes, (with_terms_of_today,)),
    Document("lesson", Lesson, _TWO_RENAMES),
    Document("review request", ReviewRequest, (with_measures_of_today,)),
    Document("parts taken from a lesson", tuple[str, ...], (_parts_of_today,)),
    Document("check of a microphone", DeviceCheck),
    Document("parameters", Params, (with_terms_of_today,)),
    Document("limits", dict[str, float], (_limits_by_names_of_today,)),
    Document("approaches", dict[Ask, Choice], (with_terms_of_today,)),
    Document("facts of a microphone", Facts),
)


def to_json(value: object, kind: Any = None) -> str:
    """The JSON text of a value, of its document's version. `kind`: the document's type, where the value is a dict or a tuple."""
    document = DOCUMENTS[kind or type(value)]
    text = _adapter(document.kind).dump_json(value).decode()
    if document.version == 1:
        return text
    if is_dataclass(document.kind):
        return f"{_MARK}{document.version}{',' if text != '{}' else ''}{text[1:]}"
    return f'{_MARK}{document.version},"value":{text}}}'


def from_json(kind: type[_T], text: str) -> _T:
    """The value of a stored text, brought up to today's version; ValidationError (a ValueError) where it is not of its type."""
    document = DOCUMENTS[kind]
    value: _T = _adapter(kind).validate_json(_up_to_date(document, text))
    return value


def all_from_json(kind: type[_T], texts: Iterable[str]) -> tuple[_T, ...]:
    """Many at once: checked together they cost a third of one by one."""
    document = DOCUMENTS[kind]
    brought = (_up_to_date(document, text) for text in texts)
    many: Any = tuple[kind, ...]  # type: ignore[valid-type]
    values: tuple[_T, ...] = _adapter(many).validate_json(f"[{','.join(brought)}]")
    return values


def plain(value: object) -> Any:
    """Plain JSON values of anything, for what goes out at once and is not stored."""
    return _adapter(type(value)).dump_python(value, mode="json")


def _up_to_date(document: Document, text: str) -> str:
    """The plain JSON of today's version; one that is of this version is only cut free of its marker."""
    if not document.upcasts and not text.startswith(_MARK):
        return text
    if is_dataclass(document.kind) and text.startswith(marker := f"{_MARK}{document.version},"):
        return "{" + text[len(marker) :]
    value = json.loads(text)
    version = 1
    if isinstance(value, dict) and "$v" in value:
        version = int(value.pop("$v"))
        value = value if is_dataclass(document.kind) else value["value"]
    if version > document.version:
        raise NewerDatabaseError(
            tell(
                "The {document} was written by a later release of Orexis: open the record with that release or a newer one.",
                document=document.name,
            )
        )
    for upcast in document.upcasts[version - 1 :]:
        value = upcast(value)
    return json.dumps(value)


_ADAPTERS: dict[Any, TypeAdapter[Any]] = {}


def _adapter(kind: Any) -> TypeAdapter[Any]:
    if kind not in _ADAPTERS:
        _ADAPTERS[kind] = TypeAdapter(kind)
    return _ADAPTERS[kind]
