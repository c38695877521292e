"""What a page's data costs in a class, against a record of one player: `python -m benchmarks.class_of [30] [--sessions 913]`.

Everybody has three years of practice, five days in six: the one whose pages are asked for 39 takes a session as in `benchmarks.scale`, the others
12. Printed for each page of that player: CPU with nobody else and in the class, and the ratio; then the class's own page.
"""

import argparse
import tempfile
from pathlib import Path

from benchmarks.scale import costs, fill, filled, pages

_TAKES = 12  # of a session of the others: a third of an hour


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
        for number in range(1, given.players):
            fill(house, given.sessions, name=f"P{number}", takes=_TAKES)
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
