"""Trace -> measures of a whole take."""

import itertools
import math
from dataclasses import dataclass, replace

import numpy as np

from orexis.core.figures import Figure, Medium
from orexis.core.horn import Instrument, Tube, tube_holding
from orexis.core.measures.breath import room_db
from orexis.core.measures.credible import credible_notes
from orexis.core.measures.figure import Taken, figure_measures
from orexis.core.measures.glide import glide_of, glides_in, parted_by_glides, zero_of
from orexis.core.measures.lost import lost_ms
from orexis.core.measures.move import Between, Direct, move_measures
from orexis.core.measures.note import Surroundings, note_measures
from orexis.core.measures.played import cracks, played_notes
from orexis.core.measures.values import Measures, MoveMeasures, NoteMeasures, SoundCheck
from orexis.core.notes import HeardNote, Row, aligned, divided, explained, heard_notes, without_background
from orexis.core.room import Room
from orexis.core.sound import Sound
from orexis.core.theory import cents_between
from orexis.core.trace import HOP_S, Trace


@dataclass(frozen=True, slots=True, eq=False)
class Ringing:
    """A room that rings, and the sound without it."""

    room: Room
    direct: Direct


_TOUCH_LONGEST_S = 0.35  # an unasked note this short inside a slur is a touch, not a note
_SPLIT_LONGEST_S = 0.25
_CRACK_LONGEST_S, _SAME_CENTS = 0.3, 60.0
_SCRAP_S, _SILENCE_S = 0.15, 0.03
_BREAK_S, _GOES_ON_DB, _CLEARLY = 0.03, 8.0, 0.75
_CLIPPED_AT = 0.985
_BEFORE_TONE_S = 0.3  # a hole so shortly before the first tone would change its start
_ON_TUBE = 45.0  # cents: without a figure, two notes so near to partials of a tube were played on it


def measure(
    trace: Trace,
    sound_check: SoundCheck,
    *,
    horn: Instrument,
    figure: Figure | None,
    a4: float,
    first_beat_s: float | None,
    sound: Sound | None = None,
    delay_s: float | None = None,
    clicks_s: tuple[float, ...] = (),
    click_db: float | None = None,
    clicked: bool = True,
    ringing: Ringing | None = None,
) -> Measures:
    """All measures. Without a figure every heard note is a row with no target.

    `sound` is needed for what only it tells: how each note sounds. `delay_s` is the device's way from click to sound
    and back; without it nobody can say whether a player is ahead or behind. `clicks_s` are the moments at which
    clicks from the loudspeaker reached the microphone, `click_db` their peak there in dBFS. Without
    `clicked` evenness is that about the player's own beat. `ringing` is the room and the sound without it, where it rings.
    """
    trace = without_background(trace)
    found = heard_notes(trace)
    if sound is not None and ringing is not None:
        trace = explained(sound, trace, found)
        found = heard_notes(trace)
    heard, talking = played_notes(trace, found)
    heard = credible_notes(trace, heard, horn, figure, a4=a4)
    rows = _rows(trace, heard, figure, a4, first_beat_s)
    rows, broken = _without_cracks(trace, rows)
    rows, splits = _without_splits(_without_touches(rows))
    if figure is not None and glides_in(figure):
        rows = parted_by_glides(trace, rows, figure, a4=a4, first_beat_s=first_beat_s)
    direct = ringing.direct.trace if ringing else trace
    silence = room_db(trace)
    around = Surroundings(horn, figure, a4, first_beat_s, silence, sound=sound, clicks_s=clicks_s, click_db=click_db)
    notes = []
    since = 0.0
    for i, row in enumerate(rows):
        heard_breaks = cracks(direct, row.heard) if row.heard else (0, 0)
        cracked = max(heard_breaks[1], broken.get(row.heard.id, 0) if row.heard else 0)
        here = replace(around, since_s=since, splits=splits.get(i, 0) + heard_breaks[0], cracks=cracked)
        notes.append(_with_glide(note_measures(trace, row, i, here), trace, row, rows, around))
        since = row.heard.release_s if row.heard else since
    moves = tuple(_moves(trace, rows, horn, figure, ringing))
    taken = Taken(
        trace,
        tuple(notes),
        moves,
        figure,
        horn,
        first_beat_s,
        delay_s,
        silence,
        clicked,
        ringing.room.share if ringing else 0.0,
    )
    return Measures(
        tuple(notes),
        moves,
        figure_measures(taken),
        replace(
            sound_check,
            talking=talking,
            room_db_s=ringing.room.decay_db_s if ringing else None,
            room_hides_ms=ringing.room.hides_ms if ringing else None,
        ),
    )


def check_sound(sound: Sound, trace: Trace, *, live: bool = False) -> SoundCheck:
    """Peak, clipping, the levels with and without tone; of `live` sound from a microphone also what was lost."""
    size = np.abs(np.nan_to_num(sound.samples, posinf=1.0, neginf=-1.0))
    peak = float(size.max(initial=0.0))
    tone, rest = trace.level_db[trace.voiced], trace.level_db[~trace.voiced]
    toned_s = trace.time_s[trace.voiced]
    played_s = (toned_s[0] - _BEFORE_TONE_S, toned_s[-1]) if len(toned_s) else (0.0, 0.0)
    return SoundCheck(
        peak_db=round(20.0 * math.log10(max(peak, 1e-6)), 1),
        clipped_share=round(float(np.mean(size >= _CLIPPED_AT)) if len(size) else 0.0, 6),
        noise_db=round(float(np.median(rest)), 1) if len(rest) > 20 else None,
        tone_db_fs=round(float(np.median(tone)), 1) if len(tone) else None,
        lost_ms=lost_ms(sound.samples, sound.rate, *played_s) if live else 0.0,
    )


def _with_glide(
    note: NoteMeasures, trace: Trace, row: Row, rows: tuple[Row, ...], around: Surroundings
) -> NoteMeasures:
    """With how the glide into it went, where one is written."""
    figure, written = around.figure, row.written
    if figure is None or written is None or written.glide_beats <= 0.0 or written.free:
        return note
    place = figure.notes.index(written)
    if place == 0:
        return note
    zero = zero_of(rows, figure, around.first_beat_s)
    found = glide_of(trace, figure, figure.notes[place - 1], written, a4=around.a4, first_beat_s=zero)
    if found is None:
        return note
    return replace(
        note,
        glide_off_cents=found.off_cents,
        glide_over_cents=found.over_cents,
        glide_arrived_s=found.arrived_s,
        glide_jump_cents=found.jump_cents,
        glide_hole_ms=found.hole_ms,
    )


def _rows(
    trace: Trace, heard: tuple[HeardNote, ...], figure: Figure | None, a4: float, first_beat_s: float | None
) -> tuple[Row, ...]:
    """Heard against written notes; where a written one is missing beside a heard one that holds both, it is divided."""
    if figure is None:
        return tuple(Row(None, note, False) for note in heard)
    rows = aligned(heard, figure, a4=a4, first_beat_s=first_beat_s)
    for _ in figure.notes:
        parts = divided(trace, rows, figure, a4=a4)
        if parts is None:
            break
        rows = aligned(parts, figure, a4=a4, first_beat_s=first_beat_s)
    return rows


def _without_cracks(trace: Trace, rows: tuple[Row, ...]) -> tuple[tuple[Row, ...], dict[str, int]]:
    """A note that breaks to another slot and comes back is one note: its two halves and the break become one row.

    Also how many breaks each heard note, by its id, has swallowed.
    """
    kept: list[Row] = []
    broken: dict[str, int] = {}
    i = 0
    while i < len(rows):
        two, three = rows[i : i + 2], rows[i : i + 3]
        parts = (
            three if len(three) == 3 and _is_crack(*three) else two if len(two) == 2 and _is_broken(trace, *two) else ()
        )
        if not parts:
            kept.append(rows[i])
            i += 1
            continue
        whole = _whole(parts[0], parts[-1])
        assert whole.heard is not None
        broken[whole.heard.id] = broken.get(whole.heard.id, 0) + (len(parts) == 3 or _is_break(trace, *two))
        rows = (*rows[:i], whole, *rows[i + len(parts) :])
    return tuple(kept), broken


def _is_crack(before: Row, broken: Row, after: Row) -> bool:
    """Short, unasked, without silence on either side, between two parts of one pitch of which one answers a written note."""
    a, c, b = before.heard, broken.heard, after.heard
    if a is None or c is None or b is None or broken.written is not None:
        return False
    if (before.written is None) == (after.written is None):
        return False
    short = c.release_s - c.onset_s < _CRACK_LONGEST_S
    return short and c.joined and b.joined and abs(cents_between(a.f0_hz, b.f0_hz)) < _SAME_CENTS


def _is_broken(trace: Trace, before: Row, after: Row) -> bool:
    """Two parts of one pitch without silence between them, of which one answers a written note: the break was very short."""
    a, b = before.heard, after.heard
    if a is None or b is None or (before.written is None) == (after.written is None):
        return False
    if abs(cents_between(a.f0_hz, b.f0_hz)) >= _SAME_CENTS:
        return False
    extra, hole_s = (a if before.written is None else b), b.onset_s - a.release_s
    scrap = extra.release_s - extra.onset_s < _SCRAP_S and hole_s < _SILENCE_S
    return b.joined or scrap or (hole_s < _SCRAP_S and _pitch_lost(trace, a, b) and _goes_on(trace, a, b))


def _is_break(trace: Trace, before: Row, after: Row) -> bool:
    a, b = before.heard, after.heard
    return a is not None and b is not None and _pitch_lost(trace, a, b) and _goes_on(trace, a, b)


def _pitch_lost(trace: Trace, a: HeardNote, b: HeardNote) -> bool:
    """Whether the pitch is away, or hardly one, for a moment about where two notes meet."""
    part = trace.part(a.release_s - _SCRAP_S, b.onset_s + _BREAK_S)
    with np.errstate(invalid="ignore"):
        there = np.abs(cents_between(a.f0_hz, part.f0_hz)) < _SAME_CENTS
    lost = ~there | (part.confidence < _CLEARLY)
    return float(lost.sum()) * HOP_S >= _BREAK_S


def _goes_on(trace: Trace, a: HeardNote, b: HeardNote) -> bool:
    """Whether it is as loud between two notes as in them: the pitch was lost there, not the tone."""
    between = trace.part(a.release_s - _BREAK_S, b.onset_s + _BREAK_S).level_db
    usual = min(float(np.median(trace.part(note.start_s, note.stop_s).level_db)) for note in (a, b))
    return bool(len(between)) and float(between.min()) > usual - _GOES_ON_DB


def _whole(before: Row, after: Row) -> Row:
    a, b = before.heard, after.heard
    assert a is not None
    assert b is not None
    longer = max(a, b, key=lambda note: note.stop_s - note.start_s)
    heard = replace(
        a,
        f0_hz=longer.f0_hz,
        start_s=longer.start_s,
        stop_s=longer.stop_s,
        release_s=b.release_s,
        left_joined=b.left_joined,
    )
    return Row(before.written or after.written, heard, before.right or after.right)


def _without_touches(rows: tuple[Row, ...]) -> tuple[Row, ...]:
    """Short unasked notes between two notes that a slur joins become part of the move between them."""
    return tuple(row for i, row in enumerate(rows) if not _is_touch(rows, i))


def _is_touch(rows: tuple[Row, ...], index: int) -> bool:
    row = rows[index]
    if row.written is not None or row.heard is None or not 0 < index < len(rows) - 1:
        return False
    short = row.heard.release_s - row.heard.onset_s < _TOUCH_LONGEST_S
    return short and row.heard.joined and _slurred(rows[index + 1])


def _without_splits(rows: tuple[Row, ...]) -> tuple[tuple[Row, ...], dict[int, int]]:
    """A short unasked note that leads without silence into a tongued one was that note's start, on the wrong partial."""
    kept: list[Row] = []
    splits: dict[int, int] = {}
    for i, row in enumerate(rows):
        after = rows[i + 1] if i + 1 < len(rows) else None
        if row.written is None and row.heard and after and after.heard and after.written and not after.written.slurred:
            short = row.heard.release_s - row.heard.onset_s < _SPLIT_LONGEST_S
            if short and after.heard.joined and not row.heard.joined:
                splits[len(kept)] = splits.get(len(kept), 0) + 1
                continue
        kept.append(row)
    return tuple(kept), splits


def _slurred(row: Row) -> bool:
    return bool(row.written and row.written.slurred)


def _moves(
    trace: Trace, rows: tuple[Row, ...], horn: Instrument, figure: Figure | None, ringing: Ringing | None
) -> list[MoveMeasures]:
    moves = []
    sounding = [(i, row, row.heard) for i, row in enumerate(rows) if row.heard is not None]
    for (i, first, before), (j, row, after) in itertools.pairwise(sounding):
        slurred = _slurred(row) if row.written else after.joined
        tubes: tuple[Tube, ...] = ()
        if row.written is None:
            held = tube_holding(horn, before.f0_hz, after.f0_hz, within_cents=_ON_TUBE)
            tubes = (held,) if held is not None else ()
        elif figure and figure.medium == Medium.HORN and row.written.glide_beats <= 0.0:
            # A slide that glides changes the tube on the way: no slot of either is touched by going through it.
            tubes = tuple({tube: None for tube in (first.written and first.written.tube, row.written.tube) if tube})
        asked = None
        if figure and first.written and row.written:
            asked = (row.written.start_beat - first.written.start_beat - first.written.beats) * figure.beat_s
        moves.append(
            move_measures(
                trace,
                Between(before, after, tubes, slurred, asked),
                (i, j),
                horn=horn,
                direct=ringing.direct if ringing else None,
            )
        )
    return moves
