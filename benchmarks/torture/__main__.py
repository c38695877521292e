"""Anything at any moment: `python -m benchmarks.torture [--minutes 60] [--seed N]`.

A model-based state machine over the whole interface and the live protocol, with kills, cut connections, full disks and clocks that jump,
at random. After each step: every acknowledged second of sound is in a take or set aside; no page is a 500; every summary is that of a
rebuild; memory and open files are flat. Prints the seed, what was done, and the first thing that broke.
"""

import argparse
import random
import secrets
import sys
import time

import hypothesis
from hypothesis.stateful import run_state_machine_as_test

from benchmarks.torture.machine import COUNTS, Torture

_STEPS = 40  # of one record
_RECORDS = 8  # by one seed; the first of them does the plainest thing over and over


def main() -> None:
    """Run until the time is over, or something breaks."""
    parser = argparse.ArgumentParser(description=__doc__)
    parser.add_argument("--minutes", type=float, default=60.0)
    parser.add_argument("--seed", type=int, default=secrets.randbelow(1_000_000))
    told = parser.parse_args()
    print(f"seed {told.seed}", flush=True)
    until, number = time.monotonic() + 60.0 * told.minutes, told.seed
    records = 0
    while time.monotonic() < until:
        try:
            torture(number, records=_RECORDS, steps=_STEPS)
        except Exception:
            print(f"broken with seed {number}", flush=True)
            _tell(records)
            raise
        number, records = number + 1, records + _RECORDS
    _tell(records)
    print("nothing broke")


def torture(seed: int, *, records: int, steps: int) -> None:
    """So many records by one seed, with so many steps each; AssertionError says what broke."""
    random.seed(seed)
    Torture._hypothesis_internal_use_seed = seed  # what hypothesis.seed sets on a test
    settings = hypothesis.settings(
        max_examples=records,
        stateful_step_count=steps,
        deadline=None,
        database=None,
        phases=[hypothesis.Phase.generate],
        suppress_health_check=list(hypothesis.HealthCheck),
        print_blob=False,
    )
    run_state_machine_as_test(Torture, settings=settings)


def _tell(records: int) -> None:
    kills = sum(count for name, count in COUNTS.items() if name.startswith("killed"))
    print(f"{records} records, {sum(COUNTS.values())} actions, {kills} kills")
    for name, count in sorted(COUNTS.items()):
        print(f"  {name:28} {count}")
    sys.stdout.flush()


if __name__ == "__main__":
    main()
