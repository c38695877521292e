"""The whole way from sound to verdict in one call, for files and for finished takes alike."""

from dataclasses import dataclass, replace
from functools import partial

import numpy as np

from orexis.core.approaches import Approaches
from orexis.core.coach import Limits, Verdict, judge
from orexis.core.exercises import Exercise
from orexis.core.instruments import Instrument
from orexis.core.measures import SAME_DB, Direct, Measures, Reference, Ringing, check_sound, matched_with, measure
from orexis.core.room import RoomAcoustics, band_levels_db, dereverberate, room_of
from orexis.core.sound import Sound
from orexis.core.trace import Trace, track, warm_tracker

# Grows whenever the same sound could give other numbers.
ANALYSIS_VERSION = 12


def warm() -> None:
    """Have the inner loops ready: compiled on the first day, read from their cache afterwards."""
    warm_tracker()
    dereverberate(Sound(np.zeros(4_000, np.float32), 8_000), RoomAcoustics(100.0, -5.0))


@dataclass(frozen=True, slots=True, eq=False)
class ListenResult:
    """What was heard and decided. `verdict` is None in free play."""

    trace: Trace
    measures: Measures
    verdict: Verdict | None


def listen(
    sound: Sound,
    *,
    instrument: Instrument,
    exercise: Exercise | None,
    limits: Limits,
    a4: float,
    first_beat_s: float | None,
    trace: Trace | None = None,
    delay_s: float | None = None,
    reference: Reference | None = None,
    click_db: float | None = None,
    misses_before: dict[str, int] | None = None,
    approaches: Approaches | None = None,
    live: bool = False,
    clicked: bool = True,
    clicks_s: tuple[float, ...] | None = None,
) -> ListenResult:
    """Listen to a sound. `trace` may be given when it was tracked live already; it is the same by construction.

    `delay_s` is the device's way from click to microphone, `click_db` how loud clicks arrive there (peak,
    dBFS; None when they do not), `reference` the sound that the notes are compared with. `live` is sound that came
    through a microphone as it was played; without `clicked` nobody heard a beat but their own. `clicks_s` says when clicks
    were heard in the sound, where that does not follow from exercise and delay.
    """
    followed = track(sound) if trace is None else trace
    room = room_of(sound)
    ringing = _ringing(sound, room) if room else None
    check = check_sound(sound, followed, live=live)
    measured = partial(
        measure,
        sound_check=check,
        instrument=instrument,
        exercise=exercise,
        a4=a4,
        first_beat_s=first_beat_s,
        sound=sound,
        delay_s=delay_s,
        clicks_s=clicks_s if clicks_s is not None else _clicks(exercise, first_beat_s, delay_s) if clicked else (),
        click_db=click_db,
        clicked=clicked,
        ringing=ringing,
    )
    measures = measured(followed)
    measures = replace(
        measures,
        notes=matched_with(measures.notes, reference, same_db=SAME_DB),
        sound=replace(measures.sound, matched_elsewhere=reference is not None and reference.elsewhere),
    )
    if exercise is None:
        return ListenResult(followed, measures, None)
    without = partial(measured, ringing.direct.trace) if ringing else None
    verdict = judge(
        measures, exercise, limits, misses_before=misses_before, approaches=approaches, without_echoes=without
    )
    return ListenResult(followed, measures, verdict)


def _ringing(sound: Sound, room: RoomAcoustics) -> Ringing:
    dry = dereverberate(sound, room)
    direct = Direct(track(dry), band_levels_db(dry), room.hides_ms, room.echoes_db, band_levels_db(sound))
    return Ringing(room, direct)


def _clicks(exercise: Exercise | None, first_beat_s: float | None, delay_s: float | None) -> tuple[float, ...]:
    """When the exercise's clicks reached the microphone; none where their way is not known."""
    if exercise is None or not exercise.click or first_beat_s is None or delay_s is None:
        return ()
    return tuple(first_beat_s + delay_s + beat * exercise.beat_s for beat in range(exercise.clicks))
