"""From sounding to written pitch and back.

A part's transposition is an interval added to concert pitch: `semitones` and the matching number of diatonic
`steps`, so that spelling follows the interval (Bb3 a major second up is C4, never B#3).
"""

from dataclasses import dataclass

from orexis.core.messages import tell
from orexis.core.theory.pitch import STEPS, Pitch, pitch_of_midi
from orexis.errors import PitchError

# semitones within the octave -> diatonic steps: the interval a transposing part is written by.
_STEPS_OF = {0: 0, 2: 1, 3: 2, 5: 3, 7: 4, 9: 5, 10: 6}


@dataclass(frozen=True, slots=True)
class Transposition:
    """Semitones added to concert pitch to get the written pitch (a B flat trumpet part: +2)."""

    semitones: int

    @property
    def steps(self) -> int:
        """Return the interval's diatonic steps, for spelling."""
        octaves, rest = divmod(self.semitones, 12)
        return 7 * octaves + _STEPS_OF[rest]

    def written(self, concert: Pitch) -> Pitch:
        """The pitch in the player's part."""
        return _moved(concert, self.semitones, self.steps)

    def concert(self, written: Pitch) -> Pitch:
        """Return the sounding pitch of a written one."""
        return _moved(written, -self.semitones, -self.steps)


def _moved(pitch: Pitch, semitones: int, steps: int) -> Pitch:
    octave, index = divmod(pitch.staff_place + steps, 7)
    natural = Pitch(STEPS[index], 0, octave)
    alter = pitch.midi + semitones - natural.midi
    if abs(alter) > 1:
        # A player never meets E## in an exercise; the plain name of the key is kinder than the strict one.
        return pitch_of_midi(pitch.midi + semitones)
    try:
        return Pitch(STEPS[index], alter, octave)
    except PitchError as error:
        raise PitchError(
            tell("{pitch} cannot be written in this part: {error}", pitch=pitch.name, error=error)
        ) from error
