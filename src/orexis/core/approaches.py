"""Where players disagree: each question is a choice of the player, with a default, its reason, and who prefers the other.

A choice changes exercises (each exercise type names the parameters it binds), cues, and what is judged. Nothing here is right or
wrong. Questions and choices are known by their ids; the words beside them are for the screen only.
"""

from collections.abc import Mapping
from dataclasses import dataclass
from enum import StrEnum

from orexis.core.messages import tell
from orexis.errors import InputError


class Ask(StrEnum):
    """The questions on which teachers differ."""

    LOUDNESS_UPWARDS = "loudness-upwards"
    PRESSURE = "pressure"
    DOUBLE_PEDALS = "double-pedals"
    SLURS_LED_BY = "slurs-led-by"
    LOW_AIR = "low-air"
    CLIMBING = "climbing"
    WIDE_SLURS = "wide-slurs"
    LIPS = "lips"
    CORNERS = "corners"
    AFTER_A_LOST_NOTE = "after-a-lost-note"
    BODY = "body"
    BREATH_INSIDE = "breath-inside"
    DAY_BEGINS = "day-begins"


class Choice(StrEnum):
    """The answers to all of them."""

    GROW = "grow"
    EVEN = "even"
    EASE = "ease"
    LEAST_SEAL = "least-seal"
    OPEN_PALM = "open-palm"
    FIRM_SEAL = "firm-seal"
    USUAL_SETTING = "usual-setting"
    FREE_LIPS = "free-lips"
    AIR_AND_TONGUE = "air-and-tongue"
    JAW_AND_LIP = "jaw-and-lip"
    SLOW_AND_WIDE = "slow-and-wide"
    FAST_AND_FIRM = "fast-and-firm"
    GATE = "gate"
    TO_TODAYS_LIMIT = "to-todays-limit"
    TONGUE_FIRST = "tongue-first"
    SLUR_FIRST = "slur-first"
    FREE_CENTRE = "free-centre"
    FIRM_AND_FLAT = "firm-and-flat"
    GATHERED = "gathered"
    DRAWN_BACK = "drawn-back"
    STEP_BACK = "step-back"
    STOP_HERE = "stop-here"
    ONE_MORE_TRY = "one-more-try"
    BODY_NAMED = "body-named"
    SOUND_ONLY = "sound-only"
    ONE_BREATH = "one-breath"
    NOSE_BREATH = "nose-breath"
    BUZZING = "buzzing"
    LOW_TONES = "low-tones"


Approaches = Mapping[Ask, Choice]


@dataclass(frozen=True, slots=True)
class Option:
    """An answer to such a question, in words."""

    id: Choice
    words: str


@dataclass(frozen=True, slots=True)
class Question:
    """One disagreement. The first choice is the default."""

    id: Ask
    asks: str
    choices: tuple[Option, ...]
    why: str
    others: str


def _question(ask: Ask, asks: str, choices: dict[Choice, str], why: str, others: str) -> Question:
    return Question(ask, asks, tuple(Option(id_, words) for id_, words in choices.items()), why, others)


QUESTIONS: tuple[Question, ...] = (
    _question(
        Ask.LOUDNESS_UPWARDS,
        "Going up, the sound should",
        {Choice.GROW: "grow", Choice.EVEN: "stay even", Choice.EASE: "ease"},
        "Growing keeps the air moving, and most players need that.",
        "Getting softer (strong below, light above) trains soft high notes. Try it as a second pass.",
    ),
    _question(
        Ask.PRESSURE,
        "Mouthpiece pressure",
        {
            Choice.LEAST_SEAL: "as little as you need",
            Choice.OPEN_PALM: "none, on an open palm",
            Choice.FIRM_SEAL: "a firm seal",
        },
        "Too much pressure is the most common way to get hurt.",
        "No pressure is only an exercise. Some teach a firm seal.",
    ),
    _question(
        Ask.DOUBLE_PEDALS,
        "Below the pedal tones the lips are",
        {Choice.USUAL_SETTING: "in their usual setting", Choice.FREE_LIPS: "free, for recovery"},
        "A shifted setting in strength work becomes a second embouchure.",
        "Loose lips bring the blood back. Use them for recovery only.",
    ),
    _question(
        Ask.SLURS_LED_BY,
        "Slurs are led by",
        {Choice.AIR_AND_TONGUE: "air and tongue", Choice.JAW_AND_LIP: "jaw and lower lip"},
        "Less movement wears less.",
        "Moving the jaw helps some players with fast slurs. Try it in lip trills.",
    ),
    _question(
        Ask.LOW_AIR,
        "Air for low notes",
        {Choice.SLOW_AND_WIDE: "slow and wide", Choice.FAST_AND_FIRM: "fast and firm"},
        "Forced low notes are the common fault.",
        "Some train pedals firm and fast.",
    ),
    _question(
        Ask.CLIMBING,
        "High work goes by",
        {Choice.GATE: "a check at each semitone", Choice.TO_TODAYS_LIMIT: "triads to today's limit"},
        "The check never lets you practise a failing note.",
        "Triads go to the day’s limit, then a day off. For players who recover well.",
    ),
    _question(
        Ask.WIDE_SLURS,
        "Wide slurs begin with",
        {Choice.TONGUE_FIRST: "tongue first", Choice.SLUR_FIRST: "slur first"},
        "Tonguing first tells the ear where to go.",
        "Slurring first keeps the tongue from helping.",
    ),
    _question(
        Ask.LIPS,
        "The lips are",
        {
            Choice.FREE_CENTRE: "firm at the corners, free in the centre",
            Choice.FIRM_AND_FLAT: "firm and flat throughout",
        },
        "The centre has to vibrate.",
        "Flat lips help some beginners to their first high buzz.",
    ),
    _question(
        Ask.CORNERS,
        "The corners are",
        {Choice.GATHERED: "gathered", Choice.DRAWN_BACK: "drawn back a little"},
        "Stretching thins the lip and tires it.",
        "Some still teach a slight smile.",
    ),
    _question(
        Ask.AFTER_A_LOST_NOTE,
        "After a note fails",
        {
            Choice.STEP_BACK: "a step back",
            Choice.STOP_HERE: "stop here for today",
            Choice.ONE_MORE_TRY: "one more try, then stop",
        },
        "A step back leaves a good note in your ear.",
        "Stopping saves lips that tire fast. One more try suits you if you know what went wrong.",
    ),
    _question(
        Ask.BODY,
        "Hints are about",
        {Choice.BODY_NAMED: "tongue, jaw and air", Choice.SOUND_ONLY: "sound only"},
        "A hint saves time.",
        "Some play worse when they watch themselves.",
    ),
    _question(
        Ask.BREATH_INSIDE,
        "Within an exercise",
        {Choice.ONE_BREATH: "one breath, no reset", Choice.NOSE_BREATH: "a nose breath, corners kept"},
        "A reset hides the shift.",
        "Breathing through the nose keeps the corners working.",
    ),
    _question(
        Ask.DAY_BEGINS,
        "Practice begins with",
        {Choice.BUZZING: "buzzing", Choice.LOW_TONES: "long tones"},
        "Buzzing wakes up lips and ear.",
        "If your buzz is stiff, start on the instrument.",
    ),
)
_BY_ID = {question.id: question for question in QUESTIONS}
DEFAULTS: dict[Ask, Choice] = {question.id: question.choices[0].id for question in QUESTIONS}


def checked_approaches(given: Mapping[str, str] | Approaches) -> dict[Ask, Choice]:
    """All questions answered, the default where nothing was said; InputError for a choice there is not."""
    answered = dict(DEFAULTS)
    for key, choice in given.items():
        if key not in _BY_ID:
            raise InputError(
                tell("There is no approach “{value}”: choose one of {by_id}.", value=key[:30], by_id=", ".join(_BY_ID))
            )
        question = _BY_ID[Ask(key)]
        if choice not in [option.id for option in question.choices]:
            allowed = ", ".join(option.id for option in question.choices)
            raise InputError(
                tell(
                    "“{choice}” is no choice for {value}: choose {allowed}.",
                    choice=choice[:40],
                    value=key,
                    allowed=allowed,
                )
            )
        answered[question.id] = Choice(choice)
    return answered
