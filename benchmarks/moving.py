"""What an export and an import need as the record grows: `python -m benchmarks.moving [MEGABYTES ...]`.

Each record has takes with sound of 1.5 MB; printed are seconds, the file's size, and the most memory that the command line's process
had, so that memory which grows with the record would be seen; and how long another player's change waits for an import. The export of the import is compared with the first, byte by byte.
"""

import filecmp
import os
import resource
import subprocess
import sys
import tempfile
import threading
import time
from pathlib import Path

from sqlalchemy import select

from benchmarks.scale import TAKES, filled
from orexis.services.archive import bring_in
from orexis.store.models import TakeRow

_SOUND = 1_500_000
_WRAPPER = (
    "import resource, subprocess, sys; subprocess.run(sys.argv[1:], check=True, stdout=subprocess.DEVNULL, "
    "stderr=subprocess.DEVNULL); print(resource.getrusage(resource.RUSAGE_CHILDREN).ru_maxrss)"
)


def with_sound(folder: Path, megabytes: int) -> int:
    """A record of about this size; how many takes it has."""
    sessions = max(1, round(megabytes * 1e6 / _SOUND / TAKES))
    house, _ = filled(folder, sessions)
    with house.record.database.reading() as db:
        keys = list(db.scalars(select(TakeRow.id)))
    for key in keys:
        path = house.record.sound_path(key)
        path.parent.mkdir(parents=True, exist_ok=True)
        path.write_bytes(b"fLaC" + os.urandom(_SOUND))
    house.close()
    return len(keys)


def longest_wait(file: Path, folder: Path) -> tuple[float, float]:
    """Seconds that an import takes beside a running record, and the longest that another player's change waits meanwhile."""
    house, player = filled(folder, 2)
    waits, done = [0.0], threading.Event()

    def change() -> None:
        while not done.wait(0.2):
            begun = time.perf_counter()
            house.players.change_settings(player.id, {"mute": "none"})
            waits.append(time.perf_counter() - begun)

    other = threading.Thread(target=change)
    other.start()
    begun = time.perf_counter()
    try:
        bring_in(house.record, file)
    finally:
        took = time.perf_counter() - begun
        done.set()
        other.join()
        house.close()
    return took, max(waits)


def run(*command: str) -> tuple[float, float]:
    """Seconds and the most megabytes of memory."""
    start = time.perf_counter()
    said = subprocess.run(
        [sys.executable, "-c", _WRAPPER, sys.executable, "-m", "orexis.cli.main", *command],
        check=True,
        capture_output=True,
        text=True,
    )
    return time.perf_counter() - start, int(said.stdout) / 1024.0


def main(sizes: list[int]) -> None:
    """A line for each size."""
    for megabytes in sizes:
        with tempfile.TemporaryDirectory() as name:
            folder = Path(name)
            takes = with_sound(folder / "here", megabytes)
            out = run("export", str(folder / "a.zip"), "--data", str(folder / "here"))
            back = run("import", str(folder / "a.zip"), "--data", str(folder / "there"))
            run("export", str(folder / "b.zip"), "--data", str(folder / "there"))
            same = filecmp.cmp(folder / "a.zip", folder / "b.zip", shallow=False)
            size = (folder / "a.zip").stat().st_size / 1e6
            took, wait = longest_wait(folder / "a.zip", folder / "beside")
        print(f"moving     beside a running record {took:6.1f} s, another player's change waits {wait:4.1f} s at most")
        print(
            f"moving     {takes:6d} takes {size:7.0f} MB   out {out[0]:6.1f} s {out[1]:5.0f} MB of memory   "
            f"in {back[0]:6.1f} s {back[1]:5.0f} MB   {'equal' if same else 'DIFFERS'}"
        )
    print(f"moving     (this process: {resource.getrusage(resource.RUSAGE_SELF).ru_maxrss / 1024:.0f} MB)")


if __name__ == "__main__":
    main([int(item) for item in sys.argv[1:]] or [100, 1000])
