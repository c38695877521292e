"""Playing with sound from a loudspeaker beside the player: what is blamed, and what is found, with and without taking it out.

`python -m benchmarks.with_sound [--every 1]`: tunes over a drone, chords and a second part on four instruments, the loudspeaker 50 ms
late in a small room of its own (0.35 s), at several levels against the player; and by how much a clock may be off.
"""

import argparse
from concurrent.futures import ProcessPoolExecutor
from dataclasses import astuple, dataclass, replace
from itertools import product

import numpy as np
from scipy.signal import fftconvolve

from orexis.core.coach import limits_of
from orexis.core.exercises import Accompanied, Exercise, exercise_type_named
from orexis.core.instruments import instrument_named
from orexis.core.listen import ClickTrack, JudgingTerms, ListeningTask, ListenResult, listen
from orexis.core.player import parse_flaws, play, sounded
from orexis.core.sound import Floats, Sound
from orexis.core.theory import KnownTone, cents_between
from orexis.core.trace import HOP_S, LoudspeakerFilter, track

INSTRUMENTS = ("trumpet-bb", "horn-f-bb", "trombone-tenor", "tuba-eb")
KINDS = (Accompanied.DRONE, Accompanied.CHORDS, Accompanied.SECOND_PART)
FLAWS = (("", ""), ("centre=30c@n5", "pitch"), ("sag=-60c@n6", "pitch-drift"), ("miss=3@n4", "wrong-partial"))
_LATE_S, _ROOM_S = 0.05, 0.35
_SAME_CENTS = 50.0


@dataclass(frozen=True, slots=True)
class Beside:
    """The loudspeaker: level against the player, and by how many millionths its clock is off."""

    db: float
    drift_ppm: float = 0.0


def asked(instrument: str, sounds: Accompanied, **params: str) -> Exercise:
    """A tune with what sounds to it."""
    given = {"sounds": str(sounds), **params}
    return exercise_type_named("tune").series(instrument_named(instrument), given).exercises[0]


def reasons(exercise: Exercise, *flaws: str, beside: Beside | None, known: bool = True) -> list[str]:
    """What is found in a performance at developing. `known`: whether the ear is told what the loudspeaker plays."""
    verdict = heard(exercise, *flaws, beside=beside, known=known).verdict
    assert verdict is not None
    return [fault.reason for fault in verdict.findings]


def heard(exercise: Exercise, *flaws: str, beside: Beside | None, known: bool = True) -> ListenResult:
    """A performance as it is heard beside a loudspeaker."""
    sound, _ = play(exercise, flaws=parse_flaws([flaw for flaw in flaws if flaw]), seed=3)
    if beside is not None:
        sound = beside_it(sound, exercise, beside)
    task = ListeningTask(
        instrument_named(exercise.instrument),
        exercise if known else replace(exercise, accompaniment=None),
        first_beat_s=0.0,
    )
    return listen(sound, task, JudgingTerms(limits_of("developing")), click=ClickTrack(delay_s=0.0))


def beside_it(sound: Sound, exercise: Exercise, beside: Beside) -> Sound:
    """With what the loudspeaker plays."""
    size, off = len(sound.samples), 1.0 + 1e-6 * beside.drift_ppm
    tones = [
        KnownTone(tone.hz * off, (tone.start_s + _LATE_S) / off, (tone.end_s + _LATE_S) / off)
        for tone in exercise.sounding(a4=440.0)
    ]
    played = fftconvolve(sounded(tones, sound.rate, size), _echoes(sound.rate))[:size]
    playing = sound.samples[np.abs(sound.samples) > 1e-3]
    played *= np.sqrt(np.square(playing).mean() / np.square(played).mean()) * 10.0 ** (beside.db / 20.0)
    return Sound((sound.samples + played).astype(np.float32), sound.rate)


def _echoes(rate: int) -> Floats:
    rng = np.random.default_rng(0)
    size = round(_ROOM_S * rate)
    room = rng.normal(0.0, 1.0, size) * 10.0 ** (-3.0 * np.arange(size) / size)
    room *= 0.15 / np.sqrt(np.square(room).sum())
    room[round(0.003 * rate)] += 1.0
    return np.asarray(room)


@dataclass(frozen=True, slots=True)
class Lanes:
    """What the lanes show beside a loudspeaker: seconds with a pitch while it is counted in, share of the player's frames that are left
    out, seconds of other pitches later, and those before anything was left out."""

    counted_in_s: float
    lost: float
    other_s: float
    unfiltered_s: float


def lanes(instrument: str, sounds: Accompanied, beside: Beside | None) -> Lanes:
    """Of a clean performance."""
    exercise = asked(instrument, sounds)
    sound, _ = play(exercise, seed=3)
    clean, raw = track(sound), track(sound if beside is None else beside_it(sound, exercise, beside))
    lowest_hz = min(exercise.target_hz(note, a4=440.0) for note in exercise.notes)
    left = LoudspeakerFilter(exercise.sounding(a4=440.0), exercise.alone_until_s, lowest_hz).without(raw)
    early = clean.time_s < exercise.alone_until_s
    pairs = zip(clean.f0_hz, raw.f0_hz, strict=True)
    same = np.array([a > 0.0 and b > 0.0 and abs(cents_between(a, b)) < _SAME_CENTS for a, b in pairs])
    other = [HOP_S * float((shown.voiced & ~same & ~early).sum()) for shown in (left, raw)]
    return Lanes(HOP_S * float(left.voiced[early].sum()), float((same & ~left.voiced).sum() / same.sum()), *other)


Case = tuple[str, Accompanied, str, str, Beside | None, bool]


def right(case: Case) -> bool:
    """Whether the first thing found is what was wrong, or nothing where nothing was."""
    instrument, kind, flaw, reason, beside, known = case
    return reasons(asked(instrument, kind), flaw, beside=beside, known=known)[:1] == ([reason] if reason else [])


def main() -> None:
    """Print the table."""
    read = argparse.ArgumentParser(description=__doc__)
    read.add_argument("--every", type=int, default=1)
    every = read.parse_args().every
    rows: list[tuple[str, Beside | None]] = [("headphones", None)]
    rows += [(f"{db:.0f} dB", Beside(db)) for db in (-30.0, -20.0, -12.0, -6.0)]
    rows += [(f"-20 dB, clock off by {ppm:.0f} millionths", Beside(-20.0, ppm)) for ppm in (5.0, 20.0)]
    print("| loudspeaker | clean lines clean | faults first named | as heard: clean | faults |\n|---|---|---|---|---|")
    with ProcessPoolExecutor(2) as pool:
        for name, beside in rows:
            cells = []
            for known in (True, False):
                for clean in (True, False):
                    cases: list[Case] = [
                        (instrument, kind, flaw, reason, beside, known)
                        for instrument, kind, (flaw, reason) in product(INSTRUMENTS, KINDS, FLAWS)
                        if (not flaw) == clean
                    ][::every]
                    found = list(pool.map(right, cases))
                    cells.append(f"{sum(found)} of {len(found)}")
            print(f"| {name} | {' | '.join(cells)} |", flush=True)
        print(
            "| lanes | counted in | of the player left out | of others later | of others before |\n|---|---|---|---|---|"
        )
        for name, beside in rows:
            seen = list(
                pool.map(
                    lanes, *zip(*product(INSTRUMENTS, KINDS), strict=True), [beside] * len(INSTRUMENTS) * len(KINDS)
                )
            )
            counted_in, lost, other, unfiltered = np.mean([astuple(one) for one in seen], axis=0)
            print(f"| {name} | {counted_in:.2f} s | {lost:.1%} | {other:.2f} s | {unfiltered:.2f} s |", flush=True)


if __name__ == "__main__":
    main()
