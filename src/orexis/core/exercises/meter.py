"""Meters: how many beats a bar has, and how long a beat is. What is counted and clicked is the beat.

In a compound meter (6/8, 9/8, 12/8, 6/4 ...) three of the lower exercise's notes make a beat; in 3/8, 5/8 and 7/8 every
eighth is one; in 2/2 and 3/2 the half note is.
"""

from dataclasses import dataclass

from orexis.core.messages import tell
from orexis.errors import ExerciseError

MOST_BEATS = 16  # longer bars are two bars to a reader
# Length of a beat in quarters -> (notes of the signature's lower exercise to a beat, that exercise).
_SIGNATURES: dict[float, tuple[int, int]] = {
    4.0: (1, 1), 2.0: (1, 2), 1.0: (1, 4), 0.5: (1, 8), 0.25: (1, 16), 3.0: (3, 4), 1.5: (3, 8), 0.75: (3, 16),
}  # fmt: skip
BEAT_LENGTHS = tuple(_SIGNATURES)


@dataclass(frozen=True, slots=True)
class Meter:
    """Beats in a bar; `beat_quarters`: the length of a beat in quarter notes."""

    beats_per_bar: int = 4
    beat_quarters: float = 1.0

    @property
    def signature(self) -> tuple[int, int]:
        """As it is written: (6, 8) for two dotted quarters."""
        parts, exercise = _SIGNATURES[self.beat_quarters]
        return parts * self.beats_per_bar, exercise

    @property
    def compound(self) -> bool:
        """Whether a beat falls into three."""
        return _SIGNATURES[self.beat_quarters][0] == 3


FOUR_FOUR = Meter()


def meter_of(numerator: int, denominator: int) -> Meter:
    """The meter of a time signature; ExerciseError for one that is not read."""
    if denominator not in (1, 2, 4, 8, 16) or not 1 <= numerator <= 3 * MOST_BEATS:
        raise ExerciseError(
            tell(
                "A bar of {numerator}/{denominator} is not read: write it in another meter.",
                numerator=numerator,
                denominator=denominator,
            )
        )
    length = 4.0 / denominator
    if denominator >= 4 and numerator > 3 and numerator % 3 == 0:
        return Meter(numerator // 3, 3.0 * length)
    if numerator > MOST_BEATS:
        raise ExerciseError(
            tell(
                "A bar of {numerator}/{denominator} has more than {most_beats} beats: shorten the bars.",
                numerator=numerator,
                denominator=denominator,
                most_beats=MOST_BEATS,
            )
        )
    return Meter(numerator, length)
