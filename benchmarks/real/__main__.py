"""What the ear and the judgement make of real players: `python -m benchmarks.real [--instruments trombone-tenor-f,trumpet-bb] [-v]`.

`scripts/setup-real` fetches the recordings. Printed for each room and kind of take: how many, what was said first, notes invented
and lost, and how far off onsets were.
"""

import argparse
from collections import Counter, defaultdict
from concurrent.futures import ProcessPoolExecutor
from dataclasses import dataclass

import numpy as np

from benchmarks.ear.sampled import RATE
from benchmarks.judgement.perform import in_place
from benchmarks.real.notes import PLAYERS
from benchmarks.real.takes import Take, takes
from orexis.core.coach import Verdict, limits_of
from orexis.core.instruments import INSTRUMENTS
from orexis.core.listen import JudgingTerms, ListeningTask, listen
from orexis.core.sound import Sound

_NOISE_DB = -70.0
_NEAR_S = 0.25  # an onset further off answers another note


@dataclass(frozen=True, slots=True)
class Heard:
    """What was told of a take: its verdict, written notes not heard, notes that nobody asked for, onsets' errors in ms, notes in free play."""

    name: str
    verdict: Verdict
    lost: int
    invented: int
    onsets_ms: tuple[float, ...]
    free: int


def heard(job: tuple[Take, str, int]) -> Heard:
    """The take in a room, listened to at *growing*, and once more without the exercise."""
    take, place, seed = job
    rng = np.random.default_rng(seed)
    out = in_place(take.samples, place, rng) + rng.normal(0.0, 10.0 ** (_NOISE_DB / 20.0), len(take.samples))
    sound = Sound(np.clip(out, -1.0, 1.0).astype(np.float32), RATE)
    instrument = INSTRUMENTS[take.exercise.instrument]
    terms = JudgingTerms(limits_of("developing"))
    told = listen(sound, ListeningTask(instrument, take.exercise, first_beat_s=0.0), terms)
    free = listen(sound, ListeningTask(instrument, None), terms, trace=told.trace)
    assert told.verdict is not None
    rows = told.measures.notes
    onsets = [row.onset_s for row in rows if row.onset_s is not None and row.target is not None]
    off = [1000.0 * (min(onsets, key=lambda s, at=at: abs(s - at)) - at) for at in take.onsets_s if onsets]  # type: ignore[misc]
    return Heard(
        take.name,
        told.verdict,
        sum(row.sounded is None for row in rows),
        sum(row.target is None for row in rows),
        tuple(ms for ms in off if abs(ms) < 1000.0 * _NEAR_S),
        len(free.measures.notes),
    )


def main() -> None:
    """The tables."""
    parser = argparse.ArgumentParser()
    parser.add_argument("--instruments", default=",".join(PLAYERS))
    parser.add_argument("--rooms", default="dry,room,hall")
    parser.add_argument("--kinds", default="", help="only these, comma separated")
    parser.add_argument("-v", action="store_true", help="name every take and what was said of it")
    given = parser.parse_args()
    every = [take for instrument in given.instruments.split(",") for take in takes(instrument)]
    seeded = [(seed, take) for seed, take in enumerate(every) if not given.kinds or take.kind in given.kinds.split(",")]
    for place in given.rooms.split(","):
        with ProcessPoolExecutor(2) as pool:
            results = list(pool.map(heard, [(take, place, seed) for seed, take in seeded], chunksize=4))
        by_kind = defaultdict(list)
        for (_, take), result in zip(seeded, results, strict=True):
            by_kind[take.kind].append((take, result))
        for kind, pairs in by_kind.items():
            _line(place, kind, pairs, given.v)


def _line(place: str, kind: str, pairs: list[tuple[Take, Heard]], verbose: bool) -> None:
    told = [result for _, result in pairs]
    why = Counter(str(item.verdict.reason) if item.verdict.reason else item.verdict.outcome for item in told)
    onsets = [abs(ms) for item in told for ms in item.onsets_ms]
    late = f"onsets {np.median(onsets):4.0f} / {np.percentile(onsets, 90):4.0f} ms" if onsets else ""
    print(
        f"real  {place:5} {kind:14} {len(told):3}   invented {sum(i.invented > 0 for i in told):3}   lost {sum(i.lost > 0 for i in told):3}   "
        f"several in free play {sum(i.free > len(take.onsets_s) for take, i in pairs):3}   {late}   {dict(why.most_common())}",
        flush=True,
    )
    if verbose:
        for item in told:
            v = item.verdict
            said = ", ".join(f"{f.reason} {f.note} {f.value}>{f.limit}" for f in v.findings[:4])
            print(
                f"      {item.name:20} {v.outcome:9} lost {item.lost} extra {item.invented} free {item.free} {[round(x) for x in item.onsets_ms]} {said}"
            )


if __name__ == "__main__":
    main()
