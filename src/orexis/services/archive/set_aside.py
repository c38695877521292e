"""Sound that no take names: put aside with a line of where it came from, and taken back as soon as a take names it again."""

import json
from dataclasses import dataclass
from pathlib import Path

from sqlalchemy import select

from orexis.services.clock import now
from orexis.services.record import Record
from orexis.store.models import TakeRow

FOLDER, _INDEX = "set-aside", "index.jsonl"


@dataclass(frozen=True, slots=True)
class Aside:
    """A file that was set aside: its name, where it lay (from the data folder), and when."""

    name: str
    place: str
    at: str


def put_aside(record: Record, path: Path) -> None:
    """Move a file out of the way; the line is written first, so that no file is ever there without one."""
    folder = record.folder / FOLDER
    folder.mkdir(exist_ok=True)
    name, number = path.name, 2
    while (folder / name).exists():  # one that lies there already stays
        name, number = f"{path.stem}.{number}{path.suffix}", number + 1
    line = {"name": name, "place": str(path.relative_to(record.folder)), "at": now().isoformat()}
    with (folder / _INDEX).open("a", encoding="utf-8") as index:
        index.write(json.dumps(line) + "\n")
    path.rename(folder / name)


def set_aside(record: Record) -> tuple[Aside, ...]:
    """What lies there, by its lines; files without one (of an earlier release) come from where their name says."""
    folder = record.folder / FOLDER
    known: dict[str, Aside] = {}
    if (folder / _INDEX).exists():
        for line in (folder / _INDEX).read_text(encoding="utf-8").splitlines():
            try:
                told = json.loads(line)
                known[str(told["name"])] = Aside(str(told["name"]), str(told["place"]), str(told["at"]))
            except (ValueError, KeyError, TypeError):
                continue  # a line that was cut off names nothing
    for path in sorted(folder.glob("*.flac")):
        known.setdefault(path.name, Aside(path.name, f"takes/{path.name[:2]}/{path.name}", ""))
    return tuple(item for item in known.values() if (folder / item.name).exists())


def take_back(record: Record) -> int:
    """Put back every sound that a take names and that is not there; how many."""
    aside = [item for item in set_aside(record) if item.name.endswith(".flac")]
    if not aside:
        return 0
    with record.database.reading() as db:
        named = set(db.scalars(select(TakeRow.id).where(TakeRow.sound_gone_at.is_(None))))
    back = 0
    for item in aside:
        key = Path(item.place).stem
        target = record.sound_path(key) if key in named else None
        if target is not None and not target.exists():
            target.parent.mkdir(parents=True, exist_ok=True)
            (record.folder / FOLDER / item.name).rename(target)
            back += 1
    return back
