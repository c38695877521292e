"""On the mouthpiece: measured from the player's own first buzz; what lies off as a whole is told apart, by standard."""

import pytest

from tests.conftest import exercise_of, heard

EXERCISE_TYPES = ("buzz-answer", "buzz-intervals", "buzz-a-tune")


@pytest.mark.parametrize("exercise_type", EXERCISE_TYPES)
def test_a_steady_buzz_that_lies_low_is_held_by_those_who_start(exercise_type: str) -> None:
    for off in (-40, -90, -300):
        result = heard(exercise_of("trumpet-bb", exercise_type), f"centre={off}c", standard="beginner")[0]
        assert result.verdict is not None
        assert result.verdict.outcome == "clean", off
        assert result.measures.exercise.buzz_off_cents == pytest.approx(off, abs=4.0)
        assert all(abs(note.judged_error_cents or 0.0) < 6.0 for note in result.measures.notes)


@pytest.mark.parametrize("exercise_type", EXERCISE_TYPES)
def test_later_it_has_to_lie_near_what_is_written(exercise_type: str) -> None:
    near = heard(exercise_of("trumpet-bb", exercise_type), "centre=-40c")[0].verdict
    far = heard(exercise_of("trumpet-bb", exercise_type), "centre=-120c")[0].verdict
    assert near is not None
    assert far is not None
    assert near.outcome == "clean"
    assert (far.reason, far.note) == ("buzz-off", "n1")


def test_the_same_again_is_asked_of_everybody() -> None:
    exercise = exercise_of("trumpet-bb", "buzz-answer")
    for standard in ("beginner", "developing"):
        said = heard(exercise, "centre=-60c@n3", standard=standard)[0].verdict
        assert said is not None
        assert (said.reason, said.note) == ("pitch", "n3")
    another = heard(exercise, "centre=-300c@n3")[0].verdict
    assert another is not None
    assert (another.reason, another.note) == ("wrong-note", "n3")  # no slot answers on a mouthpiece


def test_on_the_instrument_nothing_is_moved() -> None:
    result = heard(exercise_of("trumpet-bb", "long-low-tones"), "centre=-40c")[0]
    assert result.measures.exercise.buzz_off_cents is None
    assert result.verdict is not None
    assert result.verdict.reason == "pitch"
