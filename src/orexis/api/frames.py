"""Frames as they go over the live socket: one binary message for each block or run of blocks, acknowledgement included.

Little-endian: uint32 kind (1), uint32 flags (1: a block is missing), uint64 samples received, float32 seconds late,
uint32 count of final frames, float64 time of the first of them, uint32 count of provisional frames, float64 time of the
first of those; then for the final and for the provisional frames each f0 in Hz (NaN where there is no pitch), level,
tone-to-noise and confidence, as float32 columns.
"""

import struct

import numpy as np

from orexis.core.trace import Trace

KIND_FRAMES = 1
HOLE = 1
_HEAD = struct.Struct("<IIQfIdId")


def frames_message(
    received: int, final: Trace, provisional: Trace, *, hole: bool = False, late_s: float = 0.0
) -> bytes:
    """Return the binary message of some frames, as docs/live-protocol.md lays it out."""
    head = _HEAD.pack(
        KIND_FRAMES,
        HOLE if hole else 0,
        received,
        late_s,
        len(final),
        float(final.time_s[0]) if len(final) else 0.0,
        len(provisional),
        float(provisional.time_s[0]) if len(provisional) else 0.0,
    )
    return head + _columns(final) + _columns(provisional)


def _columns(trace: Trace) -> bytes:
    if not len(trace):
        return b""
    columns = (trace.f0_hz, trace.level_db, trace.tone_to_noise_db, trace.confidence)
    return np.concatenate(columns).astype("<f4").tobytes()
