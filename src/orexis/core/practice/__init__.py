"""The session as a state machine."""

from orexis.core.practice.ending import Ending
from orexis.core.practice.machine import PHASES, Effect, Event, SessionState, Step, TakeMark, step

__all__ = ["PHASES", "Effect", "Ending", "Event", "SessionState", "Step", "TakeMark", "step"]
