"""How well a trace and what was read from it agree with the truth.

A frame is *right within x cents* when it is voiced and so near; unvoiced frames of sounding notes are misses. A *wrong
slot* is a voiced frame more than 250 cents off the truth of every frame within 30 ms. Onsets, touches and gaps are
matched one to one, the nearest first, within 30 ms (touches and gaps: when they overlap or lie within 30 ms).
"""

from dataclasses import dataclass

import numpy as np

from benchmarks.ear.case import HOP_S, Case, Event, Flags, Floats


def cents_off(found: Floats, true: Floats) -> Floats:
    with np.errstate(invalid="ignore", divide="ignore"):
        return np.asarray(1200.0 * np.log2(found / true))


def on_grid(time_s: Floats, f0_hz: Floats, count: int) -> Floats:
    """Any trace read at the truth's frames: the nearest frame, NaN where there is none within 8 ms."""
    if not len(time_s):
        return np.full(count, np.nan)
    at = np.arange(count) * HOP_S
    index = np.clip(np.searchsorted(time_s, at), 1, max(1, len(time_s) - 1))
    left = np.abs(time_s[index - 1] - at) <= np.abs(time_s[np.minimum(index, len(time_s) - 1)] - at)
    nearest = np.where(left, index - 1, np.minimum(index, len(time_s) - 1))
    return np.where(np.abs(time_s[nearest] - at) < 0.008, f0_hz[nearest], np.nan)


def wrong_slot(found: Floats, true: Floats) -> Flags:
    """Voiced frames that are near nothing that sounds about then."""
    reach = round(0.03 / HOP_S)
    off = np.full(len(true), np.inf)
    for shift in range(-reach, reach + 1):
        moved = np.roll(true, shift)
        off = np.fmin(off, np.abs(cents_off(found, moved)))
    return np.isfinite(found) & np.isfinite(true) & (off > 250.0)


@dataclass
class Tally:
    """Sums over cases; every exercise is worked out from sums so that long files weigh more."""

    sounding: int = 0
    within_10: int = 0
    within_50: int = 0
    wrong: int = 0
    rest: int = 0
    rest_voiced: int = 0
    pedal: int = 0
    pedal_right: int = 0
    touches: int = 0
    touches_seen: int = 0
    voicing_right: int = 0
    voicing_all: int = 0

    def __post_init__(self) -> None:
        self.steady: list[Floats] = []
        self.steady_noise: list[Floats] = []

    def add(self, case: Case, found: Floats) -> None:
        true = case.f0_hz
        found = found[: len(true)]
        sounding, off = np.isfinite(true), np.abs(cents_off(found, true))
        self.sounding += int(sounding.sum())
        self.within_10 += int((off <= 10.0).sum())
        self.within_50 += int((off <= 50.0).sum())
        self.wrong += int(wrong_slot(found, true).sum())
        self.rest += int(case.rest.sum())
        self.rest_voiced += int((case.rest & np.isfinite(found)).sum())
        low = sounding & (np.nan_to_num(true) < 62.0) & (np.nan_to_num(true) > 0)
        self.pedal += int(low.sum())
        self.pedal_right += int((off[low] <= 25.0).sum())
        clear = sounding | case.rest
        self.voicing_all += int(clear.sum())
        self.voicing_right += int((clear & (np.isfinite(found) == sounding)).sum())
        steady = off[case.steady & np.isfinite(off)]
        (self.steady_noise if "noise" in case.tags else self.steady).append(steady)
        for touch in case.touches:
            assert touch.hz is not None
            first, last = round(touch.start_s / HOP_S), round((touch.start_s + touch.length_s) / HOP_S)
            seen = np.abs(cents_off(found[first : last + 1], np.array(touch.hz))) < 40.0
            self.touches += 1
            self.touches_seen += int(seen.any())

    def exercises(self) -> dict[str, float]:
        """Percent and cents; NaN where there was nothing to count."""

        def share(part: int, whole: int) -> float:
            return 100.0 * part / whole if whole else float("nan")

        def point(values: list[Floats], q: float) -> float:
            joined = np.concatenate(values) if values else np.empty(0)
            return float(np.percentile(joined, q)) if len(joined) else float("nan")

        return {
            "within 10 c %": share(self.within_10, self.sounding),
            "within 50 c %": share(self.within_50, self.sounding),
            "pedals within 25 c %": share(self.pedal_right, self.pedal),
            "wrong slot %": share(self.wrong, self.sounding),
            "rest voiced %": share(self.rest_voiced, self.rest),
            "voicing right %": share(self.voicing_right, self.voicing_all),
            "steady median c": point(self.steady, 50),
            "steady p95 c": point(self.steady, 95),
            "noisy p95 c": point(self.steady_noise, 95),
            "touches seen %": share(self.touches_seen, self.touches),
        }


def matched(found: list[float], true: list[float], within: float) -> list[tuple[int, int]]:
    """Pairs of indices, nearest first, each used once."""
    pairs = sorted((abs(f - t), i, j) for i, f in enumerate(found) for j, t in enumerate(true) if abs(f - t) <= within)
    used_f: set[int] = set()
    used_t: set[int] = set()
    out = []
    for _, i, j in pairs:
        if i not in used_f and j not in used_t:
            used_f.add(i)
            used_t.add(j)
            out.append((i, j))
    return out


def events_found(true: list[Event], found: list[Event]) -> tuple[int, int]:
    """True events answered, and found ones that answer one."""
    used: set[int] = set()
    for event in true:
        for j, other in enumerate(found):
            near = (
                event.start_s - 0.03 < other.start_s + other.length_s
                and other.start_s < event.start_s + event.length_s + 0.03
            )
            same = event.hz is None or other.hz is None or abs(1200 * np.log2(other.hz / event.hz)) < 60
            if j not in used and near and same:
                used.add(j)
                break
    return len(used), len(used)
