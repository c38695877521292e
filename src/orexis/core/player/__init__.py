"""The simulated player: a stand-in for a person with an instrument and a microphone."""

from orexis.core.player.accompaniment import sounded
from orexis.core.player.dynamics import levels_asked
from orexis.core.player.flaws import Flaw, Flaws, parse_flaw, parse_flaws
from orexis.core.player.freely import FreePerformance, Passage, play_freely
from orexis.core.player.harmonics import warm
from orexis.core.player.manners import manner_flaws
from orexis.core.player.performance import Defect, PlayedNote
from orexis.core.player.person import (
    Person,
    SimulatedLips,
    after_days,
    after_playing,
    after_rest,
    performance_flaws,
    person,
    tiredness,
)
from orexis.core.player.play import PLAYER_RATE, Truth, play

__all__ = [
    "PLAYER_RATE",
    "Defect",
    "Flaw",
    "Flaws",
    "FreePerformance",
    "Passage",
    "Person",
    "PlayedNote",
    "SimulatedLips",
    "Truth",
    "after_days",
    "after_playing",
    "after_rest",
    "levels_asked",
    "manner_flaws",
    "parse_flaw",
    "parse_flaws",
    "performance_flaws",
    "person",
    "play",
    "play_freely",
    "sounded",
    "tiredness",
    "warm",
]
