"""The room: learned from a sound, and taken out of it before anything is judged."""

from orexis.core.room.bands import band_levels_db
from orexis.core.room.dereverberation import dereverberate
from orexis.core.room.known_sound import FALL_S, PARTIALS, RISE_S, TAIL_S, sent_level, without_known
from orexis.core.room.learn import decay_after, room_of
from orexis.core.room.suppression import is_compiled as loops_are_compiled
from orexis.core.room.values import RoomAcoustics

__all__ = [
    "FALL_S",
    "PARTIALS",
    "RISE_S",
    "TAIL_S",
    "RoomAcoustics",
    "band_levels_db",
    "decay_after",
    "dereverberate",
    "loops_are_compiled",
    "room_of",
    "sent_level",
    "without_known",
]
