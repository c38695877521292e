"""From flaws to measures without sound: what the ear would have measured of a performance with these flaws.

How large a flaw comes out in the measure that hears it was found by playing flaws of known size and listening
(`python -m benchmarks.rehearsals --calibrate`); the factors stand in `HEARD`.
"""

from collections.abc import Mapping
from dataclasses import fields, replace
from functools import lru_cache
from operator import attrgetter

import numpy as np

from orexis.core.exercises import Exercise, ExerciseNote, Loudness, Medium
from orexis.core.measures import ClippedPartial, ExerciseMeasures, Measures, MoveMeasures, NoteMeasures, SoundCheck
from orexis.core.player import Flaw, Flaws, levels_asked
from orexis.core.theory import ratio_of

# measure = factor * size of the flaw.
HEARD: dict[str, float] = {"centre": 1.0, "sag": 1.0, "wobble": 0.96, "entry": 0.93, "gap": 0.96, "caught": 0.96}
_NAMES = [field.name for field in fields(NoteMeasures)]
_AT = {name: at for at, name in enumerate(_NAMES)}
_VALUES = attrgetter(*_NAMES)
_SLOPE = {None: 0.0, Loudness.GROW: 3.0, Loudness.EASE: -3.0, Loudness.EVEN: 0.0}


@lru_cache(maxsize=256)
def flawless(exercise: Exercise) -> Measures:
    """What would be measured of a performance without a flaw."""
    levels = levels_asked(exercise)
    notes = tuple(
        NoteMeasures(
            index=i, target=note.id, sounded=f"h{i}", right=True, written_hz=exercise.target_hz(note, a4=440.0),
            slurred=note.slurred, f0_hz=exercise.target_hz(note, a4=440.0), onset_s=exercise.start_s(note),
            release_s=exercise.start_s(note) + note.beats * exercise.beat_s, pitch_error_cents=0.0, judged_error_cents=0.0, instrument_cents=0.0,
            pitch_wobble_cents=0.0, pitch_drift_cents=0.0, attack_error_cents=0.0, attack_settle_ms=0.0, fall_off_cents=0.0, hold_s=note.beats * exercise.beat_s,
            response_ms=0.0, level_db=levels[note.id], level_wobble_db=0.0, level_rise_db=9.0, level_fall_db=-9.0, shape_off_db=0.0,
            ring_cents=0.0, ring_missed_cents=0.0, tone_match=100.0, glide_off_cents=0.0, glide_over_cents=0.0,
            glide_arrived_s=note.beats * exercise.beat_s, glide_jump_cents=10.0, glide_hole_ms=0.0,
        )
        for i, note in enumerate(exercise.notes)
    )  # fmt: skip
    moves = tuple(
        MoveMeasures(i, i + 1, after.slurred, after.start_beat, after.start_beat, 0.0, 0.0, None, (), 0.0, 0.0)
        for i, after in enumerate(exercise.notes[1:])
    )
    hz = [exercise.target_hz(note, a4=440.0) for note in exercise.notes]
    shortest = min(note.beats for note in exercise.notes)
    whole = ExerciseMeasures(
        timing_mean_ms=0.0, timing_spread_ms=0.0, playing_s=sum(note.beats for note in exercise.notes) * exercise.beat_s,
        extra_notes=0, missed_notes=0, loudness_by_height_db_octave=_SLOPE[exercise.loudness], tone_match_across=100.0,
        breaths_inside=0, unseated_share=0.0, pulse_db=4.0, trill_hz=1.0 / (2.0 * shortest * exercise.beat_s), siren_low_hz=min(hz), siren_high_hz=max(hz),
        siren_jump_cents=20.0, siren_breaks=0,
    )  # fmt: skip
    return Measures(notes, moves, whole, SoundCheck(-6.0, 0.0, -70.0, -20.0))


def with_values(row: NoteMeasures, values: Mapping[str, object]) -> NoteMeasures:
    """`dataclasses.replace`, four times as fast: a rehearsed year has a million notes."""
    all_values = list(_VALUES(row))
    for name, value in values.items():
        all_values[_AT[name]] = value
    return NoteMeasures(*all_values)


def measured(exercise: Exercise, flaws: Flaws) -> Measures:
    """What would be measured of a performance with these flaws; those that no measure hears are left out."""
    clean = flawless(exercise)
    if exercise.medium == Medium.AIR:
        silent = tuple(replace(row, f0_hz=None, hold_s=None, right=False, sounded=None) for row in clean.notes)
        return replace(clean, notes=silent, exercise=replace(clean.exercise, playing_s=0.0))
    by_note: dict[str, list[Flaw]] = {}
    for flaw in flaws.flaws:
        if flaw.note is not None:
            by_note.setdefault(flaw.note, []).append(flaw)
    notes = [_note(row, note, by_note.get(note.id, [])) for row, note in zip(clean.notes, exercise.notes, strict=True)]
    moves = [
        _move(move, by_note.get(after.id, [])) for move, after in zip(clean.moves, exercise.notes[1:], strict=True)
    ]
    late = [flaw.size for of in by_note.values() for flaw in of if flaw.name == "late"]
    missed = sum(not row.right for row in notes)
    spread = float(np.std(late)) if len(late) > 1 else 0.0
    seated = sum(len(_named(of, "caught")) for of in by_note.values())
    whole = replace(
        clean.exercise,
        timing_spread_ms=round(spread, 1),
        evenness_ms=round(spread, 1),
        missed_notes=missed,
        unseated_share=seated / max(1, len(notes)),
    )
    return Measures(tuple(notes), tuple(moves), whole, clean.sound)


def _note(row: NoteMeasures, note: ExerciseNote, flaws: list[Flaw]) -> NoteMeasures:
    values: dict[str, float | bool | int | None] = {}
    for flaw in flaws:
        match flaw.name:
            case "centre":
                cents = HEARD["centre"] * flaw.size
                hz = row.written_hz * ratio_of(cents) if row.written_hz else None
                values |= {"pitch_error_cents": cents, "judged_error_cents": cents, "f0_hz": hz, "ring_cents": cents}
            case "sag":
                values["pitch_drift_cents"] = HEARD["sag"] * flaw.size
            case "wobble":
                values["pitch_wobble_cents"] = HEARD["wobble"] * flaw.size
            case "entry":
                cents = HEARD["entry"] * flaw.size
                values |= {
                    "attack_error_cents": cents,
                    "attack_settle_ms": flaw.extra,
                    "attack_error_cents_s": abs(cents) * flaw.extra / 2000.0,
                }
            case "response":
                values["response_ms"] = flaw.size
            case "miss":
                values |= {"right": False, "partial": int(flaw.size)}
    if flaws and note.to_breath_end and row.hold_s is not None:
        short = next((flaw.size for flaw in flaws if flaw.name == "short"), 0.0)
        values["hold_s"] = row.hold_s * (1.0 - short)
    return with_values(row, values) if values else row


def _move(move: MoveMeasures, flaws: list[Flaw]) -> MoveMeasures:
    gap = next(iter(_named(flaws, "gap")), None)
    if gap is not None:
        return replace(move, gap_ms=HEARD["gap"] * gap.size, gap_start_s=move.start_s)
    touched = tuple(
        ClippedPartial(int(flaw.size), 0.0, move.start_s, HEARD["caught"] * flaw.extra)
        for flaw in _named(flaws, "caught")
    )
    return replace(move, clipped_partials=touched) if touched else move


def _named(flaws: list[Flaw], name: str) -> list[Flaw]:
    return [flaw for flaw in flaws if flaw.name == name]
