"""Which of a note's ways is meant: the resistance of the longest tube, the same partial, one side or valve throughout.

A note can often be had in several ways, and which one is used is part of an exercise. A rule picks among those that can be
brought to pitch, or lie near enough to it by themselves; where it leaves none, the usual way stands.
"""

from orexis.core.instruments.instrument import HandSlide, Instrument
from orexis.core.instruments.tube import parse_tube, tube_length_m
from orexis.core.instruments.ways import Way, ways_to_play
from orexis.core.theory import Pitch, pitch_of_midi
from orexis.errors import InstrumentError

USUAL, LONGEST, SHORTEST, SAME_PARTIAL = "as usual", "longest tube", "shortest tube", "same partial"
BY_HAND = "by hand"  # note by note, as it is said beside the rule
WITH_VALVE, WITHOUT_VALVE = "with the valve", "without the valve"
_NEAR_CENTS = 25.0  # further off, a way that no slide mends is for emergencies


def way_rules(instrument: Instrument) -> tuple[str, ...]:
    """The rules that make sense on an instrument, the default first."""
    sides = tuple(_by_side(side.name) for side in instrument.sides if side.name) if len(instrument.sides) > 1 else ()
    slide = instrument.mechanism
    valve = (WITH_VALVE, WITHOUT_VALVE) if isinstance(slide, HandSlide) and slide.valves else ()
    return (USUAL, LONGEST, SHORTEST, SAME_PARTIAL, *sides, *valve, BY_HAND)


def way_by(rule: str, instrument: Instrument, pitch: Pitch, before: int | None = None) -> Way:
    """The way that a rule picks for a note (`before`: the partial of the note before it); InstrumentError for a rule that there is not, or a note without a slot."""
    if rule not in way_rules(instrument):
        raise InstrumentError(
            f"“{rule[:30]}” is no way for the {instrument.name}: choose {', '.join(way_rules(instrument))}."
        )
    ways = ways_to_play(instrument, pitch)
    if rule in (USUAL, BY_HAND):
        return ways[0]
    able = [way for way in ways if way.reachable or abs(way.cents) <= _NEAR_CENTS]
    # The first partial of a short tube is another note to the lips than the second of a long one.
    sung = [way for way in able if way.partial > 1] or able
    if rule in (LONGEST, SHORTEST):
        turn = -1.0 if rule == LONGEST else 1.0
        found = sorted(sung, key=lambda way: (turn * round(tube_length_m(instrument, way.tube), 2), _arm(way)))
    elif rule == SAME_PARTIAL:
        found = [way for way in able if way.partial == before]
    elif rule in (WITH_VALVE, WITHOUT_VALVE):
        found = [way for way in able if bool(way.tube.valves) == (rule == WITH_VALVE)]
    else:
        found = [way for way in able if way.tube.side and _by_side(way.tube.side) == rule]
    return (found or list(ways))[0]


def way_on(instrument: Instrument, pitch: Pitch, tube: str) -> Way:
    """The way to play a note on the tube that is named; InstrumentError, with those there are, where it has no such slot."""
    ways = ways_to_play(instrument, pitch)
    found = next((way for way in ways if way.tube.label == tube), None)
    if found is None:
        labels = ", ".join(way.tube.label for way in ways)
        raise InstrumentError(
            f"{pitch.name} (concert) is not to be had on “{tube[:12]}” of the {instrument.name}: choose {labels}."
        )
    return found


def pedal_way(instrument: Instrument, pitch: Pitch) -> Way:
    """A pedal by valves rather than by the arm: the same length of tube, from the shortest position."""
    pedals = [way for way in ways_to_play(instrument, pitch) if way.partial == 1]
    return min(pedals, key=_arm) if pedals else ways_to_play(instrument, pitch)[0]


def checked_preferences(instrument: Instrument) -> Instrument:
    """The instrument itself; InstrumentError for a preferred way that it does not have."""
    for item in instrument.setup.preferred:
        tube, pitch = parse_tube(instrument, item.tube), pitch_of_midi(item.midi)
        if not any(way.tube == tube and way.partial == item.partial for way in ways_to_play(instrument, pitch)):
            raise InstrumentError(
                f"{pitch.name} (concert) is no partial {item.partial} of {item.tube} on the {instrument.name}."
            )
    return instrument


def _by_side(name: str) -> str:
    return f"on the {name} side"


def _arm(way: Way) -> tuple[int, int]:
    return way.tube.position or 1, way.rank
