"""Cautions of the body, in plain words, and what the player may report in one tap.

None of this is medical advice; a teacher's and a clinician's word go before it.
"""

from dataclasses import dataclass
from enum import StrEnum

from orexis.core.exercises import DayPlace, Load
from orexis.core.messages import tell

# What is reported -> (stop everything, what is said)
REPORTS: dict[str, tuple[bool, str]] = {
    "lips hurt": (True, "Stop for today. If it still hurts tomorrow, see a doctor."),
    "numb": (True, "Numb lips cannot warn you: stop for today. If it lasts, see a doctor."),
    "swollen or cut": (True, "Stop, and let it heal before you play again. If it lasts, see a doctor."),
    "tooth or jaw": (True, "Stop for today; ask a dentist or doctor before you go on."),
    "dizzy": (True, "Sit down and breathe normally. No more long breaths today."),
    "tired": (False, "Take five minutes off. Then nothing heavy."),
}

CAUTIONS: dict[str, str] = {
    "breath": "Long breaths can make you dizzy. Sit down, and pause if they do.",
    "register": "Press no more than you need to. Stop while it still sounds good. Sore, numb or swollen lips mean stop.",
    "low": "Pedal tones need air, not force. Rest between sets, and don’t shift your lips to reach them.",
    "loud": "Loud practice tires your ears too. Rest them, and mind the neighbours.",
    "braces": "With braces: short blocks, long rests, no pressing. Ask your orthodontist and your teacher.",
    "return": "After an injury, play only as much as your doctor allows. Orexis keeps the load low.",
}


class Lips(StrEnum):
    """How the lips feel at the check-in."""

    FRESH = "fresh"
    WORKED = "worked"
    TIRED = "tired"
    SORE = "sore"


# What is asked of lips that feel so.
LIPS: dict[Lips, tuple[Load, ...]] = {
    Lips.FRESH: (Load.EASY, Load.MEDIUM, Load.HIGH),
    Lips.WORKED: (Load.EASY, Load.MEDIUM, Load.HIGH),
    Lips.TIRED: (Load.EASY, Load.MEDIUM),
    Lips.SORE: (Load.EASY,),
}


# How far load is held down: share of the usual minutes, extra rest, no heavy blocks.
@dataclass(frozen=True, slots=True)
class Care:
    """What the player's settings ask to be careful about."""

    braces: bool = False
    returning: bool = False

    @property
    def extra_rest(self) -> bool:
        """Rest half as long again as was played."""
        return self.braces or self.returning

    @property
    def share(self) -> float:
        """Share of the usual minutes of a block."""
        return 0.5 if self.returning else 0.7 if self.braces else 1.0

    def allows(self, load: Load) -> bool:
        """Whether blocks of such a load are allowed."""
        return load != Load.HIGH or not self.returning


@dataclass(frozen=True, slots=True)
class LipsToday:
    """What is known of the lips today: how they felt last, whether a check note said spent, what report ended everything, why a session
    of today ended its heavy work, and whether yesterday ended so that today has none.
    """

    felt: Lips = Lips.FRESH
    spent: bool = False
    stopped: str | None = None
    heavy_over: str | None = None
    heavy_yesterday: bool = False

    @property
    def no_heavy(self) -> str | None:
        """Why there is no heavy work today, in one sentence; None where there may be some."""
        if self.spent:
            return "Today's check note said your lips are worn out. Nothing heavy or high until tomorrow."
        if self.heavy_over is not None:
            why = self.heavy_over[0].lower() + self.heavy_over[1:]
            return tell("Heavy work is over for today: {why}", why=why)
        return "Yesterday was hard on your lips. Nothing heavy or high today." if self.heavy_yesterday else None


def advised_against(load: Load, care: Care, today: LipsToday) -> str | None:
    """Why somebody had better not play this now, in one sentence; None when nothing speaks against it.

    It holds for whatever is begun, from a routine or by itself. The player may still go on: their word is kept.
    """
    if today.stopped in REPORTS:
        return tell(
            "You reported “{stopped}” today. {reports}", stopped=today.stopped, reports=REPORTS[today.stopped][1]
        )
    if not care.allows(load):
        return tell("{cautions} This is heavy work.", cautions=CAUTIONS["return"])
    if load not in LIPS[today.felt]:
        return (
            "Your lips are sore today. Play only buzzing and easy low notes, or take a day off."
            if today.felt == Lips.SORE
            else "Your lips are tired today. Nothing heavy or high until tomorrow."
        )
    return today.no_heavy if load == Load.HIGH else None


def caution_for(place: DayPlace | None, care: Care) -> str | None:
    """The line to show with a block."""
    if care.returning:
        return CAUTIONS["return"]
    if care.braces:
        return CAUTIONS["braces"]
    return CAUTIONS.get(place) if place else None
