"""Is a slot touched in a wide slur named in a room, and a clean slur left alone? `python -m benchmarks.judgement.touches [--seed N]`.

The first four exercises of each exercise type whose slurs go over a slot, on five instruments, by the oscillator: clean, and twice with a slot
touched for 75 to 110 ms; judged at *growing*.
"""

import argparse
from collections import Counter
from collections.abc import Iterator
from concurrent.futures import ProcessPoolExecutor

import numpy as np

from benchmarks.judgement.__main__ import heard
from benchmarks.judgement.cases import INSTRUMENT_IDS, Case
from benchmarks.judgement.free import is_plain, slots_between
from benchmarks.judgement.perform import Around, Flaw
from orexis.core.exercises import EXERCISE_TYPES, Exercise
from orexis.core.instruments import INSTRUMENTS

_EXERCISE_TYPES = ("wide-slur", "partial-chain", "add-one-arpeggio")
_EXERCISES, _TWICE = 4, 2


def exercises() -> Iterator[Exercise]:
    """Wide slurs, and the chains and arpeggios beside them."""
    for name in _EXERCISE_TYPES:
        for instrument in INSTRUMENT_IDS:
            yield from EXERCISE_TYPES[name].series(INSTRUMENTS[instrument], {}).exercises[:_EXERCISES]


def touched(exercise: Exercise, around: Around, seed: int, rng: np.random.Generator) -> Iterator[Case]:
    """The exercise with a slot touched in one of its slurs over a slot; nothing where it has none."""
    wide = [
        k for k, note in enumerate(exercise.notes) if k and is_plain(exercise, k, note) and slots_between(exercise, k)
    ]
    for again in range(_TWICE if wide else 0):
        k = wide[int(rng.integers(len(wide)))]
        slots = slots_between(exercise, k)
        flaw = Flaw("caught", k, slots[int(rng.integers(len(slots)))], float(rng.uniform(75, 110)))
        yield Case(exercise, (flaw,), around, seed + again)


def main() -> None:
    """Two lines for each room."""
    parser = argparse.ArgumentParser()
    parser.add_argument("--seed", type=int, default=400)
    parser.add_argument("--rooms", default="dry,room,hall,far-room,far-hall")
    given = parser.parse_args()
    for room in given.rooms.split(","):
        around = Around(room=room)
        clean = [Case(exercise, (), around, given.seed + i) for i, exercise in enumerate(exercises())]
        flawed = [
            case
            for i, exercise in enumerate(exercises())
            for case in touched(exercise, around, given.seed + 100 * i, np.random.default_rng((given.seed, i)))
        ]
        with ProcessPoolExecutor(2) as pool:
            told = [str(verdict.reason) for verdict in pool.map(heard, flawed, chunksize=2)]
            left = [str(verdict.reason) for verdict in pool.map(heard, clean, chunksize=2)]
        print(f"touches {room:5} named {told.count('caught')} of {len(told)}   {dict(Counter(told))}")
        print(
            f"touches {room:5} clean {len(left)}: called touched {left.count('caught')}   {dict(Counter(left))}",
            flush=True,
        )


if __name__ == "__main__":
    main()
