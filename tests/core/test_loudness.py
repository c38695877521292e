"""Loudness is judged wherever it is written: flat playing is not held, playing as asked is. Truth: the simulated player."""

import pytest

from orexis.core.coach import Outcome, Verdict, limits_of
from orexis.core.coach.judging.basics import judged_measures_of
from orexis.core.exercises import EXERCISE_TYPES, Exercise
from orexis.core.instruments import instrument_named
from orexis.core.listen import JudgingTerms, ListeningTask, listen
from orexis.core.player import parse_flaws, play
from tests.conftest import some

INSTRUMENTS = ("trombone-tenor",)  # it has all that the others have, and glides
# Exercises that ask for loudness: exercise type, parameters, which of the series.
ASKED = (
    ("step-ladder", {"forms": "plain, soft, loud, short, swelling, fading"}, 0),
    ("glide-ladder", {}, 1),
    ("two-partial-slur", {"loudness": "grow"}, 0),
    ("two-partial-slur", {"loudness": "ease", "rhythm": "eighths"}, 0),
    ("partial-chain", {"loudness": "ease"}, 0),
    ("partial-chain", {"loudness": "grow", "count": "5", "partial": "2"}, 0),
    ("wide-slur", {"loudness": "ease"}, 0),
    ("add-one-arpeggio", {"loudness": "grow"}, 1),
    ("chain-octave-down", {"loudness": "ease"}, 0),
    ("one-octave-scale", {"loudness": "grow"}, 0),
    ("one-octave-scale", {"loudness": "ease"}, 0),
    ("triad-with-reset", {}, 0),
    ("to-the-pedal", {}, 0),
    ("pedal-sets", {"notes": "8"}, 0),
    ("shaped-tones", {}, 2),
)


def exercises(instrument: str) -> list[Exercise]:
    made = []
    for exercise_type, params, index in ASKED:
        if EXERCISE_TYPES[exercise_type].suits(instrument_named(instrument)):
            made.append(EXERCISE_TYPES[exercise_type].series(instrument_named(instrument), params).exercises[index])
    return made


def verdict(exercise: Exercise, *flaws: str, standard: str = "developing", seed: int = 2) -> Verdict:
    sound, _ = play(exercise, flaws=parse_flaws(flaws), seed=seed)
    heard = listen(
        sound,
        ListeningTask(instrument_named(exercise.instrument), exercise, first_beat_s=0.0),
        JudgingTerms(limits_of(standard)),
    )
    assert heard.verdict is not None
    return heard.verdict


@pytest.mark.parametrize(
    ("instrument", "third"), some([(instrument, third) for third in range(3) for instrument in INSTRUMENTS], 1)
)
def test_flat_playing_is_not_held_and_playing_as_asked_is(instrument: str, third: int) -> None:
    for exercise in exercises(instrument)[third::3]:
        flat, asked = verdict(exercise, "flat=1"), verdict(exercise)
        reasons = {finding.reason for finding in flat.findings}
        assert flat.outcome != Outcome.CLEAN, exercise.id
        assert reasons & {"dynamics", "shape", "loudness", "rise"}, (exercise.id, reasons)
        assert asked.outcome == Outcome.CLEAN, (exercise.id, asked.reason, asked.note, asked.value)


def test_the_other_way_round_is_told_with_how_far_it_fell_short() -> None:
    exercise = (
        EXERCISE_TYPES["two-partial-slur"].series(instrument_named("trumpet-bb"), {"loudness": "grow"}).exercises[0]
    )
    high, low = exercise.notes[0].id, exercise.notes[1].id
    told = verdict(exercise, f"level=-24db@{high}", f"level=-20db@{low}", f"level=-24db@{exercise.notes[2].id}")
    found = next(finding for finding in told.findings if finding.reason == "dynamics")
    assert found.value == pytest.approx(-4.0, abs=1.5)
    assert found.limit == 2.0


def test_a_beginner_is_asked_for_the_direction_alone() -> None:
    exercise = (
        EXERCISE_TYPES["partial-chain"].series(instrument_named("trombone-tenor"), {"loudness": "grow"}).exercises[0]
    )
    top = max(exercise.notes, key=lambda note: note.pitch.midi).id
    flaws = [f"level={-22 if note.id == top else -23}db@{note.id}" for note in exercise.notes]
    reasons = [
        {f.reason for f in verdict(exercise, *flaws, standard=standard).findings}
        for standard in ("beginner", "developing")
    ]
    assert "dynamics" not in reasons[0]
    assert "dynamics" in reasons[1]


def test_every_exercise_that_writes_a_dynamic_judges_it() -> None:
    for exercise_type in EXERCISE_TYPES.values():
        instrument = instrument_named("trombone-tenor")
        for exercise in exercise_type.series(instrument, {}).exercises:
            marks = {note.dynamic for note in exercise.notes if note.dynamic} | {exercise.dynamic}
            if exercise.judged and len(marks) > 1 and not {"endurance", "siren"} & set(exercise.judged):
                assert {"dynamics", "loudness_by_height", "rise"} & set(judged_measures_of(exercise)), exercise.id
