"""Where players disagree: each question is a choice of the player, with a default, its reason, and who prefers the other.

A choice changes figures (through their parameters), cues, and what is judged. Nothing here is right or wrong.
"""

from collections.abc import Mapping
from dataclasses import dataclass

from orexis.errors import InputError


@dataclass(frozen=True, slots=True)
class Question:
    """One disagreement. The first choice is the default."""

    id: str
    asks: str
    choices: tuple[str, ...]
    why: str
    others: str


QUESTIONS: tuple[Question, ...] = (
    Question(
        "loudness-upwards",
        "Going up, the sound should",
        ("grow", "even", "ease"),
        "Growing keeps the air moving, and most players need that.",
        "Easing (strong below, light above) trains the opening for soft high notes; take it as a second pass.",
    ),
    Question(
        "pressure",
        "The mouthpiece is held with",
        ("as little as seals", "none, on the open palm", "a firm seal"),
        "More than seals is the commonest way to get hurt.",
        "No pressure at all is an exercise here, no way to play; a firm seal is taught by a few.",
    ),
    Question(
        "double-pedals",
        "Below the pedals the lips are",
        ("in their usual setting", "free, for recovery"),
        "A shifted setting in strength work becomes a second one.",
        "Free lips bring the blood back; they belong in recovery only.",
    ),
    Question(
        "slurs-led-by",
        "Slurs are led by",
        ("air and tongue", "jaw and lower lip"),
        "Less movement wears less.",
        "Moving the jaw along seats fast slurs better for some; tried in lip trills.",
    ),
    Question(
        "low-air",
        "Low notes get air that is",
        ("slow and wide", "fast and firm"),
        "Forced low notes are the common fault.",
        "Some train pedals firm and fast.",
    ),
    Question(
        "climbing",
        "The register is climbed by",
        ("a gate at each semitone", "triads to today's limit"),
        "The gate never rehearses a failing note.",
        "Triads go to the limit of the day, then a day off; for those who recover well.",
    ),
    Question(
        "wide-slurs",
        "Wide slurs begin with",
        ("tongue first", "slur first"),
        "Tongued first the ear knows where it goes.",
        "Slurring first keeps the tongue from helping out.",
    ),
    Question(
        "lips",
        "The lips are",
        ("firm at the corners, free in the centre", "firm and flat throughout"),
        "The centre has to vibrate.",
        "Flat lips help some beginners to a first high buzz.",
    ),
    Question(
        "corners",
        "The corners are",
        ("gathered", "drawn back a little"),
        "Stretching thins the lip and tires it.",
        "A slight drawing back is still taught in places.",
    ),
    Question(
        "after-a-lost-rung",
        "After a rung that failed",
        ("a step back", "stop here for today", "one more try, then stop"),
        "The step back leaves a good note in the ear.",
        "Stopping saves lips that tire fast; one more try suits those who know at once what went wrong.",
    ),
    Question(
        "body",
        "Cues speak of",
        ("tongue, jaw and air", "sound only"),
        "A cue shortens the search.",
        "Some play worse for watching themselves: let the body find it.",
    ),
    Question(
        "breath-inside",
        "Within a figure",
        ("one breath, no new setting", "a nose breath, corners kept"),
        "A new setting hides the shift.",
        "Breathing through the nose keeps the corners at work longer.",
    ),
    Question(
        "day-begins",
        "The day begins with",
        ("buzzing", "long low tones"),
        "Buzzing wakes lips and ear before the horn helps.",
        "Those who buzz stiffly do better on the horn first.",
    ),
)
_BY_ID = {question.id: question for question in QUESTIONS}
DEFAULTS: dict[str, str] = {question.id: question.choices[0] for question in QUESTIONS}


def checked_schools(given: Mapping[str, str]) -> dict[str, str]:
    """All questions answered, the default where nothing was said; InputError for a choice there is not."""
    for key, choice in given.items():
        if key not in _BY_ID:
            raise InputError(f"There is no question “{key[:30]}”: choose one of {', '.join(_BY_ID)}.")
        if choice not in _BY_ID[key].choices:
            raise InputError(f"“{choice[:40]}” is no choice of {key}: choose {', '.join(_BY_ID[key].choices)}.")
    return DEFAULTS | dict(given)
