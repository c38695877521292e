"""The flaws that the simulated player can be given, each of an exact size.

Written as on the command line: `name=size[@note]`. Without a note the flaw falls on every note it can fall on.

    entry=-60c/120ms    the note starts so far off and is on pitch after that time
    sag=-20c            pitch falls (or rises) by so much over the note, evenly
    wobble=12c/3hz      peak deviation and rate
    vibrato=20c/5.5hz   the same, grown over the first quarter second
    centre=-15c         the whole note lies off
    fall-off=-30c       the last 150 ms bend away
    gap=60ms            silence inside a slurred move
    caught=4/40ms       that partial is touched for so long inside a slurred move
    glide=0.5           a glide goes only so far of its way (1: arrives, 0: never moves, more than 1: beyond)
    bump=8db            the level dips and returns inside a slurred move
    overshoot=40c       a slurred note is reached from beyond
    bend=-100c          the pitch is bent so far in the middle of the note and brought back
    split=5/60ms        the note starts on that partial for so long
    crack=5/60ms        in its middle the note breaks to that partial and returns
    silence=200ms       silence before a tongued note
    breathes=1          a breath is taken before the note, inside the exercise
    inhale=-40db/900ms  the breath before the first note: loudness, full scale 0, and length
    swell=9db           the note grows by so much from start to end
    fade=9db            the note fades by so much
    wander=2.5db        the level wanders with so much spread
    ring=-12c           the note is strongest so far from its centre
    pinched=3db         so many dB per octave less of the low harmonics (negative: covered)
    late=40ms           the note starts late (negative: early)
    hold=2.5s           notes to the end of the breath last only so long; at a note: that note
    response=120ms      breath is heard for so long before the tone
    breath=-30db        breath noise under the tone, against the tone's level
    level=-26db         loudness of the tone, full scale 0
    noise=-55db         noise of the room and the microphone, full scale 0
    room=small          dry, small or hall
    flat=1              written loudness is not followed: every note as loud as the first, no swell or fade
    miss=5              another partial of the tube sounds for the whole note
    silent=1            nothing is played
"""

import re
from collections.abc import Iterable
from dataclasses import dataclass

from orexis.core.messages import tell
from orexis.errors import FlawError

# name -> (pattern of the size, smallest and largest first number, smallest and largest second number)
_NUMBER = r"(-?\d+(?:\.\d+)?)"
_SHAPES: dict[str, tuple[str, tuple[float, float], tuple[float, float]]] = {
    "entry": (rf"{_NUMBER}c/{_NUMBER}ms", (-400, 400), (30, 1000)),
    "sag": (rf"{_NUMBER}c", (-400, 400), (0, 0)),
    "wobble": (rf"{_NUMBER}c/{_NUMBER}hz", (0, 200), (0.5, 12)),
    "vibrato": (rf"{_NUMBER}c/{_NUMBER}hz", (0, 200), (0.5, 12)),
    "overshoot": (rf"{_NUMBER}c", (-200, 200), (0, 0)),
    "bend": (rf"{_NUMBER}c", (-400, 400), (0, 0)),
    "split": (rf"{_NUMBER}/{_NUMBER}ms", (1, 24), (15, 240)),
    "crack": (rf"{_NUMBER}/{_NUMBER}ms", (1, 24), (15, 240)),
    "silence": (rf"{_NUMBER}ms", (20, 2000), (0, 0)),
    "breathes": (_NUMBER, (0, 1), (0, 0)),
    "inhale": (rf"{_NUMBER}db/{_NUMBER}ms", (-80, -10), (100, 2500)),
    "swell": (rf"{_NUMBER}db", (0, 40), (0, 0)),
    "fade": (rf"{_NUMBER}db", (0, 40), (0, 0)),
    "wander": (rf"{_NUMBER}db", (0, 10), (0, 0)),
    "ring": (rf"{_NUMBER}c", (-60, 60), (0, 0)),
    "pinched": (rf"{_NUMBER}db", (-9, 9), (0, 0)),
    "centre": (rf"{_NUMBER}c", (-400, 400), (0, 0)),
    "fall-off": (rf"{_NUMBER}c", (-400, 400), (0, 0)),
    "gap": (rf"{_NUMBER}ms", (5, 1000), (0, 0)),
    "caught": (rf"{_NUMBER}/{_NUMBER}ms", (1, 24), (5, 1000)),
    "bump": (rf"{_NUMBER}db", (1, 40), (0, 0)),
    "glide": (_NUMBER, (0, 2), (0, 0)),
    "late": (rf"{_NUMBER}ms", (-500, 2000), (0, 0)),
    "hold": (rf"{_NUMBER}s", (0.1, 60), (0, 0)),
    "response": (rf"{_NUMBER}ms", (0, 2000), (0, 0)),
    "breath": (rf"{_NUMBER}db", (-80, 0), (0, 0)),
    "level": (rf"{_NUMBER}db", (-80, 0), (0, 0)),
    "noise": (rf"{_NUMBER}db", (-120, -10), (0, 0)),
    "room": (r"(dry|small|hall)", (0, 0), (0, 0)),
    "flat": (_NUMBER, (0, 1), (0, 0)),
    "miss": (_NUMBER, (1, 24), (0, 0)),
    "silent": (_NUMBER, (0, 1), (0, 0)),
}


@dataclass(frozen=True, slots=True)
class Flaw:
    """One flaw: `size` and `extra` in the units of its name, `word` for a room, `note` the id it falls on."""

    name: str
    size: float = 0.0
    extra: float = 0.0
    word: str = ""
    note: str | None = None


def parse_flaw(text: str) -> Flaw:
    """Read `name=size[@note]`; FlawError says the shape that was expected."""
    name, _, rest = text.partition("=")
    size_text, _, note = rest.partition("@")
    if name not in _SHAPES:
        raise FlawError(
            tell(
                "The simulated player has no flaw “{name}”: choose one of {shapes}.",
                name=name[:30],
                shapes=", ".join(_SHAPES),
            )
        )
    pattern, first_bounds, second_bounds = _SHAPES[name]
    match = re.fullmatch(pattern, size_text.strip().lower())
    if match is None:
        raise FlawError(
            tell(
                "The size of {name} is “{size_text}”: see the list of flaws for its form.",
                name=name,
                size_text=size_text[:30],
            )
        )
    if name == "room":
        return Flaw(name, word=match.group(1), note=note or None)
    numbers = [float(group) for group in match.groups()]
    for value, (low, high) in zip(numbers, (first_bounds, second_bounds), strict=False):
        if not low <= value <= high:
            raise FlawError(
                tell("{name} is {value:g}: choose {low:g} to {high:g}.", name=name, value=value, low=low, high=high)
            )
    return Flaw(name, numbers[0], numbers[1] if len(numbers) > 1 else 0.0, note=note or None)


@dataclass(frozen=True, slots=True)
class Flaws:
    """All the flaws of one performance."""

    flaws: tuple[Flaw, ...] = ()

    def find(self, name: str, note_id: str | None = None) -> Flaw | None:
        """The last flaw of that name which falls on the note (or on every note)."""
        for flaw in reversed(self.flaws):
            if flaw.name == name and (flaw.note is None or flaw.note == note_id):
                return flaw
        return None

    def size(self, name: str, default: float, note_id: str | None = None) -> float:
        """Return the size of a flaw, or the default where it is not asked for."""
        flaw = self.find(name, note_id)
        return default if flaw is None else flaw.size


def parse_flaws(texts: Iterable[str]) -> Flaws:
    """Return the flaws that some texts name; FlawError for one that there is not."""
    return Flaws(tuple(parse_flaw(text) for text in texts))
