"""Measures of one note. Formulas: docs/measures.md."""

from dataclasses import dataclass, replace
from typing import Any

import numpy as np

from orexis.core.exercises import Exercise
from orexis.core.instruments import Instrument, partial_near
from orexis.core.measures.breath import inhalation_before, response_ms
from orexis.core.measures.ending import fall_off_cents
from orexis.core.measures.entry import Attack, entry_of, has_restarted
from orexis.core.measures.envelope import harmonic_spectrum
from orexis.core.measures.shape import bend, loudness, modulation, ringing_place, shape_off_db, sounding_part, was_led
from orexis.core.measures.slope import theil_sen
from orexis.core.measures.values import NO_TOP, NoteMeasures
from orexis.core.notes import HeardNote, Row
from orexis.core.signals import median, running_mean
from orexis.core.sound import Floats, Sound
from orexis.core.theory import cents_between, nearest_pitch
from orexis.core.trace import HOP_S, Trace

_SETTLE_CENTS = 20.0  # within this of the coming median ...
_SETTLE_FOR_S = 0.08  # ... for so long
_COMING_S = 0.3  # a vibrato of 4 Hz needs this much to be told from a bend
_BEFORE_RELEASE_S = 0.1  # lips let go before the sound does
_END_S = 1.0  # of a note, where its pitch is what the player made of it
_LEAST_RESTLESS_S, _SETTLED_SHARE, _SLOW_START = 0.8, 0.4, 0.4
_ENTRY_S = 0.03  # a click this close falls into the entry
_OVERLAP_S = 0.06  # the note before may be heard so long into one that was tongued in a room
_EDGE_S = 0.06  # a note's first and last moments hold no vibrato
_CLICK_BEFORE_S, _CLICK_UNDER_DB = 0.05, 15.0  # a click rings so long; so far under the tone it does nothing
_MAD_TO_SIGMA = 1.4826  # median absolute deviation to standard deviation, of a normal distribution
_MOST_POINTS = 240  # for the slope: 1.2 s of frames, or every n-th of a longer note
_MOST_UNSTEADY_CENTS = 80.0
_RESTING = 0.2  # of a note that was led through its slot: where it came to rest
_DECILES_TO_SIGMA = 2.563  # from the first to the last decile, of a normal distribution
_PERIODS = 3.0  # no window is shorter than so many periods


@dataclass(frozen=True, slots=True, eq=False)
class SettledPitch:
    """The settled part of a note: frame times, cents against the note's median, and where it begins."""

    start_s: float
    time_s: Floats
    cents: Floats
    calm: Floats  # without vibrato
    level_db: Floats
    tone_to_noise_db: Floats
    spectral_centroid_hz: Floats


def settled_part(trace: Trace, heard: HeardNote) -> SettledPitch | None:
    """From the first moment when pitch stays within 20 c of the coming 300 ms for 80 ms, to 100 ms before release.

    Those 300 ms must not be on their way to somewhere else, or a slow slide from far below would count as settled before
    it has arrived. A vibrato is taken out first: it is no unrest.
    """
    whole = trace.part(heard.onset_s, heard.release_s)
    part = Trace(*(column[whole.voiced] for column in whole.columns))
    if len(part) < 2:
        return None
    cents = cents_between(heard.f0_hz, part.f0_hz)
    calm = without_vibrato(cents)
    need = max(_SETTLE_FOR_S, _PERIODS / heard.f0_hz)
    length, coming = round(need / HOP_S), round(_COMING_S / HOP_S)
    stop = float(heard.release_s) - (0.0 if heard.left_joined else _BEFORE_RELEASE_S)
    for i in range(len(calm) - length + 1):
        ahead = calm[i : i + coming]
        middle = median(ahead)
        if np.all(np.abs(calm[i : i + length] - middle) <= _SETTLE_CENTS) and not _on_its_way(calm[i:], coming):
            keep = (part.time_s >= part.time_s[i]) & (part.time_s <= stop)
            if keep.sum() * HOP_S < need:
                return None
            level = smooth_level(part.level_db, heard.f0_hz)[keep]
            return SettledPitch(
                float(part.time_s[i]),
                part.time_s[keep],
                cents[keep],
                calm[keep],
                level,
                part.tone_to_noise_db[keep],
                part.spectral_centroid_hz[keep],
            )
    return None


def _on_its_way(rest: Floats, coming: int) -> bool:
    """Whether the pitch travels through the coming 300 ms and then stays elsewhere: a slide, no wobble."""
    ahead, later = rest[:coming], rest[coming : 3 * coming]
    third = coming // 3
    if len(ahead) < coming or len(later) < coming:
        return False
    travels = abs(median(ahead[-third:]) - median(ahead[:third])) > _SETTLE_CENTS
    return travels and abs(median(later) - median(ahead)) > _SETTLE_CENTS


def without_vibrato(cents: Floats) -> Floats:
    """Pitch with the vibrato of the note's middle taken out, where there is one."""
    edge = round(_EDGE_S / HOP_S)
    middle = cents[edge:-edge]
    vibrato = modulation(np.clip(middle, *np.percentile(middle, (2, 98)))) if len(middle) * HOP_S >= _COMING_S else None
    if vibrato is None or vibrato.vibrato_hz is None:
        return cents
    out = cents.copy()
    out[edge:-edge] = vibrato.calm
    return out


def smooth_level(level_db: Floats, f0_hz: float) -> Floats:
    """Level over no less than three periods: a shorter window beats with a low note."""
    frames = round(_PERIODS / f0_hz / HOP_S)
    return np.asarray(running_mean(level_db, frames) if frames > 1 else level_db)


def slope_cents_s(settled: SettledPitch) -> float | None:
    """Theil-Sen slope of pitch (Sen 1968), None for less than 0.3 s."""
    every = max(1, len(settled.cents) // _MOST_POINTS)
    if len(settled.calm) * HOP_S < _COMING_S:
        return None
    return theil_sen(settled.calm[::every], settled.time_s[::every])[0]


@dataclass(frozen=True, slots=True, eq=False)
class Surroundings:
    """What is known of a note besides itself: instrument, exercise, pitch, clock, room, and when the note before it ended."""

    instrument: Instrument
    exercise: Exercise | None
    a4: float
    first_beat_s: float | None
    room_db: float | None
    direct: Trace | None = None  # without the room's tail, where it rings
    since_s: float = 0.0
    next_s: float | None = None  # when the next note begins
    sound: Sound | None = None
    splits: int = 0
    cracks: int = 0
    clicks_s: tuple[float, ...] = ()  # when clicks reached the microphone,
    click_db: float | None = None  # and how loud, peak in dBFS; None where they are not heard


def note_measures(trace: Trace, row: Row, index: int, around: Surroundings) -> NoteMeasures:
    """The row of the note table that answers a row of the alignment."""
    written, heard, exercise = row.written, row.heard, around.exercise
    target_hz = exercise.target_hz(written, a4=around.a4) if exercise and written else None
    due_s = (
        exercise.start_s(written) + around.first_beat_s
        if exercise and written and around.first_beat_s is not None
        else None
    )
    values: dict[str, Any] = {
        "written_hz": _rounded(target_hz),
        "due_s": _rounded(due_s),
        "slurred": (heard.joined if heard else False) or bool(written and written.slurred),
        "instrument_cents": _rounded(written.instrument_cents, 2) if exercise and written else None,
    }
    reasons: dict[str, str] = {}
    if heard is None:
        reasons |= dict.fromkeys(_OF_A_SOUNDED_NOTE, "the note was not heard")
    else:
        reference = target_hz or nearest_pitch(heard.f0_hz, a4=around.a4).frequency(a4=around.a4)
        values |= _sounded(trace, row, heard, reference, around, reasons)
    return NoteMeasures(
        index=index,
        target=written.id if written else None,
        sounded=heard.id if heard else None,
        right=row.right and heard is not None,
        unmeasured=reasons,
        **values,
    )


_OF_AN_ENTRY = ("attack_error_cents", "attack_settle_ms", "attack_error_cents_s")
_OF_A_SOUNDED_NOTE = (
    "pitch_error_cents", "pitch_wobble_cents", "pitch_drift_cents", *_OF_AN_ENTRY, "fall_off_cents", "hold_s", "level_db", "response_ms",
)  # fmt: skip


def _sounded(
    trace: Trace, row: Row, heard: HeardNote, reference_hz: float, around: Surroundings, reasons: dict[str, str]
) -> dict[str, Any]:
    settled = settled_part(trace, heard)
    slurred = heard.joined or bool(row.written and row.written.slurred)
    begins, slid = _beginning(row, heard, slurred, around)
    entry = _entry(trace, begins, settled, slid, around, reasons)
    values: dict[str, Any] = {
        "slurred": slid,
        "f0_hz": _rounded(heard.f0_hz),
        "partial": _partial(row, around.instrument),
        "onset_s": _rounded(heard.onset_s),
        "release_s": _rounded(heard.release_s),
        "attack_error_cents": _rounded(entry.cents if entry else None, 1),
        "attack_settle_ms": _rounded(entry.ms if entry else None, 0),
        "attack_error_cents_s": _rounded(entry.area if entry else None, 2),
        "fall_off_cents": _rounded(_fall_off(trace, heard, settled, around, reasons), 1),
        "hold_s": _rounded(heard.release_s - heard.onset_s, 3),
        "splits": around.splits,
        "cracks": around.cracks,
    }
    if settled is None:
        names = (
            "pitch_error_cents",
            "pitch_wobble_cents",
            "pitch_drift_cents",
            "tone_to_noise_db",
            "vibrato_hz",
            "pitch_wobble_depth_cents",
            "level_db",
        )
        reasons |= dict.fromkeys(names, "the pitch never settled")
    else:
        values |= _of_settled(row, heard, settled, reference_hz, around, reasons)
    unrest = _unrest(trace, heard, settled)
    if unrest is not None:
        values["pitch_wobble_cents"] = _rounded(max(unrest, values.get("pitch_wobble_cents") or 0.0), 2)
        reasons.pop("pitch_wobble_cents", None)
    level = values.get("level_db")
    values |= _breath(trace, heard, level if level is not None else _usual_db(trace, heard), slurred, around, reasons)
    return values


def _beginning(row: Row, heard: HeardNote, slurred: bool, around: Surroundings) -> tuple[HeardNote, bool]:
    """The note from where its entry can be heard, and whether it was slurred into.

    Where the room fills the silence before a tongued note, what is fed in says that there was one.
    """
    tongued = heard.joined and row.written is not None and not row.written.slurred
    if not tongued or around.direct is None or not has_restarted(around.direct, heard):
        return heard, slurred
    return replace(heard, onset_s=heard.onset_s + _OVERLAP_S), False


def _unrest(trace: Trace, heard: HeardNote, settled: SettledPitch | None) -> float | None:
    """How much a note moves that never settles, or only in a small part of itself; None for one that does, or is short.

    Over its last six tenths, less the release: a slow start is another thing.
    """
    length = heard.release_s - heard.onset_s
    calm_s = 0.0 if settled is None else float(settled.time_s[-1]) - settled.start_s
    if length < _LEAST_RESTLESS_S or calm_s >= _SETTLED_SHARE * length:
        return None
    part = trace.part(heard.onset_s + _SLOW_START * length, heard.release_s - _BEFORE_RELEASE_S)
    cents = cents_between(heard.f0_hz, part.f0_hz[part.voiced])
    return robust_spread(without_vibrato(cents)) if len(cents) * HOP_S >= _COMING_S else None


def _of_settled(
    row: Row,
    heard: HeardNote,
    settled: SettledPitch,
    reference_hz: float,
    around: Surroundings,
    reasons: dict[str, str],
) -> dict[str, Any]:
    written = row.written
    centre = median(settled.calm) + cents_between(reference_hz, heard.f0_hz)
    share = written.instrument_cents if written and written.keep_fingering else 0.0
    rate = slope_cents_s(settled)
    if rate is None:
        reasons["pitch_drift_cents"] = "the settled part is shorter than 0.3 s"
    moves = modulation(settled.cents)
    if not moves.measured:
        reasons |= dict.fromkeys(("vibrato_hz", "pitch_wobble_depth_cents"), "the settled part is shorter than 0.6 s")
    # Echoes rise and fall by more decibels with the pitch than a note does in its slot.
    ring, resting = (None, None) if around.direct else _ring(settled, centre)
    if (
        ring is None
        and resting is None
        and around.exercise
        and "ring" in around.exercise.judged
        and was_led(settled.calm)
    ):
        reasons["ring_cents"] = NO_TOP
    loud, bent = loudness(settled.level_db), bend(settled.calm)
    shape = written.shape if written else None
    spectrum = around.sound and harmonic_spectrum(around.sound, settled.start_s, float(settled.time_s[-1]), heard.f0_hz)
    clarity = spectrum.tone_to_air_db(_unsteady_cents(settled)) if spectrum else None
    if clarity is None:
        reasons["tone_to_noise_db"] = "the pitch moves too much to tell air from tone"
    return {
        "pitch_error_cents": _rounded(centre, 2),
        "judged_error_cents": _rounded(centre - share, 2),
        "end_error_cents": _rounded(_end_of(settled) + centre - share, 2),
        "pitch_wobble_cents": _rounded(_spread(settled, rate), 2),
        "pitch_drift_cents_s": _rounded(rate, 2),
        "pitch_drift_cents": None
        if rate is None
        else _rounded(rate * float(settled.time_s[-1] - settled.time_s[0]), 2),
        "vibrato_hz": _rounded(moves.vibrato_hz, 2),
        "vibrato_cents": _rounded(moves.vibrato_cents, 1),
        "pitch_wobble_rate_hz": _rounded(moves.pitch_wobble_rate_hz, 2),
        "pitch_wobble_depth_cents": _rounded(moves.pitch_wobble_depth_cents, 1),
        "level_db": _rounded(median(settled.level_db), 1),
        "level_wobble_db": _rounded(robust_spread(settled.level_db[sounding_part(len(settled.level_db))]), 2)
        if loud
        else None,
        "level_rise_db": _rounded(loud.rise_db if loud else None, 1),
        "level_fall_db": _rounded(loud.fall_db if loud else None, 1),
        "level_top_at": _rounded(loud.top_at if loud else None, 2),
        "shape_off_db": _rounded(shape_off_db(settled.level_db, shape), 2) if shape and loud else None,
        "tone_to_noise_db": _rounded(clarity, 1),
        "spectral_centroid_hz": _rounded(median(settled.spectral_centroid_hz), 0),
        "bend_down_cents": _rounded(bent.down_cents if bent else None, 1),
        "bend_up_cents": _rounded(bent.up_cents if bent else None, 1),
        "bend_back_cents": _rounded(bent.back_cents if bent else None, 1),
        "ring_cents": _rounded(ring, 1),
        "ring_missed_cents": _rounded(resting, 1),
        "envelope_db": spectrum.envelope_db() if spectrum else None,
    }


def _end_of(settled: SettledPitch) -> float:
    """Cents of the last second against the whole, of the last half where there is less."""
    length = min(_END_S, 0.5 * (float(settled.time_s[-1]) - settled.start_s))
    last = settled.calm[settled.time_s >= settled.time_s[-1] - length]
    return median(last) - median(settled.calm)


def _unsteady_cents(settled: SettledPitch) -> float:
    """Standard deviation of the pitch, frames that jump left out. What jumps all the time is air: no settled pitch moves so far."""
    low, high = np.percentile(settled.cents, (10, 90))
    spread = float(high - low) / _DECILES_TO_SIGMA
    return spread if spread < _MOST_UNSTEADY_CENTS else 0.0


def _ring(settled: SettledPitch, pitch_error_cents: float) -> tuple[float | None, float | None]:
    """Where the note rings against the target, where it was led through its slot; and how far from there it came to rest."""
    place = ringing_place(settled.calm, settled.level_db, settled.tone_to_noise_db)
    at = place.beyond if place.cents is None else place.cents
    if at is None:
        return None, None
    resting = settled.calm[-max(1, round(_RESTING * len(settled.calm))) :]
    missed = median(resting) - at
    ring = None if place.cents is None else place.cents - median(settled.calm) + pitch_error_cents
    return ring, missed


def _usual_db(trace: Trace, heard: HeardNote) -> float:
    part = trace.part(heard.onset_s, heard.release_s)
    return median(part.level_db) if len(part) else -120.0


def _breath(
    trace: Trace, heard: HeardNote, level_db: float, slurred: bool, around: Surroundings, reasons: dict[str, str]
) -> dict[str, Any]:
    if slurred:
        reasons["response_ms"] = "the note was slurred into"
        return {}
    response, why = response_ms(trace, heard, level_db, around.room_db)
    if response is None:
        reasons["response_ms"] = why
    taken = inhalation_before(trace, heard, around.since_s, around.room_db)
    if taken is None:
        reasons["inhalation_ms"] = "no breath was heard before it"
    return {
        "response_ms": _rounded(response, 0),
        "inhalation_ms": _rounded(taken.ms if taken else None, 0),
        "inhalation_db": _rounded(taken.level_db if taken else None, 1),
    }


def robust_spread(values: Floats) -> float:
    """Return 1.4826 times the median absolute deviation: the standard deviation where values are normal."""
    return _MAD_TO_SIGMA * median(np.abs(values - median(values)))


def _spread(settled: SettledPitch, rate: float | None) -> float:
    """What is left after the slope and the vibrato."""
    flat = settled.calm if rate is None else settled.calm - rate * (settled.time_s - settled.time_s.mean())
    return robust_spread(flat)


def _entry(
    trace: Trace,
    heard: HeardNote,
    settled: SettledPitch | None,
    slurred: bool,
    around: Surroundings,
    reasons: dict[str, str],
) -> Attack | None:
    """How it begins, or why that cannot be told."""
    why = "the note was slurred into" if slurred else ("the pitch never settled" if settled is None else "")
    if not why and _clicked_over(heard, _usual_db(trace, heard), around):
        why = "a click was heard over its first moments"
    entry = None if why or settled is None else entry_of(trace, heard, settled.start_s, settled.calm)
    if entry is None:
        reasons |= dict.fromkeys(_OF_AN_ENTRY, why or "no clear pitch was heard in its first moments")
    return entry


def _clicked_over(heard: HeardNote, level_db: float, around: Surroundings) -> bool:
    """Whether a click of ours fell on the entry, loud enough against the tone to bend what is heard of it."""
    if around.click_db is None or around.click_db < level_db - _CLICK_UNDER_DB:
        return False
    return any(-_CLICK_BEFORE_S < click - heard.onset_s < _ENTRY_S for click in around.clicks_s)


def _fall_off(
    trace: Trace, heard: HeardNote, settled: SettledPitch | None, around: Surroundings, unmeasured: dict[str, str]
) -> float | None:
    """How it ends, or why that cannot be told."""
    if settled is None or heard.left_joined:
        why = "the pitch never settled" if settled is None else "the note was slurred away from"
        unmeasured["fall_off_cents"] = why
        return None
    direct = around.direct or trace
    fall = fall_off_cents(trace, direct, heard, (settled.time_s, settled.calm), around.next_s)
    if isinstance(fall, str):
        unmeasured["fall_off_cents"] = fall
        return None
    return fall


def _partial(row: Row, instrument: Instrument) -> int | None:
    if row.written is None or row.heard is None:
        return None
    return partial_near(instrument, row.written.fingering, row.heard.f0_hz)[0]


def _rounded(value: float | None, digits: int = 4) -> float | None:
    return None if value is None else round(value, digits)
