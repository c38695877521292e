"""Core values to the JSON text of the record and back: one adapter per type, made once.

What is read is checked against the type; fields that an earlier release did not know take their defaults.
"""

from typing import Any, TypeVar

from pydantic import TypeAdapter

_T = TypeVar("_T")


_ADAPTERS: dict[Any, TypeAdapter[Any]] = {}


def _adapter(kind: Any) -> TypeAdapter[Any]:
    if kind not in _ADAPTERS:
        _ADAPTERS[kind] = TypeAdapter(kind)
    return _ADAPTERS[kind]


def packed(value: object) -> str:
    """JSON text."""
    return _adapter(type(value)).dump_json(value).decode()


def unpacked(kind: type[_T], text: str) -> _T:
    """The value again."""
    value: _T = _adapter(kind).validate_json(text)
    return value


def plain(value: object) -> Any:
    """Plain JSON values, for what goes out at once."""
    return _adapter(type(value)).dump_python(value, mode="json")
