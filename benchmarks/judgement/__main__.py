"""Is the first reason the right one, and is a clean take left alone? `python -m benchmarks.judgement [--seed N] [--every K]`.

Printed for each kind of room: clean takes blamed, flawed takes whose first reason is right, its place, how far off its size is, what went
wrong; and of takes with two flaws, whether the one to be worked on first is named first.
"""

import argparse
import time
from collections import Counter, defaultdict
from concurrent.futures import ProcessPoolExecutor
from dataclasses import replace

import numpy as np

from benchmarks.judgement.cases import CALLED, Case, clean_cases, flawed_cases, size_of, two_flaw_cases
from benchmarks.judgement.perform import ROOMS, Around, cut_in_time, played
from benchmarks.judgement.sampled import MADE, can_play, sampled
from orexis.core.coach import Verdict, limits_of
from orexis.core.instruments import INSTRUMENTS
from orexis.core.listen import ClickTrack, JudgingTerms, ListeningTask, listen

_PLACES = ("dry", *ROOMS)


def heard(case: Case) -> Verdict:
    """The verdict at *growing*."""
    rng = np.random.default_rng(case.seed)
    if case.font:
        sound = sampled(case.exercise, case.flaws, case.around, rng, case.font)
    else:
        sound = played(case.exercise, case.flaws, case.around, rng)
    if case.in_time:
        sound = cut_in_time(sound, case.exercise)
    click = case.around.click_db
    told = listen(
        sound,
        ListeningTask(INSTRUMENTS[case.exercise.instrument], case.exercise, first_beat_s=0.0),
        JudgingTerms(limits_of("developing")),
        click=ClickTrack(delay_s=None if click is None else 0.08, peak_db=click),
    )
    assert told.verdict is not None
    return told.verdict


def main() -> None:
    """The tables."""
    parser = argparse.ArgumentParser()
    parser.add_argument("--seed", type=int, default=1)
    parser.add_argument("--every", type=int, default=1, help="only every n-th take")
    parser.add_argument("--rooms", default=",".join((*_PLACES, "click", "hum")))
    parser.add_argument("--flaws", default="", help="only these, comma separated; clean for the clean takes")
    parser.add_argument(
        "--font", default="", help="sampled brass of this font instead of the oscillator: font-a, font-b"
    )
    parser.add_argument("--in-time", action="store_true", help="takes end as they do where the click goes on")
    parser.add_argument("-v", action="store_true", help="name every take that went wrong")
    given = parser.parse_args()
    begun = time.perf_counter()
    for place in given.rooms.split(","):
        around = {
            "click": Around(click_db=-36.0),
            "hum": Around(hum_db=-46.0),
        }.get(place, Around(room=place))
        clean = clean_cases(around, given.seed)[:: given.every]
        flawed = flawed_cases(around, given.seed)[:: given.every] if place in _PLACES else []
        two = two_flaw_cases(around, given.seed)[:: given.every] if place in _PLACES and not given.font else []
        if given.font:
            clean = [replace(case, font=given.font) for case in clean if can_play(case.exercise)]
            flawed = [
                replace(case, font=given.font)
                for case in flawed
                if can_play(case.exercise) and {flaw.name for flaw in case.flaws} <= MADE
            ]
        if given.flaws:
            wanted = given.flaws.split(",")
            two = two if "two" in wanted else []
            clean = clean if "clean" in wanted else []
            flawed = [case for case in flawed if case.flaws[0].name in wanted]
        if given.in_time:
            clean, flawed, two = ([replace(case, in_time=True) for case in some] for some in (clean, flawed, two))
        with ProcessPoolExecutor(2) as pool:
            _clean_table(place, clean, list(pool.map(heard, clean, chunksize=4)), given.v)
            _flawed_table(place, flawed, list(pool.map(heard, flawed, chunksize=4)), given.v)
            _two_table(place, two, list(pool.map(heard, two, chunksize=4)), given.v)
    print(f"judgement  {time.perf_counter() - begun:.0f} s")


def _clean_table(place: str, cases: list[Case], verdicts: list[Verdict], verbose: bool) -> None:
    if not cases:
        return
    blamed = [(case, v) for case, v in zip(cases, verdicts, strict=True) if v.outcome in ("close", "not_yet")]
    silent = sum(v.outcome == "not_heard" for v in verdicts)
    why = Counter(str(v.reason) for _, v in blamed)
    share = 100.0 * len(blamed) / len(cases)
    print(
        f"judgement  {place:5} clean   {len(cases):4} takes   blamed {share:5.1f}%   not heard {silent}   {dict(why)}",
        flush=True,
    )
    if verbose:
        for case, v in blamed:
            print("    ", case.name, "->", v.outcome, v.reason, v.note, v.at_s, v.value, v.limit)


def _flawed_table(place: str, cases: list[Case], verdicts: list[Verdict], verbose: bool) -> None:
    if not cases:
        return
    tally: dict[str, list[bool]] = defaultdict(list)
    where = []
    for case, v in zip(cases, verdicts, strict=True):
        flaw = case.flaws[0]
        right = str(v.reason) in CALLED[flaw.name]
        tally[flaw.name].append(right)
        if right and v.note is not None:
            where.append(case.exercise.notes[flaw.place].id == v.note)
        if verbose and not right:
            print("    ", case.name, "->", v.outcome, v.reason, v.note, v.at_s, v.value, v.limit)
    every = [right for found in tally.values() for right in found]
    print(
        f"judgement  {place:5} flawed  {len(every):4} takes   first reason right {100 * np.mean(every):5.1f}%   place right {100 * np.mean(where):5.1f}%"
    )
    for unit, names in (("cents", ("centre", "sag")), ("ms", ("gap", "caught"))):
        off = [
            abs(abs(v.value) - size)
            for case, v in zip(cases, verdicts, strict=True)
            if case.flaws[0].name in names and str(v.reason) in CALLED[case.flaws[0].name] and v.value is not None
            if (size := size_of(case.flaws[0])) is not None
        ]
        if off:
            print(f"           sizes of {' and '.join(names)}: {np.median(off):.1f} {unit} off (median of {len(off)})")
    print("           " + "   ".join(f"{name} {sum(found)}/{len(found)}" for name, found in tally.items()), flush=True)


def _two_table(place: str, cases: list[Case], verdicts: list[Verdict], verbose: bool) -> None:
    if not cases:
        return
    first = both = 0
    for case, v in zip(cases, verdicts, strict=True):
        right = str(v.reason) in CALLED[case.flaws[0].name]
        told = {str(item.reason) for item in v.findings}
        first += right
        both += all(told & set(CALLED[flaw.name]) for flaw in case.flaws)
        if verbose and not right:
            print("    ", case.name, "->", v.outcome, v.reason, v.note, v.at_s, v.value, v.limit)
    many = len(cases)
    print(
        f"judgement  {place:5} two     {many:4} takes   the first first {100 * first / many:5.1f}%   both found {100 * both / many:5.1f}%",
        flush=True,
    )


if __name__ == "__main__":
    main()
