"""What only echoes may have made is left open, said so, and held against nobody."""

from dataclasses import replace

import numpy as np
import pytest

from orexis.core.coach import Outcome, judge, limits_of
from orexis.core.coach.judging import REASONS, Fault, faults_told_again, has_doubtful, split_by_confirmation
from orexis.core.exercises import EXERCISE_TYPES, Melody, MelodyNote, melody_exercise
from orexis.core.instruments import instrument_named
from orexis.core.measures import ClippedPartial, Measures
from orexis.core.measures.room_notes import join_unbroken
from orexis.core.notes import HeardNote
from orexis.core.player import parse_flaws
from orexis.core.rehearsal import measured
from orexis.core.rehearsal.measured import flawless
from tests.conftest import exercise_of

EXERCISE = exercise_of("trumpet-bb", "two-partial-slur")
LIMITS = limits_of("developing")
CLEAN = flawless(EXERCISE)
DURING = CLEAN.notes[1].onset_s  # something sounds then
TOUCHED = replace(
    CLEAN, moves=(replace(CLEAN.moves[0], clipped_partials=(ClippedPartial(4, 0.0, 1.0, 90.0),)), *CLEAN.moves[1:])
)


def found(reason: str, note: str | None, at_s: float | None = 1.0) -> Fault:
    return Fault(reason, note, at_s, 90.0, 45.0, "ms")


def test_what_is_heard_beside_the_echoes_alone_is_left_open() -> None:
    verdict = judge(TOUCHED, EXERCISE, LIMITS, without_echoes=lambda: CLEAN)
    assert verdict.outcome == Outcome.CLEAN
    assert verdict.findings == ()
    assert verdict.hidden is not None
    assert REASONS["clipped-partial"].label in verdict.hidden
    assert "echo" in verdict.hidden


def test_what_is_heard_in_both_stands_and_nothing_is_said_of_the_room() -> None:
    verdict = judge(TOUCHED, EXERCISE, LIMITS, without_echoes=lambda: TOUCHED)
    assert (verdict.outcome, verdict.reason, verdict.hidden) == (Outcome.NOT_YET, "clipped-partial", None)
    assert judge(TOUCHED, EXERCISE, LIMITS).reason == "clipped-partial"  # dry: there is no second look


def test_how_a_note_begins_needs_no_second_look() -> None:
    scooped = measured(EXERCISE, parse_flaws(["entry=-90c/170ms@n1"]))

    def never() -> Measures:
        raise AssertionError("it was looked at twice")

    assert judge(scooped, EXERCISE, LIMITS, without_echoes=never).reason == "attack"
    assert judge(CLEAN, EXERCISE, LIMITS, without_echoes=never).outcome == Outcome.CLEAN


@pytest.mark.parametrize(
    ("first", "beside", "stands"),
    [
        (found("clipped-partial", "n2"), found("clipped-partial", "n2"), True),
        (found("clipped-partial", "n2"), found("clipped-partial", "n3"), False),
        (found("clipped-partial", "n2"), found("pitch-drift", "n2"), False),
        (found("missing", "n2", DURING), found("wrong-partial", "n2"), True),  # the same fault from another side
        (found("missing", "n2", DURING), found("wrong-partial", "n3"), False),
        (found("bump", "n2"), found("gap", "n2"), True),
        (found("pitch", "n2"), found("pitch-drift", "n3"), True),  # a pitch that is off, parted elsewhere
        (found("pitch", "n1"), found("pitch-drift", "n3"), False),
        (found("missing", "n2", 500.0), found("timing", None), True),  # nothing sounds there: echoes make no silence
        (found("extra", None, 4.0), found("extra", None, 4.2), True),
        (found("extra", None, 4.0), found("extra", None, 4.4), False),
        (found("extra", None, None), found("extra", None, None), False),
        (found("attack", "n2"), found("extra", None), True),
        (found("timing", "n2"), found("timing", "n3"), True),  # of the whole: where it shows most may differ
    ],
)
def test_a_finding_stands_with_its_like_at_the_same_place(first: Fault, beside: Fault, stands: bool) -> None:
    kept, left_open = split_by_confirmation([first], CLEAN, EXERCISE, [beside])
    assert (kept, left_open) == (((first,), ()) if stands else ((), (first,)))


def test_it_is_declared_what_echoes_can_bring_about() -> None:
    assert has_doubtful([found("gap", "n2")])
    assert not has_doubtful([found("attack", "n2"), found("split", "n2")])


def test_a_note_that_only_the_second_look_finds_is_judged_by_it() -> None:
    beside = [found("attack", "n2"), found("bump", "n2"), found("attack", "n3")]
    assert faults_told_again([found("missing", "n2")], beside) == (found("attack", "n2"),)
    assert faults_told_again([found("gap", "n2")], beside) == ()


TWICE = melody_exercise(
    Melody("twice", (MelodyNote(60, 0.0, 2.0), MelodyNote(60, 2.0, 2.0), MelodyNote(62, 4.0, 2.0))),
    EXERCISE_TYPES["tune"], instrument_named("trumpet-bb"), name="twice", tempo=60,
)  # fmt: skip


@pytest.mark.parametrize(
    ("after_s", "times", "stands"),
    [
        (2.5, 1.0, True),  # a third part of a note that is written twice: a wave in it
        (2.5, 1.2, False),  # another pitch
        (-0.5, 1.0, False),  # before it
    ],
)
def test_a_wave_in_a_note_that_was_held_is_no_second_attack(after_s: float, times: float, stands: bool) -> None:
    whole = flawless(TWICE)
    first, second = whole.notes[0], whole.notes[1]
    assert first.onset_s is not None
    assert first.f0_hz is not None
    held = replace(first, release_s=second.release_s)
    once = replace(whole, notes=(held, replace(second, sounded=None, onset_s=None, release_s=None), whole.notes[2]))
    part = Fault("extra", None, first.onset_s + after_s, first.f0_hz * times, None, "Hz")
    missing = found("missing", "n2", first.onset_s + 2.0)
    assert split_by_confirmation([missing], once, TWICE, [part])[0] == ((missing,) if stands else ())


@pytest.mark.parametrize(("dip_db", "parts"), [(1.5, 1), (4.0, 2)])
def test_a_note_begun_anew_dips_in_the_sound_as_it_came(dip_db: float, parts: int) -> None:
    level = np.full((800, 1), -20.0)
    level[396:406] -= dip_db
    first = HeardNote("h1", 233.0, 0.1, 1.95, 0.05, 1.98, joined=False)
    second = HeardNote("h2", 233.5, 2.1, 3.4, 2.02, 3.5, joined=True)
    whole = join_unbroken((first, second), level, silence_db=6.0)
    assert len(whole) == parts
    assert (whole[0].onset_s, whole[-1].release_s) == (0.05, 3.5)
    other = replace(second, f0_hz=262.0)
    assert join_unbroken((first, other), level, silence_db=6.0) == (first, other)
