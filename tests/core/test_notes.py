"""Alignment: which sound answers which note, told with notes made by hand."""

import numpy as np
import pytest

from orexis.core.notes import HeardNote, align_notes, segment_notes, split_undersegmented
from orexis.core.trace import HOP_S, Trace
from tests.conftest import exercise_of

EXERCISE = exercise_of("trombone-tenor", "two-partial-slur", tempo="60")  # F3, Bb2, F3 due at 4, 6 and 8 s
F3, BB2, BB3 = 174.61, 116.54, 233.08


def note(name: str, hz: float, start: float, stop: float, *, joined: bool = True) -> HeardNote:
    return HeardNote(name, hz, start, stop, start, stop, joined)


def pairs(*heard: HeardNote, first_beat_s: float | None = 0.0) -> list[tuple[str | None, str | None, bool]]:
    rows = align_notes(heard, EXERCISE, a4=440.0, first_beat_s=first_beat_s)
    return [(row.written and row.written.id, row.heard and row.heard.id, row.right) for row in rows]


GOOD = (note("h1", F3, 4.0, 6.0, joined=False), note("h2", BB2, 6.0, 8.0), note("h3", F3, 8.0, 12.0))


def test_all_there() -> None:
    assert pairs(*GOOD) == [("n1", "h1", True), ("n2", "h2", True), ("n3", "h3", True)]


@pytest.mark.parametrize("shift", [-3.0, 0.0, 7.0])
def test_without_the_click_the_first_note_sets_the_clock(shift: float) -> None:
    moved = [note(n.id, n.f0_hz, n.start_s + shift, n.stop_s + shift) for n in GOOD]
    assert pairs(*moved, first_beat_s=None) == [("n1", "h1", True), ("n2", "h2", True), ("n3", "h3", True)]


def test_a_missed_middle_note() -> None:
    assert pairs(GOOD[0], GOOD[2]) == [("n1", "h1", True), ("n2", None, False), ("n3", "h3", True)]


def test_a_wrong_partial_answers_at_its_moment() -> None:
    assert pairs(GOOD[0], note("h2", BB3, 6.0, 8.0), GOOD[2])[1] == ("n2", "h2", False)


def test_two_notes_heard_as_one_do_not_make_the_next_ones_wrong() -> None:
    """One missing note is likelier than a row of wrong ones."""
    scale = exercise_of("trombone-tenor", "one-octave-scale")
    due = [(scale.target_hz(n, a4=440.0), scale.start_s(n), n.beats * scale.beat_s) for n in scale.notes]
    played = [note(f"h{i}", hz, at, at + lasts) for i, (hz, at, lasts) in enumerate(due, 1)]
    both = note("h3", 0.5 * (played[2].f0_hz + played[3].f0_hz), played[2].onset_s, played[3].release_s)
    rows = align_notes((*played[:2], both, *played[4:]), scale, a4=440.0, first_beat_s=0.0)
    assert [row.right for row in rows if row.written not in scale.notes[2:4]] == [True] * (len(played) - 2)


def test_a_scrap_of_another_pitch_answers_no_long_note() -> None:
    found = pairs(note("h0", BB3, 4.0, 4.09, joined=False), note("h1", F3, 4.09, 6.0), *GOOD[1:])
    assert found[:2] == [(None, "h0", False), ("n1", "h1", True)]


def test_one_sound_that_holds_three_steps_is_divided_twice() -> None:
    stairs = exercise_of("tuba-eb", "interval-stairs")
    hz = [stairs.target_hz(n, a4=440.0) for n in stairs.notes[:5]]
    starts = [stairs.start_s(n) for n in stairs.notes[:5]]
    end = starts[4] + stairs.notes[4].beats * stairs.beat_s
    time_s = np.arange(0.0, end + 0.2, 0.005)
    f0 = np.full(len(time_s), np.nan)
    for one, at in zip(hz, starts, strict=True):
        f0[(time_s >= at) & (time_s < end)] = one
    level, rest = np.where(np.isfinite(f0), -20.0, -80.0), np.full(len(time_s), 20.0)
    trace = Trace(time_s, f0, np.where(np.isfinite(f0), 0.99, 0.0), level, rest, 40.0 * rest)
    heard = (
        note("h1", hz[0], starts[0], starts[1]),
        note("h2", hz[1], starts[1], starts[2]),
        note("h3", hz[4], starts[2], end),
    )
    rows = align_notes(heard, stairs, a4=440.0, first_beat_s=0.0)
    for _ in range(2):
        parts = split_undersegmented(trace, rows, stairs, a4=440.0)
        assert parts is not None
        rows = align_notes(parts, stairs, a4=440.0, first_beat_s=0.0)
    found = {row.written.id: row for row in rows if row.written}
    for written, at in zip(stairs.notes[:5], starts, strict=True):
        row = found[written.id]
        assert row.right
        assert row.heard is not None
        assert row.heard.onset_s == pytest.approx(at, abs=0.03)


def test_an_extra_note_has_no_question() -> None:
    found = pairs(note("h0", BB3, 2.0, 2.6, joined=False), *GOOD)
    assert found == [(None, "h0", False), ("n1", "h1", True), ("n2", "h2", True), ("n3", "h3", True)]


def test_a_repeated_note_answers_once() -> None:
    found = pairs(GOOD[0], note("h1b", F3, 5.0, 5.9, joined=False), *GOOD[1:])
    assert sum(written is None for written, _, _ in found) == 1
    assert [written for written, _, right in found if right] == ["n1", "n2", "n3"]


def test_nothing_heard() -> None:
    assert pairs() == [("n1", None, False), ("n2", None, False), ("n3", None, False)]


def test_a_quarter_tone_off_is_still_the_note_and_a_semitone_is_not() -> None:
    def answer(cents: float) -> bool:
        return pairs(note("h1", F3 * 2 ** (cents / 1200), 4.0, 6.0, joined=False), *GOOD[1:])[0][2]

    assert answer(-55.0)
    assert not answer(-100.0)


def test_a_note_always_has_a_pitch_and_a_length() -> None:
    """Short bursts with holes between them: whatever is called a note can be measured."""
    rng = np.random.default_rng(4)
    f0 = np.where(rng.random(2000) < 0.7, 180.0 * 2.0 ** (np.cumsum(rng.normal(0, 0.004, 2000))), np.nan)
    level = -30.0 + np.cumsum(rng.normal(0, 1.5, 2000))
    level = np.clip(level - np.linspace(0, level[-1] + 30, 2000), -80, -10)
    trace = Trace(
        np.arange(2000) * 0.005,
        f0,
        np.where(np.isfinite(f0), 0.9, 0.2),
        level,
        np.full(2000, 9.0),
        np.full(2000, 800.0),
    )
    for note in segment_notes(trace):
        assert np.isfinite(note.f0_hz)
        assert note.release_s > note.onset_s


def test_a_change_of_note_that_lies_in_a_hole_of_a_few_frames() -> None:
    """A click, or a hole in the sound, just where a slurred semitone changes: two notes, and no failure."""
    up, down = np.linspace(0.0, 21.0, 8), np.linspace(77.0, 98.0, 8)
    cents = np.concatenate([np.zeros(300), up, np.full(5, np.nan), down, np.full(300, 98.0)])
    voiced, rest = np.isfinite(cents), np.ones(len(cents))
    f0 = 232.9 * 2.0 ** (cents / 1200.0)
    trace = Trace(HOP_S * np.arange(len(f0)), f0, np.where(voiced, 0.99, 0.0), -20.0 * rest, 40.0 * rest, 900.0 * rest)
    notes = segment_notes(trace)
    assert [round(note.f0_hz) for note in notes] == [233, 246]
