"""Easier forms and other tempi: whatever an exercise asks for, a clean performance of any form of it can be held."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from orexis.core.coach import judge, limits_of
from orexis.core.exercises import (
    EXERCISE_TYPES,
    Exercise,
    Form,
    at_tempo,
    exercise_type_named,
    exercise_types_for,
    in_form,
    shortened,
    slower,
)
from orexis.core.instruments import INSTRUMENTS, instrument_named
from orexis.core.rehearsal import flawless as ideal
from orexis.errors import ExerciseError
from tests.conftest import exercise_of, heard, some

MOST_S = 575.0  # of the ten minutes that a take may last


def held(exercise: Exercise) -> bool:
    verdict = judge(ideal(exercise), exercise, limits_of("professional"))
    return verdict.outcome.is_good


@pytest.mark.parametrize(
    "instrument_id",
    some([*INSTRUMENTS][::4] + [instrument for instrument in INSTRUMENTS if instrument not in [*INSTRUMENTS][::4]], 9),
)
def test_any_form_at_any_tempo_can_be_held(instrument_id: str) -> None:
    instrument = instrument_named(instrument_id)
    tried = 0
    for exercise_type in exercise_types_for(instrument):
        series = exercise_type.series(instrument)
        for exercise in (series.exercises[0], series.exercises[-1]):
            for form in Form:
                for percent in (72, 100, 132):
                    made = in_form(at_tempo(exercise, percent), form)
                    assert made.notes, (exercise_type.id, form)
                    assert made.duration_s <= MOST_S, (exercise_type.id, form, percent)
                    assert held(made), (exercise_type.id, form, percent)
                    tried += 1
    assert tried > 500


@given(
    st.sampled_from(sorted(EXERCISE_TYPES)),
    st.sampled_from(sorted(INSTRUMENTS)),
    st.sampled_from(list(Form)),
    st.integers(18, 33),
    st.data(),
)
def test_so_can_any_exercise_with_any_parameters(
    exercise_type_id: str, instrument_id: str, form: Form, step: int, data: st.DataObject
) -> None:
    instrument, exercise_type = instrument_named(instrument_id), exercise_type_named(exercise_type_id)
    if not exercise_type.suits(instrument):
        return
    params = {
        param.key: str(data.draw(st.integers(param.low, param.high)))
        for param in exercise_type.specs(instrument)
        if param.kind == "int" and data.draw(st.booleans())
    }
    try:
        exercises = exercise_type.series(instrument, params).exercises
    except ExerciseError:
        return
    exercise = data.draw(st.sampled_from(exercises))
    made = in_form(at_tempo(exercise, 4 * step), form)
    assert made.notes
    assert made.duration_s <= MOST_S
    assert held(made)


def test_what_is_asked_is_a_share_of_what_is_written() -> None:
    trill = exercise_of("trumpet-bb", "lip-trill", tempo="72")
    assert trill.least("trill") == pytest.approx(0.85 * 72 / 30)
    assert slower(trill).least("trill") == pytest.approx(0.85 * 54 / 30)
    assert at_tempo(trill, 132).least("trill") == pytest.approx(0.85 * 95 / 30)
    assert shortened(trill).least("trill") == pytest.approx(0.85 * 72 / 60)  # its quickest notes are eighths
    long = exercise_of("tuba-eb", "long-low-tones")
    note = long.notes[0]
    assert long.hold_asked_s(note) == pytest.approx(0.75 * 8.0)
    fast = at_tempo(long, 132)
    assert fast.hold_asked_s(fast.notes[0]) == pytest.approx(0.75 * 8.0 * 60 / 79)
    slow = slower(long)  # it lasts longer on the page, and no longer breath is asked for
    assert slow.hold_asked_s(slow.notes[0]) == pytest.approx(0.75 * 8.0)
    half = shortened(slow)
    assert half.hold_asked_s(half.notes[0]) == pytest.approx(0.75 * 4.0)
    bend = exercise_of("tuba-eb", "lip-bend")
    assert slower(bend).least("bend") == bend.least("bend") == 100.0


def test_a_shorter_form_keeps_something_of_all_that_is_asked() -> None:
    bend = shortened(exercise_of("tuba-eb", "lip-bend"))
    assert len(bend.notes) == 3  # down and back: half of it would ask for nothing
    assert bend.beats == pytest.approx(0.5 * exercise_of("tuba-eb", "lip-bend").beats)
    wide = shortened(exercise_of("trumpet-bb", "wide-slur"))
    assert [note.slurred for note in wide.notes] == [False, False, False, True]  # a slur, not only the tongued pair
    cold = shortened(exercise_of("trumpet-bb", "top-note-cold"))
    assert [note.beats for note in cold.notes] == [1.0]
    fan = shortened(exercise_of("trombone-tenor", "glide-fan"))
    assert [note.glide_beats for note in fan.notes] == [0.0, 0.5, 0.5]  # a glide without its end asks for nothing
    sets = shortened(exercise_of("tuba-eb", "pedal-sets"))
    assert (len(sets.notes), sets.least("rise")) == (10, None)  # without those that grow nothing of it is asked
    chain = exercise_of("trumpet-bb", "partial-chain")
    assert shortened(chain).notes == chain.notes[:2]


# Those that ask something of the whole, and one of each other shape.
ASKING = (
    "bend-then-leap", "lip-bend", "lip-trill", "long-low-tones", "to-the-pedal", "top-note-cold", "tune", "two-partial-slur",
)  # fmt: skip


@pytest.mark.parametrize("exercise_type_id", ASKING)
def test_a_shorter_form_is_held_when_it_is_heard(exercise_type_id: str) -> None:
    verdict = heard(in_form(exercise_of("trombone-tenor", exercise_type_id), Form.SHORTER), seed=9)[0].verdict
    assert verdict is not None
    assert (verdict.outcome, verdict.reason) == ("clean", None), verdict.findings
