"""Playing with sound: a drone, chords or a second part under a line, and the line tuned to what sounds.

Chords are chosen a bar at a time: the ones that hold most of the melody's beats, in an order that leads home. Their roots stand
where just intonation puts them over the key note, and their notes pure over the roots; a dominant seventh is the natural one. A
melody note that belongs to the chord is asked for at the chord's pitch, any other at its own place over the key note.

The second part is set note against note below the melody: thirds and sixths first, perfect intervals seldom and never two alike
in a row, small steps, the key note at the end.
"""

from collections.abc import Callable, Sequence
from dataclasses import dataclass, replace
from typing import TypeVar

from orexis.core.exercises.exercise import Accompaniment, AccompanyingNote, Exercise, ExerciseNote
from orexis.core.exercises.kinds import Accompanied
from orexis.core.instruments import Instrument
from orexis.core.messages import tell
from orexis.core.theory import NATURAL_SEVENTH, Key, Pitch, just_cents, pitch_of_midi
from orexis.errors import ExerciseError

_LOWEST = 46  # B flat 2: what small loudspeakers still give
_DEGREES = (0, 2, 4, 5, 7, 9, 11)


_T = TypeVar("_T")


@dataclass(frozen=True, slots=True)
class _Chord:
    name: str
    root: int  # semitones over the key note
    intervals: tuple[int, ...]  # over the root

    def interval_of(self, degree: int) -> int | None:
        """Semitones over the root, where a degree (semitones over the key note) belongs to the chord."""
        above = (degree - self.root) % 12
        return above if above in self.intervals else None

    def cents_of(self, degree: int) -> float | None:
        """Where the chord has a degree, against equal temperament."""
        above = self.interval_of(degree)
        if above is None:
            return None
        natural = above == 10 and 4 in self.intervals
        return just_cents(self.root) + (NATURAL_SEVENTH if natural else just_cents(above))


_TONIC, _DOMINANT = _Chord("I", 0, (0, 4, 7)), _Chord("V7", 7, (0, 4, 7, 10))
_CHORDS = (_TONIC, _Chord("ii", 2, (0, 3, 7)), _Chord("IV", 5, (0, 4, 7)), _DOMINANT, _Chord("vi", 9, (0, 3, 7)))
# What it costs, in beats of melody outside of the chord, to go from one to another; any other way costs half a beat.
_LEADS = {
    ("V7", "I"): 0.0, ("IV", "V7"): 0.0, ("ii", "V7"): 0.0, ("I", "IV"): 0.1, ("I", "V7"): 0.1, ("vi", "ii"): 0.1,
    ("vi", "IV"): 0.1, ("IV", "I"): 0.2, ("V7", "vi"): 0.4, ("V7", "IV"): 2.0, ("V7", "ii"): 2.0,
}  # fmt: skip


def accompanied(exercise: Exercise, kind: Accompanied, tonic: Pitch, instrument: Instrument) -> Exercise:
    """The exercise with what sounds to it, its notes asked for in tune with that; itself where nothing is to sound.

    ExerciseError for lines under which no second part fits.
    """
    if kind == Accompanied.NOTHING:
        return exercise
    bars = _bars(exercise)
    chords = [_TONIC] * len(bars) if kind == Accompanied.DRONE else _harmony(exercise, bars, tonic)
    notes = tuple(_tuned(note, chords[_bar_of(exercise, note)], tonic) for note in exercise.notes)
    match kind:
        case Accompanied.DRONE:
            sounds = _drone(exercise, tonic)
        case Accompanied.CHORDS:
            sounds = _voiced(exercise, chords, tonic)
            notes = _named(exercise, notes, chords)
        case _:
            sounds = (*_key_note(exercise, tonic), *_second_part(exercise, chords, tonic, instrument))
    return replace(
        exercise,
        id=f"{exercise.id}-{kind.replace(' ', '-')}",
        notes=notes,
        accompaniment=Accompaniment(kind, sounds),
    )


def shortened_to(made: Accompaniment | None, end: float, share: float = 1.0) -> Accompaniment | None:
    """What sounds to a line that ends there, in beats, or of which all lengths are so much shorter."""
    if made is None:
        return None
    kept = [note for note in made.notes if share * note.start_beat < end - 1e-6]
    cut = [
        replace(note, start_beat=share * note.start_beat, beats=min(share * note.beats, end - share * note.start_beat))
        for note in kept
    ]
    return replace(made, notes=tuple(cut))


# -- harmony -----------------------------------------------------------------------------------------------------


def _bars(exercise: Exercise) -> list[float]:
    """Beat on which each bar begins; a pick-up stands in a bar of its own."""
    first = exercise.pickup - exercise.beats_per_bar if exercise.pickup else 0.0
    out = [first]
    while out[-1] + exercise.beats_per_bar < exercise.beats - 1e-6:
        out.append(out[-1] + exercise.beats_per_bar)
    return out


def _bar_of(exercise: Exercise, note: ExerciseNote) -> int:
    return int((note.start_beat - _bars(exercise)[0] + 1e-6) // exercise.beats_per_bar)


def _harmony(exercise: Exercise, bars: list[float], tonic: Pitch) -> list[_Chord]:
    """A chord for each bar: the way through them that costs least, ending at home."""
    weights = [dict.fromkeys(range(12), 0.0) for _ in bars]
    for note in exercise.notes:
        bar = _bar_of(exercise, note)
        strong = 1.5 if abs(note.start_beat - bars[bar]) < 1e-6 else 1.0
        weights[bar][(note.pitch.midi - tonic.midi) % 12] += strong * note.beats

    def outside(bar: int, chord: _Chord) -> float:
        last = 0.0 if bar < len(bars) - 1 or chord == _TONIC else 100.0
        return last + sum(beats for degree, beats in weights[bar].items() if chord.interval_of(degree) is None)

    def goes(before: _Chord, after: _Chord) -> float:
        return 0.3 if before == after else _LEADS.get((before.name, after.name), 0.5)

    return _cheapest(len(bars), lambda _bar: _CHORDS, outside, goes)


def _cheapest(
    count: int,
    choices: Callable[[int], Sequence[_T]],
    cost: Callable[[int, _T], float],
    between: Callable[[_T, _T], float],
) -> list[_T]:
    """One choice for each place, so that the costs of places and of the ways between them come to the least."""
    best: list[tuple[float, list[_T]]] = [(cost(0, item), [item]) for item in choices(0)]
    for place in range(1, count):
        best = [
            min(
                ((total + between(way[-1], item) + cost(place, item), [*way, item]) for total, way in best),
                key=lambda pair: pair[0],
            )
            for item in choices(place)
        ]
    return min(best, key=lambda pair: pair[0])[1]


def _cents(degree: int, chord: _Chord) -> float:
    """Where a degree belongs: in the chord if it is of it, else over the key note."""
    found = chord.cents_of(degree)
    return round(just_cents(degree % 12) if found is None else found, 3) + 0.0  # no minus zero


def _tuned(note: ExerciseNote, chord: _Chord, tonic: Pitch) -> ExerciseNote:
    return replace(note, target_cents=_cents((note.pitch.midi - tonic.midi) % 12, chord))


def _named(exercise: Exercise, notes: tuple[ExerciseNote, ...], chords: list[_Chord]) -> tuple[ExerciseNote, ...]:
    """The chord's degree stands above the first note of each bar that changes it."""
    out, said = [], ""
    for note in notes:
        name = chords[_bar_of(exercise, note)].name
        out.append(replace(note, text=name) if name != said else note)
        said = name
    return tuple(out)


# -- what sounds ---------------------------------------------------------------------------------------------------


def _drone(exercise: Exercise, tonic: Pitch) -> tuple[AccompanyingNote, ...]:
    """The key note and its fifth, from the count-in to the end."""
    root = _from(_LOWEST, tonic.midi)
    lead = exercise.count_in_beats
    return tuple(
        AccompanyingNote(pitch_of_midi(root + up), -lead, lead + exercise.beats, round(just_cents(up), 3))
        for up in (0, 7)
    )


def _key_note(exercise: Exercise, tonic: Pitch) -> tuple[AccompanyingNote, ...]:
    """The key note while it is counted in."""
    lead = exercise.count_in_beats
    return (AccompanyingNote(pitch_of_midi(_from(_LOWEST, tonic.midi)), -lead, lead),)


def _voiced(exercise: Exercise, chords: list[_Chord], tonic: Pitch) -> tuple[AccompanyingNote, ...]:
    """Root, third, fifth and seventh above one another; the first chord sounds from the count-in on."""
    out: list[AccompanyingNote] = []
    for chord, start in zip(chords, _bars(exercise), strict=True):
        begin = -exercise.count_in_beats if start <= 0.0 and not out else start
        end = min(start + exercise.beats_per_bar, exercise.beats)
        root = _from(_LOWEST, tonic.midi + chord.root)
        for above in chord.intervals:
            degree = (chord.root + above) % 12
            out.append(AccompanyingNote(pitch_of_midi(root + above), begin, end - begin, _cents(degree, chord)))
    return tuple(out)


def _from(lowest: int, midi: int) -> int:
    """The note of that name in the octave from the lowest on."""
    return lowest + (midi - lowest) % 12


# -- a second part -------------------------------------------------------------------------------------------------

_PERFECT = (0, 7)
# Cost of an interval below the melody, octaves left out.
_INTERVALS = {3: 0.0, 4: 0.0, 8: 0.0, 9: 0.0, 7: 1.5, 0: 2.5, 5: 4.0}
_CLASH, _ALIKE, _FURTHEST = 8.0, 20.0, 16


def _second_part(
    exercise: Exercise, chords: list[_Chord], tonic: Pitch, instrument: Instrument
) -> tuple[AccompanyingNote, ...]:
    melody = exercise.notes
    choices = [_below(note, tonic, instrument, last=note is melody[-1]) for note in melody]
    if not all(choices):
        raise ExerciseError(
            tell("No second part fits under this line on the {instrument}: move it higher.", instrument=instrument.name)
        )

    def fits(place: int, option: tuple[int, int]) -> float:
        over, under = option
        chord = chords[_bar_of(exercise, melody[place])]
        strange = chord.interval_of((under - tonic.midi) % 12) is None
        if place == len(melody) - 1:  # home
            return {0: 0.0, 4: 5.0}.get((under - tonic.midi) % 12, 50.0)
        away = _INTERVALS.get((over - under) % 12, _CLASH)
        return away + strange * melody[place].beats + 0.1 * max(0, over - under - 9)

    def moves(before: tuple[int, int], after: tuple[int, int]) -> float:
        step = abs(after[1] - before[1])
        alike = (before[0] - before[1]) % 12 in _PERFECT and (before[0] - before[1] - after[0] + after[1]) % 12 == 0
        together = (after[1] > before[1]) == (after[0] > before[0])
        return (_ALIKE if alike and step else 0.0) + (0.4 if not step else 0.3 * max(0, step - 2) + 0.3 * together)

    line = _cheapest(len(melody), lambda place: choices[place], fits, moves)
    key = Key(exercise.key) if exercise.key is not None else None
    return tuple(
        AccompanyingNote(
            key.spelled(under) if key else pitch_of_midi(under),
            note.start_beat,
            note.beats,
            _cents((under - tonic.midi) % 12, chords[_bar_of(exercise, note)]),
        )
        for note, (_, under) in zip(melody, line, strict=True)
    )


def _below(note: ExerciseNote, tonic: Pitch, instrument: Instrument, *, last: bool) -> list[tuple[int, int]]:
    """Pairs of the melody note and a note of the scale under it, on the instrument."""
    over = note.pitch.midi
    nearest = 0 if last else 3
    return [
        (over, under)
        for under in range(max(instrument.lowest.midi, over - _FURTHEST), over - nearest + 1)
        if (under - tonic.midi) % 12 in _DEGREES
    ]
