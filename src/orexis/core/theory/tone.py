"""A tone as a value: its pitch and when it sounds."""

from dataclasses import dataclass


@dataclass(frozen=True, slots=True)
class KnownTone:
    """A tone that the page itself sends: Hz, and from when to when, in seconds."""

    hz: float
    start_s: float
    end_s: float

    def later(self, seconds: float) -> "KnownTone":
        """Return the same tone so much later."""
        return KnownTone(self.hz, self.start_s + seconds, self.end_s + seconds)
