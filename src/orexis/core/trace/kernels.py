"""The inner loops of the tracker, compiled by numba: the same arithmetic for every frame, alone or in a batch.

Shapes: n frames, c candidates (PER_WINDOW for each window), f frequency bins. "No candidate" has height 0 and f0 1.0.
Compiled code is kept beside the source, or in the user's cache where that cannot be written.
"""

import math

import numpy as np
from numba import njit

PER_WINDOW = 4  # candidates kept from each window
LENGTHS_S = (0.025, 0.064, 0.150)  # of the windows
LOOKAHEAD = 4

_OVER = 2  # interpolation of the lags
_WEAKEST = 0.3  # peaks under this are noise
_OCTAVE_COST = 0.03  # of peaks of equal height the shortest period is right: every multiple repeats too
_PIVOT = math.log2(300.0)
_UNVOICED = 0.42  # a peak must stand higher than this to be called tone
_JUMP = 0.4  # per octave
_JUMP_MOST = 0.5
_SWITCH = 0.12  # tone to no tone and back
_GATE_DB = -75.0  # below this nothing is called tone
_GOES_ON = 0.035  # a pitch nearer than 60 cents to the last goes on, another begins
_KNOCK_DB = 6.5  # so far above the mean of a tenth of a second is a knock
_FLOOR_DB, _FAR_DB = 8.0, 24.0  # so little over the lowest level of the last seconds, and so far under the highest
KNOCK_BEFORE, KNOCK_AFTER = 8, 4  # frames in which a knock is seen: it rings on, and a window sees it coming
MEAN_BEFORE, MEAN_AFTER, ABOUT = 12, 8, 2
_DRONE_DB = 4.0
_FIRST_FRAMES = 16
_KNOCKS_FROM_HZ = 70.0  # the lips' own pulses of a low note stand apart like knocks
KNOCK, PAUSE, DRONE, FADING = 1, 2, 3, 4  # why a frame is quiet
_FADING_DB, _STRAYS = (
    9.0,
    0.012,
)  # a sound dying away so fast keeps its pitch within 20 cents, or says nothing more of it
FLOOR_BLOCKS, FLOOR_FRAMES = 20, 80  # the last 8 s in blocks of 0.4 s
SILENCE_DB = -120.0

_RESOLVED = 1.45  # harmonics further apart than so many half main lobes can be told apart
_HARMONICS = 20  # looked at for holes
_PRESENT = 0.002  # a harmonic of so much of the strongest one's power is there
_HOLES_FROM, _HOLES_FULL = 0.22, 0.45  # share of missing harmonics: from here it costs, here it costs most
_HOLES_COST = 0.45
_BLUR_AND_MORE = 0.04  # more than what windows differ by in other ways

_NEAR = 0.02  # candidates so near (35 cents) are one
_LEEWAY, _LEEWAY_NOISE = (
    0.004,
    0.2,
)  # relative error of a window of one period, clean and by noise; it falls with their number
_BLURS_FROM_HZ = (2050.0, 900.0, 170.0)  # above this a window's length would flatten a vibrato
SMOOTH, _SMOOTH_WITHIN = 2, 0.0087


@njit(cache=True)
def decimate(buffer, taps, factor, count, out):
    """Every factor-th value of the low-passed buffer."""
    width = len(taps)
    for i in range(count):
        total = np.float32(0.0)
        start = i * factor
        for k in range(width):
            total += buffer[start + k] * taps[k]
        out[i] = total


@njit(cache=True)
def framed(buffer, starts, weight, out):
    """Frames of the buffer from `starts`, each less its mean and weighted."""
    width = len(weight)
    for i in range(len(starts)):
        total = 0.0
        for k in range(width):
            total += buffer[starts[i] + k]
        mean = np.float32(total / width)
        for k in range(width):
            out[i, k] = (buffer[starts[i] + k] - mean) * weight[k]


@njit(cache=True)
def surroundings(level, loudest, about, mean_level):
    """Of the levels about each frame: the loudest as far as a knock reaches, the loudest neighbour, the mean power.

    `level` begins MEAN_BEFORE frames earlier than the results and ends MEAN_AFTER later.
    """
    for i in range(len(loudest)):
        at = i + MEAN_BEFORE
        loudest[i] = np.max(level[at - KNOCK_BEFORE : at + KNOCK_AFTER + 1])
        about[i] = np.max(level[at - ABOUT : at + ABOUT + 1])
        total = 0.0
        for k in range(at - MEAN_BEFORE, at + MEAN_AFTER + 1):
            total += 10.0 ** (level[k] / 10.0)
        mean_level[i] = 10.0 * math.log10(total / (MEAN_BEFORE + MEAN_AFTER + 1))


@njit(cache=True)
def top_of(curve, norm, at):
    """Top of the parabola through three neighbours: place and height."""
    left, mid, right = curve[at - 1] * norm[at - 1], curve[at] * norm[at], curve[at + 1] * norm[at + 1]
    bend = left - 2.0 * mid + right
    shift = 0.0
    if bend < -1e-12 * abs(mid):
        shift = min(1.0, max(-1.0, 0.5 * (left - right) / bend))
    return at + shift, mid - 0.25 * (left - right) * shift


@njit(cache=True)
def holes(power, bin_hz, f0_hz, resolution_hz):
    """Share of harmonics that are missing below the highest one present; 0 where the window cannot tell them apart.

    The common subharmonic of two notes that sound at once repeats as well as a note does, but most of its harmonics
    are not there. A lone octave-down error has every second one missing.
    """
    if f0_hz < _RESOLVED * resolution_hz:
        return 0.0
    size = len(power)
    top = min(_HARMONICS, int(((size - 2) * bin_hz) / f0_hz - 0.5))
    if top < 4:
        return 0.0
    strength = np.zeros(top + 1)
    strongest = 0.0
    for h in range(1, top + 1):
        low = int((h * f0_hz - 0.25 * f0_hz) / bin_hz) + 1
        high = min(size - 1, int((h * f0_hz + 0.25 * f0_hz) / bin_hz))
        peak = 0.0
        for k in range(low, high + 1):
            # A peak of the spectrum, not the slope of a neighbour.
            if power[k] > peak and power[k] >= power[k - 1] and power[k] >= power[min(k + 1, size - 1)]:
                peak = power[k]
        strength[h] = peak
        strongest = max(strongest, peak)
    highest = 0
    for h in range(1, top + 1):
        if strength[h] > _PRESENT * strongest:
            highest = h
    if highest < 4:
        return 0.0
    missing = 0
    for h in range(2, highest + 1):
        if strength[h] < _PRESENT * strongest:
            missing += 1
    return missing / (highest - 1)


@njit(cache=True)
def candidates(
    curve,
    norm,
    power,
    bin_hz,
    rate,
    first,
    last,
    low_hz,
    high_hz,
    handicap,
    sharp_to_hz,
    blur,
    resolution_hz,
    energy_of_window,
    silence_db,
    f0_out,
    height_out,
    cost_out,
    level_out,
    brightness_out,
):
    """The best peaks of each frame's normalised autocorrelation, refined; level and centre of gravity beside them."""
    lags = np.zeros(PER_WINDOW, np.int64)
    scores = np.zeros(PER_WINDOW)
    for i in range(len(curve)):
        row, spectrum = curve[i], power[i]
        total, weighted = 0.0, 0.0
        for k in range(len(spectrum)):
            total += spectrum[k]
            weighted += spectrum[k] * k
        brightness_out[i] = weighted * bin_hz / max(total, 1e-20)
        energy = max(row[0] * norm[0], 1e-20)
        level_out[i] = 10.0 * math.log10(max(energy * _OVER / energy_of_window, 10.0 ** (silence_db / 10.0)))
        scores[:] = -9.0
        for lag in range(first, last):
            here = row[lag] * norm[lag]
            if here <= _WEAKEST * energy:
                continue
            if here > row[lag - 1] * norm[lag - 1] and here >= row[lag + 1] * norm[lag + 1]:
                score = here / energy - _OCTAVE_COST * math.log2(lag / (_OVER * rate / 2050.0))
                worst = 0
                for k in range(1, PER_WINDOW):
                    if scores[k] < scores[worst]:
                        worst = k
                if score > scores[worst]:
                    scores[worst], lags[worst] = score, lag
        for k in range(PER_WINDOW):
            f0_out[i, k], height_out[i, k], cost_out[i, k] = 1.0, 0.0, 0.0
            if scores[k] < -5.0:
                continue
            lag_at, height = top_of(row, norm, lags[k])
            lag_at = refined(row, norm, lag_at, last, energy)
            f0 = _OVER * rate / lag_at
            if f0 < low_hz or f0 > high_hz:
                continue
            cost = handicap + (blur if f0 > sharp_to_hz else 0.0)
            missing = holes(spectrum, bin_hz, f0, resolution_hz)
            cost += _HOLES_COST * min(1.0, max(0.0, (missing - _HOLES_FROM) / (_HOLES_FULL - _HOLES_FROM)))
            f0_out[i, k], height_out[i, k], cost_out[i, k] = f0, min(1.0, max(0.0, height / energy)), cost


@njit(cache=True)
def refined(row, norm, lag, last, energy):
    """The lag measured again at its largest multiple in reach, where an error weighs least."""
    times = max(1, int((last - 2) / lag))
    far = round(times * lag)
    best = far
    for beside in (far - 1, far + 1):
        if row[beside] * norm[beside] > row[best] * norm[best]:
            best = beside
    best = min(last - 1, max(1, best))
    precise, height = top_of(row, norm, best)
    if abs(precise - times * lag) < 0.2 * lag and height > _WEAKEST * energy:
        return precise / times
    return lag


@njit(cache=True)
def worth(height, octave, cost):
    """What a peak is worth on the path; 0 for no peak."""
    if height <= 0.0:
        return 0.0
    return height - cost + _OCTAVE_COST * (octave - _PIVOT)


@njit(cache=True)
def share_costs(f0, height, cost):
    """A low candidate of a window too short to see holes takes the cost that a longer window found for it."""
    count = f0.shape[1]
    for i in range(len(f0)):
        for c in range(count - PER_WINDOW):
            if height[i, c] <= 0.0:
                continue
            first_longer = (c // PER_WINDOW + 1) * PER_WINDOW
            for other in range(first_longer, count):
                near = height[i, other] > 0.0 and abs(f0[i, other] / f0[i, c] - 1.0) < _NEAR
                if near and cost[i, other] > cost[i, c] + _BLUR_AND_MORE:
                    cost[i, c] = cost[i, other]


@njit(cache=True)
def fused(f0, height, choice):
    """The pitch of one frame from all windows that agree about it.

    Begins with the shortest window that knows this pitch; a longer one, which is surer, takes over while it agrees
    within what the shorter can be off by itself. Where they disagree the pitch is moving, and the shorter is right.
    """
    chosen, result, periods, clean = f0[choice], 0.0, 0.0, 1.0
    for window in range(len(f0) // PER_WINDOW):
        best, off = -1, _NEAR
        for c in range(window * PER_WINDOW, (window + 1) * PER_WINDOW):
            away = abs(f0[c] / chosen - 1.0)
            if height[c] > 0.5 * height[choice] and away < off:
                best, off = c, away
        if best < 0:
            continue
        if result > 0.0:
            leeway = (_LEEWAY + _LEEWAY_NOISE * math.sqrt(max(0.0, 1.0 - clean))) / max(periods, 1.0)
            if abs(f0[best] / result - 1.0) > leeway or f0[best] > _BLURS_FROM_HZ[window]:
                continue
        result, periods, clean = f0[best], f0[best] * LENGTHS_S[window], height[best]
    return result if result > 0.0 else chosen


@njit(cache=True)
def no_start(loudest, about, mean_level, floor, state):
    """PAUSE, KNOCK or FADING when nothing can begin to sound in this frame, else 0; what sounds already may go on.

    Either it stands beside a knock, when the `loudest` of the last and next frames is far above the mean of more of
    them, or the sound `about` it is little louder than what goes on in every pause while there is playing far above
    it: a drone from the loudspeaker, a hum. `floor` holds lowest and highest mean level of the last blocks of frames,
    `state[2]` the frames in the newest, `state[3]` those seen at all.
    """
    if state[2] >= FLOOR_FRAMES:
        floor[:, 1:] = floor[:, :-1].copy()
        floor[0, 0], floor[1, 0] = 0.0, SILENCE_DB
        state[2] = 0
    state[2] += 1
    state[3] = min(state[3] + 1, 1_000_000)
    if state[3] <= _FIRST_FRAMES:  # the means still hold what was before the sound
        return 0
    floor[0, 0], floor[1, 0] = min(floor[0, 0], mean_level), max(floor[1, 0], mean_level)
    lowest, highest = np.min(floor[0]), np.max(floor[1])
    if about < min(lowest, highest - _FAR_DB) + _FLOOR_DB:
        return PAUSE
    if loudest - mean_level > _KNOCK_DB:
        return KNOCK
    return FADING if about < mean_level - _FADING_DB else 0


@njit(cache=True)
def walk(
    f0,
    height,
    cost,
    level,
    loudest,
    about,
    mean_level,
    floor,
    total,
    octaves,
    ring_f0,
    ring_height,
    ring_back,
    ring_quiet,
    state,
    last,
    drone_hz,
    out_f0,
    out_height,
):
    """Run the path over n frames: a Viterbi search whose frame k is decided by the best state of frame k + LOOKAHEAD.

    `total` (c + 1) and `octaves` (c) are the last frame's; the rings hold LOOKAHEAD + 1 frames; `state` is [frames
    in the rings, place of the oldest, frames in the newest block of `floor`, frames seen]; `last` holds the pitch of the tone that goes on, as it was while loud, and the lowest level so far.
    Gives how many frames were decided.
    """
    share_costs(f0, height, cost)
    count, decided = f0.shape[1], 0
    gain = np.zeros(count + 1)
    now = np.zeros(count)
    fresh = np.zeros(count + 1)
    slots = LOOKAHEAD + 1
    for i in range(len(f0)):
        for c in range(count):
            now[c] = math.log2(f0[i, c])
            gain[c] = worth(height[i, c], now[c], cost[i, c]) if level[i] > _GATE_DB else 0.0
        gain[count] = _UNVOICED
        place = (state[1] + state[0]) % slots
        ring_quiet[place] = no_start(loudest[i], about[i], mean_level[i], floor, state)
        if drone_hz > 0.0:
            # It sounds from first to last, so the softest moment of all is the drone alone.
            last[1] = min(last[1], mean_level[i] if state[3] > _FIRST_FRAMES else 0.0)
            if about[i] < last[1] + _DRONE_DB:
                ring_quiet[place] = DRONE
        highest = -1e9
        for to in range(count + 1):
            best, back = -1e9, 0
            for source in range(count + 1):
                if source < count and to < count:
                    jump = min(_JUMP * abs(octaves[source] - now[to]), _JUMP_MOST)
                elif source == to:
                    jump = 0.0
                else:
                    jump = _SWITCH
                value = total[source] - jump
                if value > best:
                    best, back = value, source
            fresh[to] = best + gain[to]
            ring_back[place, to] = back
            highest = max(highest, fresh[to])
        for c in range(count):
            octaves[c] = now[c]
            ring_f0[place, c], ring_height[place, c] = f0[i, c], height[i, c]
        for c in range(count + 1):
            total[c] = fresh[c] - highest  # kept near 0 however long the sound is
        state[0] += 1
        if state[0] == slots:
            out_f0[decided], out_height[decided] = decide(
                total, ring_f0, ring_height, ring_back, ring_quiet, state, last
            )
            decided += 1
    return decided


@njit(cache=True)
def decide(total, ring_f0, ring_height, ring_back, ring_quiet, state, last):
    """The oldest frame in the rings, decided by the best state of the newest; it leaves the rings."""
    count, slots = ring_f0.shape[1], LOOKAHEAD + 1
    choice = int(np.argmax(total))
    for ahead in range(state[0] - 1, 0, -1):
        choice = ring_back[(state[1] + ahead) % slots, choice]
    oldest = state[1]
    state[0] -= 1
    state[1] = (state[1] + 1) % slots
    f0 = math.nan
    if choice < count and ring_height[oldest, choice] > 0.0:
        f0 = fused(ring_f0[oldest], ring_height[oldest], choice)
        why = ring_quiet[oldest]
        # What goes on is held against the pitch it had while it was loud: it may not drift away step by step.
        away = abs(f0 / last[0] - 1.0)
        knocked = why == KNOCK and f0 > _KNOCKS_FROM_HZ
        if (
            why == DRONE
            or ((why == PAUSE or knocked) and not away < _GOES_ON)
            or (why == FADING and not away < _STRAYS)
        ):
            f0 = math.nan
        elif why == 0 or (why == KNOCK and not knocked):
            last[0] = f0
    if math.isnan(f0):
        last[0] = math.nan
    return f0, ring_height[oldest, choice] if not math.isnan(f0) else np.max(ring_height[oldest])


@njit(cache=True)
def smoothed(f0, out):
    """A triangle over SMOOTH frames to either side, of those within 15 cents of the frame; `out` is that much shorter at both ends."""
    for i in range(len(out)):
        centre = f0[i + SMOOTH]
        total, weight = 0.0, 0.0
        for k in range(-SMOOTH, SMOOTH + 1):
            off = f0[i + SMOOTH + k] / centre - 1.0
            if abs(off) < _SMOOTH_WITHIN:
                share = SMOOTH + 1.0 - abs(k)
                total += share * off
                weight += share
        out[i] = centre * (1.0 + total / weight) if weight > 0.0 else centre


@njit(cache=True)
def guess(f0, height, cost, level, before_hz, out_f0, out_height):
    """Quick guesses for frames whose long window is not complete: the best peak, near the last pitch when equal."""
    for i in range(len(f0)):
        best, value = -1, -1e9
        for c in range(f0.shape[1]):
            octave = math.log2(f0[i, c])
            lean = 0.0
            if not math.isnan(before_hz):
                lean = min(_JUMP * abs(octave - math.log2(before_hz)), _JUMP_MOST)
            here = worth(height[i, c], octave, cost[i, c]) - lean
            if here > value:
                best, value = c, here
        out_f0[i], out_height[i] = math.nan, height[i, best]
        if level[i] > _GATE_DB and height[i, best] >= _UNVOICED:
            out_f0[i] = before_hz = f0[i, best]
