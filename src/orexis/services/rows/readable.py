"""Lists of rows of which one may be damaged: it is left out and told, and takes no page along."""

import sys
from collections.abc import Callable, Iterable
from typing import TypeVar

from orexis.errors import OrexisError

_Row = TypeVar("_Row")
_Value = TypeVar("_Value")


def readable(rows: Iterable[_Row], of: Callable[[_Row], _Value]) -> tuple[_Value, ...]:
    """The values of the rows that can be read, in order."""
    values = []
    for row in rows:
        try:
            values.append(of(row))
        except (ValueError, KeyError, TypeError, OrexisError) as error:
            said = str(error).splitlines()[0][:120] if str(error) else type(error).__name__
            print(f"orexis: one entry cannot be read and is left out: {said}", file=sys.stderr)
    return tuple(values)
