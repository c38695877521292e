"""Is a slot touched in a wide slur named in a room, and a clean slur left alone? `python -m benchmarks.judgement.touches [--seed N]`.

The first four figures of each family whose slurs go over a slot, on five horns, by the oscillator: clean, and twice with a slot
touched for 75 to 110 ms; judged at *growing*.
"""

import argparse
from collections import Counter
from collections.abc import Iterator
from concurrent.futures import ProcessPoolExecutor

import numpy as np

from benchmarks.judgement.__main__ import heard
from benchmarks.judgement.cases import HORN_IDS, Case
from benchmarks.judgement.free import is_plain, slots_between
from benchmarks.judgement.perform import Around, Flaw
from orexis.core.figures import FAMILIES, Figure
from orexis.core.horn import HORNS

_FAMILIES = ("wide-slur", "partial-chain", "add-one-arpeggio")
_FIGURES, _TWICE = 4, 2


def figures() -> Iterator[Figure]:
    """Wide slurs, and the chains and arpeggios beside them."""
    for name in _FAMILIES:
        for horn in HORN_IDS:
            yield from FAMILIES[name].series(HORNS[horn], {}).figures[:_FIGURES]


def touched(figure: Figure, around: Around, seed: int, rng: np.random.Generator) -> Iterator[Case]:
    """The figure with a slot touched in one of its slurs over a slot; nothing where it has none."""
    wide = [k for k, note in enumerate(figure.notes) if k and is_plain(figure, k, note) and slots_between(figure, k)]
    for again in range(_TWICE if wide else 0):
        k = wide[int(rng.integers(len(wide)))]
        slots = slots_between(figure, k)
        flaw = Flaw("caught", k, slots[int(rng.integers(len(slots)))], float(rng.uniform(75, 110)))
        yield Case(figure, (flaw,), around, seed + again)


def main() -> None:
    """Two lines for each room."""
    parser = argparse.ArgumentParser()
    parser.add_argument("--seed", type=int, default=400)
    parser.add_argument("--rooms", default="dry,room,hall,far-room,far-hall")
    given = parser.parse_args()
    for room in given.rooms.split(","):
        around = Around(room=room)
        clean = [Case(figure, (), around, given.seed + i) for i, figure in enumerate(figures())]
        flawed = [
            case
            for i, figure in enumerate(figures())
            for case in touched(figure, around, given.seed + 100 * i, np.random.default_rng((given.seed, i)))
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
