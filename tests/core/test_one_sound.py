"""One line, one sound: air in the tone, notes that drop out, spaces between full notes, buzzes that sink, slurs that never move."""

from collections.abc import Callable
from dataclasses import replace

import numpy as np
import pytest

from orexis.core.coach import Outcome, limits_of
from orexis.core.exercises import Exercise, exercise_type_named
from orexis.core.instruments import instrument_named
from orexis.core.listen import ClickTrack, JudgingTerms, ListeningTask, ListenResult, listen
from orexis.core.measures import Reference
from orexis.core.measures.credible import credible_notes
from orexis.core.measures.envelope import harmonic_spectrum
from orexis.core.measures.exercise import timbre_of
from orexis.core.notes import segment_notes
from orexis.core.player import parse_flaws, play

Flaws = Callable[[Exercise], list[str]]


def asked(exercise_type: str, instrument: str = "trumpet-bb", at: int = 0, **params: str) -> Exercise:
    return exercise_type_named(exercise_type).series(instrument_named(instrument), params).exercises[at]


def take(exercise: Exercise, *flaws: str, reference: Reference | None = None) -> ListenResult:
    sound, _ = play(exercise, flaws=parse_flaws(list(flaws)), seed=3)
    task = ListeningTask(instrument_named(exercise.instrument), exercise, first_beat_s=0.0)
    terms = JudgingTerms(limits_of("developing"))
    return listen(sound, task, terms, click=ClickTrack(delay_s=0.0), reference=reference)


def faults(result: ListenResult) -> list[tuple[str, str | None, str]]:
    assert result.verdict is not None
    return [(fault.reason, fault.note, fault.side) for fault in result.verdict.findings]


def lowest(exercise: Exercise) -> str:
    return min(exercise.notes, key=lambda note: note.pitch.midi).id


def highest(exercise: Exercise) -> str:
    return max(exercise.notes, key=lambda note: note.pitch.midi).id


@pytest.mark.parametrize("instrument", ["trumpet-bb", "trombone-bass", "tuba-f-5"])
def test_air_in_the_tone_is_measured_alike_on_every_instrument(instrument: str) -> None:
    exercise = asked("long-low-tones", instrument)
    for breath in (-30.0, -18.0, -12.0):
        clarity = take(exercise, f"breath={breath}db").measures.notes[0].tone_to_noise_db
        assert clarity == pytest.approx(-breath + 1.7, abs=1.0)  # from 2 to 6 kHz lies two thirds of its air
    assert faults(take(exercise)) == []
    assert [reason for reason, _, _ in faults(take(exercise, "breath=-12db"))] == ["airy"]


def test_a_room_makes_no_tone_airy() -> None:
    exercise = asked("long-low-tones")
    dry, hall = (take(exercise, *room).measures.notes[0].tone_to_noise_db for room in ((), ("room=hall",)))
    assert dry is not None
    assert hall is not None
    assert min(dry, hall) > 30.0


def test_a_pitch_that_moves_leaves_out_the_harmonics_that_it_smears() -> None:
    exercise = asked("long-low-tones", "tuba-eb")
    sound, truth = play(exercise, flaws=parse_flaws(["wobble=40c/5hz"]), seed=1)
    note = truth.notes[0]
    hz = exercise.target_hz(exercise.notes[0], a4=440.0)
    spectrum = harmonic_spectrum(sound, note.onset_s + 0.3, note.release_s - 0.3, hz)
    assert spectrum is not None
    assert spectrum.tone_to_air_db(28.0) is None


@pytest.mark.parametrize(
    ("exercise_type", "params", "flaws", "expected"),
    [
        ("falling-scale", {}, lambda e: [f"level=-44db@{lowest(e)}"], ("line-level", "n8", "soft")),
        ("one-octave-scale", {"loudness": "even"}, lambda e: [f"level=-36db@{highest(e)}"], ("line-level", "n8", "soft")),
        ("falling-scale", {}, lambda e: [f"breath=-10db@{lowest(e)}"], ("airy", "n8", "")),
        ("interval-stairs", {"join": "tongued and full"},
         lambda e: [f"hold={n.beats * e.beat_s - 0.387:.2f}s@{n.id}" for n in e.notes], ("length", "n1", "")),
        ("buzz-answer", {}, lambda e: [f"sag=-97c@{n.id}" for n in e.notes], ("pitch-drift", "n1", "down")),
        ("two-partial-slur", {"direction": "up"},
         lambda e: [f"miss={e.notes[0].partial}@{n.id}" for n in e.notes if n.slurred], ("stuck", "n2", "up")),
        ("two-partial-slur", {"direction": "down"},
         lambda e: [f"miss={e.notes[0].partial}@{n.id}" for n in e.notes if n.slurred], ("stuck", "n2", "down")),
        ("find-the-middle", {}, lambda _e: ["ring=-27c"], ("off-the-ring", "n1", "high")),
        ("long-low-tones", {}, lambda _e: ["inhale=-20db/900ms"], ("noisy-breath", "n1", "")),
    ],
)  # fmt: skip
def test_what_no_teacher_would_pass_is_told(
    exercise_type: str, params: dict[str, str], flaws: Flaws, expected: tuple[str, str, str]
) -> None:
    exercise = asked(exercise_type, **params)
    assert faults(take(exercise)) == []
    assert faults(take(exercise, *flaws(exercise)))[0] == expected


@pytest.mark.parametrize(("softer_db", "heard"), [(32.0, True), (40.0, False)])
def test_a_note_that_nobody_plays_so_softly_is_no_note(softer_db: float, heard: bool) -> None:
    exercise = asked("one-octave-scale", join="tongued and full")
    trace = take(exercise).trace
    notes = segment_notes(trace)
    last = trace.time_s >= notes[-1].onset_s
    soft = replace(trace, level_db=np.where(last, trace.level_db - softer_db, trace.level_db))
    kept = credible_notes(soft, notes, instrument_named(exercise.instrument), exercise, a4=440.0)
    assert (notes[-1] in kept) is heard


def test_a_loud_breath_loses_no_take() -> None:
    result = take(asked("long-low-tones"), "inhale=-20db/900ms")
    assert result.verdict is not None
    assert result.verdict.outcome == Outcome.CLOSE


JOIN_FAULTS = {
    "tongued and full": {0.95: [], 0.4: ["length"]},
    "portato": {1.0: ["not-apart"], 0.78: [], 0.2: ["length"]},
    "short": {0.93: ["not-short"], 0.45: [], 0.2: []},
}


@pytest.mark.parametrize(
    ("instrument", "exercise_type"), [("trumpet-bb", "one-octave-scale"), ("tuba-eb", "interval-stairs")]
)
@pytest.mark.parametrize("join", JOIN_FAULTS)
def test_full_portato_and_short_are_three_things(instrument: str, exercise_type: str, join: str) -> None:
    exercise = asked(exercise_type, instrument, 0, join=join)
    assert faults(take(exercise)) == []
    for share, expected in JOIN_FAULTS[join].items():
        held = [f"hold={max(0.1, n.beats * exercise.beat_s * share):.2f}s@{n.id}" for n in exercise.notes[:-1]]
        assert sorted({reason for reason, _, _ in faults(take(exercise, *held))}) == expected


def test_a_hall_holds_no_note_too_long() -> None:
    exercise = asked("one-octave-scale", join="short")
    result = take(exercise, "room=hall")
    assert {reason for reason, _, _ in faults(result)} <= {"attack"}
    assert result.verdict is not None
    assert "length" in result.verdict.skipped


def test_full_notes_may_leave_the_tongue_its_time() -> None:
    exercise = asked("interval-stairs", join="tongued and full")
    assert (
        faults(take(exercise, *(f"hold={n.beats * exercise.beat_s - 0.1:.2f}s@{n.id}" for n in exercise.notes))) == []
    )


def test_it_is_said_what_differs_from_the_easy_note_and_more_is_asked_near_it() -> None:
    easy, far = asked("step-ladder", "trombone-tenor"), asked("step-ladder", "trombone-tenor", 7)
    timbre = timbre_of(take(easy).measures.notes[0])
    assert timbre is not None
    reference = Reference(timbre)
    for flaw, side in (("pinched=4db", "thinner"), ("pinched=-4db", "darker")):
        assert faults(take(easy, flaw, reference=reference)) == [("tone-match", "n1", side)]
    assert faults(take(easy, reference=reference)) == []
    assert faults(take(far, reference=reference)) == []
    airy = take(easy, "breath=-14db", reference=reference)
    assert airy.measures.notes[0].tone_differs == "airier"
    # Another device colours the sound: only what no device does is held against the note.
    assert faults(take(easy, "pinched=4db", reference=Reference(timbre, elsewhere=True))) == []
