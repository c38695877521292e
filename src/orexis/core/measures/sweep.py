"""A siren or sweep: its ends, its largest jump, its breaks, and how long it stays on partials. Formulas: docs/measures.md."""

from collections.abc import Sequence
from typing import Any

import numpy as np

from orexis.core.instruments import Fingering, Instrument, all_fingerings, partial_frequency_hz
from orexis.core.notes import runs
from orexis.core.sound import Floats
from orexis.core.theory import cents_between, ratio_of
from orexis.core.trace import HOP_S, Trace

FREE_SWEEP_CENTS, ASKED_SWEEP_CENTS = (
    650.0,
    300.0,
)  # covered in one breath: where nobody asked for one, where it is the exercise
_JUMP_FRAMES = 4  # 20 ms: a jump is over in it, and a siren hardly moves
_BREAK_S = 0.03  # shorter holes come from the pulses of low notes
_SLOT_CENTS, _SLOT_SPEED = 30.0, 500.0  # settled at a partial: so near, moving slower than so many cents a second


def voiced_runs(trace: Trace) -> list[tuple[int, int]]:
    """Stretches of tone with holes of up to 50 ms bridged."""
    voiced = trace.voiced.copy()
    for a, b in runs(~voiced):
        if a > 0 and b + 1 < len(voiced) and (b - a + 1) * HOP_S < 0.05:
            voiced[a : b + 1] = True
    return [(a, b) for a, b in runs(voiced) if (b - a + 1) * HOP_S >= 0.3]


def cents_along(trace: Trace, a: int, b: int) -> Floats:
    """Cents above 1 Hz of frames a to b, with holes bridged."""
    f0 = trace.f0_hz[a : b + 1]
    at = np.arange(len(f0))
    there = np.isfinite(f0)
    return cents_between(1.0, np.interp(at, at[there], f0[there]))


def sweep(trace: Trace, instrument: Instrument, least_cents: float = FREE_SWEEP_CENTS) -> dict[str, Any] | None:
    """The measures of a sweep; None where the pitch never swept over `least_cents` in one breath."""
    stretches = voiced_runs(trace)
    tracks = [(a, cents_along(trace, a, b)) for a, b in stretches]
    sweeps = [(a, t) for a, t in tracks if np.ptp(np.percentile(t, (2, 98))) >= least_cents]
    wide = [t for _, t in sweeps]
    if not wide:
        return None
    first, last = stretches[0][0], stretches[-1][1]
    holes = [(a, b) for a, b in runs(~trace.voiced[first : last + 1]) if (b - a + 1) * HOP_S > _BREAK_S]
    steps = [(a, np.abs(t[_JUMP_FRAMES:] - t[:-_JUMP_FRAMES])) for a, t in sweeps]
    jump, jump_at = max((float(step.max()), a + int(step.argmax())) for a, step in steps)
    everything = np.concatenate(wide)
    low, high = np.percentile(everything, (1, 99))
    return {
        "siren_low_hz": round(ratio_of(float(low)), 2),
        "siren_high_hz": round(ratio_of(float(high)), 2),
        "siren_jump_cents": round(jump, 0),
        "siren_jump_at_s": round(float(trace.time_s[jump_at]), 3),
        "siren_breaks": len(holes),
        "siren_break_at_s": round(float(trace.time_s[first + holes[0][0]]), 3) if holes else None,
        "in_slots_share": round(_in_slots(wide, instrument), 3),
    }


def _in_slots(tracks: Sequence[Floats], instrument: Instrument) -> float:
    """Share of the time settled at a partial of the fingering that fits best."""
    speed = np.concatenate([np.abs(np.gradient(t)) / HOP_S for t in tracks])
    slow = np.concatenate(tracks)[speed < _SLOT_SPEED]
    if not len(slow):
        return 0.0
    places = slow[:: max(1, len(slow) // 200)]
    best = max(
        float(np.mean(np.abs(_off_slots(places, instrument, fingering)) <= _SLOT_CENTS))
        for fingering in all_fingerings(instrument)
    )
    return best * len(slow) / len(speed)


def _off_slots(cents: Floats, instrument: Instrument, fingering: Fingering) -> Floats:
    """How far each pitch, in cents above 1 Hz, lies above the nearest partial of the fingering."""
    ratio = 2.0 ** ((cents - cents_between(1.0, partial_frequency_hz(instrument, fingering, 1))) / 1200.0)
    below = np.maximum(1.0, np.floor(ratio))
    above = np.maximum(1.0, np.ceil(ratio))
    under, over = (1200.0 * np.log2(ratio / partial) for partial in (below, above))
    return np.where(np.abs(under) <= np.abs(over), under, over)
