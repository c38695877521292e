"""What the fit found, in words: habits only where their interval leaves 0 out, and what may be done about the instrument."""

from collections.abc import Callable, Iterable

from orexis.core.instruments import HandSlide, Instrument
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
        return f"You correct {share:.0f}% of what the instrument does where you can"
    if size.low <= 0.0 <= size.high or abs(size.value) < _LEAST[habit.id]:
        return None
    rises = size.value > 0.0
    match habit.id:
        case "register":
            return f"You go {_way(rises)} as you play higher: {_cents(size)} an octave"
        case "loudness":
            return f"You go {_way(rises)} when you play louder: {_cents(size)} for 10 dB"
        case "tired":
            return f"After half an hour you are {_cents(size)} {_side(rises)}"
        case _:
            return f"Your first notes are {_cents(size)} {_side(rises)} compared with ten minutes later"


def _entry(entry: Regressor) -> str | None:
    size = entry.size
    if size.low <= 0.0 <= size.high or abs(size.value) < _LEAST_ENTRY:
        return None
    where = {"low": "Low notes", "middle": "Notes in the middle", "high": "High notes"}[entry.register]
    return f"{where} start {_cents(size)} {_side(size.value > 0.0)} and slide into place"


def days_in_words(fit: Fit) -> str:
    """Temperature, warm-up, the tuning slide: what a day adds to every note."""
    return (
        f"Half of your days are {_signed(fit.day_low)} to {_signed(fit.day_high)} cents overall, from temperature, "
        "warm-up and the tuning slide. This is taken out first"
    )


def advice_in_words(instrument: Instrument, items: Iterable[Advised], name_of: NameOf) -> tuple[str, ...]:
    """One line for each thing to do."""
    return tuple(_advice(instrument, item, name_of) for item in items)


def _advice(instrument: Instrument, item: Advised, name_of: NameOf) -> str:
    rises = item.cents.value > 0.0
    if item.instead is not None and item.instead_cents is not None:
        return (
            f"{name_of(item.notes[0])} with {item.fingering} is {abs(item.cents.value):.0f} cents {_side(rises)} on this instrument; "
            f"{item.instead} is {_lying(item.instead_cents)}"
        )
    names = ", ".join(name_of(midi) for midi in item.notes[:_MOST_NAMED])
    more = " and others" if len(item.notes) > _MOST_NAMED else ""
    way = "out" if (item.mm or 0.0) > 0.0 else "in"
    what = f"Position {item.fingering}" if isinstance(instrument.mechanism, HandSlide) else _valves(item.fingering)
    return f"{what} is {_cents(item.cents)} {_side(rises)}: {item.slide} {abs(item.mm or 0.0):.0f} mm {way}, for {names}{more}"


def _valves(fingering: str) -> str:
    return "Open" if fingering.endswith("0") and len(fingering.split("-")) == 1 else f"Valve {fingering}"


def _lying(cents: float) -> str:
    return "in tune" if abs(cents) < 1.0 else f"{abs(cents):.0f} {_side(cents > 0.0)}"


def _cents(size: Estimate) -> str:
    low, high = sorted((abs(size.low), abs(size.high)))
    return f"{abs(size.value):.0f} cents ({low:.0f} to {high:.0f})"


def _signed(value: float) -> str:
    whole = round(value)
    return f"{whole:+d}".replace("-", "−") if whole else "0"


def _side(rises: bool) -> str:
    return "sharp" if rises else "flat"


def _way(rises: bool) -> str:
    return "sharp" if rises else "flat"
