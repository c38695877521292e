"""An exercise of one's own, played in once: its notes as a line of text."""

from orexis.core.free_practice import line_of_notes
from orexis.core.measures import played_notes
from orexis.core.notes import segment_notes
from orexis.core.sound import Sound
from orexis.core.theory import Transposition
from orexis.core.trace import track
from orexis.errors import SoundError

MOST_SECONDS = 60  # a line is a minute long at most; longer tunes are phrases


def line_of_sound(sound: Sound, transposition: Transposition, tempo_bpm: float, a4: float) -> str:
    """The notes that were played, as written in the part; SoundError where nothing was heard."""
    trace = track(sound)
    notes, _ = played_notes(trace, segment_notes(trace))
    line = line_of_notes(notes, transposition, tempo_bpm=tempo_bpm, a4=a4)
    if not line:
        raise SoundError("No notes were heard. Play a little louder, or nearer to the microphone.")
    return line
