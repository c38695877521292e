"""Whether a pitch has harmonics of its own: in a room that rings, what has none was not played."""

from collections.abc import Callable

from orexis.core.notes import SAME_PITCH_CENTS, Row, own_share_db
from orexis.core.sound import Sound
from orexis.core.theory import cents_between

IsReal = Callable[[float, float, float], bool]  # from when to when, and the pitch in Hz
ECHOED = (3.0, 2.0, 0.5, 1.0 / 3.0)  # times a note's pitch: what its harmonics make where echoes weaken some of them
_APART_CENTS = 120.0
_OWN_DB, _OWN_BESIDE_DB = -6.0, -20.0  # share of its own harmonics beside the note's, and beside what rings
_MAY_RING, _SHORT_S, _MIX_CENTS = 3, 0.3, 400.0


def with_harmonics(sound: Sound, note_hz: float, ringing_hz: tuple[float, ...]) -> IsReal:
    """Whether a pitch has harmonics that neither the note has nor what rings: echoes that weaken some of a note's
    harmonics make a pitch of the others, mostly its octave, and have none.
    """

    def is_real(start_s: float, stop_s: float, hz: float) -> bool:
        own_db = own_share_db(sound, start_s, stop_s, hz, (note_hz,))
        if own_db is None or own_db < _OWN_DB:
            return False
        if any(abs(cents_between(times * rings, hz)) < SAME_PITCH_CENTS for rings in ringing_hz for times in ECHOED):
            return False
        beside_db = own_share_db(sound, start_s, stop_s, hz, (note_hz, *ringing_hz)) if ringing_hz else None
        return beside_db is None or beside_db > _OWN_BESIDE_DB

    return is_real


def remove_echo_notes(sound: Sound, rows: tuple[Row, ...]) -> tuple[Row, ...]:
    """The rows less the short unasked ones between others that have no harmonics of their own."""
    return tuple(row for i, row in enumerate(rows) if not _is_ghost(sound, rows, i))


def _is_ghost(sound: Sound, rows: tuple[Row, ...], place: int) -> bool:
    heard = rows[place].heard
    if rows[place].written is not None or heard is None or heard.release_s - heard.onset_s >= _SHORT_S:
        return False
    before = tuple(row.heard.f0_hz for row in rows[max(0, place - _MAY_RING) : place] if row.heard)
    after = next((row.heard.f0_hz for row in rows[place + 1 :] if row.heard), None)
    about = (*before[-1:], *((after,) if after is not None else ()))
    if len(about) == 2 and abs(cents_between(*about)) < _MIX_CENTS and min(about) < heard.f0_hz < max(about):
        return True  # the two of them mixed, while the one rings on
    if not heard.joined or not about or min(abs(cents_between(hz, heard.f0_hz)) for hz in about) < _APART_CENTS:
        return False  # blown anew, or a part of a note beside it
    note_hz, rings = (after, before) if after is not None else (before[-1], before[:-1])
    return not with_harmonics(sound, note_hz, rings)(heard.onset_s, heard.release_s, heard.f0_hz)
