"""Twelve short tunes made for Orexis, of rising range, and the exercise types that play them.

Written by degree of a major scale: `5,` a fifth under the tonic's octave, `1'` an octave over it, `#4` raised, `b7` lowered;
after the colon the beats (one where none are given); `~` slurs to the note before; `-` is a rest; `;` ends a phrase.
"""

import re
from collections.abc import Iterable

from orexis.core.exercises.accompaniment import accompanied
from orexis.core.exercises.build import series_of
from orexis.core.exercises.exercise import Series
from orexis.core.exercises.exercise_type import ExerciseType
from orexis.core.exercises.kinds import Accompanied, DayPlace, Load, Medium
from orexis.core.exercises.levels import PathStep, level
from orexis.core.exercises.melody import Melody, MelodyNote, melody_exercise
from orexis.core.exercises.meter import Meter
from orexis.core.exercises.params import Param, Values, choice, count, note, tempo
from orexis.core.instruments import Instrument
from orexis.core.messages import tell
from orexis.core.standards import Standard
from orexis.core.theory import Pitch, key_of, pitch_of_midi

# title: (beats in a bar, notes)
_BOOK: dict[str, tuple[int, str]] = {
    # a fifth
    "Lamp in the Hall": (4, "1 1 2 3 2:2 ~1:2 3 4 5 3 2:4 ; 1 1 2 3 4:2 ~3:2 2 3 ~2:2 1:4"),
    # a sixth
    "Ferry at Low Water": (3, "1:2 2 3:2 ~5 4 ~3 2 3:3 ; 5:2 6 5:2 ~3 2 3 ~2 1:3"),
    # a seventh, with the leading note below
    "Hedge Road": (4, "1:1.5 ~2:0.5 3 1 2:1.5 ~1:0.5 7,:2 1 2 3 5 4 ~3 2:2 ; 6:1.5 ~5:0.5 4 3 4 ~3 2 7, 1:2 2:2 1:4"),
    # an octave
    "Rain on the Tin Roof": (4, "5 ~3 5 ~3 6 ~5 3:2 4 ~2 4 ~2 5 ~4 2:2 ; 5 ~3 1' ~7 6 ~5 3:2 4 3 2 ~5 1:4"),
    # an octave, from the fifth below
    "Mill Pond Waltz": (3, "5,:1 1:1 ~2 3:2 ~2 1 ~3 5 4:3 ; 4:1 ~3 2 5:2 ~3 2 ~7, 2 1:3"),
    # a ninth
    "Two Bridges": (4, "1 ~3 5 1' 2':2 ~1':2 6 ~1' 6 4 5:4 ; 3 ~5 1' 6 5 ~3 4 2 1:2 ~2:2 1:4"),
    # a tenth
    "The Long Field": (4, "1:2 ~3:2 5:3 ~4 3 2 3 5 6:4 ; 5:2 ~3:2 3':2 ~1':2 6 ~5 3 2 1:4"),
    # an eleventh
    "Beacon Steps": (3, "1 3 ~5 1':2 ~7 6 ~1' 3' 4':2 ~2' ; 1' ~6 4 5:2 ~3 4 ~2 7, 1:3"),
    # a twelfth
    "Harvest Cart": (4, "5, 1 ~2 3 5 ~3 5 6 1':2 ~2':2 ~1' 6 5:2 ; 6 1' ~6 5 3 ~5 3 2 1 ~5, 7, ~2 1:4"),
    # a thirteenth
    "North Window": (4, "1:2 ~5:2 1':3 ~7 6 ~5 #4 6 5:4 ; 3':2 ~1':2 6':2 ~5':2 3' ~1' 5 7 1':4"),
    # an octave and a seventh
    "Skylark over Slate": (3, "1 ~5 1' 3':2 ~2' 1' ~5 3' 5':3 ; 6' ~5' 3' b7':2 ~6' 5' ~2' 7 1':3"),
    # two octaves and a fourth
    "Top of the Stair": (4, "1 ~2 3 5 1' ~2' 3' 5' 6':2 ~5':2 1'':4 ; 1'' ~6' 5' 3' 2' ~1' 6 5 3 ~1 5, 7, 1:4"),
}
_TOKEN = re.compile(r"(~?)([#b]?)([1-7])([,']*)(?::([\d.]+))?|-(?::([\d.]+))?|;")
_DEGREES = (0, 2, 4, 5, 7, 9, 11)
TUNES = tuple(_BOOK)
_OCTAVES = {"at pitch": 0, "an octave down": -1, "two octaves down": -2}


def tune(title: str, tonic: Pitch, *, octave: int = 0) -> Melody:
    """A tune of the book on a tonic (concert), moved by octaves."""
    beats_per_bar, text = _BOOK[title]
    notes: list[MelodyNote] = []
    beat, fresh = 0.0, True
    for token in text.split():
        match = _TOKEN.fullmatch(token)
        assert match is not None, token
        if token == ";":
            fresh = True
            continue
        if token.startswith("-"):
            beat += float(match.group(6) or 1.0)
            continue
        tie, sign, degree, octaves, beats = match.groups()[:5]
        height = octaves.count("'") - octaves.count(",") + octave
        midi = tonic.midi + _DEGREES[int(degree) - 1] + {"#": 1, "b": -1}.get(sign, 0) + 12 * height
        length = float(beats or 1.0)
        notes.append(MelodyNote(midi, beat, length, bool(tie), new_line=fresh))
        beat, fresh = beat + length, False
    return Melody(title, tuple(notes), Meter(beats_per_bar), key_of(tonic).fifths)


def in_range(title: str, instrument: Instrument, *, octave: int = 0) -> bool:
    """Whether a tune of the book, on the tonic that is offered first, lies within the instrument's range."""
    low, high = tune(title, _tonic(instrument), octave=octave).range_midi
    return instrument.lowest.midi <= low and high <= instrument.highest.midi


def _tonic(instrument: Instrument) -> Pitch:
    return pitch_of_midi(instrument.easy.midi + 5)


def _params(instrument: Instrument) -> tuple[Param, ...]:
    return (
        choice("tune", "Tune", *TUNES),
        note("tonic", "Key note", _tonic(instrument)),
        choice("octave", "Played", *_OCTAVES),
        count("semitones", "Semitones higher", 0, -12, 12),
        tempo(88),
    )


def _with_sound_params(instrument: Instrument) -> tuple[Param, ...]:
    return (*_params(instrument), choice("sounds", "Sounds with it", *Accompanied))


def _tune(exercise_type: ExerciseType, instrument: Instrument, values: Values) -> Series:
    tonic = pitch_of_midi(values.pitch("tonic").midi + values.integer("semitones"))
    title = values.choice("tune")
    melody = tune(title, tonic, octave=_OCTAVES[values.choice("octave")])
    name = f"{title.lower().replace(' ', '-')}-{pitch_of_midi(melody.range_midi[0]).name}"
    exercise = melody_exercise(
        melody, exercise_type, instrument, name=name, tempo=values.integer("tempo"), medium=exercise_type.medium
    )
    if values.has("sounds"):
        exercise = accompanied(exercise, Accompanied(values.choice("sounds")), tonic, instrument)
    return series_of(exercise_type, instrument, [exercise])


def _buzzed_tune_levels(instrument: Instrument) -> Iterable[PathStep]:
    for title in TUNES:
        if in_range(title, instrument):
            yield level(f"“{title}”", tune=title)


def _tune_levels(instrument: Instrument) -> Iterable[PathStep]:
    for title in TUNES:
        if in_range(title, instrument):
            yield level(tell("“{title}”, at pitch", title=title), tune=title)
    below = [title for title in TUNES[:4] if in_range(title, instrument, octave=-1)]
    for title in below:
        yield level(tell("“{title}”, an octave down", title=title), tune=title, octave="an octave down")


BUZZ_A_TUNE = ExerciseType(
    id="buzz-a-tune",
    name="Mouthpiece buzzing: tunes",
    place=DayPlace.BUZZ,
    purpose="A short tune on the mouthpiece alone, led by your ear.",
    asks="Sing the tune first. Then buzz it in tune.",
    listen_for="Clear intervals without the instrument's help.",
    mistake="Letting the pitch drift from note to note.",
    load=Load.EASY,
    serves=("intonation", "music"),
    judged=("attack", "pitch"),
    grows="wider tunes",
    params=_params,
    make=_tune,
    medium=Medium.MOUTHPIECE,
    levels=_buzzed_tune_levels,
    easy_levels=True,
    opens_at=Standard.BEGINNER,
)
TUNE = ExerciseType(
    id="tune",
    name="Tunes",
    place=DayPlace.MUSIC,
    purpose="Play music in the register you just worked on.",
    asks="Sing it through the instrument.",
    listen_for="A singing line in tune.",
    mistake="Forgetting the music over the notes.",
    load=Load.MEDIUM,
    serves=("music", "sound", "intonation"),
    judged=("pitch", "timing", "tone_match_across"),
    grows="its register",
    params=_with_sound_params,
    make=_tune,
    alternates=True,
    levels=_tune_levels,
    easy_levels=True,
    opens_at=Standard.BEGINNER,
)
