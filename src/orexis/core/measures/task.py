"""What a sound is measured as, and what is known of the click that was heard with it. Times in seconds, levels in dBFS."""

from dataclasses import dataclass

from orexis.core.exercises import Exercise
from orexis.core.instruments import Instrument


@dataclass(frozen=True, slots=True)
class ListeningTask:
    """The instrument, the exercise that was asked (None in free play), A4, and when the count-in's first beat was (None: not known)."""

    instrument: Instrument
    exercise: Exercise | None
    a4: float = 440.0
    first_beat_s: float | None = None


@dataclass(frozen=True, slots=True)
class ClickTrack:
    """The click of a recording. Without `delay_s` nobody can say whether a player is ahead of it or behind."""

    delay_s: float | None = None  # the device's way from click to microphone
    peak_db: float | None = None  # how loud clicks arrive at the microphone; None when they do not
    heard: bool = True  # False: nobody heard a beat but their own
    at_s: tuple[float, ...] | None = None  # when clicks were heard, where that does not follow from exercise and delay

    def times_s(self, task: ListeningTask) -> tuple[float, ...]:
        """Return when clicks reached the microphone; none where their way is not known."""
        exercise = task.exercise
        if self.at_s is not None:
            return self.at_s
        if (
            not self.heard
            or exercise is None
            or not exercise.click
            or task.first_beat_s is None
            or self.delay_s is None
        ):
            return ()
        first_s = task.first_beat_s + self.delay_s
        return tuple(first_s + beat * exercise.beat_s for beat in range(exercise.clicks))


UNKNOWN_CLICK = ClickTrack()  # heard by the player, and when and how loud at the microphone nobody knows
