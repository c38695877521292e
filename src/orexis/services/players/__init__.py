"""Who plays, what, and how they want to be led and judged."""

from orexis.services.players.use import Players
from orexis.services.players.values import AS_GIVEN, Player, PlayerSettings, Terms

__all__ = ["AS_GIVEN", "Player", "PlayerSettings", "Players", "Terms"]
