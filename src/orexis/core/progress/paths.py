"""How each family grows: a path of steps, each a change of parameters, in the order in which difficulty is added with care.

A path is data made for a horn. A family that has none either follows the range that is owned (its start moves with the
ladder), or does not have to grow. A step's words say what is new in it.
"""

from collections.abc import Callable, Iterable
from dataclasses import dataclass
from functools import lru_cache

from orexis.core.figures import FAMILIES, TUNES, Load, in_range, middle_note, open_note, pedal_starts
from orexis.core.horn import Instrument
from orexis.core.theory import interval_name, pitch_of_midi


@dataclass(frozen=True, slots=True)
class PathStep:
    """One step: what it asks in words, and the family's parameters that say so."""

    say: str
    params: dict[str, str]


@dataclass(frozen=True, slots=True)
class Path:
    """A family's steps on a horn. `easy`: two days held open the next; `heavy`: pauses cost more."""

    family: str
    steps: tuple[PathStep, ...]
    easy: bool
    heavy: bool

    def step_with(self, params: dict[str, str]) -> int | None:
        """The hardest step that these parameters meet in everything it sets; None when they meet none."""
        found = (
            number
            for number in reversed(range(len(self.steps)))
            if all(params.get(key) == value for key, value in self.steps[number].params.items())
        )
        return next(found, None)


Steps = Iterable[PathStep]


def _step(say: str, **params: object) -> PathStep:
    return PathStep(say, {key.rstrip("_"): str(value) for key, value in params.items()})


def _breath(horn: Instrument) -> Steps:
    for out in (6, 8, 10, 12, 16, 20):
        yield _step(f"{out} beats out", out=out, growing=0 if out < 8 else 2, rounds=2)


def _buzz_answer(horn: Instrument) -> Steps:
    for counts, say in (
        ("4 and 4", "rests of four"),
        ("4 and 2", "rests of two"),
        ("4 and 0", "no rest"),
    ):
        yield _step(f"a third apart, {say}", interval=4, counts=counts)
    for wide in (7, 9, 12):
        yield _step(f"{_a(interval_name(wide))} apart, no rest", interval=wide, counts="4 and 0")
    yield _step("an octave apart, two counts each", interval=12, counts="2 and 0")
    yield _step("an octave apart, the high one first", interval=12, counts="2 and 0", first="high")


def _siren(horn: Instrument) -> Steps:
    for beats, say in ((4, ""), (8, ", slowly")):
        for wide in (7, 12, 19, 24):
            yield _step(f"over {_a(interval_name(wide))}{say}", interval=7, widest=wide, beats=beats)


def _buzz_intervals(horn: Instrument) -> Steps:
    for direction in ("up", "down"):
        for wide in (4, 7, 9, 12):
            yield _step(f"{direction}, to {_a(interval_name(wide))}", to=wide, direction=direction)


def _tunes(horn: Instrument) -> Steps:
    for title in TUNES:
        if in_range(title, horn):
            yield _step(f"“{title}”", tune=title)


def _tune(horn: Instrument) -> Steps:
    for title in TUNES:
        if in_range(title, horn):
            yield _step(f"“{title}”, at pitch", tune=title)
    below = [title for title in TUNES[:4] if in_range(title, horn, octave=-1)]
    for title in below:
        yield _step(f"“{title}”, an octave down", tune=title, octave="an octave down")


def _long_low_tones(horn: Instrument) -> Steps:
    room = min(12, horn.easy.midi - horn.lowest.midi)
    yield _step("four beats, two notes down", beats=4, steps=min(2, room))
    yield _step("six beats, two notes down", beats=6, steps=min(2, room))
    for beats, asked in ((8, 6), (12, 9), (16, 12), (21, 16), (27, 20)):
        yield _step(f"{beats} beats: {asked} seconds of tone", beats=beats, steps=min(3, room))
    for dynamic in ("p", "pp"):
        yield _step(f"16 beats, {dynamic}", beats=16, steps=min(3, room), dynamic=dynamic)
    for down in range(5, room + 1, 2):
        yield _step(f"16 beats, down to the {_nth(down)} semitone", beats=16, steps=down)


def _shaped(horn: Instrument) -> Steps:
    for beats in (6, 8, 10, 12, 16):
        yield _step(f"{beats} beats each", beats=beats)


def _two_partial(horn: Instrument) -> Steps:
    low, first = horn.slur_partial, True
    for partial in range(low, min(low + 6, horn.top_partial)):
        for rhythm in ("halves", "eighths", "triplets", "sixteenths"):
            if first:
                yield _step(
                    f"partials {partial} and {partial + 1}, three tubes", partial=partial, rhythm=rhythm, tube="few"
                )
                first = False
            yield _step(f"partials {partial} and {partial + 1}, {rhythm}", partial=partial, rhythm=rhythm, tube="all")


def _chain(horn: Instrument) -> Steps:
    low = horn.slur_partial + 1
    yield _step(f"three partials from the {_nth(low)}, three tubes", partial=low, count=3, tube="few")
    for start in range(low, low + 4):
        for size in range(3, 8):
            if start + size - 1 <= horn.top_partial:
                yield _step(f"{size} partials from the {_nth(start)}", partial=start, count=size, tube="all")


def _octave_down(horn: Instrument) -> Steps:
    low = max(2, (horn.slur_partial + 2) // 2)
    for size in (3, 4, 5):
        for tube, say in (("few", "three tubes"), ("all", "all tubes")):
            if low + size - 1 <= horn.top_partial:
                yield _step(f"{size} partials, {say}", partial=low, count=size, tube=tube)


def _wide(horn: Instrument) -> Steps:
    low = horn.slur_partial + 1
    for over in range(1, 6):
        for partial in (low, low + 1, low + 2):
            if partial + over + 1 <= horn.top_partial:
                tube = "few" if over == 1 and partial == low else "all"
                yield _step(f"from partial {partial} to {partial + over + 1}", partial=partial, over=over, tube=tube)


def _add_one(horn: Instrument) -> Steps:
    for top in range(4, horn.top_partial + 1):
        yield _step(f"up to partial {top}", partial=2, top=top)


def _trill(horn: Instrument) -> Steps:
    low = max(4, 2 * horn.slur_partial)
    for partial in range(low, min(low + 3, horn.top_partial)):
        for tempo in range(60, 182, 4):
            yield _step(f"partials {partial} and {partial + 1} at {tempo}", partial=partial, tempo=tempo, tube="few")


def _middle(horn: Instrument) -> Steps:
    start = middle_note(horn).midi - 5
    for higher in (0, 2, 4, 5, 7):
        for beats, say in ((4, "four beats a part"), (2, "two beats a part")):
            yield _step(f"{_up(higher)}, {say}", start=pitch_of_midi(start + higher).name, beats=beats)


def _drone(horn: Instrument) -> Steps:
    for intervals in ("unison", "fifth", "unison, fifth, third", "fourth", "major third", "minor third"):
        yield _step(intervals, intervals=intervals)


def _two_ways(horn: Instrument) -> Steps:
    start = middle_note(horn).midi
    for turns, place in ((2, "may mend it"), (3, "may mend it"), (2, "stays home"), (3, "stays home")):
        yield _step(
            f"{turns} turns, the slide or hand {place}", start=pitch_of_midi(start).name, turns=turns, place=place
        )


def _intervals(horn: Instrument) -> Steps:
    start = middle_note(horn).midi - 5
    for wide in (3, 5, 7, 9, 12):
        yield _step(f"to {_a(interval_name(wide))}", start=pitch_of_midi(start).name, widest=wide)
    for tempo in (76, 88, 100):
        yield _step(f"to an octave at {tempo}", start=pitch_of_midi(start).name, widest=12, tempo=tempo)
    yield _step("to an octave, tongued", start=pitch_of_midi(start).name, widest=12, join="tongue")


def _bend(horn: Instrument) -> Steps:
    for tube, say in (("few", "three tubes"), ("all", "every tube")):
        for depth, name in ((1, "half step"), (2, "whole step")):
            for hold in (1, 2, 4):
                yield _step(f"a {name} held {hold}, {say}", depth=depth, hold=hold, tube=tube)


def _leap(horn: Instrument) -> Steps:
    for join in ("slurred", "tongued"):
        for over in (1, 2, 3, 4):
            if horn.middle_partial + over <= horn.top_partial:
                depth = 1 if over < 3 else 2
                yield _step(
                    f"over {over} {'partial' if over == 1 else 'partials'}, {join}", over=over, depth=depth, join=join
                )


def _one_octave(horn: Instrument) -> Steps:
    start = horn.easy.midi
    yield _step("one key", start=pitch_of_midi(start).name, keys=1)
    for higher in range(0, horn.highest.midi - 12 - start - 1):
        yield _step(f"from {_up(higher)}", start=pitch_of_midi(start + higher).name, keys=3)


def _broken(horn: Instrument) -> Steps:
    start = open_note(horn, horn.slur_partial + 1).midi
    for size in (2, 4, 5, 7):
        for higher in (0, 2, 4):
            if start + higher + 4 + size <= horn.highest.midi:
                say = f"by {interval_name(size)}, from {_up(higher)}"
                yield _step(say, start=pitch_of_midi(start + higher).name, interval=size)


def _roll(horn: Instrument) -> Steps:
    start = middle_note(horn).midi
    lowest = min(6, start - horn.lowest.midi + 1)
    for keys in range(1, lowest + 1):
        yield _step(f"{keys} {'key' if keys == 1 else 'keys'}", keys=keys)
    for above in range(1, min(8, horn.highest.midi - 7 - start) + 1):
        yield _step(f"down to the lowest and {above} above", keys=lowest, above=above)


def _falling(horn: Instrument) -> Steps:
    start = middle_note(horn).midi
    for lower in range(0, max(1, start - 12 - horn.lowest.midi + 1)):
        keys = min(3, start - lower - 12 - horn.lowest.midi + 1)
        yield _step(f"from {_down(lower)}", start=pitch_of_midi(start - lower).name, keys=max(1, keys))


def _stairs(horn: Instrument) -> Steps:
    start = middle_note(horn).midi
    for join in ("slurred", "tongued and full"):
        for lower in range(0, 12):
            for notes in (5, 6, 7, 8):
                if start - lower - notes + 1 >= horn.lowest.midi:
                    say = f"{notes} notes from {_down(lower)}, {join}"
                    yield _step(say, start=pitch_of_midi(start - lower).name, notes=notes, join=join)


def _to_the_pedal(horn: Instrument) -> Steps:
    for tube, say in (("few", "three tubes"), ("all", "all tubes")):
        for beats in (4, 6, 8, 12, 16):
            yield _step(f"{beats} beats on the pedal, {say}", beats=beats, tube=tube)


def _pedal_sets(horn: Instrument) -> Steps:
    for pitch in pedal_starts(horn):
        yield _step(f"on {pitch.name} (concert)", start=pitch.name)


_PATHS: dict[str, Callable[[Instrument], Steps]] = {
    "breath": _breath,
    "buzz-answer": _buzz_answer,
    "siren": _siren,
    "buzz-intervals": _buzz_intervals,
    "buzz-a-tune": _tunes,
    "long-low-tones": _long_low_tones,
    "shaped-tones": _shaped,
    "two-partial-slur": _two_partial,
    "partial-chain": _chain,
    "chain-octave-down": _octave_down,
    "wide-slur": _wide,
    "add-one-arpeggio": _add_one,
    "lip-trill": _trill,
    "find-the-middle": _middle,
    "against-a-drone": _drone,
    "one-note-two-ways": _two_ways,
    "intervals": _intervals,
    "lip-bend": _bend,
    "bend-then-leap": _leap,
    "one-octave-scale": _one_octave,
    "broken-stairs": _broken,
    "roll-and-breathe": _roll,
    "falling-scale": _falling,
    "interval-stairs": _stairs,
    "to-the-pedal": _to_the_pedal,
    "pedal-sets": _pedal_sets,
    "tune": _tune,
}
_EASY = {"breath", "buzz-answer", "siren", "buzz-intervals", "buzz-a-tune", "tune", "find-the-middle"}
_PEDALS = {"to-the-pedal", "pedal-sets"}


@lru_cache(maxsize=4096)
def path_of(family_id: str, horn: Instrument) -> Path | None:
    """The family's path on this horn; None where its start follows the range, or nothing has to grow."""
    make = _PATHS.get(family_id)
    family = FAMILIES.get(family_id)
    if make is None or family is None or not family.suits(horn):
        return None
    steps = tuple(make(horn))
    heavy = family.load == Load.HIGH or family_id in _PEDALS
    return Path(family_id, steps, family_id in _EASY, heavy) if steps else None


def _a(name: str) -> str:
    return f"{'an' if name[0] in 'aeiou' else 'a'} {name}"


def _nth(number: int) -> str:
    return {1: "first", 2: "second", 3: "third", 5: "fifth", 7: "seventh", 9: "ninth"}.get(number, f"{number}th")


def _up(semitones: int) -> str:
    return "its first place" if semitones == 0 else f"{semitones} {_semis(semitones)} higher"


def _down(semitones: int) -> str:
    return "its first place" if semitones == 0 else f"{semitones} {_semis(semitones)} lower"


def _semis(number: int) -> str:
    return "semitone" if number == 1 else "semitones"
