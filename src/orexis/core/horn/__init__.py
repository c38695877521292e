"""Horns: catalogue, tubes, partials, ways to play."""

from orexis.core.horn.catalogue import HORNS, horn_named
from orexis.core.horn.instrument import HandSlide, Instrument, MovingSlide, Part, Side, Valves, open_length_m
from orexis.core.horn.tube import (
    Tube,
    all_tubes,
    parse_tube,
    partial_frequency_hz,
    partial_near,
    partials_between,
    position_extension_m,
    pull_mm,
    seven_tubes,
    tube_factor,
    tube_length_m,
    tube_semitones,
)
from orexis.core.horn.ways import Way, deviation_cents, ways_to_play

__all__ = [
    "HORNS",
    "HandSlide",
    "Instrument",
    "MovingSlide",
    "Part",
    "Side",
    "Tube",
    "Valves",
    "Way",
    "all_tubes",
    "deviation_cents",
    "horn_named",
    "open_length_m",
    "parse_tube",
    "partial_frequency_hz",
    "partial_near",
    "partials_between",
    "position_extension_m",
    "pull_mm",
    "seven_tubes",
    "tube_factor",
    "tube_length_m",
    "tube_semitones",
    "ways_to_play",
]
