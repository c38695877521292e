"""Sound match on sampled brass: does it rank as a listener would? `python -m benchmarks.likeness [FONT ...]`.

Prints the median match (0 to 100), and the tenth and ninetieth percentile, of pairs of notes from the same font.
"""

import sys
from collections.abc import Iterator
from pathlib import Path

import numpy as np

from benchmarks.ear.case import Floats
from benchmarks.ear.sampled import BRASS, RATE, Stem, stems
from orexis.core.measures.envelope import TimbreProfile, harmonic_spectrum, match
from orexis.core.sound import Sound

Key = tuple[str, int, int, str]  # instrument, MIDI note, velocity, what


def timbre(
    stem: Stem, first_s: float, last_s: float, rng: np.random.Generator, *, tilt_db: float = 0.0
) -> TimbreProfile:
    """A stretch of a note as a microphone hears it; `tilt_db` per octave about 1 kHz makes it pinched or covered."""
    samples = stem.samples.copy()
    if tilt_db:
        spectrum = np.fft.rfft(samples)
        hz = np.maximum(np.fft.rfftfreq(len(samples), 1 / RATE), 20.0)
        samples = np.fft.irfft(spectrum * 10.0 ** (tilt_db * np.log2(hz / 1000.0) / 20.0), len(samples))
    noisy = samples + rng.normal(0.0, 1e-4, len(samples))
    level: Floats = stem.level[round(first_s / 0.005) : round(last_s / 0.005)]
    wander = 1.4826 * float(np.median(np.abs(level - np.median(level))))
    spectrum = harmonic_spectrum(Sound(noisy.astype(np.float32), RATE), first_s, last_s, stem.hz)
    found = spectrum and spectrum.envelope_db()
    assert found is not None
    return TimbreProfile(found, stem.hz, float(np.median(level)), 25.0, wander)


def timbres(font: str, cache: Path) -> dict[Key, TimbreProfile]:
    rng, out = np.random.default_rng(0), {}
    for instrument, (_, low, high) in BRASS.items():
        have = stems(font, instrument, cache)
        for note in range(low + 4, high - 2, 3):
            for velocity in (60, 100):
                stem = have[(note, 2.6, velocity)]
                out[(instrument, note, velocity, "first")] = timbre(stem, 0.4, 1.3, rng)
                out[(instrument, note, velocity, "second")] = timbre(stem, 1.4, 2.3, rng)
                out[(instrument, note, velocity, "pinched")] = timbre(stem, 0.4, 1.3, rng, tilt_db=4.0)
                out[(instrument, note, velocity, "covered")] = timbre(stem, 0.4, 1.3, rng, tilt_db=-4.0)
    return out


def pairs(found: dict[Key, TimbreProfile]) -> Iterator[tuple[str, float]]:
    """(kind of pair, match)."""
    for (instrument, note, velocity, what), one in found.items():
        if what != "first":
            continue
        others = {
            "the same note twice": (instrument, note, velocity, "second"),
            "3 semitones higher": (instrument, note + 3, velocity, "first"),
            "6 semitones higher": (instrument, note + 6, velocity, "first"),
            "soft against loud": (instrument, note, 160 - velocity, "first"),
            "open against covered": (instrument, note, velocity, "covered"),
            "open against pinched": (instrument, note, velocity, "pinched"),
        }
        for kind, key in others.items():
            value = match(one, found[key]) if key in found else None
            if value is not None:
                yield kind, value
        for (other, near, loud, which), two in found.items():
            if other != instrument and which == "first" and loud == velocity and abs(near - note) <= 1:
                value = match(one, two)
                if value is not None:
                    yield "another instrument", value


def main() -> None:
    for font in sys.argv[1:] or ["font-b"]:
        kinds: dict[str, list[float]] = {}
        for kind, value in pairs(timbres(font, Path(".bench/fonts"))):
            kinds.setdefault(kind, []).append(value)
        print(f"\n| {font} | pairs | median | 10% | 90% |\n|---|---|---|---|---|")
        for kind, values in sorted(kinds.items(), key=lambda item: -float(np.median(item[1]))):
            low, middle, high = np.percentile(values, (10, 50, 90))
            print(f"| {kind} | {len(values)} | {middle:.0f} | {low:.0f} | {high:.0f} |")


if __name__ == "__main__":
    main()
