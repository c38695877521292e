"""Sampled brass: notes of a General MIDI sound font, played one by one by fluidsynth and joined here.

Each note is rendered alone, so its sounding time is read off its own envelope and its pitch off its own sound: by a
fit of a harmonic series in long windows, never by its name. Joined, the notes overlap as the font's releases do.
"""

import hashlib
import subprocess
import tempfile
from dataclasses import dataclass
from pathlib import Path

import mido
import numpy as np
import soundfile

from benchmarks.ear.case import HOP_S, Case, Floats, TrueNote, rest_frames, steady_frames
from benchmarks.ear.room import in_room
from orexis.core.sound import Sound

RATE = 44_100
FONTS = {
    "font-a": Path("/usr/share/sounds/sf2/FluidR3_GM.sf2"),
    "font-b": Path("/usr/share/sounds/sf2/TimGM6mb.sf2"),
    "font-c": Path("/usr/share/sounds/sf2/sf_GMbank.sf2"),
}
# instrument id: General MIDI program, lowest and highest note used
BRASS = {
    "trumpet-bb": (56, 52, 84),
    "trombone-tenor": (57, 34, 72),
    "tuba-eb": (58, 22, 58),
    "horn-f-bb": (60, 35, 77),
}
_SLOT_S = 4.0
_LENGTHS_S = (2.6, 0.5, 0.17, 0.1)


@dataclass(frozen=True, eq=False)
class Stem:
    """One note alone, from its note-on; `level` RMS dB and `f0` every 5 ms; `hz` its settled pitch."""

    samples: Floats
    onset_s: float
    release_s: float
    hz: float
    f0: Floats
    level: Floats


def stems(font: str, instrument: str, cache: Path) -> dict[tuple[int, float, int], Stem]:
    """Notes by (MIDI note, length in s, velocity)."""
    program, low, high = BRASS[instrument]
    keys = [
        (note, length, velocity) for note in range(low, high + 1) for length in _LENGTHS_S for velocity in (60, 100)
    ]
    sound = _rendered(font, program, keys, cache)
    step = round(_SLOT_S * RATE)
    cut = {key: sound[i * step : (i + 1) * step] for i, key in enumerate(keys)}
    return _Stems(cut)


class _Stems(dict[tuple[int, float, int], Stem]):
    """Worked out when asked for: most are never used."""

    def __init__(self, cut: dict[tuple[int, float, int], Floats]) -> None:
        super().__init__()
        self._cut = cut

    def __missing__(self, key: tuple[int, float, int]) -> Stem:
        note, _, velocity = key
        hz = settled_hz(self._cut[(note, _LENGTHS_S[0], velocity)], 440.0 * 2 ** ((note - 69) / 12))
        self[key] = stem_of(self._cut[key], hz)
        return self[key]


def _rendered(font: str, program: int, keys: list[tuple[int, float, int]], cache: Path) -> Floats:
    cache.mkdir(parents=True, exist_ok=True)
    tag = hashlib.sha256(repr((font, program, keys)).encode()).hexdigest()[:16]
    path = cache / f"{tag}.wav"
    if not path.exists():
        with tempfile.TemporaryDirectory() as folder:
            midi = Path(folder) / "notes.mid"
            _write_midi(midi, program, keys)
            quiet = ["fluidsynth", "-ni", "-q", "-R", "0", "-C", "0", "-g", "0.6", "-r", str(RATE)]
            subprocess.run([*quiet, "-F", str(path), str(FONTS[font]), str(midi)], check=True, capture_output=True)
    samples, _ = soundfile.read(path, always_2d=True)
    mono = samples.mean(axis=1)
    return np.concatenate((mono, np.zeros(max(0, round(_SLOT_S * RATE) * len(keys) - len(mono)))))


def _write_midi(path: Path, program: int, keys: list[tuple[int, float, int]]) -> None:
    track = mido.MidiTrack(
        [mido.MetaMessage("set_tempo", tempo=1_000_000), mido.Message("program_change", program=program)]
    )
    ticks = 1000
    for note, length, velocity in keys:
        track.append(mido.Message("note_on", note=note, velocity=velocity, time=0))
        track.append(mido.Message("note_off", note=note, time=round(length * ticks)))
        track.append(mido.Message("note_on", note=note, velocity=0, time=round((_SLOT_S - length) * ticks)))
    file = mido.MidiFile(ticks_per_beat=ticks)
    file.tracks.append(track)
    file.save(path)


def _harmonic_fit(part: Floats, near_hz: float, cents: float) -> float:
    """The f0 whose harmonics hold the most energy of a Hann-weighted window, within +-cents."""
    size = 1 << 16
    spectrum = np.abs(np.fft.rfft(part * np.hanning(len(part)), size))
    count = max(3, min(20, int(5000.0 / near_hz)))
    best, step = near_hz, cents / 20.0
    while step > 0.02:
        tried = best * 2.0 ** (np.arange(-20, 21) * step / 1200.0)
        at = tried[:, None] * np.arange(1, count + 1) * size / RATE
        whole = at.astype(int)
        share = at - whole
        value = ((1 - share) * spectrum[whole] + share * spectrum[whole + 1]).sum(axis=1)
        best, step = float(tried[np.argmax(value)]), step / 5.0
    return best


def settled_hz(samples: Floats, near_hz: float) -> float:
    """Return the median over long windows from 0.4 to 2.4 s."""
    width = round(0.5 * RATE)
    starts = np.arange(round(0.4 * RATE), round(2.4 * RATE) - width, round(0.25 * RATE))
    return float(np.median([_harmonic_fit(samples[s : s + width], near_hz, 70.0) for s in starts]))


def stem_of(samples: Floats, hz: float) -> Stem:
    """Return the note with what can be read off its own sound: onset, release, level and pitch of each frame."""
    width = round(0.005 * RATE)
    count = int(len(samples) / (HOP_S * RATE)) - 1
    centres = np.rint(np.arange(count) * HOP_S * RATE).astype(int)
    padded = np.concatenate((np.zeros(width), samples**2, np.zeros(width)))
    total = np.concatenate(([0.0], np.cumsum(padded)))
    half = max(width, round(0.5 * RATE / hz))
    low, high = np.maximum(0, centres + width - half), np.minimum(len(padded), centres + width + half)
    level = 10.0 * np.log10(np.maximum((total[high] - total[low]) / (2 * half), 1e-12))
    usual = float(np.median(np.sort(level)[-max(8, int(0.6 * np.sum(level > level.max() - 12))) :]))
    loud = np.flatnonzero(level > usual - 20.0)
    onset, release = loud[0] * HOP_S, loud[-1] * HOP_S
    f0 = np.full(count, np.nan)
    window = max(0.06, 6.0 / hz)
    every = 4
    points, values = [], []
    for k in range(loud[0], loud[-1] + 1, every):
        at = float(np.clip(k * HOP_S, onset + window / 2, max(onset + window / 2, release - window / 2)))
        first = max(0, round((at - window / 2) * RATE))
        points.append(k)
        values.append(_harmonic_fit(samples[first : first + round(window * RATE)], hz, 30.0))
    f0[loud[0] : loud[-1] + 1] = np.interp(np.arange(loud[0], loud[-1] + 1), points, values)
    return Stem(samples, onset, release, hz, f0, level)


def joined(
    name: str,
    instrument: str,
    parts: list[tuple[float, Stem, bool]],
    tags: set[str],
    *,
    seed: int,
    room_s: float = 0.0,
    noise_db: float = -66.0,
) -> Case:
    """Stems at times: each frame's truth is the louder stem's."""
    rng = np.random.default_rng(seed)
    total_s = max(start + stem.release_s for start, stem, _ in parts) + 0.8 + room_s
    out = rng.normal(0.0, 1e-9, round(total_s * RATE))
    count = round(total_s / HOP_S)
    f0, best, loudest = np.full(count, np.nan), np.full(count, -200.0), np.full(count, -200.0)
    notes = []
    for start, stem, slurred in parts:
        at = round(start * RATE)
        length = min(len(stem.samples), len(out) - at)
        out[at : at + length] += stem.samples[:length]
        k = round(start / HOP_S)
        span = min(count - k, len(stem.level))
        wins = np.isfinite(stem.f0[:span]) & (stem.level[:span] > best[k : k + span])
        f0[k : k + span][wins] = stem.f0[:span][wins]
        best[k : k + span][wins] = stem.level[:span][wins]
        loudest[k : k + span] = np.maximum(loudest[k : k + span], stem.level[:span])
        notes.append(TrueNote(start + stem.onset_s, start + stem.release_s, stem.hz, slurred))
    gain = 0.075 / max(1e-9, float(np.sqrt(np.mean(out[np.abs(out) > 0.01] ** 2))))
    out *= gain
    if room_s:
        out = in_room(out, RATE, room_s, rng)
    out += rng.normal(0.0, 10 ** (noise_db / 20), len(out))
    known = tuple(notes)
    steady = steady_frames(known, count) & np.isfinite(f0)
    # A font's releases are long: only what lies under the noise is a rest.
    audible = np.where(loudest + 20.0 * np.log10(gain) > noise_db - 10.0, 1.0, np.nan)
    rest = rest_frames(audible, margin_s=0.06 + 1.2 * room_s)
    return Case(
        name,
        instrument,
        Sound(np.clip(out, -1, 1).astype(np.float32), RATE),
        f0,
        steady,
        rest,
        known,
        tags=frozenset(tags),
    )


def sampled_cases(font: str, cache: Path, *, seed: int) -> list[Case]:
    """Long tones, scales, fast notes, repeated notes, low notes, each dry, some in a room or in noise."""
    return [case for instrument in BRASS for case in sampled_cases_of(font, instrument, cache, seed=seed)]


def sampled_cases_of(font: str, instrument: str, cache: Path, *, seed: int) -> list[Case]:
    """The sounds of one instrument."""
    _, low, high = BRASS[instrument]
    rng = np.random.default_rng(seed + low)
    return _cases_of(f"{font} {instrument}", instrument, stems(font, instrument, cache), low, high, rng)


def _cases_of(
    name: str, instrument: str, have: dict[tuple[int, float, int], Stem], low: int, high: int, rng: np.random.Generator
) -> list[Case]:
    def line(
        pitches: list[int], length: float, step: float, velocity: int, slurred: bool
    ) -> list[tuple[float, Stem, bool]]:
        return [(0.6 + i * step, have[(p, length, velocity)], slurred and i > 0) for i, p in enumerate(pitches)]

    seed = int(rng.integers(1 << 30))
    spread = [int(p) for p in np.linspace(low, high, 9)]
    start = int(rng.integers(low, high - 13))
    turn = [int(p) for p in np.clip(low + 6 + np.cumsum(rng.integers(-5, 6, 24)), low, high)]
    bottom = [int(p) for p in range(low, low + 8)]
    tops = [int(p) for p in rng.integers(low, high, 8)]
    return [
        joined(f"{name} long", instrument, line(spread, 2.6, 3.4, 100, False), {"long"}, seed=seed),
        joined(
            f"{name} long soft in noise",
            instrument,
            line(spread[::-1], 2.6, 3.4, 60, False),
            {"long", "noise"},
            seed=seed + 1,
            noise_db=-42.0,
        ),
        joined(
            f"{name} chromatic joined",
            instrument,
            line(list(range(start, start + 13)), 0.5, 0.48, 100, True),
            {"joined"},
            seed=seed + 2,
        ),
        joined(
            f"{name} chromatic apart",
            instrument,
            line(list(range(start + 12, start - 1, -1)), 0.5, 0.75, 60, False),
            {"apart"},
            seed=seed + 3,
        ),
        joined(f"{name} fast", instrument, line(turn, 0.17, 0.165, 100, True), {"fast", "joined"}, seed=seed + 4),
        joined(
            f"{name} repeated",
            instrument,
            line([tops[0]] * 6 + [tops[1]] * 6, 0.5, 0.62, 100, False),
            {"repeated"},
            seed=seed + 5,
        ),
        joined(f"{name} low", instrument, line(bottom, 0.5, 0.8, 100, False), {"low"}, seed=seed + 6),
        joined(
            f"{name} in a room",
            instrument,
            line(tops, 0.5, 0.9, 100, False),
            {"room"},
            seed=seed + 7,
            room_s=0.5,
            noise_db=-60.0,
        ),
    ]
