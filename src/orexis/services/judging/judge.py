"""Judging a take: all that it needs as one value, and what comes of it as another, ready for the record.

It runs in a worker process where there is one: nothing here knows the database, and nothing is left to compute for the
transaction that keeps the take.
"""

import hashlib
import math
from dataclasses import dataclass, replace
from pathlib import Path

from orexis.core.coach import Attempt, Outcome, Standard, Verdict, attempts_of, limits_of, load_of
from orexis.core.exercises import CHECK_NOTE, Exercise, Medium
from orexis.core.instruments import INSTRUMENTS, Instrument
from orexis.core.listen import ClickTrack, JudgingTerms, ListeningTask, listen
from orexis.core.measures import Measures, NoteMeasures, Reference, TimbreProfile, timbre_of
from orexis.core.player import play
from orexis.core.sound import Sound
from orexis.core.theory import Transposition
from orexis.core.trace import Trace
from orexis.core.trends import values_of
from orexis.files.soundfiles import write_flac
from orexis.services.documents import to_json
from orexis.services.journal import MICROPHONE, TakeHead
from orexis.services.values.players import Terms

_EASY_PARTIAL = 4.0  # the fourth partial speaks most easily on every instrument here


@dataclass(frozen=True, slots=True, eq=False)
class Work:
    """A take to be judged. `trace` where it was tracked live already; `flac` is where its sound is to be kept."""

    head: TakeHead
    sound: Sound
    trace: Trace | None
    exercise: Exercise
    terms: Terms
    misses: dict[str, int]
    reference: Reference | None
    delay_s: float | None
    click_db: float | None
    flac: Path | None  # None: its sound is kept already, or is not wanted


@dataclass(frozen=True, slots=True)
class Summary:
    """What lists show of a take, and what it adds to its day."""

    written: str
    fingering: str
    playing_s: float
    load: float
    pitch_error_cents: float | None
    pitch_wobble_cents: float | None
    pitch_drift_cents: float | None
    hold_s: float | None


@dataclass(frozen=True, slots=True)
class EasiestTimbre:
    """How the note of a take that lies nearest to the open tube's fourth partial sounds, and how far off it lies."""

    away: float
    timbre: TimbreProfile


@dataclass(frozen=True, slots=True)
class Judgement:
    """What came of it. Texts are what the record keeps."""

    measures: Measures
    verdict: Verdict
    measures_text: str
    verdict_text: str
    exercise_text: str
    day: int
    summary: Summary
    values: dict[str, float]  # what is followed over weeks
    attempts: tuple[Attempt, ...]
    easiest: EasiestTimbre | None
    sound_sha256: str | None = None  # of the file that was written; None where none was


def judged(work: Work) -> Judgement:
    """Listen, judge, keep the sound; StorageError when the disk will not take it."""
    head, terms, exercise = work.head, work.terms, work.exercise
    result = listen(
        work.sound,
        ListeningTask(
            terms.own_instrument,
            None if exercise.asks_nothing else exercise,
            a4=terms.a4_hz,
            first_beat_s=head.first_beat_s,
        ),
        JudgingTerms(terms.limits, approaches=terms.chosen, misses_before=work.misses),
        click=ClickTrack(delay_s=work.delay_s, peak_db=work.click_db, heard=head.clicked),
        trace=work.trace,
        reference=work.reference,
        live=head.source == MICROPHONE,
    )
    verdict = result.verdict or Verdict(Outcome.DONE)
    judgement = judgement_of(head.take_id, head.day, exercise, terms, result.measures, verdict)
    if work.flac is not None and (result.measures.notes or not exercise.asks_nothing):
        write_flac(work.flac, work.sound)
        judgement = replace(judgement, sound_sha256=digest_of(work.flac))
    return judgement


def digest_of(path: Path) -> str:
    """The SHA-256 of a file, read in pieces."""
    with path.open("rb") as file:
        return hashlib.file_digest(file, "sha256").hexdigest()


def rehearsed() -> None:
    """Judge a short made-up take and keep nothing: what has to be loaded and compiled for it is loaded then."""
    instrument = next(iter(INSTRUMENTS.values()))
    exercise = CHECK_NOTE.series(instrument, {}).exercises[0]
    sound, _ = play(exercise, seed=1)
    listen(sound, ListeningTask(instrument, exercise), JudgingTerms(limits_of(Standard.DEVELOPING)))


def judgement_of(
    take_id: str, day: int, exercise: Exercise, terms: Terms, measures: Measures, verdict: Verdict
) -> Judgement:
    """Everything that is derived from a judged take."""
    return Judgement(
        measures,
        verdict,
        to_json(measures),
        to_json(verdict),
        to_json(exercise),
        day,
        _summary(exercise, terms, measures, verdict),
        _followed(exercise, terms, measures, verdict),
        attempts_of(exercise, measures, verdict, day=day, take_id=take_id),
        easiest_timbre(exercise, terms.own_instrument, measures),
    )


def _summary(exercise: Exercise, terms: Terms, measures: Measures, verdict: Verdict) -> Summary:
    instrument, transposition = terms.own_instrument, terms.written.transposition
    load = load_of(
        measures,
        middle_hz=instrument.middle_partial * instrument.sides[0].fundamental.frequency(),
        top_hz=instrument.highest.frequency(),
        failed=verdict.outcome == Outcome.NOT_YET,
    )
    notes = measures.notes
    return Summary(
        written=_written(exercise, transposition),
        fingering="" if exercise.asks_nothing else exercise.notes[0].fingering.label,
        playing_s=measures.exercise.playing_s,
        load=load,
        pitch_error_cents=_worst(notes, "judged_error_cents"),
        pitch_wobble_cents=_worst(notes, "pitch_wobble_cents"),
        pitch_drift_cents=_worst(notes, "pitch_drift_cents"),
        hold_s=_worst(notes, "hold_s"),
    )


def _followed(exercise: Exercise, terms: Terms, measures: Measures, verdict: Verdict) -> dict[str, float]:
    """What could not be heard, and what nobody asked for, is not followed."""
    return (
        {}
        if verdict.outcome == Outcome.NOT_HEARD or exercise.asks_nothing
        else values_of(exercise, terms.own_instrument, measures, clean=verdict.outcome == Outcome.CLEAN)
    )


def _worst(notes: tuple[NoteMeasures, ...], name: str) -> float | None:
    """The value furthest from 0 among the right notes."""
    values = [getattr(note, name) for note in notes if note.right and getattr(note, name) is not None]
    return max(values, key=abs) if values else None


def easiest_timbre(exercise: Exercise, instrument: Instrument, measures: Measures) -> EasiestTimbre | None:
    """None where nothing of the instrument's sound was heard; a mouthpiece alone is no instrument, and free playing no even sound."""
    if exercise.medium != Medium.INSTRUMENT or exercise.asks_nothing:
        return None
    easy_hz = _EASY_PARTIAL * instrument.sides[0].fundamental.frequency()
    timbres = [timbre for note in measures.notes if (timbre := timbre_of(note)) is not None]
    timbres_by_ease = [EasiestTimbre(abs(math.log2(timbre.f0_hz / easy_hz)), timbre) for timbre in timbres]
    return min(timbres_by_ease, key=lambda item: item.away, default=None)


def _written(exercise: Exercise, transposition: Transposition) -> str:
    """The notes as the player reads them; none where only air is played, or nothing was asked."""
    if exercise.medium == Medium.AIR or exercise.asks_nothing:
        return ""
    return " ".join(transposition.written(note.pitch).name for note in exercise.notes)
