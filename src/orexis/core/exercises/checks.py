"""Whether an exercise is within bounds: what comes from a file or an earlier release may be anything."""

from itertools import accumulate

from orexis.core.exercises.exercise import (
    DYNAMICS,
    MAX_BEATS,
    MAX_NOTES,
    MAX_SECONDS,
    MAX_TEXT,
    SHAPES,
    TEMPO_RANGE,
    Exercise,
)
from orexis.core.exercises.kinds import Loudness, Medium
from orexis.core.exercises.meter import BEAT_LENGTHS, MOST_BEATS
from orexis.core.messages import tell
from orexis.errors import ExerciseError

_MOST_CENTS = 2400.0  # two octaves: more is another note
_MOST_TOGETHER = 8  # tones that sound with a line


def checked_exercise(exercise: Exercise) -> Exercise:
    """The exercise itself when it is within bounds; ExerciseError says what is not."""
    if not 1 <= len(exercise.notes) <= MAX_NOTES:
        raise ExerciseError(
            tell(
                "The exercise has {count} notes: it needs 1 to {max_notes}.",
                count=len(exercise.notes),
                max_notes=MAX_NOTES,
            )
        )
    low, high = TEMPO_RANGE
    if not low <= exercise.tempo_bpm <= high:
        raise ExerciseError(
            tell(
                "The tempo is {tempo_bpm:g} beats a minute: choose {low:g} to {high:g}.",
                tempo_bpm=exercise.tempo_bpm,
                low=low,
                high=high,
            )
        )
    if not 1 <= exercise.beats_per_bar <= MOST_BEATS:
        raise ExerciseError(
            tell(
                "The bar has {beats_per_bar} beats: choose 1 to {most_beats}.",
                beats_per_bar=exercise.beats_per_bar,
                most_beats=MOST_BEATS,
            )
        )
    if exercise.beat_quarters not in BEAT_LENGTHS:
        raise ExerciseError(
            tell(
                "A beat of {beat_quarters:g} quarters is not counted here: choose {beat_lengths}.",
                beat_quarters=exercise.beat_quarters,
                beat_lengths=BEAT_LENGTHS,
            )
        )
    if not 0.0 <= exercise.pickup < exercise.beats_per_bar:
        raise ExerciseError(tell("The pick-up has {pickup:g} beats: it is shorter than a bar.", pickup=exercise.pickup))
    _check_words(exercise)
    ids = [note.id for note in exercise.notes]
    if len(set(ids)) != len(ids):
        raise ExerciseError("Two notes of the exercise share one id: give each its own.")
    _check_order(exercise)
    check_numbers(exercise)
    _check_requests(exercise)
    return exercise


def check_numbers(exercise: Exercise) -> None:
    """ExerciseError for numbers that no exercise has: also of one that was played long ago, under other rules."""
    low, high = TEMPO_RANGE
    if not low / 4.0 <= exercise.tempo_bpm <= 4.0 * high or not 1 <= exercise.beats_per_bar <= 4 * MOST_BEATS:
        raise ExerciseError("The exercise has a tempo or a bar that cannot be.")
    if not 1 <= len(exercise.notes) <= 4 * MAX_NOTES:
        raise ExerciseError(tell("The exercise has {count} notes.", count=len(exercise.notes)))
    for note in exercise.notes:
        beats = (note.start_beat, note.beats, note.glide_beats)
        cents = (note.target_cents, note.instrument_cents)
        if any(not 0.0 <= value <= 4.0 * MAX_BEATS for value in beats) or any(
            abs(value) > _MOST_CENTS for value in cents
        ):
            raise ExerciseError(tell("Note {id} has a length or a pitch that cannot be.", id=note.id[:20]))
    _check_sounds(exercise)


def _check_sounds(exercise: Exercise) -> None:
    """What sounds with a line lies within it, and is no more than can be heard and taken out."""
    tones = exercise.accompaniment.notes if exercise.accompaniment else ()
    within = all(
        -exercise.count_in_beats - 1e-6 <= tone.start_beat <= 4.0 * MAX_BEATS
        and 0.0 < tone.beats <= 4.0 * MAX_BEATS
        and abs(tone.cents) <= _MOST_CENTS
        for tone in tones
    )
    edges = sorted(
        [(tone.start_beat, 1) for tone in tones] + [(tone.start_beat + tone.beats - 1e-6, -1) for tone in tones]
    )
    together = max(accumulate(change for _, change in edges), default=0)
    if not within or len(tones) > 4 * MAX_NOTES or together > _MOST_TOGETHER:
        raise ExerciseError(
            tell(
                "What sounds with the exercise can’t be: at most {count} tones, {together} at once, within its length.",
                count=4 * MAX_NOTES,
                together=_MOST_TOGETHER,
            )
        )


def _check_words(exercise: Exercise) -> None:
    """Words from a file must be among those there are."""
    asked: list[tuple[str, str | None, tuple[str, ...]]] = [
        ("medium", exercise.medium, tuple(Medium)),
        ("dynamic", exercise.dynamic, DYNAMICS),
        ("loudness", exercise.loudness, tuple(Loudness)),
        *(("shape", note.shape, SHAPES) for note in exercise.notes),
        *(("dynamic", note.dynamic, DYNAMICS) for note in exercise.notes),
    ]
    for name, value, allowed in asked:
        if value is not None and value not in allowed:
            raise ExerciseError(
                tell(
                    "The {name} is “{value}”: choose {allowed}.",
                    name=name,
                    value=value[:20],
                    allowed=", ".join(allowed),
                )
            )
    if exercise.key is not None and not -7 <= exercise.key <= 7:
        raise ExerciseError(tell("The key has {value} signs: at most 7.", value=abs(exercise.key)))
    texts = [exercise.hint or "", *(note.text or "" for note in exercise.notes), *(note.id for note in exercise.notes)]
    if any(len(text) > MAX_TEXT for text in texts):
        raise ExerciseError(tell("A note's text has more than {max_text} letters: shorten it.", max_text=MAX_TEXT))


def _check_order(exercise: Exercise) -> None:
    beat = 0.0
    for note in exercise.notes:
        if not (note.start_beat >= beat - 1e-6 and 0.0 < note.beats <= MAX_BEATS):
            raise ExerciseError(
                tell("Note {id} overlaps the note before it or has no length: check start_beat and beats.", id=note.id)
            )
        beat = note.start_beat + note.beats
    if beat > MAX_BEATS:
        raise ExerciseError(
            tell("The exercise lasts {beat:g} beats: at most {max_beats:g}.", beat=beat, max_beats=MAX_BEATS)
        )
    if exercise.duration_s > MAX_SECONDS:
        raise ExerciseError(
            tell(
                "The exercise lasts {duration_s:.0f} s: at most {max_seconds:.0f} s are played in one take. Take fewer or shorter notes, or a faster tempo.",
                duration_s=exercise.duration_s,
                max_seconds=MAX_SECONDS,
            )
        )


def _check_requests(exercise: Exercise) -> None:
    """What a pass asks for must be possible."""
    if exercise.hold_share is not None and not 0.0 < exercise.hold_share <= 1.0:
        raise ExerciseError(
            tell("The share to hold is {hold_share:g}: choose more than 0, at most 1.", hold_share=exercise.hold_share)
        )
    for need in exercise.needs:
        if need.least is None and need.share is None:
            raise ExerciseError(
                tell("What is needed of {measure} has neither least nor share: give one.", measure=need.measure[:20])
            )
