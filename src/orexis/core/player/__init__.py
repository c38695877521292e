"""The simulated player: a stand-in for a person with a horn and a microphone."""

from orexis.core.player.flaws import Flaw, Flaws, parse_flaw, parse_flaws
from orexis.core.player.performance import Defect, PlayedNote
from orexis.core.player.play import PLAYER_RATE, Truth, play

__all__ = ["PLAYER_RATE", "Defect", "Flaw", "Flaws", "PlayedNote", "Truth", "parse_flaw", "parse_flaws", "play"]
