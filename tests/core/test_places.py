"""Every finding has a place; a breath explains what it costs; a late first note is told by itself; a broken note is one note."""

from dataclasses import replace

import pytest

from orexis.core.approaches import DEFAULTS, Ask, Choice
from orexis.core.coach import judge, limits_of
from orexis.core.exercises import Exercise, Loudness
from orexis.core.instruments import instrument_named
from orexis.core.listen import ClickTrack, JudgingTerms, ListeningTask, ListenResult, listen
from orexis.core.notes import HeardNote, repair_partial_breaks
from orexis.core.player import parse_flaws, play
from orexis.core.rehearsal.measured import flawless
from orexis.core.sound import Sound
from orexis.core.trace import track
from tests.conftest import exercise_of

SCALE, SLUR, ARPEGGIO = "one-octave-scale", "two-partial-slur", "add-one-arpeggio"


def judged(exercise: Exercise, *flaws: str, seed: int = 3, first_beat_s: float | None = 0.0) -> ListenResult:
    sound, _ = play(exercise, flaws=parse_flaws(flaws), seed=seed)
    return listen(
        sound,
        ListeningTask(instrument_named(exercise.instrument), exercise, first_beat_s=first_beat_s),
        JudgingTerms(limits_of("developing")),
        click=ClickTrack(delay_s=0.0),
    )


@pytest.mark.parametrize(
    ("exercise_type", "flaws", "reason", "note", "at_s"),
    [
        (SLUR, ("late=200ms@n2",), "timing", "n2", 5.2),
        (ARPEGGIO, ("breathes=1@n4",), "breath-inside", "n4", 3.65),
    ],
)
def test_what_is_said_of_the_whole_says_where_it_shows(
    exercise_type: str, flaws: tuple[str, ...], reason: str, note: str, at_s: float
) -> None:
    verdict = judged(exercise_of("trumpet-bb", exercise_type), *flaws).verdict
    assert verdict is not None
    told = {item.reason: item for item in verdict.findings}
    assert all(item.at_s is not None for item in verdict.findings), told
    assert verdict.reason == reason
    assert told[reason].note == note
    assert told[reason].at_s == pytest.approx(at_s, abs=0.15)


@pytest.mark.parametrize(
    ("whole", "reason"),
    [({"loudness_by_height_db_octave": 20.0}, "loudness"), ({"timing_spread_ms": 200.0}, "timing")],
)
def test_a_measure_of_the_whole_beyond_its_limit_has_a_place(whole: dict[str, float], reason: str) -> None:
    exercise = replace(exercise_of("trumpet-bb", SLUR), loudness=Loudness.EVEN, judged=("timing", "loudness_by_height"))
    clean = flawless(exercise)
    notes = tuple(replace(note, due_s=note.onset_s) for note in clean.notes)
    notes = (*notes[:2], replace(notes[2], due_s=notes[2].onset_s - 0.3), *notes[3:])  # type: ignore[operator]
    whole_take = replace(clean, notes=notes, exercise=replace(clean.exercise, **whole))  # type: ignore[arg-type]
    verdict = judge(whole_take, exercise, limits_of("developing"))
    assert verdict.reason == reason
    place = next(note for note in notes if note.target == verdict.note)
    assert verdict.at_s == place.onset_s
    assert place.index == 2 if reason == "timing" else place.f0_hz == max(note.f0_hz or 0.0 for note in notes)


def test_a_hole_in_a_siren_is_told_where_it_lies() -> None:
    exercise = exercise_of("trumpet-bb", "siren")
    sound, _ = play(exercise, seed=3)
    at = exercise.start_s(exercise.notes[0]) + 1.5
    samples = sound.samples.copy()
    samples[round(at * sound.rate) : round((at + 0.1) * sound.rate)] = 0.0
    verdict = listen(
        Sound(samples, sound.rate),
        ListeningTask(instrument_named("trumpet-bb"), exercise, first_beat_s=0.0),
        JudgingTerms(limits_of("developing")),
    ).verdict
    assert verdict is not None
    assert verdict.reason == "siren-break"
    assert verdict.at_s == pytest.approx(at, abs=0.05)


def test_a_breath_says_why_a_note_is_missing_and_a_silence_is_there() -> None:
    for beat in (0.0, None):  # a file does not say where its first beat lies
        verdict = judged(exercise_of("trumpet-bb", ARPEGGIO), "breathes=1@n4", first_beat_s=beat).verdict
        assert verdict is not None
        assert [(item.reason, item.note) for item in verdict.findings] == [("breath-inside", "n4")]


def test_where_a_breath_is_allowed_what_it_cost_is_told() -> None:
    exercise = exercise_of("trumpet-bb", ARPEGGIO)
    measures = judged(exercise, "breathes=1@n4").measures
    allowed = DEFAULTS | {Ask.BREATH_INSIDE: Choice.NOSE_BREATH}
    told = judge(measures, exercise, limits_of("developing"), approaches=allowed)
    assert {str(item.reason) for item in told.findings} == {"missing", "gap"}


@pytest.mark.parametrize(("ms", "side"), [(180, "behind"), (-180, "ahead"), (70, "")])
def test_a_late_first_note_is_told_even_where_it_is_the_only_one(ms: int, side: str) -> None:
    for exercise_type in ("long-low-tones", SCALE):
        exercise = exercise_of("trumpet-bb", exercise_type)
        usual, heard = judged(exercise).measures.exercise.start_off_ms, judged(exercise, f"late={ms}ms@n1")
        assert usual is not None
        assert heard.measures.exercise.start_off_ms == pytest.approx(usual + ms, abs=10.0)
        assert heard.verdict is not None
        late = [item for item in heard.verdict.findings if item.reason == "late"]
        assert [(item.side, item.note) for item in late] == ([(side, "n1")] if side else [])


def test_a_new_note_that_rings_with_the_old_one_does_not_begin_too_early() -> None:
    # The third and the second slot of a tuba lie as close as the window of so low a note can tell.
    exercise = exercise_of("tuba-eb", SLUR)
    for room in ("small", "hall"):
        notes = judged(exercise, f"room={room}").measures.notes
        off = [note.onset_s - note.due_s for note in notes if note.onset_s is not None and note.due_s is not None]
        assert len(off) == len(exercise.notes)
        assert max(abs(value) for value in off) < 0.05, room


def test_breath_in_the_tone_is_no_break() -> None:
    exercise = exercise_of("trumpet-bb", "long-low-tones")
    for seed in (1, 2, 3):
        verdict = judged(exercise, "breath=-3db", seed=seed).verdict
        assert verdict is not None
        assert verdict.reason == "airy", seed


def test_a_note_that_breaks_is_made_whole_unless_it_is_written_twice() -> None:
    exercise = exercise_of("trumpet-bb", "long-low-tones")
    sound, _ = play(exercise, flaws=parse_flaws(["crack=3/90ms@n1"]), seed=3)
    trace = track(sound)
    whole = exercise.notes[0]
    hz = exercise.target_hz(whole, a4=440.0)
    begins, broke = exercise.start_s(whole), exercise.start_s(whole) + 0.5 * whole.beats * exercise.beat_s
    halves = (
        HeardNote("h1", hz, begins, broke - 0.06, begins, broke - 0.05, joined=False),
        HeardNote("h2", hz, broke + 0.06, broke + 1.5, broke + 0.05, broke + 1.6, joined=True),
    )
    notes, broken = repair_partial_breaks(trace, halves, exercise, a4=440.0)
    assert [note.id for note in notes] == ["h1"]
    assert notes[0].release_s == halves[1].release_s
    assert [round(0.5 * (start + stop), 2) for start, stop in broken["h1"]] == [round(broke, 2)]
    twice = replace(exercise, notes=(whole, replace(whole, id="n2", start_beat=whole.beats)))
    assert repair_partial_breaks(trace, halves, twice, a4=440.0) == (halves, {})
