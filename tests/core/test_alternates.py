"""Notes that the instrument plays sharp or flat: said so, with the slide that mends it, and judged when it has been moved."""

import pytest

from orexis.core.coach import Verdict, limits_of
from orexis.core.exercises import Exercise, exercise_type_named
from orexis.core.instruments import instrument_named
from orexis.core.listen import JudgingTerms, ListeningTask, listen
from orexis.core.player import parse_flaws, play
from tests.conftest import exercise_of

TRUMPET = "trumpet-bb"


def verdict_on(exercise: Exercise, *flaws: str) -> Verdict:
    task = ListeningTask(instrument_named(exercise.instrument), exercise, first_beat_s=0.0)
    sound, _ = play(exercise, flaws=parse_flaws(flaws), seed=1)
    verdict = listen(sound, task, JudgingTerms(limits_of("developing"))).verdict
    assert verdict is not None
    return verdict


def long_tone(note: str, instrument: str = TRUMPET) -> Exercise:
    return exercise_of(instrument, "long-low-tones", start=note, steps="0")


@pytest.mark.parametrize(("note", "sharp", "slide"), [("C4", 28, "third valve slide out 18 mm"), ("B3", 45, "33 mm")])
def test_a_note_that_its_fingering_makes_sharp_is_mended_by_the_slide(note: str, sharp: int, slide: str) -> None:
    told = verdict_on(long_tone(note), f"centre={sharp}c@n1")
    assert (told.reason, told.cause) == ("pitch", "the instrument is sharp on this fingering")
    assert slide in (told.cue or "")


def test_what_the_player_adds_is_the_players() -> None:
    told = verdict_on(long_tone("C4"), "centre=60c@n1")
    assert (told.reason, told.cause) == ("pitch", "squeezed sharp")
    assert verdict_on(long_tone("F4"), "centre=30c@n1").cause == "squeezed sharp"  # an open note that is in tune


def test_where_no_slide_mends_it_another_fingering_may() -> None:
    told = verdict_on(long_tone("D4", "trombone-tenor"), "centre=-18c@n1")  # the fifth partial in first position
    assert (told.cause, "another fingering or position" in (told.cue or "")) == (
        "the instrument is flat on this fingering",
        True,
    )


def test_two_fingerings_are_compared_when_the_slide_has_been_moved() -> None:
    exercise = exercise_of(TRUMPET, "one-note-two-ways")
    assert verdict_on(exercise, "entry=28c/1000ms@n2", "entry=28c/1000ms@n4").outcome == "clean"
    apart = verdict_on(exercise, "centre=28c@n2", "centre=28c@n4")
    assert (apart.reason, {finding.reason for finding in apart.findings}) == ("two-ways", {"two-ways"})
    one_note = verdict_on(exercise, "centre=-40c@n3")  # the other note on the same fingering is in tune
    assert (one_note.reason, one_note.note) == ("pitch", "n3")


def test_a_leap_may_land_on_the_next_fingering() -> None:
    """From G4 on no valve to D5 on the first, as written for a trumpet."""
    series = exercise_type_named("bend-then-leap").series(
        instrument_named(TRUMPET), {"partial": "3", "over": "2", "lands": "the fingering a whole step longer"}
    )
    first, last = series.exercises[0].notes[0], series.exercises[0].notes[-1]
    assert (first.pitch.name, first.fingering.label, last.pitch.name, last.fingering.label) == ("F4", "0", "C5", "1")
    assert len(series.exercises) == 5  # the two longest have none a whole step longer
