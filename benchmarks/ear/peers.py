"""Pitch libraries beside ours, each run as its documentation advises for 20 to 2000 Hz. Their own environment: see README.

Reads WAV files named on the command line, writes one .npz beside each (`NAME.PEER.npz`: time_s, f0_hz, seconds).
"""

import sys
import time
from collections.abc import Callable
from pathlib import Path

import numpy as np
import soundfile

Found = tuple[np.ndarray, np.ndarray]
LOW, HIGH, HOP = 25.0, 2000.0, 0.005


def praat(samples: np.ndarray, rate: int, floor: float) -> Found:
    import parselmouth

    pitch = parselmouth.Sound(samples, rate).to_pitch_ac(time_step=HOP, pitch_floor=floor, pitch_ceiling=HIGH)
    f0 = pitch.selected_array["frequency"]
    return pitch.xs(), np.where(f0 > 0, f0, np.nan)


def pyin(samples: np.ndarray, rate: int) -> Found:
    import librosa

    hop = round(HOP * rate)
    f0, voiced, _ = librosa.pyin(samples, fmin=LOW, fmax=HIGH, sr=rate, frame_length=8192, hop_length=hop)
    return np.arange(len(f0)) * hop / rate, np.where(voiced, f0, np.nan)


def yin(samples: np.ndarray, rate: int) -> Found:
    import librosa

    hop = round(HOP * rate)
    f0 = librosa.yin(samples, fmin=LOW, fmax=HIGH, sr=rate, frame_length=4096, hop_length=hop)
    return np.arange(len(f0)) * hop / rate, f0


def swift(samples: np.ndarray, rate: int) -> Found:
    from swift_f0 import SwiftF0

    found = SwiftF0(threads=1).detect(samples, rate)
    return found.timestamps, np.where(found.confidence >= 0.9, found.pitch_hz, np.nan)


def harvest(samples: np.ndarray, rate: int) -> Found:
    import pyworld

    f0, at = pyworld.harvest(samples.astype(float), rate, f0_floor=LOW, f0_ceil=HIGH, frame_period=1000 * HOP)
    return at, np.where(f0 > 0, f0, np.nan)


PEERS: dict[str, Callable[[np.ndarray, int], Found]] = {
    "praat-25": lambda x, rate: praat(x, rate, 25.0),
    "praat-50": lambda x, rate: praat(x, rate, 50.0),
    "swift-f0": swift,
    "librosa-yin": yin,
    "pyworld-harvest": harvest,
    "librosa-pyin": pyin,
}


def main(names: list[str], paths: list[Path]) -> None:
    for name in names:
        PEERS[name](
            np.random.default_rng(0).normal(0, 0.01, 44_100).astype(np.float32), 44_100
        )  # loading and compiling is not timed
        for path in paths:
            if path.with_suffix(f".{name}.npz").exists():
                continue  # done by a run that was cut short; a new --work folder begins anew
            samples, rate = soundfile.read(path, dtype="float32")
            start = time.perf_counter()
            time_s, f0_hz = PEERS[name](samples, rate)
            np.savez(path.with_suffix(f".{name}.npz"), time_s=time_s, f0_hz=f0_hz, seconds=time.perf_counter() - start)


if __name__ == "__main__":
    main(sys.argv[1].split(","), [Path(p) for p in sys.argv[2:]])
