"""Against the pulse: trills and timing."""

from itertools import pairwise
from statistics import median

from orexis.core.approaches import Ask, Choice
from orexis.core.coach.judging.context import JudgingContext
from orexis.core.coach.judging.criterion import (
    NEVER,
    About,
    Criterion,
    Cue,
    FaultType,
    Limit,
    TrendMeasure,
    TrendSource,
)
from orexis.core.coach.judging.echoes import anywhere
from orexis.core.exercises import Exercise
from orexis.core.measures import Measures, NoteMeasures

_FEWEST_ONSETS, _HEARD_SHARE = 4, 0.75
_SWEEPS = 0.4  # of a trill's time in its slots, against an even sweep: less is no trill
_NOT_THERE = ("missing", "stuck", "wrong-partial", "wrong-fingering", "wrong-note", "extra")


def _trill(sheet: JudgingContext) -> None:
    asked = sheet.exercise.least("trill")
    if asked is None:
        return
    rate = _fastest_rate(sheet) or sheet.measures.exercise.trill_hz
    if rate is None:
        sheet.skipped.add("trill")
    elif rate < asked:
        sheet.find("trill", *_slowest(sheet), rate, round(asked, 2), "Hz", least=True)


def _lock(sheet: JudgingContext) -> None:
    """Both notes of a trill stay in their slots for a moment, at every speed.

    A pitch that sweeps between them is told as that alone. Where every turn was heard, the quickest notes, too short to be
    told from each other one by one, are there.
    """
    whole, limit = sheet.measures.exercise, sheet.limits["unlocked_percent"]
    share, dwelling = whole.unseated_share, whole.dwelling_share
    loose = share is not None and 100.0 * share > limit
    if dwelling is not None and dwelling < _SWEEPS and not loose:
        sheet.drop(*_NOT_THERE, "trill")
        sheet.find("trill-slides", *sheet.place_of(whole.dwelling_note))
        return
    if whole.lost_turns == 0:
        sheet.drop(*_NOT_THERE)
    if share is None:
        sheet.skipped.add("lock")
    elif loose:
        sheet.find("lock", *sheet.place_of(whole.unseated_note), round(100.0 * share), limit, "%")


def _pulse(sheet: JudgingContext) -> None:
    asked, measured = sheet.exercise.least("pulse"), sheet.measures.exercise.pulse_db
    if asked is None:
        return
    if measured is None:
        sheet.skipped.add("pulse")
    elif measured < asked:
        sheet.find("pulse", *sheet.place_of(sheet.measures.exercise.pulse_note), measured, asked, "dB", least=True)


def _shortest(sheet: JudgingContext) -> list[NoteMeasures]:
    """The heard notes of the exercise's shortest length."""
    shortest = min(note.beats for note in sheet.exercise.notes)
    wanted = {note.id for note in sheet.exercise.notes if note.beats < shortest + 1e-6}
    return [note for note in sheet.measures.notes if note.target in wanted and note.right and note.onset_s is not None]


def _slowest(sheet: JudgingContext) -> tuple[str | None, float | None]:
    """Where the fastest part of a trill takes longest from one note to the next."""
    apart = [
        ((b.onset_s or 0.0) - (a.onset_s or 0.0), a.target)
        for a, b in pairwise(_shortest(sheet))
        if b.index == a.index + 1
    ]
    return sheet.place_of(max(apart)[1] if apart else None)


def _furthest_off(sheet: JudgingContext) -> tuple[str | None, float | None]:
    """The note that lies furthest from where the others lie against the beat."""
    off = [
        (note.onset_s - note.due_s, note.target)
        for note in sheet.measures.notes
        if note.right and note.onset_s is not None and note.due_s is not None
    ]
    usual = median(value for value, _ in off) if off else 0.0
    return sheet.place_of(max((abs(value - usual), target) for value, target in off)[1] if off else None)


def _fastest_rate(sheet: JudgingContext) -> float | None:
    """There-and-backs a second over the exercise's shortest notes, from the first of them to the last."""
    shortest = min(note.beats for note in sheet.exercise.notes)
    written = sum(note.beats < shortest + 1e-6 for note in sheet.exercise.notes)
    onsets = [note.onset_s for note in _shortest(sheet) if note.onset_s is not None]
    if len(onsets) < _HEARD_SHARE * written or len(onsets) < _FEWEST_ONSETS:
        return None
    apart = median(later - earlier for earlier, later in pairwise(sorted(onsets)))
    return round(1.0 / (2.0 * apart), 2) if apart > 0 else None


def _timing(sheet: JudgingContext) -> None:
    spread, limit = sheet.measures.exercise.timing_spread_ms, sheet.limits["timing_spread_ms"]
    if spread is None:
        sheet.skipped.add("timing")
    elif spread > limit:
        sheet.find("timing", *_furthest_off(sheet), spread, limit, "ms")


def _start(sheet: JudgingContext) -> None:
    """As a whole, or, where the others found the beat, the first note alone."""
    whole, limit = sheet.measures.exercise, sheet.limits["late_ms"]
    off = [value for value in (whole.timing_mean_ms, whole.start_off_ms) if value is not None and abs(value) > limit]
    if off:
        first = next((note.target for note in sheet.measures.notes if note.right), None)
        sheet.find("late", *sheet.place_of(first), off[0], limit, "ms", side="behind" if off[0] > 0 else "ahead")


def _trill_rate(exercise: Exercise, measures: Measures) -> float | None:
    return measures.exercise.trill_hz if "trill" in exercise.judged else None


PULSE = (
    Criterion(
        "trill",
        "there-and-backs a second over the shortest notes",
        (
            FaultType(
                "trill",
                "trill speed",
                "the trill was {value:1} a second; the goal is {limit:1}",
                {
                    "": (
                        Cue("slower than asked", "Play it clean at half tempo. Then speed up step by step."),
                        Cue("slower than asked", "Say 'ee-oo' with the tongue, the lips quiet.", body=True),
                        Cue(
                            "slower than asked",
                            "Let the jaw move lightly with the trill.",
                            True,
                            (Ask.SLURS_LED_BY, Choice.JAW_AND_LIP),
                        ),
                    )
                },
                about=About.WHOLE,
                echoes=anywhere,
            ),
        ),
        of_whole=_trill,
        trend=TrendSource(
            TrendMeasure("trill", 12, "Lip trill speed", "a second", True, False, 0.0, 4.0, "trill"),
            of_take=_trill_rate,
        ),
    ),
    Criterion(
        "lock",
        "notes of a trill that never stay in their partial, at the speed at which most do not",
        (
            FaultType(
                "trill-slides",
                "a trill that slides",
                "the trill slid between its notes and stayed on neither",
                {
                    "": (
                        Cue(
                            "waved instead of trilling", "Play both notes slowly and hear each one ring. Then speed up."
                        ),
                        Cue("waved instead of trilling", "Let the tongue flick from note to note. Keep the air even."),
                    )
                },
                near=NEVER,
                about=About.WHOLE,
            ),
            FaultType(
                "lock",
                "trill notes that don’t settle",
                "{value} of 100 trill notes never settled",
                {
                    "": (
                        Cue(
                            "waved between the notes instead of landing",
                            "Slow down and let each note settle. The speed comes by itself.",
                        ),
                        Cue(
                            "waved between the notes instead of landing",
                            "Give a pulse of air on each beat.",
                        ),
                    )
                },
                about=About.BESIDE,
                echoes=anywhere,
            ),
        ),
        limits=(Limit("unlocked_percent", "Trill notes that don’t settle, %", (45.0, 30.0, 20.0, 10.0)),),
        of_whole=_lock,
    ),
    Criterion(
        "pulse",
        "how far the loudness rises with each beat, where a pulse of air is written",
        (
            FaultType(
                "pulse",
                "air pulse",
                "the air pulse on the beats was too small{least}",
                {
                    "": (
                        Cue(
                            "the air didn’t pulse",
                            "Blow the beats without the instrument: ho, ho, ho. Then add the notes.",
                        ),
                        Cue(
                            "the air didn’t pulse",
                            "Slow down. Give a small push from the belly on each click.",
                            body=True,
                        ),
                    )
                },
                about=About.WHOLE,
                echoes=anywhere,
            ),
        ),
        of_whole=_pulse,
    ),
    Criterion(
        "timing",
        "how unevenly the onsets fall against the click, or against the player's own pulse",
        (
            FaultType(
                "timing",
                "rhythm",
                "the rhythm was uneven{most}",
                {
                    "": (
                        Cue(
                            "uneven rhythm",
                            "Say the rhythm aloud with the click, then play.",
                        ),
                        Cue(
                            "uneven rhythm",
                            "Slow down and count the small beats.",
                        ),
                    )
                },
                about=About.WHOLE,
                echoes=anywhere,
            ),
        ),
        limits=(Limit("timing_spread_ms", "Uneven rhythm, ms", (80.0, 50.0, 30.0, 20.0)),),
        of_whole=_timing,
    ),
    Criterion(
        "start",
        "how far behind or ahead of the click the notes come as a whole",
        (
            FaultType(
                "late",
                "early or late",
                "you were {value?ahead of|behind} the click by {value:s}",
                {
                    "behind": (
                        Cue("behind the click", "Breathe on the beat before, and play exactly on the beat."),
                        Cue("behind the click", "Tap your foot through the count-in and play with it."),
                    ),
                    "ahead": (
                        Cue("ahead of the click", "Wait for the beat. Breathe in time."),
                        Cue("ahead of the click", "Tap your foot through the count-in and play with it."),
                    ),
                },
                survives_loss=True,
                about=About.BESIDE,
            ),
        ),
        limits=(Limit("late_ms", "Early or late, ms", (160.0, 110.0, 70.0, 45.0)),),
        of_whole=_start,
    ),
)
