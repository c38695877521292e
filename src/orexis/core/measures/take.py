"""Trace -> measures of a whole take."""

import itertools
import math
from collections.abc import Callable
from dataclasses import dataclass, replace

import numpy as np

from orexis.core.exercises import Exercise, Medium
from orexis.core.instruments import Fingering, Instrument, fingering_holding
from orexis.core.measures.breaks import breaks_in
from orexis.core.measures.breath import room_db
from orexis.core.measures.buzz import own_buzz
from orexis.core.measures.credible import credible_notes
from orexis.core.measures.entry import has_restarted
from orexis.core.measures.exercise import ExerciseContext, exercise_measures
from orexis.core.measures.glide import glide_of, glides_in, split_at_glides, zero_of
from orexis.core.measures.lost import lost_ms
from orexis.core.measures.move import Between, DirectSound, move_measures
from orexis.core.measures.note import Surroundings, note_measures
from orexis.core.measures.own import remove_echo_notes
from orexis.core.measures.room_notes import finds_more, join_unbroken, refine_onsets
from orexis.core.measures.talk import played_notes
from orexis.core.measures.task import UNKNOWN_CLICK, ClickTrack, ListeningTask
from orexis.core.measures.values import Measures, MoveMeasures, NoteMeasures, SoundCheck
from orexis.core.notes import (
    Breaks,
    HeardNote,
    Row,
    align_notes,
    may_hold_echo_notes,
    merge_fragments,
    remove_phantom_f0,
    repair_partial_breaks,
    segment_notes,
    split_undersegmented,
    without_background,
)
from orexis.core.room import RoomAcoustics
from orexis.core.signals import median
from orexis.core.sound import Sound, finite
from orexis.core.trace import Trace


@dataclass(frozen=True, slots=True, eq=False)
class Ringing:
    """A room that rings, and the sound without it."""

    room: RoomAcoustics
    direct: DirectSound


MakeWhole = Callable[[tuple[HeardNote, ...]], tuple[HeardNote, ...]]
_CLIPPED_AT = 0.985  # of full scale: converters flatten a little before it
_BEFORE_TONE_S = 0.3  # a hole so shortly before the first tone would change its start
_ON_FINGERING = 45.0  # cents: without an exercise, two notes so near to partials of a fingering were played on it


def measure(
    trace: Trace,
    sound_check: SoundCheck,
    task: ListeningTask,
    *,
    click: ClickTrack = UNKNOWN_CLICK,
    sound: Sound | None = None,
    ringing: Ringing | None = None,
) -> Measures:
    """Return all measures of a take. Without an exercise every heard note is a row with no target.

    `sound` is needed for what only it tells: how each note sounds. `ringing` is the room and the sound without it, where it
    rings. Where no click was heard, evenness is that about the player's own beat.
    """
    instrument, exercise, a4, first_beat_s = task.instrument, task.exercise, task.a4, task.first_beat_s
    is_direct = ringing is not None and trace is ringing.direct.trace
    trace = without_background(trace)
    segmented = segment_notes(trace)
    if sound is not None and (ringing is not None or may_hold_echo_notes(segmented)):
        explained = remove_phantom_f0(sound, trace, segmented)
        if explained is not trace:
            trace, segmented = explained, segment_notes(explained)
    whole = _whole_in(ringing) if ringing is not None and is_direct else tuple
    exercise, matched = _match(trace, whole(segmented), task, sound, ringing, whole)
    if ringing is not None:
        direct_notes = segment_notes(ringing.direct.trace)
        if not is_direct:
            _, clearer = _match(ringing.direct.trace, direct_notes, task, sound, ringing)
            matched = clearer if finds_more(clearer.rows, matched.rows) else matched
        matched = replace(matched, rows=refine_onsets(matched.rows, direct_notes))
    rows, talking = matched.rows, matched.talking
    if exercise is not None and glides_in(exercise):
        rows = split_at_glides(trace, rows, exercise, a4=a4, first_beat_s=first_beat_s)
    direct = ringing.direct.trace if ringing else trace
    silence = room_db(trace)
    around = Surroundings(
        instrument,
        exercise,
        a4,
        first_beat_s,
        silence,
        direct=ringing.direct.trace if ringing else None,
        sound=sound,
        clicks_s=click.times_s(task),
        click_db=click.peak_db,
    )
    notes = []
    since = 0.0
    for i, row in enumerate(rows):
        parted = matched.breaks.get(row.heard.id, []) if row.heard else []
        split, cracked = breaks_in(trace, direct, rows, i, instrument, sound, parted) if row.heard else (0, 0)
        next_s = next((later.heard.onset_s for later in rows[i + 1 :] if later.heard), None)
        here = replace(
            around, since_s=since, next_s=next_s, splits=max(matched.splits.get(i, 0), split), cracks=cracked
        )
        notes.append(_with_glide(note_measures(trace, row, i, here), trace, row, rows, around))
        since = row.heard.release_s if row.heard else since
    moves = tuple(_moves(trace, rows, instrument, exercise, ringing))
    taken = ExerciseContext(
        trace,
        tuple(notes),
        moves,
        exercise,
        instrument,
        first_beat_s,
        click.delay_s,
        silence,
        click.heard,
        ringing.room.share if ringing else 0.0,
    )
    return Measures(
        tuple(notes),
        moves,
        replace(exercise_measures(taken), buzz_off_cents=matched.buzz_off_cents),
        replace(
            sound_check,
            talking=talking,
            room_db_s=ringing.room.decay_db_s if ringing else None,
            room_hides_ms=ringing.room.hides_ms if ringing else None,
        ),
    )


@dataclass(frozen=True, slots=True)
class _Matched:
    """Heard notes beside written ones; where each heard note broke, and how many false starts each row has."""

    rows: tuple[Row, ...]
    breaks: Breaks
    splits: dict[int, int]
    talking: bool
    buzz_off_cents: float | None


def _whole_in(ringing: Ringing) -> MakeWhole:
    """How notes heard without the room are made whole where the sound as it came does not dip."""

    def whole(notes: tuple[HeardNote, ...]) -> tuple[HeardNote, ...]:
        heard_db = ringing.direct.heard_db
        return notes if heard_db is None else join_unbroken(notes, heard_db, -ringing.room.late_db)

    return whole


def _match(
    trace: Trace,
    segmented: tuple[HeardNote, ...],
    task: ListeningTask,
    sound: Sound | None,
    ringing: Ringing | None,
    whole: MakeWhole = tuple,
) -> tuple[Exercise | None, _Matched]:
    """The exercise as it was played, where its pitch is the player's own, and what was heard of it."""
    instrument, exercise, a4 = task.instrument, task.exercise, task.a4
    heard, talking = played_notes(trace, segmented)
    heard = credible_notes(trace, heard, instrument, exercise, a4=a4)
    exercise, buzz_off = own_buzz(exercise, heard, a4=a4)
    mends: Breaks = {}
    if exercise is not None:
        heard, mends = repair_partial_breaks(trace, heard, exercise, a4=a4)
    rows = _rows(trace, heard, exercise, a4, task.first_beat_s, whole)
    if ringing is not None and sound is not None:
        rows = remove_echo_notes(sound, _split_at_silences(rows, ringing))
    has_partials = exercise is not None and exercise.medium == Medium.INSTRUMENT
    direct = ringing.direct.trace if ringing else None
    rows, broken, splits = merge_fragments(trace, rows, instrument if has_partials else None, direct)
    breaks = {key: [*mends.get(key, ()), *broken.get(key, ())] for key in mends.keys() | broken.keys()}
    return exercise, _Matched(rows, breaks, splits, talking, buzz_off)


def check_sound(sound: Sound, trace: Trace, *, live: bool = False) -> SoundCheck:
    """Peak, clipping, the levels with and without tone; of `live` sound from a microphone also what was lost.

    A hum that was there before the playing is no tone.
    """
    trace = without_background(trace)
    size = np.abs(finite(sound.samples))
    peak = float(size.max(initial=0.0))
    tone, rest = trace.level_db[trace.voiced], trace.level_db[~trace.voiced]
    toned_s = trace.time_s[trace.voiced]
    played_s = (toned_s[0] - _BEFORE_TONE_S, toned_s[-1]) if len(toned_s) else (0.0, 0.0)
    return SoundCheck(
        peak_db=round(20.0 * math.log10(max(peak, 1e-6)), 1),
        clipped_share=round(float(np.mean(size >= _CLIPPED_AT)) if len(size) else 0.0, 6),
        noise_db=round(median(rest), 1) if len(rest) > 20 else None,
        tone_db_fs=round(median(tone), 1) if len(tone) else None,
        lost_ms=lost_ms(sound.samples, sound.rate, *played_s) if live else 0.0,
    )


def _with_glide(
    note: NoteMeasures, trace: Trace, row: Row, rows: tuple[Row, ...], around: Surroundings
) -> NoteMeasures:
    """With how the glide into it went, where one is written."""
    exercise, written = around.exercise, row.written
    if exercise is None or written is None or written.glide_beats <= 0.0 or written.free:
        return note
    place = exercise.notes.index(written)
    if place == 0:
        return note
    zero = zero_of(rows, exercise, around.first_beat_s)
    glide = glide_of(trace, exercise, exercise.notes[place - 1], written, a4=around.a4, first_beat_s=zero)
    if glide is None:
        return note
    return replace(
        note,
        glide_off_cents=glide.off_cents,
        glide_over_cents=glide.over_cents,
        glide_arrived_s=glide.arrived_s,
        glide_jump_cents=glide.jump_cents,
        glide_hole_ms=glide.hole_ms,
    )


def _rows(
    trace: Trace,
    heard: tuple[HeardNote, ...],
    exercise: Exercise | None,
    a4: float,
    first_beat_s: float | None,
    whole: MakeWhole,
) -> tuple[Row, ...]:
    """Heard against written notes; where a written one is missing beside a heard one that holds both, it is divided."""
    if exercise is None:
        return tuple(Row(None, note, False) for note in heard)
    rows = align_notes(heard, exercise, a4=a4, first_beat_s=first_beat_s)
    for _ in exercise.notes:
        parts = split_undersegmented(trace, rows, exercise, a4=a4)
        if parts is None or len(whole(parts)) < len(parts):
            break
        rows = align_notes(parts, exercise, a4=a4, first_beat_s=first_beat_s)
    return rows


def _split_at_silences(rows: tuple[Row, ...], ringing: Ringing) -> tuple[Row, ...]:
    """A short unasked note that leads into a tongued one, after a silence that the room fills, is joined to nothing before."""
    out = list(rows)
    for i, (row, after) in enumerate(itertools.pairwise(rows)):
        leads = row.written is None and after.written is not None and not after.written.slurred
        if leads and row.heard is not None and row.heard.joined and has_restarted(ringing.direct.trace, row.heard):
            out[i] = replace(row, heard=replace(row.heard, joined=False))
    return tuple(out)


def _asked_partials(*rows: Row) -> frozenset[int]:
    return frozenset(row.written.partial for row in rows if row.written is not None)


def _moves(
    trace: Trace, rows: tuple[Row, ...], instrument: Instrument, exercise: Exercise | None, ringing: Ringing | None
) -> list[MoveMeasures]:
    moves = []
    sounding = [(i, row, row.heard) for i, row in enumerate(rows) if row.heard is not None]
    for (i, first, before), (j, row, after) in itertools.pairwise(sounding):
        slurred = row.slurred if row.written else after.joined
        fingerings: tuple[Fingering, ...] = ()
        if row.written is None:
            held = fingering_holding(instrument, before.f0_hz, after.f0_hz, within_cents=_ON_FINGERING)
            fingerings = (held,) if held is not None else ()
        elif exercise and exercise.medium == Medium.INSTRUMENT and row.written.glide_beats <= 0.0:
            # A slide that glides changes the fingering on the way: no slot of either is touched by going through it.
            fingerings = tuple(
                {
                    fingering: None
                    for fingering in (first.written and first.written.fingering, row.written.fingering)
                    if fingering
                }
            )
        glides = (
            row.written is not None and row.written.glide_beats > 0.0
        )  # a hole in one is measured as such (glide.py)
        asked = None
        if exercise and first.written and row.written:
            asked = (row.written.start_beat - first.written.start_beat - first.written.beats) * exercise.beat_s
        moves.append(
            move_measures(
                trace,
                Between(before, after, fingerings, slurred, asked, _asked_partials(first, row)),
                (i, j),
                instrument=instrument,
                direct=None if glides or ringing is None else ringing.direct,
            )
        )
    return moves
