"""Commands that make something to play: instruments, exercises, tunes, weeks, and the demo player."""

import dataclasses
import json
import sys
from pathlib import Path

import click

from orexis.cli.options import FILE, INSTRUMENT, STANDARD, bytes_of, print_json
from orexis.core.messages import tell
from orexis.errors import InputError

_MOST_WEEKS = 104  # two years


@click.command("horn")
@click.argument("instrument_id")
@click.argument("note", required=False)
@click.option("--written", is_flag=True)
@click.option("--a4", default=440.0)
def show_instrument(instrument_id: str, note: str | None, written: bool, a4: float) -> None:
    """Print an instrument, or the fingerings of a note on it, as JSON."""
    from orexis.cli.instruments import instrument_json, note_json

    print_json(
        instrument_json(instrument_id) if note is None else note_json(instrument_id, note, written=written, a4=a4)
    )


@click.command("figure")
@click.argument("exercise_type", required=False)
@INSTRUMENT
@click.option("--param", "params", multiple=True, help="key=value")
@click.option("--index", default=0, help="Which exercise of the series, from 0.")
@click.option("--part")
@click.option("--format", "form", default="json", help="json, musicxml, midi or svg")
@click.option("--list", "list_all", is_flag=True, help="List exercises and parameters.")
def make_exercise(
    exercise_type: str | None,
    instrument: str,
    params: tuple[str, ...],
    index: int,
    part: str | None,
    form: str,
    list_all: bool,
) -> None:
    """Print an exercise as JSON, MusicXML, MIDI or SVG."""
    from orexis.cli.exercises import exercise_bytes, exercise_types_json

    if list_all or exercise_type is None:
        print_json(exercise_types_json(instrument))
        return
    sys.stdout.buffer.write(exercise_bytes(exercise_type, instrument, params, index, part, form))


@click.command("tune")
@click.argument("file", type=FILE)
@INSTRUMENT
@click.option("--octave", default=0, help="Octaves from where it lies best: -2, -1, 0, 1.")
@click.option("--semitones", default=0)
@click.option("--part", help="The name of a part; the first otherwise.")
@click.option("--format", "form", default="json", help="json, musicxml or midi")
def read_tune_file(file: Path, instrument: str, octave: int, semitones: int, part: str | None, form: str) -> None:
    """Print a tune from MusicXML, MXL or MIDI, placed on an instrument, as an exercise."""
    from orexis.core.instruments import instrument_named
    from orexis.files.exercise_files import exported
    from orexis.files.tune_files import exercise_from_file

    built = instrument_named(instrument)
    exercise = exercise_from_file(bytes_of(file), built, octave=octave, semitones=semitones, part=part)
    sys.stdout.buffer.write(exported(exercise, built, built.parts[0], form)[0])


@click.command()
@click.option("--weeks", default=6, help="1 to 104.")
@INSTRUMENT
@STANDARD
@click.option("--player", default="steady", help="A kind of player: see docs/rehearsal.md.")
@click.option("--seed", default=1)
@click.option("--minutes", default=30, help="A day, 10 to 120.")
@click.option("--goal", "--aim", "goals", multiple=True, help="own=A5, own=A5/joined, hold=16, slur=5, trill=4 ...")
def rehearse(
    weeks: int, instrument: str, standard: str, player: str, seed: int, minutes: int, goals: tuple[str, ...]
) -> None:
    """Print weeks of planned and simulated practice, as JSON."""
    from orexis.core.coach import standard_named
    from orexis.core.instruments import instrument_named
    from orexis.core.planning import FEWEST_MINUTES, MOST_MINUTES, parse_target
    from orexis.core.rehearsal import KINDS, as_json
    from orexis.core.rehearsal import rehearse as rehearsed

    built = instrument_named(instrument)
    if player not in KINDS:
        raise InputError(
            tell("There is no kind of player “{player}”: choose {kinds}.", player=player[:30], kinds=", ".join(KINDS))
        )
    if not 1 <= weeks <= _MOST_WEEKS:
        raise InputError(tell("{weeks} weeks cannot be rehearsed: choose 1 to {most}.", weeks=weeks, most=_MOST_WEEKS))
    if not FEWEST_MINUTES <= minutes <= MOST_MINUTES:
        raise InputError(
            tell(
                "{minutes} minutes fit no day: choose {low} to {high}.",
                minutes=minutes,
                low=FEWEST_MINUTES,
                high=MOST_MINUTES,
            )
        )
    targets = [parse_target(text, built) for text in goals]
    made = rehearsed(
        weeks=weeks,
        instrument=built,
        standard=standard_named(standard),
        kind=player,
        seed=seed,
        minutes=minutes,
        targets=targets,
    )
    print_json(as_json(made, kind=player, seed=seed, minutes=minutes))


@click.command("play")
@click.argument("exercise", type=FILE)
@click.option("--out", type=FILE, required=True)
@click.option("--truth", type=FILE)
@click.option("--seed", default=0)
@click.option("--flaw", "flaws", multiple=True, help="name=size[@note], see docs/simulated-player.md")
@click.option("--a4", default=440.0)
def play_exercise(exercise: Path, out: Path, truth: Path | None, seed: int, flaws: tuple[str, ...], a4: float) -> None:
    """Let the demo player play an exercise into a WAV file."""
    from orexis.core.player import parse_flaws, play
    from orexis.files.exercise_json_read import exercise_from_json
    from orexis.files.soundfiles import write_wav

    sound, true = play(exercise_from_json(bytes_of(exercise)), a4=a4, flaws=parse_flaws(list(flaws)), seed=seed)
    write_wav(out, sound)
    if truth is not None:
        truth.write_text(json.dumps(dataclasses.asdict(true)))
    print(out)
