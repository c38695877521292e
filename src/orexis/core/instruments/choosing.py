"""Which of a note's ways is meant: the resistance of the longest tube, the same partial, one side or valve throughout.

A note can often be had in several ways, and which one is used is part of an exercise. A rule picks among those that can be
brought to pitch, or lie near enough to it by themselves; where it leaves none, the usual way stands.
"""

from orexis.core.instruments.fingering import parse_fingering, tube_length_m
from orexis.core.instruments.instrument import HandSlide, Instrument
from orexis.core.instruments.options import FingeringOption, fingering_options
from orexis.core.messages import tell
from orexis.core.theory import Pitch, pitch_of_midi
from orexis.errors import InstrumentError

USUAL, LONGEST, SHORTEST, SAME_PARTIAL = "as usual", "longest tube", "shortest tube", "same partial"
BY_HAND = "by hand"  # note by note, as it is said beside the rule
WITH_VALVE, WITHOUT_VALVE = "with the valve", "without the valve"
_NEAR_CENTS = 25.0  # further off, a way that no slide mends is for emergencies


def fingering_rules(instrument: Instrument) -> tuple[str, ...]:
    """The rules that make sense on an instrument, the default first."""
    sides = tuple(_by_side(side.name) for side in instrument.sides if side.name) if len(instrument.sides) > 1 else ()
    slide = instrument.mechanism
    valve = (WITH_VALVE, WITHOUT_VALVE) if isinstance(slide, HandSlide) and slide.valves else ()
    return (USUAL, LONGEST, SHORTEST, SAME_PARTIAL, *sides, *valve, BY_HAND)


def option_by_rule(rule: str, instrument: Instrument, pitch: Pitch, before: int | None = None) -> FingeringOption:
    """The way that a rule picks for a note (`before`: the partial of the note before it); InstrumentError for a rule that there is not, or a note without a slot."""
    if rule not in fingering_rules(instrument):
        raise InstrumentError(
            tell(
                "“{rule}” is no way for the {instrument}: choose {fingering_rules}.",
                rule=rule[:30],
                instrument=instrument.name,
                fingering_rules=", ".join(fingering_rules(instrument)),
            )
        )
    options = fingering_options(instrument, pitch)
    if rule in (USUAL, BY_HAND):
        return options[0]
    able = [option for option in options if option.reachable or abs(option.cents) <= _NEAR_CENTS]
    # The first partial of a short tube is another note to the lips than the second of a long one.
    sung = [option for option in able if option.partial > 1] or able
    if rule in (LONGEST, SHORTEST):
        turn = -1.0 if rule == LONGEST else 1.0
        matching = sorted(
            sung, key=lambda option: (turn * round(tube_length_m(instrument, option.fingering), 2), _arm(option))
        )
    elif rule == SAME_PARTIAL:
        matching = [option for option in able if option.partial == before]
    elif rule in (WITH_VALVE, WITHOUT_VALVE):
        matching = [option for option in able if bool(option.fingering.valves) == (rule == WITH_VALVE)]
    else:
        matching = [option for option in able if option.fingering.side and _by_side(option.fingering.side) == rule]
    return (matching or list(options))[0]


def option_with(instrument: Instrument, pitch: Pitch, fingering: str) -> FingeringOption:
    """The way to play a note on the tube that is named; InstrumentError, with those there are, where it has no such slot."""
    options = fingering_options(instrument, pitch)
    chosen = next((option for option in options if option.fingering.label == fingering), None)
    if chosen is None:
        labels = ", ".join(option.fingering.label for option in options)
        raise InstrumentError(
            tell(
                "{pitch} (concert) is not to be had on “{fingering}” of the {instrument}: choose {labels}.",
                pitch=pitch.name,
                fingering=fingering[:12],
                instrument=instrument.name,
                labels=labels,
            )
        )
    return chosen


def pedal_option(instrument: Instrument, pitch: Pitch) -> FingeringOption:
    """A pedal by valves rather than by the arm: the same length of tube, from the shortest position."""
    pedals = [option for option in fingering_options(instrument, pitch) if option.partial == 1]
    return min(pedals, key=_arm) if pedals else fingering_options(instrument, pitch)[0]


def checked_preferences(instrument: Instrument) -> Instrument:
    """The instrument itself; InstrumentError for a preferred way that it does not have."""
    for item in instrument.setup.preferred:
        fingering, pitch = parse_fingering(instrument, item.fingering), pitch_of_midi(item.midi)
        if not any(
            option.fingering == fingering and option.partial == item.partial
            for option in fingering_options(instrument, pitch)
        ):
            raise InstrumentError(
                tell(
                    "{pitch} (concert) is no partial {partial} of {fingering} on the {instrument}.",
                    pitch=pitch.name,
                    partial=item.partial,
                    fingering=item.fingering,
                    instrument=instrument.name,
                )
            )
    return instrument


def _by_side(name: str) -> str:
    return tell("on the {name} side", name=name)


def _arm(option: FingeringOption) -> tuple[int, int]:
    return option.fingering.position or 1, option.rank
