"""Sound at a lower rate: for what lies under 4.5 kHz a third of the samples is enough, and is looked at in a third of the time."""

from orexis.core.signals import decimated
from orexis.core.sound import Sound, finite

_LEAST_HZ = 14_000  # the filter lets all up to 4.5 kHz through, and what it folds down lies higher


def coarse(sound: Sound) -> Sound:
    """The sound with as few samples as hold it up to 4.5 kHz; itself where its rate has no such divisor."""
    factor = max((n for n in range(1, sound.rate // _LEAST_HZ + 1) if sound.rate % n == 0), default=1)
    return Sound(decimated(finite(sound.samples), factor), sound.rate // factor) if factor > 1 else sound
