"""The levels of long tones, of tones that change their loudness, and of what centres them."""

from collections.abc import Iterable

from orexis.core.exercises.build import middle_note
from orexis.core.exercises.levels import PathStep, higher_by, level, ordinal
from orexis.core.instruments import Instrument
from orexis.core.messages import tell
from orexis.core.theory import pitch_of_midi


def long_low_tone_levels(instrument: Instrument) -> Iterable[PathStep]:
    """Yield the levels of long tones: longer, then softer, then further down."""
    room = min(12, instrument.easy.midi - instrument.lowest.midi)
    yield level("four beats, two notes down", beats=4, steps=min(2, room))
    yield level("six beats, two notes down", beats=6, steps=min(2, room))
    for beats, asked in ((8, 6), (12, 9), (16, 12), (21, 16), (27, 20)):
        yield level(tell("{beats} beats: {asked} seconds", beats=beats, asked=asked), beats=beats, steps=min(3, room))
    for dynamic in ("p", "pp"):
        yield level(tell("16 beats, {dynamic}", dynamic=dynamic), beats=16, steps=min(3, room), dynamic=dynamic)
    for down in range(5, room + 1, 2):
        yield level(tell("16 beats, down to the {ordinal} semitone", ordinal=ordinal(down)), beats=16, steps=down)


def shaped_tone_levels(instrument: Instrument) -> Iterable[PathStep]:
    """Yield the levels of dynamics on a long tone: longer ones."""
    for beats in (6, 8, 10, 12, 16):
        yield level(tell("{beats} beats each", beats=beats), beats=beats)


def middle_levels(instrument: Instrument) -> Iterable[PathStep]:
    """Yield the levels of centring a note: higher notes, in half the time."""
    start = middle_note(instrument).midi - 5
    for higher in (0, 2, 4, 5, 7):
        for beats, say in ((4, "four beats a part"), (2, "two beats a part")):
            yield level(f"{higher_by(higher)}, {say}", start=pitch_of_midi(start + higher).name, beats=beats)


def drone_levels(instrument: Instrument) -> Iterable[PathStep]:
    """Yield the levels of tuning to a drone: from the unison to thirds."""
    for intervals in ("unison", "fifth", "unison, fifth, third", "fourth", "major third", "minor third"):
        yield level(intervals, intervals=intervals)


def two_fingerings_levels(instrument: Instrument) -> Iterable[PathStep]:
    """Yield the levels of one note by two fingerings: more turns, without help of slide or hand."""
    start = middle_note(instrument).midi
    for turns, place in ((2, "may mend it"), (3, "may mend it"), (2, "stays home"), (3, "stays home")):
        yield level(
            tell("{turns} turns, the slide or hand {place}", turns=turns, place=place),
            start=pitch_of_midi(start).name,
            turns=turns,
            place=place,
        )
