"""Every exercise type that is judged: held when played clean, and its own faults named first."""

import dataclasses

import numpy as np
import pytest

from orexis.core.coach import limits_of
from orexis.core.coach.judging.length import asks_length
from orexis.core.exercises import EXERCISE_TYPES, exercise_types_for
from orexis.core.instruments import instrument_named
from orexis.core.listen import JudgingTerms, ListeningTask, listen
from orexis.core.player import parse_flaws, play
from orexis.core.progress import path_of
from orexis.core.sound import Sound
from tests.conftest import exercise_of, heard, some

LONG_ONES = {"pedal-sets"}  # minutes of sound each


@pytest.mark.parametrize("exercise_type_id", sorted(set(EXERCISE_TYPES) - LONG_ONES))
@pytest.mark.parametrize("instrument_id", some(["trombone-bass", "horn-f-bb"], 1))
def test_clean_playing_is_held(instrument_id: str, exercise_type_id: str) -> None:
    instrument = instrument_named(instrument_id)
    if EXERCISE_TYPES[exercise_type_id] not in exercise_types_for(instrument):
        pytest.skip("needs a slide")
    exercise = EXERCISE_TYPES[exercise_type_id].series(instrument).exercises[-1]
    verdict = heard(exercise, seed=9)[0].verdict
    assert verdict is not None
    assert verdict.outcome.is_good, verdict.findings
    assert verdict.reason is None, verdict.findings


LONGER = "the fingering a whole step longer"
FAULTS = [
    ("buzz-answer", {}, ["response=320ms@n2"], "response", "n2"),
    ("buzz-intervals", {"from": "5"}, ["entry=-95c/400ms@n2"], "attack", "n2"),
    ("against-a-drone", {"intervals": "major third"}, ["centre=24c"], "pitch", "n1"),
    ("one-note-two-ways", {}, ["centre=-40c@n2", "centre=-40c@n4"], "two-ways", "n2"),
    ("interval-stairs", {}, ["breathes=1@n4"], "breath-inside", None),
    ("to-the-pedal", {}, ["hold=1.2s@n4"], "hold", "n4"),
    ("top-note-cold", {}, ["split=7/90ms@n1"], "split", "n1"),
    ("step-ladder", {}, ["wobble=30c/3hz"], "pitch-wobble", "n1"),
    ("pair-ladder", {}, ["gap=150ms@n2"], "gap", "n2"),
    ("wide-slur", {}, ["caught=4/90ms@n4"], "clipped-partial", "n4"),
    ("tune", {}, ["miss=9@n5"], "wrong-partial", "n5"),
    ("bend-then-leap", {"still": "0"}, ["gap=160ms@n4"], "gap", "n4"),
    ("bend-then-leap", {"lands": LONGER, "over": "2"}, ["gap=160ms@n5"], "gap", "n5"),
    ("bend-then-leap", {"depth": "2"}, ["sag=-60c@n2"], "dip", "n2"),
    ("bend-then-leap", {}, ["bend=-40c@n1"], "dip", "n1"),
]


@pytest.mark.parametrize(
    ("exercise_type", "params", "flaws", "reason", "note"), FAULTS, ids=[f"{f[0]}-{f[3]}" for f in FAULTS]
)
def test_the_fault_is_named(
    exercise_type: str, params: dict[str, str], flaws: list[str], reason: str, note: str | None
) -> None:
    exercise = exercise_of("trumpet-bb", exercise_type, **params)
    verdict = heard(exercise, *flaws, seed=6)[0].verdict
    assert verdict is not None
    assert reason in {finding.reason for finding in verdict.findings}, verdict
    if note is not None:
        assert note in {finding.note for finding in verdict.findings if finding.reason == reason}


def test_a_trill_that_waves_between_its_slots_does_not_lock() -> None:
    exercise = exercise_of("trombone-tenor", "lip-trill")
    clean, _, _ = heard(exercise)
    assert (clean.verdict.outcome, clean.measures.exercise.unseated_share) == ("clean", 0.0)
    low, quickest = min(n.pitch.midi for n in exercise.notes), min(n.beats for n in exercise.notes)
    quick = [n for n in exercise.notes if n.beats < quickest + 1e-6]
    waved, _, _ = heard(exercise, *(f"centre={60 if n.pitch.midi == low else -60}c@{n.id}" for n in quick))
    assert (waved.verdict.reason, waved.verdict.note) == ("lock", quick[0].id)
    few, _, _ = heard(exercise, *(f"centre=-60c@{n.id}" for n in quick[1:5:2]))
    assert few.verdict.outcome == "clean"
    assert few.measures.exercise.unseated_share == pytest.approx(2 / len(quick), abs=0.01)


@pytest.mark.parametrize("instrument", ["trumpet-bb", "trombone-tenor", "tuba-eb"])
def test_a_trill_that_sweeps_between_its_notes_is_called_so(instrument: str) -> None:
    exercise = exercise_of(instrument, "lip-trill")
    swept = dataclasses.replace(
        exercise,
        notes=tuple(dataclasses.replace(n, glide_beats=0.9 * n.beats if n.slurred else 0.0) for n in exercise.notes),
    )
    task = ListeningTask(instrument_named(instrument), exercise, first_beat_s=0.0)
    told = listen(play(swept, seed=1)[0], task, JudgingTerms(limits_of("developing"))).verdict
    assert told is not None
    assert "trill-slides" in {finding.reason for finding in told.findings}
    assert not {"missing", "stuck", "wrong-fingering"} & {finding.reason for finding in told.findings}


@pytest.mark.parametrize("instrument", ["trumpet-bb", "tuba-bbb-4"])
def test_the_fastest_trill_of_all_levels_can_be_clean(instrument: str) -> None:
    path = path_of("lip-trill", instrument_named(instrument))
    assert path is not None
    exercise = exercise_of(instrument, "lip-trill", **path.steps[-1].params)
    got, _, _ = heard(exercise, seed=3)
    assert (got.verdict.outcome, got.measures.exercise.lost_turns) == ("clean", 0)
    assert got.measures.exercise.trill_hz == pytest.approx(2.0 * exercise.tempo_bpm / 60.0, rel=0.1)


@pytest.mark.parametrize("loudness", ["grow", "even"])
def test_a_pulse_of_air_on_each_beat_is_heard_whatever_the_higher_note_does(loudness: str) -> None:
    exercise = exercise_of("tuba-eb", "lip-trill", pulse="on each beat", loudness=loudness)
    assert {note.start_beat % 1.0 for note in exercise.notes if note.accent} == {0.0}
    pulsed, _, _ = heard(exercise)
    assert pulsed.verdict.outcome == "clean"
    assert pulsed.measures.exercise.pulse_db == pytest.approx(2.8, abs=0.4)
    level = dataclasses.replace(exercise, notes=tuple(dataclasses.replace(n, accent=False) for n in exercise.notes))
    sound, _ = play(level, flaws=parse_flaws(()), seed=1)
    flat = listen(
        sound,
        ListeningTask(instrument_named("tuba-eb"), exercise, first_beat_s=0.0),
        JudgingTerms(limits_of("developing")),
    )
    assert flat.verdict is not None
    assert (flat.verdict.outcome, flat.verdict.reason) == ("not_yet", "pulse")
    assert exercise_of("tuba-eb", "lip-trill").least("pulse") is None


def test_a_trill_slower_than_written_is_told() -> None:
    asked = exercise_of("trumpet-bb", "lip-trill", tempo="100")
    played = exercise_of("trumpet-bb", "lip-trill", tempo="76")
    sound, _ = play(played, seed=2)
    got = listen(sound, ListeningTask(instrument_named("trumpet-bb"), asked), JudgingTerms(limits_of("beginner")))
    assert got.verdict is not None
    rates = [finding for finding in got.verdict.findings if finding.reason == "trill"]
    assert rates
    assert rates[0].value == pytest.approx(76 / 30, rel=0.1)


def test_loudness_going_up_is_compared_with_what_was_asked() -> None:
    growing = exercise_of("tuba-eb", "two-octave-scale", loudness="grow")
    easing = exercise_of("tuba-eb", "two-octave-scale", loudness="ease")
    for played, asked, found in ((growing, growing, False), (easing, easing, False), (easing, growing, True)):
        sound, _ = play(played, seed=3)
        got = listen(
            sound,
            ListeningTask(instrument_named("tuba-eb"), asked, first_beat_s=0.0),
            JudgingTerms(limits_of("beginner")),
        )
        assert got.verdict is not None
        assert ("loudness" in {f.reason for f in got.verdict.findings}) == found


def test_a_shape_that_goes_the_wrong_way_is_told() -> None:
    swell = exercise_of("tuba-eb", "shaped-tones", index=2)
    fade = exercise_of("tuba-eb", "shaped-tones", index=3)
    sound, _ = play(fade, seed=3)
    got = listen(
        sound,
        ListeningTask(instrument_named("tuba-eb"), swell, first_beat_s=0.0),
        JudgingTerms(limits_of("developing")),
    )
    assert got.verdict is not None
    assert got.verdict.reason == "shape"


def test_the_middle_is_found_where_it_rings() -> None:
    exercise = exercise_of("tuba-eb", "find-the-middle")
    for at in (-12.0, 9.0):
        note = heard(exercise, f"ring={at:g}c", seed=4)[0].measures.notes[0]
        assert note.ring_cents == pytest.approx(at, abs=7.0)
        verdict = heard(exercise, f"ring={at:g}c", seed=4)[0].verdict
        assert verdict is not None
        assert (verdict.outcome, verdict.note, verdict.unit) == ("clean", "n1", "c")
        assert verdict.value == note.ring_cents


def test_a_counted_set_is_short_by_what_did_not_speak() -> None:
    exercise = exercise_of("trombone-tenor", "pedal-sets", notes="6", beats="3")
    sound, truth = play(exercise, seed=5)
    samples = sound.samples.copy()
    for note in truth.notes[2:4]:
        start, end = (round(t * sound.rate) for t in (note.onset_s - 0.05, note.release_s + 0.15))
        samples[start:end] = np.random.default_rng(1).normal(0, 3e-4, end - start)
    got = listen(
        Sound(samples, sound.rate),
        ListeningTask(instrument_named("trombone-tenor"), exercise, first_beat_s=0.0),
        JudgingTerms(limits_of("developing")),
    )
    assert got.verdict is not None
    assert (got.verdict.reason, got.verdict.value, got.verdict.limit) == ("count", 4.0, 6.0)


def test_breath_is_ticked_and_free_notes_are_never_judged() -> None:
    for exercise_type in ("breath", "loose-pedals"):
        verdict = heard(exercise_of("trumpet-bb", exercise_type), seed=1)[0].verdict
        assert verdict is not None
        assert verdict.outcome == "done"
    off = heard(exercise_of("trumpet-bb", "loose-pedals"), "centre=60c", "wobble=40c/2hz", seed=1)[0].verdict
    assert off is not None
    assert off.outcome == "done"


def test_the_simulated_player_follows_glides_shapes_and_dynamics() -> None:
    glide = exercise_of("trombone-tenor", "glide-fan")
    _, truth = play(glide, seed=1)
    hz = np.array([f or np.nan for f in truth.f0_hz])
    inside = hz[round(glide.start_s(glide.notes[1]) / 0.005) - 60 : round(glide.start_s(glide.notes[1]) / 0.005) - 10]
    assert np.all(np.diff(1200 * np.log2(inside)) > -3.0)
    loud = heard(exercise_of("tuba-eb", "one-octave-scale"), seed=2)[0].measures.notes
    assert (loud[-1].level_db or 0.0) > (loud[0].level_db or 0.0) + 2.0
    _, parse = play(glide, flaws=parse_flaws(["centre=10c"]), seed=1)
    assert parse.notes[0].pitch_error_cents == pytest.approx(10.0, abs=4.0)


def test_a_note_that_never_settles_is_heard_wandering_in_any_exercise() -> None:
    slur = exercise_of("trumpet-bb", "two-partial-slur")
    result = heard(slur, "wobble=45c/3hz@n1", seed=1)[0]
    assert result.verdict is not None
    assert (result.verdict.reason, result.verdict.note) == ("pitch-wobble", "n1")
    assert result.measures.notes[0].pitch_wobble_cents == pytest.approx(
        45.0, rel=0.15
    )  # a sine's, 1.48 times its median
    assert result.measures.notes[1].pitch_wobble_cents == pytest.approx(0.7, abs=0.7)
    # A vibrato is no unrest, and a slow start is another thing.
    for flaw, reason in (("vibrato=30c/5.5hz", None), ("entry=-150c/500ms@n1", "attack")):
        said = heard(exercise_of("trumpet-bb", "long-low-tones"), flaw, seed=1)[0].verdict
        assert said is not None
        assert said.reason == reason


def test_a_hole_is_a_gap_and_no_bump_besides() -> None:
    moves = heard(exercise_of("trumpet-bb", "two-partial-slur"), "gap=180ms@n2", seed=1)[0].measures.moves
    assert moves[0].gap_ms == pytest.approx(180.0, abs=25.0)
    assert moves[0].bump_db == 0.0
    pushed = heard(exercise_of("trumpet-bb", "two-partial-slur"), "bump=9db@n2", seed=1)[0].measures.moves
    assert pushed[0].gap_ms == 0.0
    assert pushed[0].bump_db == pytest.approx(9.0, abs=3.0)


def test_a_slot_a_tone_away_from_both_notes_is_touched_too() -> None:
    exercise = exercise_of("horn-f-bb", "wide-slur", partial="8", fingering="F 0")
    assert heard(exercise, seed=1)[0].verdict.outcome == "clean"  # type: ignore[union-attr]
    said = heard(exercise, "caught=9/110ms@n4", seed=1)[0].verdict
    assert said is not None
    assert (said.reason, said.note) == ("clipped-partial", "n4")


@pytest.mark.parametrize(("db", "reason"), [(-6.0, "extra"), (-18.0, None), (-30.0, None)])
def test_a_strange_note_far_softer_than_the_player_is_not_theirs(db: float, reason: str | None) -> None:
    asked, other = exercise_of("trumpet-bb", "long-low-tones"), exercise_of("trumpet-bb", "step-ladder", start="F4")
    sound, rate = play(asked, seed=1)[0].samples, 44_100
    strange = play(other, seed=1)[0].samples[round(3.9 * rate) : round(5.2 * rate)] * 10.0 ** (db / 20.0)
    both = np.concatenate((sound, np.zeros(round(0.3 * rate)), strange, np.zeros(rate)))
    both += np.random.default_rng(0).normal(0.0, 10.0 ** (-72.0 / 20.0), len(both))
    got = listen(
        Sound(both.astype(np.float32), rate),
        ListeningTask(instrument_named("trumpet-bb"), asked, first_beat_s=0.0),
        JudgingTerms(limits_of("developing")),
    )
    assert got.verdict is not None
    assert got.verdict.reason == reason


@pytest.mark.parametrize("flaw", ["entry=-39c/250ms@n1", "entry=36c/350ms@n1", "entry=-95c/400ms@n1", "sag=-40c@n1"])
@pytest.mark.parametrize("standard", ["beginner", "developing", "professional"])
def test_a_number_that_is_named_lies_beyond_the_limit_named_beside_it(flaw: str, standard: str) -> None:
    verdict = heard(exercise_of("trumpet-bb", "long-low-tones"), flaw, seed=2, standard=standard)[0].verdict
    assert verdict is not None
    assert all(abs(fault.value) > fault.limit for fault in verdict.findings if fault.value and fault.limit)
    assert verdict.findings or standard != "professional"


@pytest.mark.parametrize(
    ("exercise_type", "params"),
    [
        ("step-ladder", {}),
        ("two-partial-slur", {}),
        ("intervals", {}),
        ("top-note-cold", {}),
        ("tune", {}),
    ],
)
def test_a_note_that_is_let_go_at_once_is_not_held(exercise_type: str, params: dict[str, str]) -> None:
    exercise = exercise_of("trumpet-bb", exercise_type, **params)
    longest = max((note for note in exercise.notes if asks_length(exercise, note)), key=lambda note: note.beats)
    clean = heard(exercise)[0].verdict
    assert clean is not None
    assert clean.outcome == "clean"
    short = heard(exercise, f"hold=0.3s@{longest.id}")[0].verdict
    assert short is not None
    assert short.outcome == "not_yet"
    assert ("length", longest.id) in {(finding.reason, finding.note) for finding in short.findings}


def test_what_may_be_short_is_not_asked_to_be_long() -> None:
    scale = exercise_of("trumpet-bb", "one-octave-scale")
    slow = scale.notes[0]
    assert asks_length(scale, slow) == (slow.beats * scale.beat_s >= 0.75)
    assert not asks_length(dataclasses.replace(scale, click=False), slow)  # the player's own tempo
    assert not asks_length(dataclasses.replace(scale, tempo_bpm=240.0), slow)
    tone = exercise_of("trumpet-bb", "long-low-tones")
    assert not any(asks_length(tone, note) for note in tone.notes if note.to_breath_end)
