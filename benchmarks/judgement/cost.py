"""What judging costs: `python -m benchmarks.judgement.cost`. Clean scales of eight horns and lengths, how many times real time, on one core.

Sound to verdict as for a file; in the rooms the sound is tracked with and without its tail.
"""

import time

import numpy as np

from benchmarks.judgement.cases import clean_cases
from benchmarks.judgement.perform import ROOMS, Around, played
from orexis.core.coach import limits_of
from orexis.core.horn import HORNS
from orexis.core.listen import listen

_FAMILIES = ("one-octave-scale", "two-octave-scale")
_TIMES = 3


def main() -> None:
    """A line for each room: the best of three."""
    for place in ("dry", *ROOMS):
        cases = [case for case in clean_cases(Around(room=place), 5) if case.figure.id.startswith(_FAMILIES)]
        takes = [(c.figure, played(c.figure, (), c.around, np.random.default_rng(c.seed))) for c in cases]
        seconds = sum(sound.duration_s for _, sound in takes)
        taken = []
        for _ in range(_TIMES):
            begun = time.perf_counter()
            for figure, sound in takes:
                listen(
                    sound,
                    horn=HORNS[figure.horn],
                    figure=figure,
                    limits=limits_of("developing"),
                    a4=440.0,
                    first_beat_s=0.0,
                )
            taken.append(time.perf_counter() - begun)
        print(f"cost  {place:9} {len(takes)} takes, {seconds:.1f} s: {seconds / min(taken):.0f} times real time")


if __name__ == "__main__":
    main()
