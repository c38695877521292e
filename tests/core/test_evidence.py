"""What a take proves about each of its notes, and that a glide is judged by what it is. Truth: the simulated player."""

import pytest

from orexis.core.coach import Attempt, RangeState, attempts_of, limits_of, range_notes, range_of
from orexis.core.exercises import Exercise
from orexis.core.instruments import instrument_named
from orexis.core.listen import JudgingTerms, ListeningTask, ListenResult, listen
from orexis.core.player import parse_flaws, play
from tests.conftest import exercise_of, some


def judged(exercise: Exercise, *flaws: str, seed: int = 2) -> ListenResult:
    sound, _ = play(exercise, flaws=parse_flaws(flaws), seed=seed)
    instrument, limits = instrument_named(exercise.instrument), limits_of("developing")
    return listen(sound, ListeningTask(instrument, exercise, first_beat_s=0.0), JudgingTerms(limits))


def proved(exercise: Exercise, *flaws: str) -> dict[tuple[int, bool], bool]:
    heard = judged(exercise, *flaws)
    assert heard.verdict is not None
    tries = attempts_of(exercise, heard.measures, heard.verdict, day=1, take_id="t")
    return {(item.midi, item.connected): item.clean for item in tries}


@pytest.mark.parametrize("exercise_type", ["glide-ladder", "glide-fan"])
@pytest.mark.parametrize("seed", some([1, 2, 3], 1))
def test_a_glide_that_never_moves_is_not_held_and_one_that_arrives_is(exercise_type: str, seed: int) -> None:
    exercise = exercise_of("trombone-tenor", exercise_type)
    clean = judged(exercise, seed=seed).verdict
    assert clean is not None
    assert clean.outcome == "clean"
    for share, reason in (("0", "glide-short"), ("0.5", "glide-short")):
        verdict = judged(exercise, f"glide={share}", seed=seed).verdict
        assert verdict is not None
        assert verdict.outcome != "clean"
        assert reason in {item.reason for item in verdict.findings}


def test_a_glide_beyond_its_end_says_so() -> None:
    exercise = exercise_of("trombone-tenor", "glide-ladder")
    goal = next(note for note in exercise.notes if note.glide_beats > 0)
    found = judged(exercise, f"glide=1.42@{goal.id}").verdict
    assert found is not None
    assert found.reason in {"glide-past", "glide-short"}


def test_a_note_never_sounded_is_never_credited() -> None:
    exercise = exercise_of("trombone-tenor", "glide-ladder")
    goal = next(note for note in exercise.notes if note.glide_beats > 0)
    still = proved(exercise, "glide=0")
    assert not any(held for (midi, _), held in still.items() if midi == goal.pitch.midi)
    moved = proved(exercise)
    assert any(held for (midi, _), held in moved.items() if midi == goal.pitch.midi)


def test_every_note_of_every_take_counts_and_only_those_that_were_good() -> None:
    exercise = exercise_of("tuba-eb", "two-partial-slur")
    low, high = sorted({note.pitch.midi for note in exercise.notes})
    assert proved(exercise) == {(low, True): True, (high, True): True}
    # The take fails on a gap: the move was bad, both notes were good.
    failed = judged(exercise, "gap=120ms@n2")
    assert failed.verdict is not None
    assert failed.verdict.outcome != "clean"
    assert proved(exercise, "gap=120ms@n2") == {(low, True): True, (high, True): True}
    # One note lies off: that one is not good, the other is.
    off = {note.id: note.pitch.midi for note in exercise.notes}
    assert proved(exercise, "centre=-40c@n2")[(off["n2"], True)] is False
    assert proved(exercise, "centre=-40c@n2")[(off["n1"], True)] is True


def test_alone_is_not_joined() -> None:
    alone = proved(exercise_of("trumpet-bb", "long-low-tones"))
    assert all(not joined for _, joined in alone)
    assert all(alone.values())
    scale = proved(exercise_of("trumpet-bb", "one-octave-scale"))
    assert all(joined for _, joined in scale)
    tries = [Attempt(60, day, True, 2.0, connected=False) for day in (1, 2, 3)]
    tries += [Attempt(58, day, True, 2.0, connected=True) for day in (1, 2, 3)]
    found = range_notes(tries)
    assert found[60].alone.state == RangeState.IN_RANGE
    assert found[60].in_line.state == RangeState.NONE
    assert (range_of(found, joined=False).high, range_of(found, joined=True).high) == (60, 58)


@pytest.mark.parametrize(
    ("instrument", "exercise_type"),
    [
        ("trombone-tenor", "lip-bend"),
        ("trumpet-bb", "find-the-middle"),
        ("tuba-eb", "siren"),
        ("tuba-eb", "loose-pedals"),
    ],
)
def test_what_moves_or_is_free_proves_nothing(instrument: str, exercise_type: str) -> None:
    exercise = exercise_of(instrument, exercise_type)
    bent = {
        note.pitch.midi
        for before, note in zip(exercise.notes, exercise.notes[1:], strict=False)
        if note.slurred
        and note.fingering == before.fingering
        and note.partial == before.partial
        and note.pitch.midi < before.pitch.midi
    }
    found = proved(exercise)
    assert not {midi for midi, _ in found} & bent
    if exercise_type != "lip-bend":
        assert found == {}
