"""Over an exercise: timing with the device's delay, evenness, loudness by height, trill, sweep, breaths, sound match."""

from collections.abc import Callable
from dataclasses import replace
from itertools import pairwise
from typing import Any

import numpy as np
import pytest

from orexis.core.coach import limits_of
from orexis.core.exercises import at_tempo
from orexis.core.instruments import instrument_named
from orexis.core.listen import ClickTrack, JudgingTerms, ListeningTask, ListenResult, listen
from orexis.core.measures import NoteMeasures, SoundCheck, measure
from orexis.core.measures.breath import room_db
from orexis.core.measures.endurance import endurance_change
from orexis.core.measures.envelope import CENTRES_HZ, Reference, distance_db, match
from orexis.core.measures.exercise import matched_with, timbre_of
from orexis.core.player import parse_flaws, play
from orexis.core.sound import Sound
from orexis.core.trace import Trace
from tests.conftest import Heard, exercise_of

Hear = Callable[..., Heard]


def take(*flaws: str, delay_s: float | None, shift_s: float = 0.0, instrument: str = "trumpet-bb") -> ListenResult:
    exercise = exercise_of(instrument, "two-partial-slur")
    sound, _ = play(exercise, flaws=parse_flaws(flaws), seed=4)
    late = Sound(np.concatenate((np.zeros(round(shift_s * sound.rate), np.float32), sound.samples)), sound.rate)
    return listen(
        late,
        ListeningTask(instrument_named(instrument), exercise, first_beat_s=0.0),
        JudgingTerms(limits_of("developing")),
        click=ClickTrack(delay_s=delay_s),
    )


def test_the_devices_delay_is_taken_out_of_timing() -> None:
    unknown = take(delay_s=None).measures.exercise
    assert unknown.timing_mean_ms is None
    assert unknown.unmeasured["timing_mean_ms"] == "the device's delay is not known"
    plain = take(delay_s=0.0).measures.exercise.timing_mean_ms
    shifted = take(delay_s=0.18, shift_s=0.18).measures.exercise.timing_mean_ms
    assert plain is not None
    assert shifted == pytest.approx(plain, abs=3.0)
    late = take("late=60ms", delay_s=0.0).measures.exercise.timing_mean_ms
    assert late == pytest.approx(plain + 60.0, abs=12.0)


def test_without_a_click_a_tempo_of_ones_own_is_even() -> None:
    asked = exercise_of("trombone-tenor", "partial-chain")

    def spread(percent: int, *, clicked: bool, late: str = "") -> float | None:
        own = at_tempo(asked, percent)
        sound, truth = play(own, flaws=parse_flaws([late] if late else []), seed=4)
        first_beat_s = truth.notes[0].onset_s - asked.start_s(asked.notes[0])
        result = listen(
            sound,
            ListeningTask(instrument_named("trombone-tenor"), asked, first_beat_s=first_beat_s),
            JudgingTerms(limits_of("developing")),
            click=ClickTrack(heard=clicked),
        )
        assert clicked or result.measures.exercise.timing_mean_ms is None
        return result.measures.exercise.timing_spread_ms

    with_click, without = spread(88, clicked=True), spread(88, clicked=False)
    assert with_click is not None
    assert without is not None
    assert with_click > 80.0
    assert without < 35.0
    uneven = spread(100, clicked=False, late="late=150ms@n3")
    assert uneven is not None
    assert uneven > 2.0 * without


def test_a_breath_inside_is_heard(hear: Hear) -> None:
    exercise = exercise_of("trumpet-bb", "two-partial-slur")
    assert hear(exercise)[0].measures.exercise.breaths_inside == 0
    assert hear(exercise, f"breathes=1@{exercise.notes[1].id}")[0].measures.exercise.breaths_inside == 1


def made(cents: np.ndarray, *, base_hz: float = 233.08, level: float = -20.0) -> Trace:
    count = len(cents)
    pad = np.full(80, np.nan)
    f0 = np.concatenate((pad, base_hz * 2.0 ** (cents / 1200.0), pad))
    there = np.isfinite(f0)
    return Trace(
        np.arange(count + 160) * 0.005,
        f0,
        np.where(there, 0.99, 0.2),
        np.where(there, level, -80.0),
        np.where(there, 20.0, -5.0),
        np.full(count + 160, 900.0),
    )


def of_track(cents: np.ndarray, **more: float) -> Any:
    return measure(
        made(cents, **more),
        SoundCheck(-10.0, 0.0, -80.0, -20.0),
        ListeningTask(instrument_named("trumpet-bb"), None),
    ).exercise


@pytest.mark.parametrize("rate", [3.0, 6.0])
def test_a_trill_is_counted_there_and_back(rate: float) -> None:
    t = np.arange(600) * 0.005
    found = of_track(np.where(np.sin(2 * np.pi * rate * t) > 0, 204.0, 0.0))
    assert found.trill_hz == pytest.approx(rate, rel=0.05)
    assert found.unseated_share < 0.1
    # Every other upper note lies elsewhere: a third of a tone beyond the rest.
    turn = np.floor(t * rate).astype(int)
    strayed = of_track(np.where(np.sin(2 * np.pi * rate * t) > 0, np.where(turn % 3 == 2, 274.0, 204.0), 0.0))
    assert strayed.unseated_share == pytest.approx(1 / 6, abs=0.06)


def test_a_long_tone_is_no_trill_and_no_siren() -> None:
    found = of_track(np.zeros(600))
    assert (found.trill_hz, found.siren_low_hz) == (None, None)


def test_a_siren_with_its_ends_and_jump() -> None:
    up = np.linspace(0.0, 1200.0, 500)
    found = of_track(up, base_hz=200.0)
    assert found.siren_low_hz == pytest.approx(200.0, rel=0.02)
    assert found.siren_high_hz == pytest.approx(400.0, rel=0.02)
    assert found.siren_breaks == 0
    assert found.siren_jump_cents < 60.0
    jumped = of_track(np.concatenate((up[:250], up[250:] + 300.0)), base_hz=200.0)
    assert jumped.siren_jump_cents > 250.0


def test_a_resonant_sweep_falls_into_slots_and_a_pinched_one_slides() -> None:
    partials = 1200.0 * np.log2(np.array([2, 3, 4, 5, 6]) / 2.0)
    stepped = np.concatenate([np.concatenate((np.full(90, c), np.linspace(c, d, 8))) for c, d in pairwise(partials)])
    sliding = np.linspace(0.0, partials[-1], len(stepped))
    assert of_track(stepped).in_slots_share > 0.8
    assert of_track(sliding).in_slots_share < 0.6


def notes_of(*flaws: str, seed: int = 1, instrument: str = "trombone-tenor", index: int = 0) -> NoteMeasures:
    exercise = exercise_of(instrument, "long-low-tones", index)
    sound, _ = play(exercise, flaws=parse_flaws(flaws), seed=seed)
    got = listen(
        sound,
        ListeningTask(instrument_named(instrument), exercise, first_beat_s=0.0),
        JudgingTerms(limits_of("developing")),
    )
    return got.measures.notes[0]


def test_the_same_note_twice_is_alike_and_a_pinched_one_is_not() -> None:
    first, second = timbre_of(notes_of(seed=1)), timbre_of(notes_of(seed=2))
    assert first is not None
    assert second is not None
    again = match(first, second)
    assert again is not None
    assert again >= 88.0
    pinched = timbre_of(notes_of("pinched=5db"))
    loud, other = timbre_of(notes_of("level=-16db")), timbre_of(notes_of(instrument="tuba-eb"))
    assert pinched is not None
    assert loud is not None
    assert other is not None
    ranked = [match(first, voice) or 0.0 for voice in (second, loud, pinched)]
    assert ranked == sorted(ranked, reverse=True)
    assert ranked[2] < 65.0
    assert (distance_db(first, other) or 0.0) > (distance_db(first, second) or 0.0)


def test_match_with_a_reference_says_why_not() -> None:
    note = notes_of()
    reference = timbre_of(note)
    assert reference is not None
    deaf = replace(note, envelope_db=None)
    known, unknown = matched_with((note, deaf), Reference(reference), same_db=2.4)
    assert known.tone_match == 100.0
    assert unknown.tone_match is None
    assert "tone_match" in unknown.unmeasured


def test_another_microphone_has_no_part_in_the_match() -> None:
    """What a device does to the sound is smooth over the octaves; a covered or edgy tone then is not told, another instrument is."""
    here = timbre_of(notes_of())
    assert here is not None
    octaves = np.log2(np.array(CENTRES_HZ) / 1000.0)
    colour = 5.0 * octaves - 2.5 * octaves**2
    there = replace(
        here,
        envelope_db=tuple(
            None if value is None else value + more for value, more in zip(here.envelope_db, colour, strict=True)
        ),
        tone_to_noise_db=here.tone_to_noise_db - 12.0,
    )
    other = timbre_of(notes_of(instrument="tuba-eb"))
    assert other is not None
    assert (match(here, there) or 0.0) < 60.0
    assert (match(here, there, elsewhere=True) or 0.0) > 97.0
    assert (distance_db(here, other, elsewhere=True) or 0.0) > 2.0 * (distance_db(here, there, elsewhere=True) or 0.0)
    few = replace(here, envelope_db=tuple(v if at < 6 else None for at, v in enumerate(here.envelope_db)))
    assert match(few, there, elsewhere=True) is None


def test_endurance_is_the_change_of_the_check_note() -> None:
    fresh, tired = notes_of(), notes_of("response=90ms", "centre=-14c", "wobble=9c/2hz", "breath=-20db")
    change = endurance_change(tired, fresh, day_drift_cents=4.0)
    assert change.response_ms == pytest.approx(75.0, abs=20.0)
    assert change.pitch_error_cents == pytest.approx(-18.0, abs=4.0)
    assert change.tone_to_noise_db is not None
    assert change.tone_to_noise_db < -6.0
    assert change.pitch_wobble_cents is not None
    assert change.pitch_wobble_cents > 4.0
    missing = endurance_change(replace(tired, response_ms=None), fresh)
    assert missing.response_ms is None
    assert "response_ms" in missing.unmeasured


def test_a_click_heard_over_an_entry_is_said_and_not_measured() -> None:
    exercise = exercise_of("tuba-eb", "long-low-tones")
    sound, _ = play(exercise, flaws=parse_flaws(["entry=-60c/200ms"]), seed=4)

    def entry(click_db: float | None) -> NoteMeasures:
        got = listen(
            sound,
            ListeningTask(instrument_named("tuba-eb"), exercise, first_beat_s=0.0),
            JudgingTerms(limits_of("developing")),
            click=ClickTrack(delay_s=0.0, peak_db=click_db),
        )
        return got.measures.notes[0]

    assert entry(None).attack_error_cents == pytest.approx(-60.0, abs=12.0)
    assert entry(-60.0).attack_error_cents == pytest.approx(-60.0, abs=12.0)
    loud = entry(-25.0)
    assert loud.attack_error_cents is None
    assert loud.unmeasured["attack_error_cents"] == "a click was heard over its first moments"


def test_the_room_is_the_quietest_tenth_of_the_pauses_not_the_breath_in_them() -> None:
    def paused(quiet: int, breath: int) -> Trace:
        count = quiet + breath + 200
        at = np.arange(count)
        level = np.where(at < quiet, -71.0, np.where(at < quiet + breath, -48.0, -20.0))
        f0 = np.where(at < quiet + breath, np.nan, 233.0)
        return Trace(
            at * 0.005, f0, np.where(np.isfinite(f0), 0.99, 0.2), level, np.full(count, 20.0), np.full(count, 900.0)
        )

    assert room_db(paused(60, 140)) == pytest.approx(-71.0)
    assert room_db(paused(20, 20)) is None  # a fifth of a second says nothing
