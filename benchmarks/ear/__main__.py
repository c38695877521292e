"""Accuracy and speed of the ear beside other pitch libraries: `make bench-ear`.

Two kinds of sound: sampled brass (one General MIDI sound font, named on the command line) and synthetic brass of another
make than the simulated player. Every library reads the same files in the same run, one after another on one core.
Notes, touches, gaps and entries are read by our own stages only: the others give no notes.
"""

import argparse
import os
import subprocess
import time
from pathlib import Path

import numpy as np
import soundfile

from benchmarks.ear.case import Case
from benchmarks.ear.peers_names import PEER_NAMES
from benchmarks.ear.pulse import pulse_cases
from benchmarks.ear.reading import Reading
from benchmarks.ear.sampled import sampled_cases
from benchmarks.ear.score import Tally, on_grid
from orexis.core.trace import track


def main() -> None:
    ask = argparse.ArgumentParser(description=__doc__)
    ask.add_argument("--font", default="font-c", help="sound font of the sampled brass: font-a, font-b, font-c")
    ask.add_argument("--seed", type=int, default=7)
    ask.add_argument("--work", type=Path, default=Path(".bench"), help="folder for sounds and results")
    ask.add_argument("--peers", type=Path, help="Python of the environment that holds the other libraries")
    ask.add_argument("--only", nargs="*", default=PEER_NAMES)
    ask.add_argument(
        "--instruments", nargs="*", help="only these instruments: the slow libraries take a minute for a minute"
    )
    told = ask.parse_args()
    told.work.mkdir(parents=True, exist_ok=True)
    kinds = {
        "sampled": sampled_cases(told.font, told.work / "fonts", seed=told.seed),
        "synthetic": pulse_cases(seed=told.seed),
    }
    if told.instruments:
        kinds = {kind: [case for case in cases if case.instrument in told.instruments] for kind, cases in kinds.items()}
    files = {kind: [write(told.work, case) for case in cases] for kind, cases in kinds.items()}
    for kind, cases in kinds.items():
        print(
            f"\n## {kind}: {len(cases)} sounds, {sum(c.sound.duration_s for c in cases):.0f} s (font {told.font}, seed {told.seed})\n"
        )
        tallies = {"orexis": ours(cases)}
        if told.peers:
            environment = {**os.environ, "OMP_NUM_THREADS": "1"}
            command = [str(told.peers), "benchmarks/ear/peers.py", ",".join(told.only), *map(str, files[kind])]
            subprocess.run(command, check=True, env=environment)
            tallies |= {name: theirs(name, cases, files[kind]) for name in told.only}
        show(tallies)
        reading = Reading()
        for case in cases:
            reading.add(case, track(case.sound, drone_hz=case.drone_hz))
        print("\n| read from the trace | |\n|---|---|")
        print(
            "\n".join(f"| {name} | {value:.3f} |" for name, value in reading.exercises().items() if np.isfinite(value))
        )


def write(folder: Path, case: Case) -> Path:
    path = folder / f"{case.name.replace(' ', '_')}.wav"
    soundfile.write(path, case.sound.samples, case.sound.rate, subtype="FLOAT")
    return path


def ours(cases: list[Case]) -> tuple[Tally, float]:
    track(cases[0].sound)
    tally, seconds = Tally(), 0.0
    for case in cases:
        start = time.perf_counter()
        found = track(case.sound, drone_hz=case.drone_hz)
        seconds += time.perf_counter() - start
        tally.add(case, on_grid(found.time_s, found.f0_hz, len(case.f0_hz)))
    return tally, sum(c.sound.duration_s for c in cases) / seconds


def theirs(name: str, cases: list[Case], files: list[Path]) -> tuple[Tally, float]:
    tally, seconds = Tally(), 0.0
    for case, path in zip(cases, files, strict=True):
        found = np.load(path.with_suffix(f".{name}.npz"))
        seconds += float(found["seconds"])
        tally.add(case, on_grid(found["time_s"], found["f0_hz"], len(case.f0_hz)))
    return tally, sum(c.sound.duration_s for c in cases) / seconds


def show(tallies: dict[str, tuple[Tally, float]]) -> None:
    exercises = {name: tally.exercises() | {"times real time": speed} for name, (tally, speed) in tallies.items()}
    names = list(next(iter(exercises.values())))
    print("| | " + " | ".join(exercises) + " |\n|---|" + "---|" * len(exercises))
    for key in names:
        print(f"| {key} | " + " | ".join(f"{exercises[name][key]:.2f}" for name in exercises) + " |")


if __name__ == "__main__":
    main()
