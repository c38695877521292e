"""Commands that hear a sound file: what is in it, and what a teacher would say."""

import dataclasses
import math
from pathlib import Path
from typing import TYPE_CHECKING, Any

import click

from orexis.cli.options import FILE, STANDARD, bytes_of, print_json
from orexis.cli.own_language import say
from orexis.core.messages import tell
from orexis.errors import ExerciseError

if TYPE_CHECKING:
    from orexis.core.trace import Trace


@click.command()
@click.argument("sound", type=FILE)
@click.option("--hop-ms", default=5.0)
@click.option("--drone-hz", type=float, help="A drone that sounds from a loudspeaker all the time.")
def trace(sound: Path, hop_ms: float, drone_hz: float | None) -> None:
    """Print pitch and level of a sound file as CSV."""
    from orexis.core.trace import Tracker
    from orexis.files.soundfiles import sound_blocks

    if hop_ms < 5.0 or hop_ms > 1000.0 or hop_ms % 5.0:
        raise ExerciseError(tell("The hop is {hop_ms:g} ms: choose a multiple of 5, up to 1000.", hop_ms=hop_ms))
    every, count = round(hop_ms / 5.0), 0
    tracker: Tracker | None = None
    for block in sound_blocks(sound):
        tracker = tracker or Tracker(block.rate, drone_hz=drone_hz)
        count = _print_frames(tracker.push(block.samples), every, count)
    if tracker is not None:
        _print_frames(tracker.finish(), every, count)


def _print_frames(frames: "Trace", every: int, count: int) -> int:
    """Every n-th frame as CSV, the head before the first; gives how many frames have passed."""
    if not count and len(frames):
        print("time_s,f0_hz,confidence,level_db,tone_to_noise_db,brightness")
    rows = []
    for i, (time_s, f0, confidence, level, tone, bright) in enumerate(zip(*frames.columns, strict=True)):
        if not (count + i) % every:
            pitch = f"{f0:.4f}" if math.isfinite(f0) else ""
            rows.append(f"{time_s:.3f},{pitch},{confidence:.3f},{level:.2f},{tone:.2f},{bright:.1f}")
    if rows:
        print("\n".join(rows))
    return count + len(frames)


@click.command("listen")
@click.argument("sound", type=FILE)
@click.option("--instrument", "--horn", "instrument", required=True)
@click.option("--exercise", "--figure", "exercise", type=FILE)
@STANDARD
@click.option("--a4", default=440.0)
@click.option("--first-beat-s", type=float, help="Where the count-in's first beat lies in the sound.")
@click.option("--delay-ms", type=float, help="The device's delay from click to microphone.")
@click.option(
    "--click",
    "clicks",
    help="Clicks in the sound: their tempo (first at --first-beat-s), or their moments in s, with commas.",
)
@click.option("--click-db", default=-36.0, help="How loud they are in the sound, peak in dBFS.")
def listen_to(
    sound: Path,
    instrument: str,
    exercise: Path | None,
    standard: str,
    a4: float,
    first_beat_s: float | None,
    delay_ms: float | None,
    clicks: str | None,
    click_db: float,
) -> None:
    """Print what was heard, measured and decided, as JSON."""
    from orexis.core.coach import limits_of
    from orexis.core.instruments import instrument_named
    from orexis.core.listen import ClickTrack, JudgingTerms, ListeningTask, listen
    from orexis.files.exercise_json_read import exercise_from_json
    from orexis.files.soundfiles import read_sound
    from orexis.services.compiling import is_compiled
    from orexis.services.ear import Ear

    built, limits = instrument_named(instrument), limits_of(standard)
    asked = exercise_from_json(bytes_of(exercise)) if exercise else None
    if asked is not None and asked.instrument != instrument:
        raise ExerciseError(
            tell(
                "The exercise is for {its}, not for {instrument}: make it again for this instrument.",
                its=asked.instrument,
                instrument=instrument,
            )
        )
    given = read_sound(sound)
    if not is_compiled():
        say("Getting ready to listen, once.")
        Ear().get_ready()
    heard = listen(
        given,
        ListeningTask(built, asked, a4=a4, first_beat_s=first_beat_s),
        JudgingTerms(limits),
        click=ClickTrack(
            delay_s=None if delay_ms is None else delay_ms / 1000.0,
            peak_db=None if clicks is None else click_db,
            at_s=None if clicks is None else click_times(clicks, first_beat_s or 0.0, given.duration_s),
        ),
    )
    print_json(listening_json(heard))


def click_times(text: str, first_s: float, length_s: float) -> tuple[float, ...]:
    """Moments of clicks, from a tempo (beats a minute) or a list of seconds; ExerciseError says what can be read."""
    try:
        numbers = [float(part) for part in text.split(",")]
    except ValueError:
        numbers = []
    if not numbers or not all(math.isfinite(value) and value >= 0.0 for value in numbers):
        raise ExerciseError(
            tell("The clicks are “{text}”: give a tempo (72) or moments in seconds (0.5,1.3,2.1).", text=text[:30])
        )
    if len(numbers) > 1:
        return tuple(numbers)
    from orexis.core.exercises.exercise import TEMPO_RANGE

    low, high = TEMPO_RANGE
    if not low <= numbers[0] <= high:
        raise ExerciseError(
            tell("The clicks’ tempo is {tempo:g}: choose {low:g} to {high:g}.", tempo=numbers[0], low=low, high=high)
        )
    beat_s = 60.0 / numbers[0]
    return tuple(first_s + beat * beat_s for beat in range(int(max(0.0, length_s - first_s) / beat_s) + 1))


def listening_json(heard: Any) -> dict[str, Any]:
    """Return what was heard as JSON values, in the form that docs/formats.md describes."""
    measures = dataclasses.asdict(heard.measures)
    moves = [_move(move) for move in measures["moves"]]
    verdict = dataclasses.asdict(heard.verdict) if heard.verdict else None
    return {
        "schema": 2,
        "notes": [_with_earlier_names(note) for note in measures["notes"]],
        "moves": moves,
        "exercise": measures["exercise"],
        "figure": measures["exercise"],  # its name in schema 1
        "sound": measures["sound"],
        "verdict": verdict,
    }


def _move(move: dict[str, Any]) -> dict[str, Any]:
    return {"from": move.pop("before"), "to": move.pop("after"), **_with_earlier_names(move)}


def _with_earlier_names(values: dict[str, Any]) -> dict[str, Any]:
    """The names of schema 1 beside those of today, for programs that read them."""
    from orexis.core.earlier_names import FIELDS

    return values | {before: values[now] for before, now in FIELDS.items() if now in values}
