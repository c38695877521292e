"""What the fit found, in words: habits only where their interval leaves 0 out, and what may be done about the instrument."""

from collections.abc import Callable, Iterable

from orexis.core.instruments import HandSlide, Instrument
from orexis.core.messages import tell
from orexis.core.tuning.advice import Advised
from orexis.core.tuning.fit import Estimate, Fit, Habit, Regressor

_LEAST = {"register": 3.0, "loudness": 4.0, "tired": 2.0, "warm": 3.0}
_LEAST_ENTRY = 8.0  # cents: smaller entries are not heard as scoops
_MOST_NAMED = 6  # as many as one sentence carries
NameOf = Callable[[int], str]


def habits_in_words(fit: Fit) -> tuple[str, ...]:
    """What the player does, a line each; what cannot be told from nothing is left out."""
    lines = [line for habit in fit.habits if (line := _habit(habit)) is not None]
    return tuple(lines + [line for entry in fit.entries if (line := _entry(entry)) is not None])


def _habit(habit: Habit) -> str | None:
    size = habit.size
    if habit.id == "mended":
        if size.high - size.low > 60.0:
            return None
        share = min(100.0, max(0.0, size.value))
        return tell("You correct {share:.0f}% of what the instrument does where you can", share=share)
    if size.low <= 0.0 <= size.high or abs(size.value) < _LEAST[habit.id]:
        return None
    rises = size.value > 0.0
    match habit.id:
        case "register":
            return tell("You go {way} as you play higher: {cents} an octave", way=_way(rises), cents=_cents(size))
        case "loudness":
            return tell("You go {way} when you play louder: {cents} for 10 dB", way=_way(rises), cents=_cents(size))
        case "tired":
            return tell("After half an hour you are {cents} {side}", cents=_cents(size), side=_side(rises))
        case _:
            return tell(
                "Your first notes are {cents} {side} compared with ten minutes later",
                cents=_cents(size),
                side=_side(rises),
            )


def _entry(entry: Regressor) -> str | None:
    size = entry.size
    if size.low <= 0.0 <= size.high or abs(size.value) < _LEAST_ENTRY:
        return None
    where = {"low": "Low notes", "middle": "Notes in the middle", "high": "High notes"}[entry.register]
    return tell(
        "{where} start {cents} {side} and slide into place",
        where=where,
        cents=_cents(size),
        side=_side(size.value > 0.0),
    )


def days_in_words(fit: Fit) -> str:
    """Temperature, warm-up, the tuning slide: what a day adds to every note."""
    return tell(
        "Half of your days are {signed} to {signed2} cents overall, from temperature, warm-up and the tuning slide. This is taken out first",
        signed=_signed(fit.day_low),
        signed2=_signed(fit.day_high),
    )


def advice_in_words(instrument: Instrument, items: Iterable[Advised], name_of: NameOf) -> tuple[str, ...]:
    """One line for each thing to do."""
    return tuple(_advice(instrument, item, name_of) for item in items)


def _advice(instrument: Instrument, item: Advised, name_of: NameOf) -> str:
    rises = item.cents.value > 0.0
    if item.instead is not None and item.instead_cents is not None:
        return tell(
            "{name_of} with {fingering} is {cents:.0f} cents {side} on this instrument; {instead} is {lying}",
            name_of=name_of(item.notes[0]),
            fingering=item.fingering,
            cents=abs(item.cents.value),
            side=_side(rises),
            instead=item.instead,
            lying=_lying(item.instead_cents),
        )
    names = ", ".join(name_of(midi) for midi in item.notes[:_MOST_NAMED])
    more = " and others" if len(item.notes) > _MOST_NAMED else ""
    way = "out" if (item.mm or 0.0) > 0.0 else "in"
    what = (
        tell("Position {fingering}", fingering=item.fingering)
        if isinstance(instrument.mechanism, HandSlide)
        else _valves(item.fingering)
    )
    return tell(
        "{what} is {cents} {side}: {slide} {mm:.0f} mm {way}, for {names}{more}",
        what=what,
        cents=_cents(item.cents),
        side=_side(rises),
        slide=item.slide,
        mm=abs(item.mm or 0.0),
        way=way,
        names=names,
        more=more,
    )


def _valves(fingering: str) -> str:
    return (
        "Open"
        if fingering.endswith("0") and len(fingering.split("-")) == 1
        else tell("Valve {fingering}", fingering=fingering)
    )


def _lying(cents: float) -> str:
    return "in tune" if abs(cents) < 1.0 else f"{abs(cents):.0f} {_side(cents > 0.0)}"


def _cents(size: Estimate) -> str:
    low, high = sorted((abs(size.low), abs(size.high)))
    return tell("{size:.0f} cents ({low:.0f} to {high:.0f})", size=abs(size.value), low=low, high=high)


def _signed(value: float) -> str:
    whole = round(value)
    return f"{whole:+d}".replace("-", "−") if whole else "0"


def _side(rises: bool) -> str:
    return "sharp" if rises else "flat"


def _way(rises: bool) -> str:
    return "sharp" if rises else "flat"
