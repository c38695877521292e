"""A player with the instrument in hand, their settings, and the terms that a session freezes when it opens."""

from collections.abc import Mapping
from dataclasses import dataclass, field
from datetime import date, time
from enum import StrEnum
from typing import Any

from orexis.core.approaches import DEFAULTS, Ask, Choice, checked_approaches
from orexis.core.coach import Care, Standard, limits_of
from orexis.core.exercises import Series, exercise_type_named
from orexis.core.instruments import AS_BUILT, Instrument, Part, Setup, instrument_named
from orexis.core.messages import tell
from orexis.core.planning import MOST_MINUTES, Effort, Elsewhere
from orexis.core.practice import MOST_REST_BARS
from orexis.errors import InputError

A4_RANGE = (392.0, 466.0)
FIRST_YEAR, LAST_YEAR = 1970, 2200  # nothing was played before, and no clock goes so far ahead
MOST_DATES = 200  # dates of two busy years
_MOST_A_WEEK, _MOST_ELSEWHERE = 4200, 600
FEWEST_KEPT_DAYS, MOST_KEPT_DAYS = 7, 3650


class Start(StrEnum):
    """What begins a take: the count-in, or the first note."""

    COUNT_IN = "count-in"
    FIRST_NOTE = "first note"


class Keeping(StrEnum):
    """Which sound is kept for good."""

    ALL = "all"
    DAYS = "days"
    MILESTONES = "milestones"  # beyond those days: first held takes, and takes with words


@dataclass(frozen=True, slots=True)
class PlayedElsewhere:
    """A rehearsal, a concert, a lesson: minutes on a date, or every week from it on."""

    day: str
    minutes: int
    effort: Effort = Effort.MEDIUM
    weekly: bool = False

    @property
    def planned(self) -> Elsewhere:
        """The same with its date as an ordinal."""
        return Elsewhere(date.fromisoformat(self.day).toordinal(), self.minutes, self.effort, self.weekly)


class Mute(StrEnum):
    """What is in the bell: it changes pitch, loudness and sound, so that takes with and without it are not compared."""

    NONE = "none"
    PRACTICE = "practice mute"
    STRAIGHT = "straight mute"
    CUP = "cup mute"
    OTHER = "another mute"


class PageLanguage(StrEnum):
    """A language of pages, results and paper: those that there is a catalogue for, and English."""

    ENGLISH = "en"
    GERMAN = "de"
    FRENCH = "fr"
    SPANISH = "es"


@dataclass(frozen=True, slots=True)
class PlayerSettings:
    """What a player decided about how they are led and judged."""

    approaches: dict[Ask, Choice] = field(default_factory=dict)
    limits: dict[str, float] = field(default_factory=dict)  # the player's own in place of the standard's
    braces: bool = False
    returning: bool = False
    checks: bool = True
    start: Start = Start.COUNT_IN
    goes_on: bool = True  # by itself after a verdict
    in_time: bool = True  # the click goes on from take to take, where the exercise allows it
    rest_bars: int = 0  # between takes in time; 0: as long as was played
    spoken: bool = False
    tempo_steps: bool = False
    reference_take: str | None = None  # what other takes are compared with, in place of today's easiest note
    quiet_from: int | None = None  # the hour from which only buzzing and soft work is offered
    minutes: tuple[int, ...] = (30, 30, 30, 30, 30, 30, 0)  # that can be given, Monday first
    performances: tuple[str, ...] = ()  # dates
    moved: dict[str, int] = field(default_factory=dict)  # minutes of single dates, in place of the weekday's
    plays_now: int | None = None  # minutes a week that they say they play; None: as many as they give
    elsewhere: tuple[PlayedElsewhere, ...] = ()
    practice_at: str | None = None  # when practice usually begins, as "18:30"; None: no hour in the calendar
    mute: Mute = Mute.NONE  # until it is taken out again
    keeping: Keeping = Keeping.ALL
    keeping_days: int = 90
    language: PageLanguage | None = None  # None: what the browser asks for
    teaches: bool = False  # sees how everybody here practises, and gives them lessons

    @property
    def care(self) -> Care:
        """Return what the plan and the stand must be careful about for this player."""
        return Care(self.braces, self.returning)

    @property
    def practises_in_time(self) -> bool:
        """Whether the click goes on: not where the player begins each take, by a key or by the first note."""
        return self.in_time and self.goes_on and self.start == Start.COUNT_IN

    @property
    def chosen(self) -> dict[Ask, Choice]:
        """All questions of the approaches answered."""
        return DEFAULTS | self.approaches


DEFAULT_SETTINGS = PlayerSettings()


def checked_a4(a4_hz: float) -> float:
    """A4 itself; InputError outside what is tuned to."""
    low, high = A4_RANGE
    if not low <= a4_hz <= high:
        raise InputError(tell("A4 is {a4_hz:g} Hz: choose {low:g} to {high:g}.", a4_hz=a4_hz, low=low, high=high))
    return a4_hz


def checked_settings(settings: PlayerSettings, standard: str) -> PlayerSettings:
    """The settings themselves; InputError for a choice or a limit that cannot be."""
    checked_approaches(settings.approaches)
    limits_of(standard, settings.limits)
    if settings.quiet_from is not None and not 0 <= settings.quiet_from <= 23:
        raise InputError(tell("Quiet hours start at {quiet_from}: choose 0 to 23.", quiet_from=settings.quiet_from))
    if not 0 <= settings.rest_bars <= MOST_REST_BARS:
        raise InputError(
            tell(
                "You rest for {rest_bars} bars: choose 1 to {most_rest_bars}, or 0 for as long as you played.",
                rest_bars=settings.rest_bars,
                most_rest_bars=MOST_REST_BARS,
            )
        )
    if not FEWEST_KEPT_DAYS <= settings.keeping_days <= MOST_KEPT_DAYS:
        raise InputError(
            tell(
                "Sound is kept for {keeping_days} days: choose {fewest_kept_days} to {most_kept_days}.",
                keeping_days=settings.keeping_days,
                fewest_kept_days=FEWEST_KEPT_DAYS,
                most_kept_days=MOST_KEPT_DAYS,
            )
        )
    if settings.practice_at is not None:
        try:
            time.fromisoformat(settings.practice_at)
        except ValueError:
            raise InputError(
                tell(
                    "“{practice_at}” is no time of day: write hours and minutes.", practice_at=settings.practice_at[:20]
                )
            ) from None
    _check_days(settings)
    return settings


def _check_days(settings: PlayerSettings) -> None:
    if len(settings.minutes) != 7 or not all(0 <= item <= MOST_MINUTES for item in settings.minutes):
        raise InputError(
            tell(
                "The week needs seven numbers of minutes, Monday first, each 0 to {most_minutes}.",
                most_minutes=MOST_MINUTES,
            )
        )
    if len(settings.performances) > MOST_DATES or len(settings.moved) > MOST_DATES:
        raise InputError(tell("At most {most_dates} dates can be saved. Delete old ones.", most_dates=MOST_DATES))
    if not all(0 <= item <= MOST_MINUTES for item in settings.moved.values()):
        raise InputError(tell("A day has 0 to {most_minutes} minutes.", most_minutes=MOST_MINUTES))
    if settings.plays_now is not None and not 0 <= settings.plays_now <= _MOST_A_WEEK:
        raise InputError(
            tell(
                "{plays_now} minutes a week: choose 0 to {most_a_week}.",
                plays_now=settings.plays_now,
                most_a_week=_MOST_A_WEEK,
            )
        )
    if len(settings.elsewhere) > MOST_DATES:
        raise InputError(
            tell(
                "At most {most_dates} entries of playing elsewhere can be saved. Delete old ones.",
                most_dates=MOST_DATES,
            )
        )
    if not all(1 <= item.minutes <= _MOST_ELSEWHERE for item in settings.elsewhere):
        raise InputError(tell("Playing elsewhere lasts 1 to {most_elsewhere} minutes.", most_elsewhere=_MOST_ELSEWHERE))
    for day in (*settings.performances, *settings.moved, *(item.day for item in settings.elsewhere)):
        try:
            year = date.fromisoformat(day).year
        except ValueError:
            raise InputError(tell("“{day}” is no date: write year-month-day.", day=day[:20])) from None
        if not FIRST_YEAR <= year <= LAST_YEAR:
            raise InputError(
                tell(
                    "The year {year} is too far away: choose {first_year} to {last_year}.",
                    year=year,
                    first_year=FIRST_YEAR,
                    last_year=LAST_YEAR,
                )
            )


@dataclass(frozen=True, slots=True)
class Terms:
    """What a session is judged by, as it was when the session opened. Takes read only this."""

    instrument: str
    part: str = ""
    a4_hz: float = 440.0
    setup: Setup = AS_BUILT
    standard: Standard = Standard.DEVELOPING
    own_limits: dict[str, float] = field(default_factory=dict)
    approaches: dict[Ask, Choice] = field(default_factory=dict)
    braces: bool = False
    returning: bool = False
    reference_take: str | None = None

    @property
    def own_instrument(self) -> Instrument:
        """The instrument as the player had it then."""
        return instrument_named(self.instrument).with_setup(self.setup)

    @property
    def written(self) -> Part:
        """Return the part that was read: clef and transposition."""
        return self.own_instrument.part(self.part)

    @property
    def limits(self) -> dict[str, float]:
        """The standard's limits with the player's own in their place."""
        return limits_of(self.standard, self.own_limits)

    @property
    def chosen(self) -> dict[Ask, Choice]:
        """All questions of the approaches answered."""
        return DEFAULTS | self.approaches

    @property
    def care(self) -> Care:
        """Return what the plan and the stand must be careful about for this player."""
        return Care(self.braces, self.returning)


@dataclass(frozen=True, slots=True)
class Player:
    """A person at the stand and what they play."""

    id: str
    name: str
    standard: Standard
    instrument: str
    part: str
    a4_hz: float
    setup: Setup = AS_BUILT
    settings: PlayerSettings = DEFAULT_SETTINGS
    guest: bool = False  # came with a lesson or a review request

    @property
    def own_instrument(self) -> Instrument:
        """The instrument in hand as this player has it."""
        return instrument_named(self.instrument).with_setup(self.setup)

    @property
    def limits(self) -> dict[str, float]:
        """The standard's limits with the player's own in their place."""
        return limits_of(self.standard, self.settings.limits)

    @property
    def terms(self) -> Terms:
        """What a session that opens now is judged by."""
        own = self.settings
        return Terms(
            instrument=self.instrument,
            part=self.part,
            a4_hz=self.a4_hz,
            setup=self.setup,
            standard=self.standard,
            own_limits=dict(own.limits),
            approaches=own.chosen,
            braces=own.braces,
            returning=own.returning,
            reference_take=own.reference_take,
        )

    def series(self, exercise_type_id: str, params: Mapping[str, str]) -> Series:
        """Return the exercises of a type on the instrument in hand; where nothing was chosen, as the player's approaches have it."""
        exercise_type = exercise_type_named(exercise_type_id)
        return exercise_type.series(
            self.own_instrument, exercise_type.approach_params(self.settings.chosen, self.own_instrument) | dict(params)
        )


def changed(settings: PlayerSettings, change: Mapping[str, Any]) -> dict[str, Any]:
    """The settings' fields with some of them changed; InputError for one that there is not."""
    known = {name: getattr(settings, name) for name in PlayerSettings.__dataclass_fields__}
    unknown = sorted(set(change) - set(known))
    if unknown:
        raise InputError(
            tell(
                "There is no setting “{unknown}”: choose one of {known}.",
                unknown=unknown[0][:30],
                known=", ".join(known),
            )
        )
    return known | dict(change)
