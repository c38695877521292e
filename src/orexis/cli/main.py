"""The command line. Results go to stdout and nothing else does; an error is one line on stderr and exit code 1."""

import dataclasses
import json
import math
import sys
from pathlib import Path
from typing import TYPE_CHECKING, Annotated, Any

import typer

from orexis import __version__
from orexis.cli.own_language import in_own_language, own, say
from orexis.core.messages import tell
from orexis.errors import ExerciseError, InputError, OrexisError

if TYPE_CHECKING:
    from orexis.core.trace import Trace

_MOST_WEEKS = 104  # two years

app = typer.Typer(
    invoke_without_command=True,
    add_completion=False,
    pretty_exceptions_enable=False,
    rich_markup_mode=None,
)


@app.callback()
def main(context: typer.Context) -> None:
    """Practice for brass players: it listens, measures, and plans what comes next. Without a command: start it and open the browser."""
    if context.invoked_subcommand is None:
        from orexis.cli.server import open_or_serve

        open_or_serve()


def run() -> None:
    """Entry point: a deliberate error is one clear line, as is a wrong use."""
    try:
        sys.exit(in_own_language(typer.main.get_command(app))(standalone_mode=False) or 0)
    except OrexisError as error:
        say(f"orexis: {own(str(error))}")
        sys.exit(1)
    except typer.TyperException as error:
        told = error.format_message()
        say(told if "\n" in told else f"orexis: {own(told)}")  # a command without its own command gives its help
        sys.exit(error.exit_code)
    except typer.Abort:
        sys.exit(1)


def _print_json(value: Any) -> None:
    print(json.dumps(value, indent=2, ensure_ascii=False))


@app.command()
def version() -> None:
    """Print the version of this release."""
    print(__version__)


@app.command()
def serve(
    host: str = "127.0.0.1",
    port: int = 8722,
    data: Annotated[Path | None, typer.Option(help="Data folder.")] = None,
    open_browser: Annotated[bool, typer.Option("--open", help="Open the browser.")] = False,
    stand: Annotated[
        bool, typer.Option("--stand", help="Let devices on the network in, over HTTPS, by a passphrase.")
    ] = False,
    stand_port: Annotated[int, typer.Option(help="The port for devices on the network.")] = 8723,
    workers: Annotated[
        int | None, typer.Option(help="Processes for judging and for files; 0: none of their own.", min=0, max=16)
    ] = None,
) -> None:
    """Start Orexis and print its address."""
    from orexis.cli.server import WORKERS
    from orexis.cli.server import serve as start

    count = WORKERS if workers is None else workers
    if stand:
        from orexis.cli.standing import let_in

        let_in(data)
    start(host=host, port=port, data=data, open_browser=open_browser, workers=count, stand_port=stand_port)


desktop = typer.Typer(help="The entry in the desktop's menu.", no_args_is_help=True)
app.add_typer(desktop, name="desktop")


@desktop.command("install")
def desktop_install(
    service: Annotated[bool, typer.Option("--service", help="Start Orexis with the computer, too.")] = False,
) -> None:
    """Add Orexis to the menu, with its icon."""
    from orexis.cli.desktop import install

    for path in install(service=service):
        print(path)


@desktop.command("remove")
def desktop_remove() -> None:
    """Take away all that `orexis desktop install` wrote."""
    from orexis.cli.desktop import remove

    for path in remove():
        print(path)


@app.command()
def demo(port: int = 8722, data: Path | None = None) -> None:
    """Start Orexis with made-up players and sessions."""
    from orexis.cli.server import serve as start
    from orexis.services.demo import demo_folder, fill

    folder = data or demo_folder()
    say("Preparing the demo …")
    fill(folder)
    start(host="127.0.0.1", port=port, data=folder, open_browser=False)


@app.command("export")
def export_all(file: Path, data: Annotated[Path | None, typer.Option(help="Data folder.")] = None) -> None:
    """Write everything into one file: players, instruments, sessions, takes with their sound."""
    from orexis.cli.moving import export

    export(file, data)


@app.command("import")
def import_all(file: Path, data: Annotated[Path | None, typer.Option(help="Data folder.")] = None) -> None:
    """Read such a file into an empty folder, or beside what is there."""
    from orexis.cli.moving import bring

    bring(file, data)


@app.command()
def backup(data: Annotated[Path | None, typer.Option(help="Data folder.")] = None) -> None:
    """Copy the database; the last five copies are kept."""
    from orexis.cli.moving import copy

    copy(data)


@app.command()
def restore(
    copy: Annotated[str | None, typer.Argument(help="Its name; without one the copies are listed.")] = None,
    data: Annotated[Path | None, typer.Option(help="Data folder.")] = None,
) -> None:
    """Put an earlier copy of the database in its place; the present one is kept as a copy."""
    from orexis.cli.moving import back_to

    back_to(copy, data)


@app.command()
def check(
    data: Annotated[Path | None, typer.Option(help="Data folder.")] = None,
    mend: Annotated[bool, typer.Option("--mend", help="Mend what can be mended.")] = False,
) -> None:
    """Read database, journal and sound, and say what is wrong."""
    from orexis.cli.moving import look

    look(data, mend=mend)


@app.command()
def trace(
    sound: Path,
    hop_ms: float = 5.0,
    drone_hz: Annotated[float | None, typer.Option(help="A drone that sounds from a loudspeaker all the time.")] = None,
) -> None:
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


@app.command(name="listen")
def listen_to(
    sound: Path,
    instrument: Annotated[str, typer.Option("--instrument", "--horn")],
    exercise: Annotated[Path | None, typer.Option("--exercise", "--figure")] = None,
    standard: Annotated[
        str,
        typer.Option("--standard", "--stage", help="beginner, developing, advanced or professional."),
    ] = "developing",
    a4: float = 440.0,
    first_beat_s: Annotated[
        float | None, typer.Option(help="Where the count-in's first beat lies in the sound.")
    ] = None,
    delay_ms: Annotated[float | None, typer.Option(help="The device's delay from click to microphone.")] = None,
    click: Annotated[
        str | None,
        typer.Option(
            help="Clicks in the sound: their tempo (first at --first-beat-s), or their moments in s, with commas."
        ),
    ] = None,
    click_db: Annotated[float, typer.Option(help="How loud they are in the sound, peak in dBFS.")] = -36.0,
) -> None:
    """Print what was heard, measured and decided, as JSON."""
    from orexis.core.coach import limits_of
    from orexis.core.instruments import instrument_named
    from orexis.core.listen import ClickTrack, JudgingTerms, ListeningTask, listen
    from orexis.files.exercise_json import exercise_from_json
    from orexis.files.soundfiles import read_sound
    from orexis.services.compiling import is_compiled
    from orexis.services.ear import Ear

    built, limits = instrument_named(instrument), limits_of(standard)
    asked = exercise_from_json(_bytes(exercise)) if exercise else None
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
            peak_db=None if click is None else click_db,
            at_s=None if click is None else click_times(click, first_beat_s or 0.0, given.duration_s),
        ),
    )
    _print_json(listening_json(heard))


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


@app.command(name="horn")
def show_instrument(
    instrument_id: str, note: Annotated[str | None, typer.Argument()] = None, written: bool = False, a4: float = 440.0
) -> None:
    """Print an instrument, or the fingerings of a note on it, as JSON."""
    from orexis.cli.instruments import instrument_json, note_json

    _print_json(
        instrument_json(instrument_id) if note is None else note_json(instrument_id, note, written=written, a4=a4)
    )


@app.command(name="figure")
def make_exercise(
    exercise_type: Annotated[str | None, typer.Argument()] = None,
    instrument: Annotated[str, typer.Option("--instrument", "--horn")] = "trumpet-bb",
    param: Annotated[list[str] | None, typer.Option(help="key=value")] = None,
    index: Annotated[int, typer.Option(help="Which exercise of the series, from 0.")] = 0,
    part: str | None = None,
    form: Annotated[str, typer.Option("--format", help="json, musicxml, midi or svg")] = "json",
    list_all: Annotated[bool, typer.Option("--list", help="List exercises and parameters.")] = False,
) -> None:
    """Print an exercise as JSON, MusicXML, MIDI or SVG."""
    from orexis.cli.exercises import exercise_bytes, exercise_types_json

    if list_all or exercise_type is None:
        _print_json(exercise_types_json(instrument))
        return
    sys.stdout.buffer.write(exercise_bytes(exercise_type, instrument, param or [], index, part, form))


@app.command(name="tune")
def read_tune_file(
    file: Path,
    instrument: Annotated[str, typer.Option("--instrument", "--horn")] = "trumpet-bb",
    octave: Annotated[int, typer.Option(help="Octaves from where it lies best: -2, -1, 0, 1.")] = 0,
    semitones: int = 0,
    part: Annotated[str | None, typer.Option(help="The name of a part; the first otherwise.")] = None,
    form: Annotated[str, typer.Option("--format", help="json, musicxml or midi")] = "json",
) -> None:
    """Print a tune from MusicXML, MXL or MIDI, placed on an instrument, as an exercise."""
    from orexis.core.instruments import instrument_named
    from orexis.services.material.exercises import exercise_from_file, exported

    built = instrument_named(instrument)
    exercise = exercise_from_file(_bytes(file), built, octave=octave, semitones=semitones, part=part)
    sys.stdout.buffer.write(exported(exercise, built, built.parts[0], form)[0])


@app.command()
def rehearse(
    weeks: Annotated[int, typer.Option(help="1 to 104.")] = 6,
    instrument: Annotated[str, typer.Option("--instrument", "--horn")] = "trumpet-bb",
    standard: Annotated[
        str,
        typer.Option("--standard", "--stage", help="beginner, developing, advanced or professional."),
    ] = "developing",
    player: Annotated[str, typer.Option(help="A kind of player: see docs/rehearsal.md.")] = "steady",
    seed: int = 1,
    minutes: Annotated[int, typer.Option(help="A day, 10 to 120.")] = 30,
    target: Annotated[
        list[str] | None, typer.Option("--goal", "--aim", help="own=A5, own=A5/joined, hold=16, slur=5, trill=4 ...")
    ] = None,
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
    targets = [parse_target(text, built) for text in target or ()]
    made = rehearsed(
        weeks=weeks,
        instrument=built,
        standard=standard_named(standard),
        kind=player,
        seed=seed,
        minutes=minutes,
        targets=targets,
    )
    _print_json(as_json(made, kind=player, seed=seed, minutes=minutes))


@app.command(name="play")
def play_exercise(
    exercise: Path,
    out: Annotated[Path, typer.Option()],
    truth: Path | None = None,
    seed: int = 0,
    flaw: Annotated[list[str] | None, typer.Option(help="name=size[@note], see docs/simulated-player.md")] = None,
    a4: float = 440.0,
) -> None:
    """Let the demo player play an exercise into a WAV file."""
    from orexis.core.player import parse_flaws, play
    from orexis.files.exercise_json import exercise_from_json
    from orexis.files.soundfiles import write_wav

    sound, true = play(exercise_from_json(_bytes(exercise)), a4=a4, flaws=parse_flaws(flaw or []), seed=seed)
    write_wav(out, sound)
    if truth is not None:
        truth.write_text(json.dumps(dataclasses.asdict(true)))
    print(out)


def _bytes(path: Path) -> bytes:
    try:
        return path.read_bytes()
    except OSError as error:
        raise ExerciseError(tell("{path} cannot be read: {why}.", path=path, why=error.strerror)) from error


if __name__ == "__main__":
    run()
