"""A tune from a file on the instrument in hand: which part, at which octave, how much higher, whole or phrase by phrase."""

from collections.abc import Mapping, Sequence
from dataclasses import replace

from orexis.core.exercises.build import series_of
from orexis.core.exercises.checks import checked_exercise
from orexis.core.exercises.exercise import (
    DYNAMICS,
    MAX_BEATS,
    MAX_NOTES,
    MAX_TEXT,
    Exercise,
    Series,
)
from orexis.core.exercises.fingering_choice import fingering_params, taken
from orexis.core.exercises.melody import Melody, TunePart, melody_exercise, octaves_into_range
from orexis.core.exercises.meter import BEAT_LENGTHS, MOST_BEATS
from orexis.core.exercises.params import Param, Values, choice, count, tempo
from orexis.core.exercises.phrasing import is_long, phrases_of
from orexis.core.exercises.tunes import TUNE
from orexis.core.instruments import Instrument
from orexis.core.messages import counted, tell
from orexis.core.theory import pitch_of_midi
from orexis.errors import ExerciseError

OCTAVES = {0: "where it fits best", -1: "an octave down", -2: "two octaves down", 1: "an octave up"}
AS_WRITTEN = "as written"
_SHIFTS = {words: octaves for octaves, words in OCTAVES.items()}
MOST_PARTS = 40  # a full band score
PHRASES, WHOLE = "phrases, then whole", "whole"


def score_params(instrument: Instrument, parts: Sequence[TunePart]) -> tuple[Param, ...]:
    """What may be chosen of a tune from a file."""
    bpm = round(parts[0].melody.tempo_bpm)
    long = any(is_long(part.melody) for part in parts)
    return (
        *((choice("part", "Part", *(part.name for part in parts)),) if len(parts) > 1 else ()),
        choice("octave", "Played", *OCTAVES.values(), AS_WRITTEN),
        count("semitones", "Semitones higher", 0, -24, 24),
        *((choice("cut", "On the stand", PHRASES, WHOLE),) if long else ()),
        tempo(min(300, max(20, bpm)), 20, 300),
        *fingering_params(instrument),
    )


def score_series(instrument: Instrument, parts: Sequence[TunePart], given: Mapping[str, str]) -> Series:
    """The tune as exercises; ExerciseError where it does not fit the instrument."""
    values = Values(instrument, score_params(instrument, parts), given)
    read = _chosen(parts, values).melody.moved(values.integer("semitones"))
    shift = _octaves(read, instrument, values)
    melody = read.moved(12 * shift)
    top = pitch_of_midi(melody.range_midi[1])
    if top.midi > instrument.highest.midi:
        raise ExerciseError(
            tell(
                "So it would go up to {top} (concert): the {instrument} goes to {highest}. Choose it lower.",
                top=top.name,
                instrument=instrument.name,
                highest=instrument.highest.name,
            )
        )
    cut = is_long(melody) and values.choice("cut") == PHRASES
    pieces = [*phrases_of(melody), melody] if cut else [melody]
    exercises = []
    for number, piece in enumerate(pieces, start=1):
        phrase = cut and piece is not melody
        try:
            exercises.append(_exercise(piece, instrument, values, number if phrase else None))
        except ExerciseError:
            if phrase or not exercises:
                raise
            # The whole of a very long tune is no exercise: its phrases are.
    return taken(series_of(TUNE, instrument, exercises), instrument, values)


def score_says(instrument: Instrument, parts: Sequence[TunePart], given: Mapping[str, str]) -> tuple[str, ...]:
    """What became of the tune on the way from the file to the instrument, a sentence each."""
    values = Values(instrument, score_params(instrument, parts), given)
    part = _chosen(parts, values)
    shift = _octaves(part.melody.moved(values.integer("semitones")), instrument, values)
    octaves = counted(abs(shift), "an octave", "{count} octaves")
    moved = (
        (tell("It’s placed {octaves} higher than written.", octaves=octaves),)
        if shift > 0
        else (tell("It’s placed {octaves} lower than written.", octaves=octaves),)
        if shift
        else ()
    )
    return (*moved, *part.says)


def _chosen(parts: Sequence[TunePart], values: Values) -> TunePart:
    name = values.choice("part") if len(parts) > 1 else parts[0].name
    return next(part for part in parts if part.name == name)


def _octaves(read: Melody, instrument: Instrument, values: Values) -> int:
    chosen = values.choice("octave")
    return 0 if chosen == AS_WRITTEN else octaves_into_range(read, instrument) + _SHIFTS[chosen]


def _exercise(piece: Melody, instrument: Instrument, values: Values, phrase: int | None) -> Exercise:
    """The tune or a phrase of it, engraved where it can do no harm."""
    key = piece.title.lower().replace(" ", "-")[:40]
    named = key if phrase is None else f"{key}-{phrase}"
    made = melody_exercise(piece, TUNE, instrument, name=named, tempo=values.integer("tempo"))
    title = made.title if phrase is None else tell("{made}, phrase {phrase}", made=made.title, phrase=phrase)
    return checked_exercise(replace(made, title=title, from_file=True))


def checked_score(parts: Sequence[TunePart]) -> tuple[TunePart, ...]:
    """The parts themselves; ExerciseError for what is no tune, so that it can be taken from outside."""
    if not 1 <= len(parts) <= MOST_PARTS or len({part.name for part in parts}) < len(parts):
        raise ExerciseError(
            tell(
                "The tune has {count} parts: 1 to {most_parts}, each with a name of its own.",
                count=len(parts),
                most_parts=MOST_PARTS,
            )
        )
    for part in parts:
        _check_melody(part.melody)
        if len(part.name) > MAX_TEXT:
            raise ExerciseError(tell("A part's name has more than {max_text} letters: shorten it.", max_text=MAX_TEXT))
    return tuple(parts)


def _check_melody(melody: Melody) -> None:
    if not 1 <= len(melody.notes) <= MAX_NOTES or len(melody.title) > MAX_TEXT:
        raise ExerciseError(
            tell(
                "The tune has {count} notes: 1 to {max_notes}, and a short title.",
                count=len(melody.notes),
                max_notes=MAX_NOTES,
            )
        )
    if melody.meter.beat_quarters not in BEAT_LENGTHS or not 1 <= melody.meter.beats_per_bar <= MOST_BEATS:
        raise ExerciseError("The tune's meter is not read here.")
    if not 0.0 <= melody.pickup < melody.meter.beats_per_bar or not -7 <= melody.key <= 7:
        raise ExerciseError("The tune's pick-up or key cannot be.")
    if not all(note.dynamic in (None, *DYNAMICS) for note in melody.notes):
        raise ExerciseError(tell("The tune has a dynamic that is none of {dynamics}.", dynamics=", ".join(DYNAMICS)))
    if not all(0 <= note.midi <= 127 for note in melody.notes):
        raise ExerciseError("The tune has a note that is no pitch.")
    beat = 0.0
    for note in melody.notes:
        if not (beat - 1e-6 <= note.start_beat <= MAX_BEATS and 0.0 < note.beats <= MAX_BEATS):
            raise ExerciseError("Two notes of the tune overlap, or one has no length.")
        beat = note.start_beat + note.beats
