"""What a page's data costs in a class, against a record of one player: `python -m benchmarks.class_of [30] [--sessions 913]`.

Everybody has three years of practice, five days in six: the one whose pages are asked for 39 takes a session as in `benchmarks.scale`, the others
12, all but the first of them by copying. Printed for each page of that player: CPU with nobody else and in the class, and the ratio; then the class's own page.
"""

import argparse
import tempfile
from pathlib import Path

from sqlalchemy import Integer, text

from benchmarks.scale import INSTRUMENT, costs, fill, filled, pages
from orexis.services.application import Application
from orexis.services.values.players import Player
from orexis.store.models import Base, InstrumentRow

_KEY = "substr({0}, 1, 30) || :mark"  # 32 digits by chance: nobody else has the first thirty, and none ends so
_KEYS = {"take_id": _KEY.format("take_id"), "session_id": _KEY.format("session_id")}
_TAKES = 12  # of a session of the others: a third of an hour


def copied(house: Application, player: Player, number: int) -> None:
    """A player more with the same record, row by row: other keys, nothing else."""
    other = house.players.add(name=f"P{number}", standard="developing", instrument=INSTRUMENT)
    with house.record.database.writing() as db:
        for table in Base.metadata.sorted_tables:
            if table.name == InstrumentRow.__tablename__:
                continue  # the player came with one
            names = [column.name for column in table.columns if column.computed is None]
            if "player_id" in names:
                whose, hers = "player_id = :player", "player_id = :other"
            elif "take_id" in names or "session_id" in names:
                of = "take" if "take_id" in names else "session"
                whose, hers = (
                    f"{of}_id IN (SELECT id FROM {of} WHERE player_id = :{who})" for who in ("player", "other")
                )
            else:
                continue
            read = {name: _KEYS.get(name, f'"{name}"') for name in names}
            read["player_id"] = ":other"
            if isinstance(table.columns[names[0]].type, Integer) and names[0] == "id":
                del read["id"]  # the database numbers them
            elif "id" in read:
                read["id"] = _KEY.format("id")
            kept = [name for name in names if name in read]
            db.execute(text(f"DELETE FROM {table.name} WHERE {hers}"), {"player": player.id, "other": other.id})
            db.execute(
                text(
                    f"INSERT INTO {table.name} ({', '.join(kept)}) SELECT {', '.join(read[name] for name in kept)} "
                    f"FROM {table.name} WHERE {whose}"
                ),
                {"player": player.id, "other": other.id, "mark": f"x{chr(ord('A') + number)}"},
            )


def main() -> None:
    """The table."""
    read = argparse.ArgumentParser(description=__doc__)
    read.add_argument("players", type=int, nargs="?", default=30)
    read.add_argument("--sessions", type=int, default=913)
    given = read.parse_args()
    with tempfile.TemporaryDirectory() as folder:
        alone = filled(Path(folder) / "alone", given.sessions)
        class_ = filled(Path(folder) / "class", given.sessions)
        house = class_[0]
        first = fill(house, given.sessions, name="P1", takes=_TAKES)
        for number in range(2, given.players):
            copied(house, first, number)
        teacher = house.players.add(name="T", standard="advanced", instrument="tuba-eb")
        house.players.change_settings(teacher.id, {"teaches": True})
        print(f"class      {given.players} players with {given.sessions} sessions each")
        few, many = pages(*alone), pages(*class_)
        for name in few:
            repeats = 3 if name.startswith("a take") else 25
            (a, _), (b, _) = costs((alone[0], house), (few[name], many[name]), repeats)
            print(f"class      {name:22} {a:8.2f} ms {b:8.2f} ms   {b / a:5.2f} times", flush=True)
        (whole, statements), _ = costs((house, house), (house.class_week, house.class_week), 5)
        print(
            f"class      the class's own page   {whole:8.2f} ms, {whole / given.players:.2f} a player, {statements} statements"
        )
        for house in (alone[0], class_[0]):
            house.close()


if __name__ == "__main__":
    main()
