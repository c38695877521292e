"""The whole way from sound to verdict in one call, for files and for finished takes alike."""

from dataclasses import dataclass, replace
from functools import partial

import numpy as np

from orexis.core.approaches import Approaches
from orexis.core.coach import Limits, Verdict, judge
from orexis.core.exercises import Exercise
from orexis.core.measures import (
    SAME_DB,
    UNKNOWN_CLICK,
    ClickTrack,
    DirectSound,
    ListeningTask,
    Measures,
    Reference,
    Ringing,
    check_sound,
    matched_with,
    measure,
)
from orexis.core.room import (
    RoomAcoustics,
    band_levels_db,
    coarse,
    dereverberate,
    room_of,
    warm_partials,
    without_known,
)
from orexis.core.signals import median
from orexis.core.sound import Sound
from orexis.core.trace import Trace, track, warm_path, warm_windows

__all__ = [
    "ANALYSIS_VERSION",
    "ClickTrack",
    "JudgingTerms",
    "ListenResult",
    "ListeningTask",
    "listen",
    "players_sound",
    "warm",
    "warm_path",
    "warm_windows_and_room",
]

_MOMENT_S, _SOUNDS = 0.05, 0.01  # a moment of so much of the loudest power is no silence
# Grows whenever the same sound could give other numbers.
ANALYSIS_VERSION = 18


def warm() -> None:
    """Have the inner loops ready: compiled on the first day, read from their cache afterwards."""
    warm_windows_and_room()
    warm_path()


def warm_windows_and_room() -> None:
    """Half of them, which takes as long to compile as `warm_path`, the other half."""
    warm_windows()
    warm_partials()
    dereverberate(Sound(np.zeros(4_000, np.float32), 8_000), RoomAcoustics(100.0, -5.0))


@dataclass(frozen=True, slots=True, eq=False)
class ListenResult:
    """What was heard and decided. `verdict` is None in free play."""

    trace: Trace
    measures: Measures
    verdict: Verdict | None


@dataclass(frozen=True, slots=True)
class JudgingTerms:
    """By what a take is judged. `misses_before`: the latest misses in a row of this exercise, by reason."""

    limits: Limits
    approaches: Approaches | None = None
    misses_before: dict[str, int] | None = None


def listen(
    sound: Sound,
    task: ListeningTask,
    terms: JudgingTerms,
    *,
    click: ClickTrack = UNKNOWN_CLICK,
    trace: Trace | None = None,
    reference: Reference | None = None,
    live: bool = False,
) -> ListenResult:
    """Return what is heard, measured and decided of a sound.

    `trace` may be given when it was tracked live already; it is the same by construction. `reference` is the sound that the
    notes are compared with. `live` is sound that came through a microphone as it was played.
    """
    heard = sound
    sound = players_sound(sound, task.exercise, a4=task.a4, first_beat_s=task.first_beat_s, delay_s=click.delay_s)
    followed = track(sound) if trace is None or sound is not heard else trace
    room = room_of(sound)
    ringing = _ringing(sound, room) if room else None
    check = check_sound(heard, followed, live=live)
    measured = partial(measure, sound_check=check, task=task, click=click, sound=sound, ringing=ringing)
    measures = measured(followed)
    measures = replace(
        measures,
        notes=matched_with(measures.notes, reference, same_db=SAME_DB),
        sound=replace(
            measures.sound,
            matched_elsewhere=reference is not None and reference.elsewhere,
            loudspeaker_db=_loudspeaker_db(heard, sound),
        ),
    )
    if task.exercise is None:
        return ListenResult(followed, measures, None)
    verdict = judge(
        measures,
        task.exercise,
        terms.limits,
        misses_before=terms.misses_before,
        approaches=terms.approaches,
        without_echoes=partial(measured, ringing.direct.trace) if ringing else None,
    )
    return ListenResult(followed, measures, verdict)


def players_sound(
    sound: Sound, exercise: Exercise | None, *, a4: float, first_beat_s: float | None, delay_s: float | None = None
) -> Sound:
    """The sound less the drone, chords or second part that the loudspeaker gave; itself where there was none, or headphones."""
    if exercise is None or exercise.accompaniment is None or first_beat_s is None:
        return sound
    tones = [tone.later(first_beat_s) for tone in exercise.sounding(a4=a4)]
    alone_s = first_beat_s + exercise.alone_until_s
    return without_known(sound, tones, alone_until_s=alone_s, delay_s=delay_s or 0.0)


def _loudspeaker_db(heard: Sound, left: Sound) -> float | None:
    """How loud what was taken out is against what is left: the medians of the moments in which each sounds, dB."""
    if left is heard:
        return None
    starts = np.arange(0, len(left.samples), round(_MOMENT_S * left.rate))
    powers = []
    for samples in (heard.samples - left.samples, left.samples):
        power = np.add.reduceat(np.square(samples, dtype=np.float64), starts)
        powers.append(median(power[power >= _SOUNDS * power.max()]))
    return round(float(10.0 * np.log10(max(powers[0], 1e-12) / max(powers[1], 1e-12))), 1)


def _ringing(sound: Sound, room: RoomAcoustics) -> Ringing:
    near = coarse(sound)
    dry = dereverberate(near, room)
    direct = DirectSound(track(dry), band_levels_db(dry), room.hides_ms, room.echoes_db, band_levels_db(near))
    return Ringing(room, direct)
