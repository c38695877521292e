"""What judging costs: `python -m benchmarks.judgement.cost`. Clean scales of eight instruments and lengths, how many times real time, on one core.

Sound to verdict as for a file; in the rooms the sound is tracked with and without its tail.
"""

import time

import numpy as np

from benchmarks.judgement.cases import clean_cases
from benchmarks.judgement.perform import ROOMS, Around, played
from orexis.core.coach import limits_of
from orexis.core.instruments import INSTRUMENTS
from orexis.core.listen import JudgingTerms, ListeningTask, listen
from orexis.core.sound import Sound
from orexis.core.trace import track

_EXERCISE_TYPES = ("one-octave-scale", "two-octave-scale")
_TIMES = 3


def main() -> None:
    """A line for each room: the best of three."""
    for place in ("dry", *ROOMS):
        cases = [case for case in clean_cases(Around(room=place), 5) if case.exercise.id.startswith(_EXERCISE_TYPES)]
        takes = [(c.exercise, played(c.exercise, (), c.around, np.random.default_rng(c.seed))) for c in cases]
        seconds = sum(sound.duration_s for _, sound in takes)
        taken = []
        for _ in range(_TIMES):
            begun = time.perf_counter()
            for exercise, sound in takes:
                listen(
                    sound,
                    ListeningTask(INSTRUMENTS[exercise.instrument], exercise, first_beat_s=0.0),
                    JudgingTerms(limits_of("developing")),
                )
            taken.append(time.perf_counter() - begun)
        print(f"cost  {place:9} {len(takes)} takes, {seconds:.1f} s: {seconds / min(taken):.0f} times real time")
        if place == "dry":
            print(f"cost  tracking alone: {seconds / _tracking([sound for _, sound in takes]):.0f} times real time")


def _tracking(sounds: list[Sound]) -> float:
    """Seconds for the pitch alone, the best of as many."""
    taken = []
    for _ in range(_TIMES):
        begun = time.perf_counter()
        for sound in sounds:
            track(sound)
        taken.append(time.perf_counter() - begun)
    return min(taken)


if __name__ == "__main__":
    main()
