"""What a room does to sound: it goes on for a while after the instrument has stopped."""

from dataclasses import dataclass

_ECHOES_DB, _LIVELY_DB_S, _ECHOES_GROW = 16.0, 110.0, 0.1  # in a room of half a second; and more for each dB/s less
_ROUNDED_MS, _RINGING_DB = 30.0, 3.0  # what the windows round off, and so much of the room's fall on top


@dataclass(frozen=True, slots=True)
class RoomAcoustics:
    """How sound dies away: `decay_db_s` in dB per second; `late_db` how far what rings lies under a long note, dB (below 0)."""

    decay_db_s: float
    late_db: float

    @property
    def decay_s(self) -> float:
        """The time in which sound falls by 60 dB, as rooms are usually described (ISO 3382)."""
        return 60.0 / self.decay_db_s

    @property
    def hides_ms(self) -> float:
        """The shortest silence that can be heard in it: what the analysis itself rounds off, and more the longer it rings."""
        return round(_ROUNDED_MS + _RINGING_DB / self.decay_db_s * 1000.0, -1)

    @property
    def echoes_db(self) -> float:
        """What echoes alone take from the level between two notes, at most: a dip that is no deeper is not known for one."""
        return round(_ECHOES_DB + _ECHOES_GROW * max(0.0, _LIVELY_DB_S - self.decay_db_s), 1)

    @property
    def share(self) -> float:
        """What rings, as a share of the power of a long note."""
        return 10.0 ** (self.late_db / 10.0)
