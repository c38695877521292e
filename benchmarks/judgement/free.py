"""Free play: what is heard of touches and silences between slurred notes where nothing was asked, only the instrument is known.

`python -m benchmarks.judgement.free [--seed N] [--every K] [--rooms dry,room,...]`: slurred exercises by the oscillator, with a slot
touched for 36 to 110 ms or a silence of 40 to 150 ms at one move, and as they should be; listened to without the exercise.
"""

import argparse
from collections.abc import Iterator
from concurrent.futures import ProcessPoolExecutor
from dataclasses import dataclass

import numpy as np

from benchmarks.judgement.cases import Case, exercises
from benchmarks.judgement.perform import Around, Flaw, played
from orexis.core.coach import limits_of
from orexis.core.exercises import Exercise, ExerciseNote, Medium
from orexis.core.instruments import INSTRUMENTS, partial_frequency_hz
from orexis.core.listen import JudgingTerms, ListeningTask, listen
from orexis.core.measures import Measures, MoveMeasures
from orexis.core.theory import cents_between

LEAST_MS = 30.0  # shorter ones are nobody's business
_NEAR_S, _SAME_S = 0.25, 0.1
_OFF_MS, _ONSET_S = 30.0, 0.03
_SLOT_CENTS = 60.0
_SIZES = {"touch": (36.0, 60.0, 90.0, 110.0), "silence": (40.0, 70.0, 100.0, 150.0)}


@dataclass(frozen=True, slots=True)
class Told:
    """What was found at the place, in milliseconds; of clean takes in how many of the slurs."""

    found: float | None
    blamed: int = 0
    slurs: int = 0
    onsets: tuple[int, int, int] = (0, 0, 0)  # of clean takes: within 30 ms of one that was played, heard, played


def cases(around: Around, seed: int) -> Iterator[tuple[str, Case]]:
    """(what, take): each slurred exercise with a touch and a silence of each size, and clean."""
    for i, exercise in enumerate(exercises()):
        if exercise.medium != Medium.INSTRUMENT:
            continue
        places = [k for k, note in enumerate(exercise.notes) if k and is_plain(exercise, k, note)]
        if not places:
            continue
        rng = np.random.default_rng((seed, i, 3))
        yield "clean", Case(exercise, (), around, seed + 100 * i)
        for n, (touch, silence) in enumerate(zip(_SIZES["touch"], _SIZES["silence"], strict=True)):
            k = places[int(rng.integers(len(places)))]
            yield "silence", Case(exercise, (Flaw("gap", k, silence),), around, seed + 100 * i + n)
            between = slots_between(exercise, k)
            if between:
                slot = between[int(rng.integers(len(between)))]
                yield "touch", Case(exercise, (Flaw("caught", k, slot, touch),), around, seed + 100 * i + 50 + n)


def is_plain(exercise: Exercise, k: int, note: ExerciseNote) -> bool:
    """Whether the note at place k is slurred into from a settled one, and long enough to be judged."""
    return (
        note.slurred
        and note.glide_beats == 0
        and note.beats * exercise.beat_s > 0.25
        and not exercise.notes[k - 1].free
    )


def slots_between(exercise: Exercise, k: int) -> list[int]:
    """Slots of the fingering in hand that lie between the two notes."""
    before, after = exercise.notes[k - 1], exercise.notes[k]
    low, high = sorted((before.partial, after.partial))
    return list(range(low + 1, high)) if before.fingering == after.fingering else []


def heard(item: tuple[str, Case]) -> Told:
    """Listened to without the exercise."""
    what, case = item
    sound = played(case.exercise, case.flaws, case.around, np.random.default_rng(case.seed))
    instrument = INSTRUMENTS[case.exercise.instrument]
    measures = listen(sound, ListeningTask(instrument, None), JudgingTerms(limits_of("developing"))).measures
    moves = measures.moves
    if what == "clean":
        exercise = case.exercise
        starts = [exercise.start_s(note) for k, note in enumerate(exercise.notes) if k and is_plain(exercise, k, note)]
        slurs = [move for move in moves if any(abs(0.5 * (move.start_s + move.stop_s) - at) < _SAME_S for at in starts)]
        blamed = sum(_touch(move) is not None or _silence(move) is not None for move in slurs)
        return Told(None, blamed, len(slurs), _onsets(case.exercise, measures))
    flaw = case.flaws[0]
    at = case.exercise.start_s(case.exercise.notes[flaw.place])
    here = [move for move in moves if abs(0.5 * (move.start_s + move.stop_s) - at) < _NEAR_S]
    found = [size for move in here if (size := (_touch(move) if what == "touch" else _silence(move))) is not None]
    if what == "touch":  # one that stays is a note of its own where nothing was asked
        hz = partial_frequency_hz(instrument, case.exercise.notes[flaw.place].fingering, round(flaw.size))
        found += [
            1000.0 * (note.release_s - note.onset_s)
            for note in measures.notes
            if note.onset_s is not None and note.release_s is not None and note.f0_hz is not None
            if abs(note.onset_s - at) < _NEAR_S and abs(cents_between(hz, note.f0_hz)) < _SLOT_CENTS
        ]
    return Told(max(found, default=None))


def _onsets(exercise: Exercise, measures: Measures) -> tuple[int, int, int]:
    """Where a note begins: of a slurred one the middle of its move."""
    middles = {move.after: 0.5 * (move.start_s + move.stop_s) for move in measures.moves if move.slurred}
    heard_s = [middles.get(note.index, note.onset_s) for note in measures.notes if note.onset_s is not None]
    played_s = [exercise.start_s(note) for note in exercise.notes]
    near = sum(any(at is not None and abs(at - due) <= _ONSET_S for at in heard_s) for due in played_s)
    return near, len(heard_s), len(played_s)


def _touch(move: MoveMeasures) -> float | None:
    return max((touch.ms for touch in move.clipped_partials if touch.ms >= LEAST_MS), default=None)


def _silence(move: MoveMeasures) -> float | None:
    """A hole in a slur, or the silence before a note that was begun anew: without an exercise they are the same."""
    told = move.gap_ms if move.slurred else move.silence_ms
    return told if told is not None and told >= LEAST_MS else None


def main() -> None:
    """A row for each kind of room and size."""
    parser = argparse.ArgumentParser()
    parser.add_argument("--seed", type=int, default=1)
    parser.add_argument("--every", type=int, default=1)
    parser.add_argument("--rooms", default="dry,room,hall,far-room,far-hall")
    parser.add_argument("--only", default="", help="touch, silence or clean")
    parser.add_argument("-v", action="store_true")
    given = parser.parse_args()
    for place in given.rooms.split(","):
        every = cases(Around(room=place), given.seed)
        made = [item for item in every if not given.only or item[0] == given.only][:: given.every]
        with ProcessPoolExecutor(2) as pool:
            told = list(pool.map(heard, made, chunksize=4))
        blamed, slurs = sum(item.blamed for item in told), sum(item.slurs for item in told)
        print(f"free {place:5} clean slurs: a touch or a silence told in {blamed} of {slurs}", flush=True)
        near, heard_, played_ = (sum(item.onsets[at] for item in told) for at in range(3))
        if played_:
            print(
                f"free {place:5} beginnings within 30 ms: F1 {2 * near / (heard_ + played_):.3f} of {played_}",
                flush=True,
            )
        for what, sizes in _SIZES.items():
            for size in sizes:
                of = [
                    (case, item.found)
                    for (kind, case), item in zip(made, told, strict=True)
                    if kind == what and size in (case.flaws[0].size, case.flaws[0].extra)
                ]
                found = [ms for _, ms in of if ms is not None]
                off = float(np.median([abs(ms - size) for ms in found])) if found else float("nan")
                print(
                    f"free {place:5} {what:8} of {size:3.0f} ms: found {len(found)}/{len(of)}, {off:.0f} ms off",
                    flush=True,
                )
                if given.v:
                    for case, ms in of:
                        if ms is None or abs(ms - size) > _OFF_MS:
                            print("    ", case.name, ms)


if __name__ == "__main__":
    main()
