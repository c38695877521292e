"""A room that owes nothing to the simulated player's: sparse early echoes, then a tail whose highs die first."""

import numpy as np
from scipy.signal import butter, fftconvolve, sosfilt

from benchmarks.ear.case import Floats


def in_room(dry: Floats, rate: int, rt_s: float, rng: np.random.Generator, *, wet_db: float = -9.0) -> Floats:
    """The sound and its room with a reverberation time of rt_s."""
    size = round(1.2 * rt_s * rate)
    t = np.arange(size) / rate
    impulse = np.zeros(size)
    for low, high, share in ((80.0, 700.0, 1.0), (700.0, 3000.0, 0.85), (3000.0, 9000.0, 0.55)):
        band = sosfilt(butter(2, [low, high], "bandpass", fs=rate, output="sos"), rng.normal(0, 1, size))
        impulse += band / np.std(band) * 10.0 ** (-3.0 * t / (rt_s * share))
    impulse *= np.clip(t / 0.03, 0.0, 1.0)
    for delay in rng.uniform(0.004, 0.045, 9):
        impulse[round(delay * rate)] += 9.0 * rng.choice([-1, 1]) * np.exp(-delay / 0.03)
    impulse *= 10.0 ** (wet_db / 20.0) / np.sqrt(np.sum(impulse**2))
    return np.asarray(dry + fftconvolve(dry, impulse)[: len(dry)])
