"""What is not the player's, what the room adds, and what a teacher says in any exercise. Truth: the simulated player and tones."""

from dataclasses import replace

import numpy as np
import pytest
from scipy.signal import fftconvolve

from orexis.core.coach import limits_of
from orexis.core.coach.judging.basics import BASICS, LEFT_OUT, judged_measures_of, left_at
from orexis.core.exercises import EXERCISE_TYPES, Exercise, Medium
from orexis.core.instruments import instrument_named
from orexis.core.listen import ClickTrack, JudgingTerms, ListeningTask, ListenResult, listen
from orexis.core.measures import check_sound
from orexis.core.notes import segment_notes, without_background
from orexis.core.notes.ringing import remove_phantom_f0
from orexis.core.player import parse_flaws, play
from orexis.core.room import RoomAcoustics, band_levels_db, coarse, dereverberate, room_of
from orexis.core.sound import Sound
from orexis.core.trace import track
from tests.conftest import exercise_of, some

SLUR = "two-partial-slur"


def judged(exercise: Exercise, *flaws: str, seed: int = 3, add: Sound | None = None) -> ListenResult:
    sound, _ = play(exercise, flaws=parse_flaws(flaws), seed=seed)
    if add is not None:
        count = min(len(sound.samples), len(add.samples))
        sound = Sound(sound.samples[:count] + add.samples[:count], sound.rate)
    return listen(
        sound,
        ListeningTask(instrument_named(exercise.instrument), exercise, first_beat_s=0.0),
        JudgingTerms(limits_of("developing")),
    )


def reason(result: ListenResult) -> str | None:
    assert result.verdict is not None
    return result.verdict.reason


def hum(seconds: float, rate: int, db: float) -> Sound:
    t = np.arange(round(seconds * rate)) / rate
    wave = sum(share * np.sin(2 * np.pi * 50.0 * n * t + n) for n, share in ((1, 1.0), (2, 0.5), (3, 0.35)))
    return Sound((10 ** (db / 20) * wave).astype(np.float32), rate)


def knocks(seconds: float, rate: int, peak_db: float, every_s: float) -> Sound:
    out = np.zeros(round(seconds * rate))
    t = np.arange(round(0.05 * rate)) / rate
    knock = 10 ** (peak_db / 20) * np.sin(2 * np.pi * 990.0 * t) * np.exp(-t / 0.008)
    for at in np.arange(0.05, seconds - 0.1, every_s):
        first = round(at * rate)
        out[first : first + len(knock)] += knock
    return Sound(out.astype(np.float32), rate)


@pytest.mark.parametrize("instrument", ["trumpet-bb", "trombone-tenor", "tuba-eb"])
def test_mains_hum_and_a_loudspeakers_click_are_no_notes(instrument: str) -> None:
    for exercise_type in (SLUR, "long-low-tones"):
        exercise = exercise_of(instrument, exercise_type)
        sound, _ = play(exercise, seed=3)
        seconds = len(sound.samples) / sound.rate
        for added in (hum(seconds, sound.rate, -66.0), knocks(seconds, sound.rate, -36.0, exercise.beat_s)):
            heard = judged(exercise, add=added)
            assert reason(heard) is None, (exercise_type, heard.verdict)


def test_a_short_note_in_a_long_hum_is_not_too_quiet() -> None:
    rate = 44_100
    t = np.arange(10 * rate) / rate
    tone = np.where((t > 6.0) & (t < 8.0), 0.1 * np.sin(2 * np.pi * 233.0 * t), 0.0).astype(np.float32)
    alone, with_hum = (
        check_sound(heard, track(heard))
        for heard in (Sound(tone, rate), Sound(tone + hum(10.0, rate, -66.0).samples, rate))
    )
    assert alone.tone_db_fs is not None
    assert with_hum.tone_db_fs == pytest.approx(alone.tone_db_fs, abs=1.0)
    assert with_hum.noise_db is not None
    assert with_hum.noise_db < -60.0


def test_background_is_learned_from_what_was_there_before() -> None:
    rate = 44_100
    t = np.arange(4 * rate) / rate
    tone = 0.1 * np.sin(2 * np.pi * 233.0 * t) + 0.05 * np.sin(2 * np.pi * 466.0 * t)
    tone[: 2 * rate] = 0.0
    sound = Sound((tone + hum(4.0, rate, -60.0).samples).astype(np.float32), rate)
    trace = track(sound)
    assert np.mean(trace.part(0.3, 1.8).voiced) > 0.5
    quiet = without_background(trace)
    assert not quiet.part(0.3, 1.8).voiced.any()
    assert quiet.part(2.2, 3.8).voiced.all()


def test_a_strange_note_must_be_one_that_the_instrument_could_sound() -> None:
    exercise = exercise_of("trombone-tenor", "long-low-tones")
    sound, _ = play(exercise, seed=3)
    t = np.arange(round(0.3 * sound.rate)) / sound.rate
    at = round(1.0 * sound.rate)
    for hz, db, called in ((349.2, -24.0, "extra"), (349.2, -48.0, None), (63.0, -24.0, None)):
        whistle = sum(np.sin(2 * np.pi * n * hz * t) / n for n in range(1, 8)) * np.hanning(len(t)) ** 0.2
        samples = sound.samples.copy()
        samples[at : at + len(t)] += (10 ** (db / 20) * whistle).astype(np.float32)
        heard = listen(
            Sound(samples, sound.rate),
            ListeningTask(instrument_named("trombone-tenor"), exercise, first_beat_s=0.0),
            JudgingTerms(limits_of("developing")),
        )
        assert reason(heard) == called, (hz, db)


@pytest.mark.parametrize(("room", "sizes"), [("dry", (100, 140)), ("small", (100, 140))])
def test_a_silence_in_a_slur_is_heard_where_the_room_rings(room: str, sizes: tuple[int, ...]) -> None:
    exercise = exercise_of("trombone-tenor", SLUR)
    none = judged(exercise, f"room={room}").measures.moves[0]
    assert none.gap_ms == 0.0 if room == "dry" else none.gap_under_ms == pytest.approx(50.0, abs=15.0)
    for size in sizes:
        heard = judged(exercise, f"room={room}", f"gap={size}ms@n2")
        assert reason(heard) == "gap"
        assert heard.measures.moves[0].gap_ms == pytest.approx(size, abs=25.0)


def in_a_made_room(sound: Sound, decay_s: float, wet_db: float) -> Sound:
    rng = np.random.default_rng(4)
    t = np.arange(round(1.1 * decay_s * sound.rate)) / sound.rate
    tail = rng.normal(0.0, 1.0, len(t)) * 10.0 ** (-3.0 * t / decay_s) * np.clip(t / 0.02, 0.0, 1.0)
    tail *= 10.0 ** (wet_db / 20.0) / np.sqrt(np.sum(tail**2))
    wet = fftconvolve(sound.samples.astype(np.float64), tail)[: len(sound.samples)]
    return Sound((sound.samples + wet).astype(np.float32), sound.rate)


@pytest.mark.parametrize(("decay_s", "wet_db"), [(0.5, -8.0), (0.9, -8.0), (1.5, -10.0)])
def test_the_room_is_learned_from_how_a_note_dies_away(decay_s: float, wet_db: float) -> None:
    dry, _ = play(exercise_of("trombone-tenor", "long-low-tones"), seed=2)
    assert room_of(dry) is None
    found = room_of(in_a_made_room(dry, decay_s, wet_db))
    assert found is not None
    assert found.decay_s == pytest.approx(decay_s, rel=0.35)


def test_what_rings_is_turned_down_and_a_held_note_keeps_pitch_and_length() -> None:
    rate = 44_100
    t = np.arange(3 * rate) / rate
    on = (t > 0.3) & ((t < 1.5) | (t > 1.62)) & (t < 2.4)
    tone = sum(np.sin(2 * np.pi * n * 220.0 * t) / n for n in range(1, 10)) * on
    wet = in_a_made_room(Sound((0.05 * tone).astype(np.float32), rate), 0.5, -6.0)
    dry = dereverberate(wet, RoomAcoustics(120.0, -6.0))
    assert len(dry.samples) == len(wet.samples)

    def hole(sound: Sound) -> float:
        levels = band_levels_db(sound)[:, 4:14]  # 250 Hz to 2.5 kHz: where the harmonics lie
        return float((np.median(levels[160:280], axis=0) - levels[312:317].mean(axis=0)).mean())

    assert hole(dry) > hole(wet) + 8.0
    trace = track(dry)
    held = trace.part(0.6, 1.4).f0_hz
    assert np.median(np.abs(1200.0 * np.log2(held / 220.0))) < 0.5


def test_bands_of_some_frames_are_those_of_the_whole() -> None:
    sound, _ = play(exercise_of("tuba-eb", SLUR), flaws=(), seed=3)
    some = np.array([3, 200, 201, 777])
    assert np.array_equal(band_levels_db(sound, some), band_levels_db(sound)[some])


def test_a_room_that_hides_a_short_silence_says_so_and_blames_nobody() -> None:
    exercise = exercise_of("tuba-eb", SLUR)
    sound, _ = play(exercise, seed=3)
    heard = listen(
        in_a_made_room(sound, 1.5, -8.0),
        ListeningTask(instrument_named(exercise.instrument), exercise, first_beat_s=0.0),
        JudgingTerms(limits_of("developing")),
    )
    assert heard.verdict is not None
    assert heard.verdict.reason != "gap"
    assert "gap" in heard.verdict.skipped
    assert heard.verdict.hidden is not None
    assert "under" in heard.verdict.hidden


def test_two_notes_that_ring_together_are_no_third_one() -> None:
    # 103.8 and 155.7 Hz share the subharmonic 51.9: read as a pitch while one dies away under the other.
    rate, f1, f2 = 44_100, 155.7, 103.8
    t = np.arange(3 * rate) / rate
    old = sum(np.sin(2 * np.pi * n * f1 * t) / n for n in range(1, 12)) * np.where(t < 1.5, 1.0, 10 ** (-(t - 1.5) * 3))
    new = sum(np.sin(2 * np.pi * n * f2 * t) / n for n in range(1, 12)) * np.clip((t - 1.5) / 0.02, 0.0, 1.0)
    sound = Sound((0.05 * (old + new)).astype(np.float32), rate)
    trace = track(sound)
    found = remove_phantom_f0(sound, trace, segment_notes(trace))
    between = found.part(1.5, 1.9)
    ghost = np.abs(1200.0 * np.log2(between.f0_hz[between.voiced] / 51.9)) < 50.0
    assert not ghost.any()
    assert [round(note.f0_hz, 1) for note in segment_notes(found)] == [f1, f2]


def test_a_touched_slot_between_two_others_stays_in_a_room() -> None:
    exercise = exercise_of("trombone-tenor", "wide-slur")
    place = next(i for i, note in enumerate(exercise.notes) if note.slurred)
    low, high = sorted((exercise.notes[place - 1].partial, exercise.notes[place].partial))
    heard = judged(exercise, "room=small", f"caught={low + 1}/110ms@{exercise.notes[place].id}")
    assert high - low == 2
    assert reason(heard) == "clipped-partial"


@pytest.mark.parametrize("cents", [33, -38])
def test_a_leading_note_out_of_tune_is_out_of_tune_and_not_missing(cents: int) -> None:
    for instrument in ("trumpet-bb", "trombone-tenor", "tuba-eb"):
        exercise = exercise_of(instrument, "one-octave-scale")
        heard = judged(exercise, f"centre={cents}c@n7")
        assert heard.verdict is not None
        assert (heard.verdict.reason, heard.verdict.note) == ("pitch", "n7"), instrument
        assert heard.verdict.value == pytest.approx(cents, abs=5.0)


@pytest.mark.parametrize(
    ("flaw", "called"),
    [
        ("crack=5/70ms@n1", "split"),
        ("split=5/70ms@n1", "split"),
        ("fade=15db@n1", "level-wobble"),
        ("entry=-80c/130ms@n1", "attack"),
        ("breath=-3db", "airy"),
        ("sag=-40c@n1", "pitch-drift"),
    ],
)
def test_what_a_teacher_says_in_any_exercise(flaw: str, called: str) -> None:
    for exercise_type in ("long-low-tones", "against-a-drone"):
        exercise = exercise_of("trombone-tenor", exercise_type)
        assert reason(judged(exercise)) is None
        assert reason(judged(exercise, flaw)) == called, exercise_type


def test_a_pushed_move_and_everything_late_are_said() -> None:
    exercise = exercise_of("tuba-eb", SLUR)
    assert reason(judged(exercise, "bump=11db@n2")) == "bump"
    sound, _ = play(exercise, flaws=parse_flaws(["late=160ms"]), seed=3)
    task = ListeningTask(instrument_named("tuba-eb"), exercise, first_beat_s=0.0)
    terms = JudgingTerms(limits_of("developing"))
    told = listen(sound, task, terms, click=ClickTrack(delay_s=0.0))
    assert reason(told) == "late"
    assert reason(listen(sound, task, terms)) is None


def test_basics_are_judged_everywhere_and_what_is_left_out_says_why() -> None:
    names = {name for item in LEFT_OUT for name in item.basics}
    assert names <= {*BASICS, "dynamics"}
    assert all(item.why for item in LEFT_OUT)
    for exercise_type in EXERCISE_TYPES.values():
        if exercise_type.medium != Medium.INSTRUMENT or not exercise_type.judged:
            continue
        instrument = instrument_named("trombone-tenor")
        exercise = exercise_type.series(instrument, {}).exercises[0]
        told = judged_measures_of(exercise)
        assert told[: len(exercise.judged)] == exercise.judged
        left = {name for item in LEFT_OUT if item.measure in exercise.judged and not item.at for name in item.basics}
        assert set(BASICS) - left <= set(told)
    assert judged_measures_of(replace(exercise_of("tuba-eb", SLUR), judged=())) == ()


def test_the_note_leapt_to_after_a_bend_is_judged_as_any_other() -> None:
    """The lip leads the bent note and those around it; what comes after the leap is a note like others."""
    exercise = exercise_of("euphonium-bb", "bend-then-leap")
    assert reason(judged(exercise)) is None
    for flaw, told in (("sag=-45c@n5", "pitch-drift"), ("bump=13db@n5", "bump"), ("fade=15db@n5", "level-wobble")):
        assert reason(judged(exercise, flaw)) == told, flaw
    bent = exercise.notes[2]
    assert {"pitch_drift", "bump", "level_wobble"} <= left_at(exercise, bent)
    assert not left_at(exercise, exercise.notes[4])
    assert not left_at(exercise_of("euphonium-bb", SLUR), exercise.notes[1])


@pytest.mark.parametrize("instrument", ["trumpet-bb", "trombone-tenor", "tuba-eb"])
def test_a_slot_touched_where_the_fingering_changes_is_judged(instrument: str) -> None:
    exercise = exercise_of(instrument, "one-octave-scale")
    places = [
        (before, note)
        for before, note in zip(exercise.notes, exercise.notes[1:], strict=False)
        if note.slurred and note.fingering != before.fingering and note.beats * exercise.beat_s > 0.3
    ]
    assert reason(judged(exercise)) is None
    _, note = places[-1]
    beyond = note.partial + 1
    heard = judged(exercise, f"caught={beyond}/90ms@{note.id}")
    assert heard.verdict is not None
    assert (heard.verdict.reason, heard.verdict.note) == ("clipped-partial", note.id)


@pytest.mark.parametrize("instrument", some(["trombone-bass", "horn-f-bb", "euphonium-bb-comp"], 2))
def test_softer_notes_upwards_are_no_room_and_hide_nothing(instrument: str) -> None:
    exercise = exercise_of(instrument, "partial-chain", loudness="ease")
    touched = exercise.notes[1].partial + 1
    sound, _ = play(exercise, flaws=parse_flaws([f"caught={touched}/120ms@n2"]), seed=1)
    assert room_of(sound) is None
    assert reason(judged(exercise, f"caught={touched}/120ms@n2")) == "clipped-partial"


@pytest.mark.parametrize(("rate", "lower"), [(44_100, 14_700), (48_000, 16_000), (16_000, 16_000)])
def test_fewer_samples_hold_what_lies_under_four_and_a_half_kilohertz(rate: int, lower: int) -> None:
    t = np.arange(rate) / rate
    for hz, kept in ((100.0, 1.0), (4000.0, 1.0), (12_000.0, 0.0)):
        if hz < rate / 2:
            found = coarse(Sound(np.sin(2 * np.pi * hz * t).astype(np.float32), rate))
            assert found.rate == lower
            middle = found.samples[lower // 4 : lower // 2]
            expected = kept * np.sin(2 * np.pi * hz * (np.arange(lower // 4, lower // 2) / lower))
            assert float(np.abs(middle - expected).max()) < 0.01
