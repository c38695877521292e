"""Notes in a room: what rings of one hides the next, so that is looked for in the sound without the room, too."""

from collections.abc import Sequence
from dataclasses import replace
from itertools import pairwise

import numpy as np

from orexis.core.notes import SAME_PITCH_CENTS, HeardNote, Row
from orexis.core.sound import Floats
from orexis.core.theory import cents_between
from orexis.core.trace import HOP_S

_NEAR_S = 0.15
_LEAST_S = 0.05  # of the note before
_DIPS_SHARE = 0.4  # of what a silence takes from the level: a note begun anew takes so much at least
_DIP_S, _SIDE_S = 0.03, 0.08  # so far about the silence without the echoes; so far on either side the level comes back


def finds_more(direct: tuple[Row, ...], heard: tuple[Row, ...]) -> bool:
    """Whether written notes are there without the room that are missing or wrong with it, and nothing else is wrong.

    A note on the pitch of the one before counts for nothing: echoes make a wave look like a second attack.
    """
    gained = _wrong(heard) - _wrong(direct)
    again = {
        after.written.id
        for before, after in pairwise([row for row in heard if row.written is not None])
        if before.written and after.written and before.written.pitch == after.written.pitch
    }
    extra = sum(row.written is None for row in direct) - sum(row.written is None for row in heard)
    return bool(gained - again) and not _wrong(direct) - _wrong(heard) and extra <= 0


def _wrong(rows: tuple[Row, ...]) -> set[str]:
    return {row.written.id for row in rows if row.written is not None and (row.heard is None or not row.right)}


def refine_onsets(rows: tuple[Row, ...], direct: Sequence[HeardNote]) -> tuple[Row, ...]:
    """Return the rows with the onset that each tongued note has without the room; the note before ends there at the latest.

    `direct`: the notes heard without the room.
    """
    alone = [note for note in direct if not note.joined]
    out = list(rows)
    before: int | None = None
    for i, row in enumerate(rows):
        if row.heard is None:
            continue
        last = out[before].heard if before is not None else None
        if last is not None and row.written is not None and not row.written.slurred:
            onset_s = _onset_s(row.heard, alone, last.onset_s + _LEAST_S)
            if onset_s is not None and before is not None:
                out[i] = replace(row, heard=replace(row.heard, onset_s=onset_s))
                ended = replace(last, release_s=min(last.release_s, onset_s), stop_s=min(last.stop_s, onset_s))
                out[before] = replace(out[before], heard=ended)
        before = i
    return tuple(out)


def _onset_s(heard: HeardNote, alone: Sequence[HeardNote], after_s: float) -> float | None:
    """Return when the same note begins among those that begin after a silence; None where none does."""
    near = [
        note.onset_s
        for note in alone
        if abs(cents_between(note.f0_hz, heard.f0_hz)) < SAME_PITCH_CENTS
        and abs(note.onset_s - heard.onset_s) < _NEAR_S
        and after_s < note.onset_s < heard.stop_s
    ]
    return min(near, key=lambda at: abs(at - heard.onset_s), default=None)


def join_unbroken(notes: Sequence[HeardNote], heard_db: Floats, silence_db: float) -> tuple[HeardNote, ...]:
    """Return notes heard without the room, those of one pitch made whole between which the sound as it came hardly dips.

    What is left of a wave once the echoes are gone looks like a second attack. `heard_db`: bands of the sound as it came, shape
    (n, bands); `silence_db`: what a silence takes from a long note's level in this room, dB.
    """
    level_db = 10.0 * np.log10((10.0 ** (heard_db / 10.0)).sum(axis=1))
    kept: list[HeardNote] = []
    for note in notes:
        last = kept[-1] if kept else None
        if last is not None and _goes_on(last, note) and _dip_db(level_db, last, note) < _DIPS_SHARE * silence_db:
            longer = max(last, note, key=lambda part: part.stop_s - part.start_s)
            kept[-1] = replace(
                last,
                f0_hz=longer.f0_hz,
                stop_s=note.stop_s,
                release_s=note.release_s,
                left_joined=note.left_joined,
            )
        else:
            kept.append(note)
    return tuple(kept)


def _goes_on(before: HeardNote, after: HeardNote) -> bool:
    return (
        abs(cents_between(before.f0_hz, after.f0_hz)) < SAME_PITCH_CENTS and after.onset_s - before.release_s < _NEAR_S
    )


def _dip_db(level_db: Floats, before: HeardNote, after: HeardNote) -> float:
    """How far the level falls between two notes under the softer of what is shortly before and after; 0 at the sound's ends."""
    about, side = round(_DIP_S / HOP_S), round(_SIDE_S / HOP_S)
    edges = sorted((round(before.release_s / HOP_S), round(after.onset_s / HOP_S)))
    between = level_db[max(0, edges[0] - about) : edges[1] + about]
    at = max(0, edges[0] - about) + int(np.argmin(between)) if len(between) else 0
    if not 0 < at < len(level_db) - 1:
        return 0.0
    back = min(level_db[max(0, at - side) : at].max(), level_db[at + 1 : at + 1 + side].max())
    return float(back - level_db[at])
