"""The room: learned from a sound, and taken out of it before anything is judged."""

from orexis.core.room.bands import band_levels_db
from orexis.core.room.coarse import coarse
from orexis.core.room.dereverberation import dereverberate
from orexis.core.room.known_sound import FALL_S, PARTIALS, RISE_S, TAIL_S, sent_level, without_known
from orexis.core.room.learn import decay_after, room_of
from orexis.core.room.partials import steady
from orexis.core.room.partials import warm as warm_partials
from orexis.core.room.values import RoomAcoustics

__all__ = [
    "FALL_S",
    "PARTIALS",
    "RISE_S",
    "TAIL_S",
    "RoomAcoustics",
    "band_levels_db",
    "coarse",
    "decay_after",
    "dereverberate",
    "room_of",
    "sent_level",
    "steady",
    "warm_partials",
    "without_known",
]
