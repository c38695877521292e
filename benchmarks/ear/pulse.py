"""Synthetic brass of another make than the simulated player: a waveshaped oscillator.

The wave is exp(k sin phase): its harmonics follow the modified Bessel functions and grow with k, as a trumpet's do with
loudness. Then comes the bell's high-pass, a random set of broad resonances, breath noise in time with the lips, an attack
with a burst, a room, a microphone's noise, and what bleeds from the loudspeaker: clicks and a drone. Pitch is drawn at
1 kHz with entries, slides, drift, unrest, touched partials and gaps of known size.
"""

from dataclasses import dataclass, field, replace

import numpy as np
from scipy.ndimage import uniform_filter1d
from scipy.signal import butter, lfilter, sosfilt

from benchmarks.ear.case import HOP_S, Case, Event, Floats, TrueNote, rest_frames, steady_frames
from benchmarks.ear.room import in_room
from orexis.core.sound import Sound

RATE = 48_000
CONTROL = 1000
OPEN_HZ = {"trumpet-bb": 116.541, "horn-f-bb": 43.654, "trombone-tenor": 58.270, "tuba-eb": 38.891}
SECOND_SIDE_HZ = 58.270  # of the double horn


@dataclass
class Score:
    """What is drawn: pitch in Hz (NaN: none) and level in dB at 1 kHz, and what is known about it."""

    f0: Floats
    level: Floats
    notes: list[TrueNote] = field(default_factory=list)
    touches: list[Event] = field(default_factory=list)
    gaps: list[Event] = field(default_factory=list)

    @classmethod
    def of(cls, seconds: float) -> "Score":
        size = round(seconds * CONTROL)
        return cls(np.full(size, np.nan), np.full(size, -120.0))


def draw_note(
    score: Score,
    start: float,
    stop: float,
    hz: float,
    rng: np.random.Generator,
    *,
    level: float = -22.0,
    joined: bool = False,
    last: bool = True,
    entry: float = 0.0,
    entry_s: float = 0.12,
    sag: float = 0.0,
    vibrato: float = 0.0,
) -> None:
    """One note; with `joined` its start is left to `draw_move`."""
    a, b = round(start * CONTROL), round(stop * CONTROL)
    t = np.arange(b - a) / CONTROL
    cents = np.interp(t, np.arange(0, t[-1] + 0.2, 0.12), rng.normal(0, 0.7, len(np.arange(0, t[-1] + 0.2, 0.12))))
    cents += sag * (t / t[-1] - 0.5) + vibrato * np.sin(2 * np.pi * 5.6 * t) * np.clip(t / 0.4, 0, 1)
    if not joined:
        cents += entry * np.where(t < 0.03, 1.0, np.exp(-(t - 0.03) / (entry_s / 4)))
    score.f0[a:b] = hz * 2 ** (cents / 1200)
    rise, fall = (0.0 if joined else rng.uniform(0.012, 0.03)), (rng.uniform(0.02, 0.05) if last else 0.0)
    shape = np.full(len(t), level) + np.interp(
        t, np.arange(0, t[-1] + 0.5, 0.3), rng.normal(0, 0.4, len(np.arange(0, t[-1] + 0.5, 0.3)))
    )
    if rise:
        shape += 20 * np.log10(np.clip(0.02 + t / rise, 0.02, 1.0))
    if fall:
        shape += 20 * np.log10(np.clip((t[-1] - t) / fall, 0.001, 1.0))
    score.level[a:b] = shape
    # By definition a note lasts while its level stands within 20 dB of its own.
    onset = start + (0.08 * rise if rise else 0.0)
    score.notes.append(
        TrueNote(onset, stop - 0.1 * fall, hz * 2 ** (np.median(cents) / 1200), joined, None if joined else entry)
    )


def draw_move(
    score: Score,
    at: float,
    rng: np.random.Generator,
    *,
    glide_s: float,
    touch: tuple[float, float] | None = None,
    gap_s: float = 0.0,
) -> None:
    """The slur at a moment where two notes already meet: a glide, with a touched pitch or a hole on the way."""
    stay = touch[1] if touch else 0.0
    a, b = round((at - (glide_s + stay) / 2) * CONTROL), round((at + (glide_s + stay) / 2) * CONTROL)
    old, new = score.f0[a - 1], score.f0[b]
    points, values = [a, b], [old, new]
    if touch:
        first, last = round((at - stay / 2) * CONTROL), round((at + stay / 2) * CONTROL)
        points, values = [a, first, last, b], [old, touch[0], touch[0], new]
        score.touches.append(Event(first / CONTROL, stay, touch[0]))
        score.notes[-1] = replace(score.notes[-1], onset_s=0.5 * (last + b) / CONTROL)
    index = np.arange(a, b)
    score.f0[a:b] = np.exp(np.interp(index, points, np.log(values)))
    score.level[a:b] -= rng.uniform(0.5, 3.0) * np.sin(np.pi * np.linspace(0, 1, b - a))
    if gap_s:
        first, last = round((at - gap_s / 2) * CONTROL), round((at + gap_s / 2) * CONTROL)
        score.level[first:last] = -120.0
        for side, edge in ((np.arange(first - 8, first), first), (np.arange(last, last + 8), last)):
            score.level[side] += 20 * np.log10(np.clip(np.abs(side - edge + 0.5) / 8, 0.05, 1.0))
        score.gaps.append(Event(first / CONTROL, gap_s))
        score.notes[-2] = replace(score.notes[-2], release_s=first / CONTROL)
        score.notes[-1] = replace(score.notes[-1], onset_s=last / CONTROL)


def sounded(
    score: Score, bell_hz: float, rng: np.random.Generator, *, breath_db: float = -34.0, weak_fundamental: bool = False
) -> Floats:
    """The dry sound at 48 kHz."""
    size = round(len(score.f0) / CONTROL * RATE)
    grid = np.arange(size) / RATE * CONTROL
    there = np.isfinite(score.f0)
    filled = np.interp(np.arange(len(score.f0)), np.flatnonzero(there), score.f0[there])
    f0, level = (
        np.interp(grid, np.arange(len(filled)), filled),
        np.interp(grid, np.arange(len(filled)), np.where(there, score.level, -120.0)),
    )
    phase = 2 * np.pi * np.cumsum(f0) / RATE
    bright = np.clip(1.2 + 5.5 * np.clip((level + 42) / 32, 0, 1) - np.log2(np.maximum(f0, 30) / 120.0) * 0.6, 0.7, 8.0)
    wave = np.exp(bright * (np.sin(phase) - 1.0))
    wave = sosfilt(
        butter(
            1 if not weak_fundamental else 3,
            bell_hz * (1 if not weak_fundamental else 1.6),
            "highpass",
            fs=RATE,
            output="sos",
        ),
        wave,
    )
    for _ in range(4):
        centre, width, gain = rng.uniform(300, 3000), rng.uniform(0.4, 0.9), rng.uniform(-3, 4)
        wave = _peaking(wave, centre, width, gain)
    wave = sosfilt(butter(2, 9000, "lowpass", fs=RATE, output="sos"), wave)
    amplitude = 10 ** (level / 20) * (level > -100)
    usual = np.sqrt(np.maximum(uniform_filter1d(wave**2, 4800, mode="constant"), 0.0)) + 1e-9
    noise = sosfilt(butter(2, [500, 8000], "bandpass", fs=RATE, output="sos"), rng.normal(0, 1, size))
    noise *= 10 ** (breath_db / 20) / np.std(noise) * (1 + 0.7 * np.sin(phase))
    out = amplitude * (wave / usual + noise)
    for note in score.notes:
        if not note.slurred:  # the tongue's burst
            a = round((note.onset_s - 0.004) * RATE)
            burst = rng.normal(0, 1, 480) * np.exp(-np.arange(480) / 120)
            out[a : a + 480] += burst * 0.08 * 10 ** (-22 / 20)
    return out


def _peaking(wave: Floats, centre: float, octaves: float, gain_db: float) -> Floats:
    a, w = 10 ** (gain_db / 40), 2 * np.pi * centre / RATE
    alpha = np.sin(w) * np.sinh(np.log(2) / 2 * octaves * w / np.sin(w))
    b = np.array([1 + alpha * a, -2 * np.cos(w), 1 - alpha * a])
    c = np.array([1 + alpha / a, -2 * np.cos(w), 1 - alpha / a])
    return np.asarray(lfilter(b / c[0], c / c[0], wave))


def clicks(size: int, times: Floats, db: float, rng: np.random.Generator) -> Floats:
    """Short wooden knocks of 1 to 2 kHz."""
    out = np.zeros(size)
    t = np.arange(round(0.05 * RATE)) / RATE
    hz = rng.uniform(900, 2000)
    knock = np.sin(2 * np.pi * hz * t) * np.exp(-t / 0.008)
    for time in times:
        at = round(time * RATE)
        span = min(len(knock), size - at)
        if span > 0:
            out[at : at + span] += 10 ** (db / 20) * knock[:span]
    return out


def drone(size: int, hz: float, db: float) -> Floats:
    """A soft reedy chord tone."""
    phase = 2 * np.pi * hz * np.arange(size) / RATE
    wave = sum(np.sin(n * phase + n) / n for n in range(1, 8))
    return np.asarray(10 ** (db / 20) * wave / np.std(wave))


def finished(
    name: str,
    instrument: str,
    score: Score,
    rng: np.random.Generator,
    tags: set[str],
    *,
    room_s: float = 0.0,
    noise_db: float = -70.0,
    bleed: Floats | None = None,
    breath_db: float = -34.0,
    weak: bool = False,
    drone_hz: float | None = None,
) -> Case:
    """Sound and truth together."""
    out = sounded(score, OPEN_HZ[instrument] * 1.7 + 60, rng, breath_db=breath_db, weak_fundamental=weak)
    if room_s:
        out = in_room(out, RATE, room_s, rng)
    out = out + rng.normal(0, 10 ** (noise_db / 20), len(out))
    if bleed is not None:
        out = out + bleed[: len(out)]
    step = round(HOP_S * CONTROL)
    usual = np.full(len(score.level), np.nan)
    for note in score.notes:
        span = slice(round(note.onset_s * CONTROL) - 10, round(note.release_s * CONTROL) + 10)
        usual[span] = np.median(score.level[span])
    heard = np.isfinite(score.f0) & (score.level > usual - 20.0)
    f0 = np.where(heard, score.f0, np.nan)[::step]
    notes = tuple(score.notes)
    steady = steady_frames(notes, len(f0)) & np.isfinite(f0) & ("glides" not in tags)
    return Case(
        name,
        instrument,
        Sound(np.clip(out, -1, 1).astype(np.float32), RATE),
        f0,
        steady,
        rest_frames(f0, margin_s=0.06 + 1.2 * room_s),
        notes,
        tuple(score.touches),
        tuple(score.gaps),
        frozenset(tags),
        drone_hz,
    )


def pulse_cases(*, seed: int) -> list[Case]:
    """Every instrument: long, noisy, entries, slurs with touches and gaps, fast slurs, glides, hall, click, drone, pedals."""
    cases = []
    for index, instrument in enumerate(OPEN_HZ):
        cases += pulse_cases_of(instrument, np.random.default_rng((seed, index)))
    return cases


def pulse_cases_of(instrument: str, rng: np.random.Generator) -> list[Case]:
    """The sounds of one instrument."""
    side = SECOND_SIDE_HZ if instrument == "horn-f-bb" and rng.random() < 0.4 else OPEN_HZ[instrument]
    fingering = side * 2 ** (-rng.integers(0, 6) / 12)
    name = f"pulse {instrument}"
    top = 9 if instrument != "horn-f-bb" else 13
    low_partial = 2 if instrument != "horn-f-bb" else 3
    hz = [fingering * n for n in range(1, top + 3)]  # hz[n - 1] is partial n
    cases = []

    score = Score.of(24)
    for i, n in enumerate(rng.permutation(np.arange(low_partial, top))[:6]):
        draw_note(
            score,
            0.6 + 3.6 * i,
            3.4 + 3.6 * i,
            hz[n - 1],
            rng,
            level=rng.uniform(-34, -16),
            vibrato=8.0 if i == 4 else 0.0,
            sag=-15.0 if i == 5 else 0.0,
        )
    cases.append(finished(f"{name} long", instrument, score, rng, {"long"}))

    score = Score.of(14)
    for i, n in enumerate(rng.permutation(np.arange(low_partial, top))[:4]):
        draw_note(score, 0.6 + 3.2 * i, 3.2 + 3.2 * i, hz[n - 1], rng, level=-36.0)
    cases.append(
        finished(f"{name} long in noise", instrument, score, rng, {"long", "noise"}, noise_db=-46.0, breath_db=-14.0)
    )

    score = Score.of(22)
    for i in range(18):
        n = int(rng.integers(low_partial, top))
        entry = float(rng.choice([0.0, 0.0, -90.0, -45.0, 60.0, 30.0]))
        draw_note(
            score,
            0.6 + 1.15 * i,
            1.3 + 1.15 * i,
            hz[n - 1],
            rng,
            entry=entry,
            entry_s=rng.uniform(0.1, 0.25),
            level=rng.uniform(-30, -18),
        )
    cases.append(finished(f"{name} entries", instrument, score, rng, {"apart", "entries"}))

    for kind, touches, gap_times in (
        ("slurs", True, False),
        ("slurs with gaps", False, True),
        ("slurs clean", False, False),
    ):
        score = Score.of(29)
        at = 0.7
        for _ in range(10):
            n = int(rng.integers(low_partial, top - 2))
            other = n + int(rng.integers(1, 4))
            pair = (n, other) if rng.random() < 0.5 else (other, n)
            draw_note(score, at, at + 1.15, hz[pair[0] - 1], rng, last=False)
            draw_note(score, at + 1.15, at + 2.2, hz[pair[1] - 1], rng, joined=True)
            free = [m for m in range(low_partial, top + 2) if m not in pair and min(pair) - 1 <= m <= max(pair) + 1]
            between = [m for m in free if min(pair) < m < max(pair)] or free
            stay = max(float(rng.uniform(0.015, 0.07)), 3.0 / hz[between[0] - 1])
            draw_move(
                score,
                at + 1.15,
                rng,
                glide_s=rng.uniform(0.012, 0.04),
                touch=(hz[int(rng.choice(between)) - 1], stay) if touches else None,
                gap_s=float(rng.uniform(0.02, 0.12)) if gap_times else 0.0,
            )
            at += 2.8
        cases.append(finished(f"{name} {kind}", instrument, score, rng, {"slurs", "moves"}))

    score = Score.of(7)
    at, n = 0.6, low_partial + 2
    for i in range(28):
        m = n + int(rng.choice([-1, 1]))
        m = m if low_partial <= m <= top else 2 * n - m
        draw_note(score, at, at + 0.16, hz[m - 1], rng, joined=i > 0, last=i == 27)
        if i and m != n:
            draw_move(score, at, rng, glide_s=0.02)
        n, at = m, at + 0.16
    cases.append(finished(f"{name} fast slurs", instrument, score, rng, {"fast", "joined"}))

    score = Score.of(9)
    draw_note(score, 0.6, 8.2, hz[low_partial], rng)
    t = np.arange(len(score.f0)) / CONTROL
    bend = np.interp(t, [0, 1.5, 3.5, 4.5, 6.5, 7.5, 9], [0, 0, 12, 12, -5, 0, 0])
    score.f0 *= 2 ** (bend / 12)
    cases.append(finished(f"{name} glides", instrument, score, rng, {"glides"}))

    for kind, room, bleeds in (("hall", 1.5, ""), ("click bleed", 0.35, "click"), ("drone bleed", 0.35, "drone")):
        score = Score.of(17)
        at = 0.6
        for i in range(6):
            n = int(rng.integers(low_partial, top - 1))
            draw_note(score, at, at + 1.0, hz[n - 1], rng, last=i % 2 == 1, joined=False)
            if i % 2 == 0:
                draw_note(score, at + 1.0, at + 1.8, hz[n], rng, joined=True)
                draw_move(score, at + 1.0, rng, glide_s=0.03)
            at += 2.4
        size = round(len(score.f0) / CONTROL * RATE)
        bleed = None
        if bleeds == "click":
            bleed = clicks(size, np.arange(0.6, 16, 0.6), -30.0, rng)
        elif bleeds == "drone":
            bleed = drone(size, fingering * 2, -48.0)
        case = finished(
            f"{name} {kind}",
            instrument,
            score,
            rng,
            {"bleed"} if bleeds else {"hall"},
            room_s=room,
            bleed=bleed,
            drone_hz=fingering * 2 if bleeds == "drone" else None,
        )
        cases.append(
            replace(case, clicks_s=tuple(np.arange(0.6, 16, 0.6)), click_db=-30.0) if bleeds == "click" else case
        )

    score = Score.of(15)
    for i in range(6):
        pedal = hz[0] * 2 ** (-rng.integers(0, 7) / 12) if instrument != "trumpet-bb" else hz[0]
        draw_note(score, 0.6 + 2.4 * i, 2.4 + 2.4 * i, max(22.0, pedal), rng, level=-20.0)
    cases.append(finished(f"{name} pedals", instrument, score, rng, {"low"}, weak=True))
    return cases
