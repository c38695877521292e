"""Rows that come from outside: held against their table, and laid beside what is there."""

import json
import re
from collections.abc import Iterator
from datetime import UTC, date, datetime
from typing import Any

from pydantic import ValidationError
from sqlalchemy import Boolean, ColumnElement, DateTime, Float, Integer, and_, insert, select
from sqlalchemy.orm import Session

from orexis.core import earlier_names as names
from orexis.core.coach import Outcome, Standard
from orexis.core.coach.judging import NOT_HEARD, REASONS
from orexis.core.exercises import Exercise, Series, check_numbers
from orexis.core.instruments import INSTRUMENTS, Setup
from orexis.core.messages import tell
from orexis.core.practice import SessionState
from orexis.errors import InputError, NewerDatabaseError
from orexis.services.archive.tables import ByKind, ExportedTable
from orexis.services.archive.zip_files import dumped
from orexis.services.documents import from_json
from orexis.services.values.players import FIRST_YEAR, LAST_YEAR, checked_a4
from orexis.store.models import InstrumentRow, PlayerRow, SessionBlockRow, SessionRow

_COLUMN_VALUES = (
    ("outcome", names.OUTCOMES),
    ("reason", names.REASONS),
    ("standard", names.STANDARDS),
    ("kind", names.TERM_VALUES["kind"]),
)
# Columns of one word each, and the words that there are.
_WORDS: dict[str, frozenset[str]] = {
    "standard": frozenset(Standard),
    "outcome": frozenset((*Outcome, "")),  # takes of the first releases have none of their own
    "reason": frozenset((*REASONS, *NOT_HEARD)),
}
_ID = re.compile(r"[0-9a-f]{32}")


def checked_rows(part: ExportedTable, rows: Iterator[dict[str, Any]]) -> Iterator[dict[str, Any]]:
    """With values of the types that the columns have; InputError names the table, the row and the column."""
    for raw in rows:
        yield _checked(part, _by_names_of_today(part, raw))


def _by_names_of_today(part: ExportedTable, raw: dict[str, Any]) -> dict[str, Any]:
    """A row of an earlier schema by the columns and ids of today; its JSON is brought up when it is read."""
    row = {names.FIELDS.get(key, key): value for key, value in raw.items()}
    row = {names.TERMS.get(key, key): value for key, value in row.items()}
    if "catalogue_id" in part.columns and "instrument" in row:
        row["catalogue_id"] = row.pop("instrument")
    if "told" in row:
        row["contents" if "contents" in part.columns else "stats_json"] = row.pop("told")
    for column, known in _COLUMN_VALUES:
        if isinstance(row.get(column), str):
            row[column] = known.get(row[column], row[column])
    return row


def _checked(part: ExportedTable, raw: dict[str, Any]) -> dict[str, Any]:
    unknown = sorted(set(raw) - set(part.columns))
    if unknown:
        raise InputError(
            tell("{file}: there is no “{unknown}” here. Nothing was imported.", file=part.file, unknown=unknown[0][:40])
        )
    row: dict[str, Any] = {}
    for name in part.columns:
        column = part.table.c[name]
        value = raw.get(name)
        try:
            if value is None:
                if not column.nullable and (name in raw or column.default is None):
                    raise ValueError("it is missing")
                row[name] = None if column.nullable else getattr(column.default, "arg", None)
                continue
            kind = part.values.get(name)
            row[name] = _value(column, value, kind.of(raw) if isinstance(kind, ByKind) else kind)
        except (ValueError, TypeError, InputError, NewerDatabaseError) as error:
            said = error.errors()[0]["msg"] if isinstance(error, ValidationError) else error
            which = str(raw.get(part.key[0]))[:40]
            raise InputError(
                tell(
                    "{file}, {which}: {name} cannot be used ({said}). Nothing was imported.",
                    file=part.file,
                    which=which,
                    name=name,
                    said=said,
                )
            ) from error
    for name in ("instrument", "catalogue_id"):
        if name in row and row[name] not in INSTRUMENTS:
            raise InputError(
                tell(
                    "{file}: there is no instrument “{row}”. Nothing was imported.",
                    file=part.file,
                    row=str(row[name])[:30],
                )
            )
    for name, known in _WORDS.items():
        if row.get(name) is not None and row[name] not in known:
            raise InputError(
                tell(
                    "{file}: {name} cannot be “{row}”. Nothing was imported.",
                    file=part.file,
                    name=name,
                    row=str(row[name])[:30],
                )
            )
    if "a4_hz" in row:
        checked_a4(row["a4_hz"])
    if "catalogue_id" in row:
        INSTRUMENTS[row["catalogue_id"]].with_setup(from_json(Setup, row["setup"]))
    if part.key == ("id",) and not _ID.fullmatch(str(row.get("id"))):
        raise InputError(
            tell("{file}: “{get}” is no id. Nothing was imported.", file=part.file, get=str(row.get("id"))[:40])
        )
    return row


def check_in_hand(db: Session) -> None:
    """Everybody holds an instrument of their own; InputError where somebody who came in does not."""
    held = (
        select(InstrumentRow.id)
        .where(InstrumentRow.player_id == PlayerRow.id, InstrumentRow.id == PlayerRow.instrument_id)
        .exists()
    )
    name = db.scalar(select(PlayerRow.name).where(~held).limit(1))
    if name is not None:
        raise InputError(
            tell("{name} has no instrument of their own in this file. Nothing was imported.", name=name[:40])
        )


def check_blocks(db: Session, *of: ColumnElement[bool]) -> None:
    """Every session stands in a block that came with it; InputError where one does not. `of`: which sessions."""
    blocks = {tuple(row) for row in db.execute(select(SessionBlockRow.session_id, SessionBlockRow.number))}
    for key, state in db.execute(select(SessionRow.id, SessionRow.state).where(*of)):
        if (key, from_json(SessionState, state).block) not in blocks:
            raise InputError(
                "A session of this file stands in an exercise that did not come with it. Nothing was imported."
            )


def _value(column: Any, value: Any, kind: Any) -> Any:
    if kind is not None:
        text = dumped(value)
        value = from_json(kind, text)
        for exercise in (
            (value,) if isinstance(value, Exercise) else value.exercises if isinstance(value, Series) else ()
        ):
            check_numbers(exercise)
        return text
    if isinstance(column.type, DateTime):
        moment = datetime.fromisoformat(str(value)).astimezone(UTC)
        if not FIRST_YEAR <= moment.year <= LAST_YEAR:
            raise ValueError(tell("the year is {year}", year=moment.year))
        return moment
    kinds: tuple[type, ...] = (str,)
    if isinstance(column.type, Boolean):
        kinds = (bool,)
    elif isinstance(column.type, Integer):
        kinds = (int,)
    elif isinstance(column.type, Float):
        kinds = (int, float)
    if not isinstance(value, kinds) or (isinstance(value, bool) and bool not in kinds):
        raise ValueError(tell("it should be {name}", name=kinds[0].__name__))
    if column.name == "day" and not date(FIRST_YEAR, 1, 1) <= _date_of(int(str(value))) <= date(LAST_YEAR, 12, 31):
        raise ValueError(tell("day {value} is none of these centuries", value=value))
    return value


def _date_of(ordinal: int) -> date:
    try:
        return date.fromordinal(ordinal)
    except (ValueError, OverflowError):
        return date.min


def add_rows(db: Session, part: ExportedTable, batch: list[dict[str, Any]], counts: dict[str, int]) -> None:
    """Those that are not here yet; the others stay as they are, and are counted."""
    known = _known(db, part, batch)
    fresh = []
    for row in batch:
        key = tuple(row.get(name) for name in part.key)
        if key not in known:
            fresh.append(row)
            known[key] = row
        elif all(_alike(known[key].get(name), value) for name, value in row.items()):
            counts["same"] += 1
        else:
            counts["kept"] += 1
    if fresh:
        db.execute(insert(part.table), fresh)
        counts["added"] += len(fresh)


def _known(db: Session, part: ExportedTable, batch: list[dict[str, Any]]) -> dict[tuple[Any, ...], dict[str, Any]]:
    """Rows that are here already under these keys."""
    first = part.table.c[part.key[0]]
    wanted = {row.get(part.key[0]) for row in batch}
    columns = [part.table.c[name] for name in part.columns]
    rest = [part.table.c[name].in_({row.get(name) for row in batch}) for name in part.key[1:2]]
    query = select(*columns).where(and_(first.in_(wanted), *rest))
    known = {}
    for values in db.execute(query):
        row = dict(zip(part.columns, values, strict=True))
        known[tuple(row[name] for name in part.key)] = row
    return known


def _alike(here: Any, there: Any) -> bool:
    if isinstance(here, datetime) and isinstance(there, datetime):
        return here.replace(tzinfo=UTC) == there.astimezone(UTC)
    if isinstance(here, str) and isinstance(there, str) and here != there and here[:1] in "{[":
        try:
            return bool(json.loads(here) == json.loads(there))
        except ValueError:
            return False
    return bool(here == there)
