"""JSON from outside, strictly: numbers that a database can hold, text that can be written, a bounded depth."""

import json
import re
from typing import Any

from orexis.core.messages import tell

_LARGEST = 2**53  # up to here every reader of JSON tells whole numbers apart; no measure is as large
_CONTROL = re.compile("[\x00-\x08\x0b\x0c\x0e-\x1f\x7f\ufffe\uffff]")  # no page, sheet or score can write them
_HALF_SIGN = re.compile(rb"\\u[dD][89a-fA-F]")


def strict_json(data: bytes | str) -> Any:
    """The value; ValueError says what it cannot hold."""
    text = data.encode("utf-8", "surrogatepass") if isinstance(data, str) else data
    try:
        value = json.loads(text, parse_constant=_no_number, parse_float=_number, parse_int=_whole)
    except RecursionError as error:
        raise ValueError("it is nested too deeply") from error
    if b"\\u" in text or _CONTROL.search(text.decode(errors="replace")):
        _check_signs(value)
    if _HALF_SIGN.search(text):
        try:
            json.dumps(value, ensure_ascii=False).encode()
        except UnicodeEncodeError as error:
            raise ValueError("it holds half a sign") from error
    return value


def _check_signs(value: Any) -> None:
    """ValueError where a text holds a sign that cannot be written."""
    if isinstance(value, str) and _CONTROL.search(value):
        raise ValueError("it holds a sign that cannot be written")
    if isinstance(value, dict):
        value = [*value, *value.values()]
    if isinstance(value, list):
        for item in value:
            _check_signs(item)


def _no_number(word: str) -> float:
    raise ValueError(tell("{word} is no number", word=word))


def _number(word: str) -> float:
    value = float(word)
    if not abs(value) <= _LARGEST:
        raise ValueError(tell("{word} is too large", word=word[:20]))
    return value


def _whole(word: str) -> int:
    value = int(word) if len(word) < 20 else _LARGEST + 1
    if abs(value) > _LARGEST:
        raise ValueError(tell("{word} is too large", word=word[:20]))
    return value
