"""Instrument and player told apart: against players and instruments whose truth is known (benchmarks/instrument_or_player.py draws them)."""

import numpy as np
import pytest

from benchmarks.instrument_or_player import Truth, off_by, weeks_of
from orexis.core.instruments import INSTRUMENTS, Setup, deviation_cents, fingering_options, parse_fingering
from orexis.core.theory import parse_pitch
from orexis.core.tuning import advised, fit_of, learned_from, missing_for, notes_heard
from orexis.core.tuning.words import advice_in_words, habits_in_words
from tests.conftest import some


@pytest.mark.parametrize("instrument_id", some(("trumpet-bb", "trombone-tenor", "tuba-eb", "horn-f-bb"), 1))
def test_instrument_and_habits_come_out_within_three_cents(instrument_id: str) -> None:
    instrument = INSTRUMENTS[instrument_id]
    instruments: list[float] = []
    habits: list[float] = []
    for seed in range(3):
        rows, truth = weeks_of(instrument, 100 + seed)
        fit = fit_of(instrument, rows)
        assert fit is not None
        off, of_habits = off_by(fit, truth)
        instruments += off
        habits += of_habits.values()
    assert np.median(instruments) < 3.0
    assert np.median(habits) < 3.0


def test_nothing_is_said_below_the_least() -> None:
    instrument = INSTRUMENTS["tuba-eb"]
    rows, _ = weeks_of(instrument, 3, days=7)
    assert fit_of(instrument, rows) is None
    assert "8 days" in (missing_for(rows) or "")
    few, _ = weeks_of(instrument, 3, days=9, exercises=1)
    assert fit_of(instrument, few) is None
    assert missing_for([]) is not None


@pytest.mark.parametrize(("seed", "says"), [(10, "sharp"), (6, "flat"), (7, None)])
def test_a_slope_of_the_players_own_is_said_and_none_is_not(seed: int, says: str | None) -> None:
    rows, truth = weeks_of(INSTRUMENTS["trumpet-bb"], seed)
    assert abs(truth.register) > 10.0 if says else abs(truth.register) < 1.0
    fit = fit_of(INSTRUMENTS["trumpet-bb"], rows)
    assert fit is not None
    lines = [line for line in habits_in_words(fit) if "as you play higher" in line]
    assert [says in line for line in lines if says] == ([True] if says else [])
    assert len(lines) == (1 if says else 0)


def test_the_slide_that_stands_wrong_is_named_with_its_millimetres() -> None:
    instrument = INSTRUMENTS["trumpet-bb"]
    rows, truth = weeks_of(instrument, 1)
    shifted = [_moved(row, 12.0) if row.fingering == "1" else row for row in rows]
    fit = fit_of(instrument, shifted)
    assert fit is not None
    told = next(item for item in advised(instrument, fit) if item.fingering == "1" and item.slide)
    assert told.slide == "slide of valve 1"
    assert told.mm is not None
    # A U slide moves half of L (2^(x/1200) - 1); the fingering's own departure of the truth comes on top.
    want = 12.0 + truth.fingerings["1"]
    assert told.mm == pytest.approx(1000 * 1.66 * (2 ** (want / 1200) - 1) / 2, abs=4.0)
    assert any(
        "mm out" in line for line in advice_in_words(instrument, advised(instrument, fit), lambda midi: str(midi))
    )


def _moved(row, cents: float):  # type: ignore[no-untyped-def]
    from dataclasses import replace

    return replace(row, cents=row.cents + cents * row.count)


def test_what_is_taken_over_moves_the_instrument_and_not_what_is_found_next() -> None:
    instrument = INSTRUMENTS["euphonium-bb"]
    rows, truth = weeks_of(instrument, 2)
    fit = fit_of(instrument, rows)
    assert fit is not None
    mine = instrument.with_setup(Setup(learned=learned_from(instrument, fit)))
    note = max(fit.notes, key=lambda item: abs(item.departs.value))
    fingering, pitch = parse_fingering(instrument, note.fingering), next(w for w in (parse_pitch("Bb2"),))
    moved = deviation_cents(mine, fingering, note.partial, pitch) - deviation_cents(
        instrument, fingering, note.partial, pitch
    )
    assert moved == pytest.approx(note.departs.value, abs=0.3)
    assert fingering_options(mine, parse_pitch("Bb3"))
    assert truth.departs(note.midi, note.fingering, note.partial) == pytest.approx(note.departs.value, abs=6.0)


def test_bent_free_and_mouthpiece_notes_prove_nothing_about_the_instrument() -> None:
    from orexis.core.exercises import exercise_type_named
    from orexis.core.rehearsal.measured import flawless

    instrument = INSTRUMENTS["tuba-eb"]
    for exercise_type in ("lip-bend", "siren", "buzz-answer"):
        exercise = exercise_type_named(exercise_type).series(instrument, {}).exercises[0]
        heard = notes_heard(exercise, instrument, flawless(exercise), day=1, minutes=0.0, playing_min=0.0)
        asked = {note.pitch.midi for note in exercise.notes if note.target_cents == 0.0 and not note.free}
        assert {row.midi for row in heard} <= (asked if exercise_type == "lip-bend" else set())


def test_truth_departs_by_its_parts() -> None:
    truth = Truth({("", 3): 2.0}, {"1": 3.0}, {(60, "1", 3): -1.0}, 0, 0, 0, 0, 1)
    assert truth.departs(60, "1", 3) == 4.0
