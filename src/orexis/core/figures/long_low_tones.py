"""Long low tones: one comfortable low note held to the end of the breath, then by semitones down, then up again."""

from orexis.core.figures.build import free_note
from orexis.core.figures.family import Family
from orexis.core.figures.figure import Figure, Series
from orexis.core.figures.params import Param, Values
from orexis.core.horn import Instrument
from orexis.core.theory import Pitch, pitch_of_midi

_JUDGED = ("centre", "spread", "sag", "entry", "hold", "fall_off")


def _params(horn: Instrument) -> tuple[Param, ...]:
    return (
        Param("start", "First note", "pitch", horn.easy.name),
        Param("steps", "Semitones down", "int", "4", 0, 12),
        Param("beats", "Beats to hold", "int", "8", 4, 32),
        Param("tempo", "Beats a minute", "int", "60", 40, 120),
        Param("dynamic", "Loudness", "choice", "mf", choices=("pp", "p", "mp", "mf", "f")),
    )


def _make(horn: Instrument, values: Values) -> Series:
    start, steps = values.pitch("start"), values.integer("steps")
    down = [pitch_of_midi(start.midi - step) for step in range(1, steps + 1)]
    pitches = [start, *down, *reversed(down[:-1]), *([start] if steps else [])]
    figures = tuple(_figure(horn, values, pitch, place) for place, pitch in enumerate(pitches))
    return Series("long-low-tones", horn.id, "Long low tones", figures)


def _figure(horn: Instrument, values: Values, pitch: Pitch, place: int) -> Figure:
    beats, tempo = values.integer("beats"), values.integer("tempo")
    return Figure(
        id=f"long-low-tones-{place + 1}-{pitch.name}",
        family="long-low-tones",
        horn=horn.id,
        title="Long low tone",
        tempo_bpm=float(tempo),
        beats_per_bar=4,
        notes=(free_note(horn, 0, pitch, start_beat=0.0, beats=float(beats), to_breath_end=True),),
        judged=_JUDGED,
        dynamic=values.choice("dynamic"),
        # Asked: three quarters of the written length, so that a breath which ends a beat early still passes.
        hold_s=0.75 * beats * 60.0 / tempo,
    )


LONG_LOW_TONES = Family(
    id="long-low-tones",
    name="Long low tones",
    purpose="Find one even, centred sound low down before anything harder is asked.",
    asks="The same sound and the same pitch from the start to the end of the breath.",
    load="easy",
    params=_params,
    make=_make,
)
