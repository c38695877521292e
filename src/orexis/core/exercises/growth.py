"""How many pedal sets a day: counted in sets that were really played, never in weeks since the first try.

Two sets a day until four weeks with at least three pedal days each were done; then one more set after every two further such
weeks, up to five. From then on further pitches down may follow on the same day, with two sets each. A week
with no pedals takes one set off; three of them in a row start again at two. Braces: at most two sets of 12. Return after an injury: one set of 8 and no growth. This is the one goal that can overload.
"""

from collections.abc import Iterable, Mapping
from dataclasses import dataclass, replace

from orexis.core.messages import tell

REAL_SHARE = 0.75  # 15 of 20 notes there
FEWEST, MOST = 2, 5
DAYS_OF_A_WEEK = 3  # three days in seven make it a practised week
FIRST_WEEKS, WEEKS_A_SET = 4, 2
START_AGAIN = 3  # after three empty weeks the earlier level is not taken for granted
BRACES_SETS, BRACES_NOTES = 2, 12
RETURN_SETS, RETURN_NOTES = 1, 8
_ONE_PITCH = "; one pitch a day in these weeks"


@dataclass(frozen=True, slots=True)
class SetPlayed:
    """One set: its ordinal day, the notes that were there, and those asked for."""

    day: int
    there: int
    asked: int

    @property
    def real(self) -> bool:
        """Whether it counts as a set."""
        return self.asked > 0 and self.there >= REAL_SHARE * self.asked


@dataclass(frozen=True, slots=True)
class SetsToday:
    """What may be played today, and why. `notes`: the most in a set, None for what is usual."""

    sets: int
    notes: int | None
    why: str
    further: bool = False  # several pitches a day
    any_played: bool = False  # some sets were really played

    def within(self, asked: Mapping[str, str]) -> dict[str, str]:
        """The parameters asked for, with no more sets and notes than today allows; what is no number is left for its error."""
        wanted = {"sets": str(self.sets)} | dict(asked)
        if not self.further:
            wanted.pop("pitches", None)
        for name, most in (("sets", self.sets), ("notes", self.notes)):
            given = wanted.get(name, "")
            if most is not None and (not given or (given.isdigit() and int(given) > most)):
                wanted[name] = str(most)
        return wanted


def sets_today(played: Iterable[SetPlayed], today: int, *, braces: bool = False, returning: bool = False) -> SetsToday:
    """The rule, over all sets that were ever played on an instrument. Days are ordinal dates, weeks begin on Monday."""
    sets = tuple(played)
    return replace(
        _allowed(sets, today, braces=braces, returning=returning), any_played=any(item.real for item in sets)
    )


def _allowed(played: tuple[SetPlayed, ...], today: int, *, braces: bool, returning: bool) -> SetsToday:
    if returning:
        return SetsToday(RETURN_SETS, RETURN_NOTES, "one short set while you return after an injury; it does not grow")
    level, done = _grown(played, today)
    if braces:
        return SetsToday(min(level, BRACES_SETS), BRACES_NOTES, "with braces: at most two sets of 12")
    if level == FEWEST and done < FIRST_WEEKS:
        return SetsToday(
            level,
            None,
            tell(
                "two sets: {done} of {first_weeks} weeks with three pedal days are done{one_pitch}",
                done=done,
                first_weeks=FIRST_WEEKS,
                one_pitch=_ONE_PITCH,
            ),
        )
    return SetsToday(
        level, None, tell("{level} sets after {done} weeks with three pedal days", level=level, done=done), further=True
    )


def _grown(played: Iterable[SetPlayed], today: int) -> tuple[int, int]:
    """Sets a day and weeks done, week by week up to the last whole one."""
    days_by_week: dict[int, set[int]] = {}
    for item in played:
        if item.real and item.day <= today:
            days_by_week.setdefault(_week(item.day), set()).add(item.day)
    level, done, empty = FEWEST, 0, 0
    if not days_by_week:
        return level, done
    for week in range(min(days_by_week), _week(today)):
        days = len(days_by_week.get(week, ()))
        if days == 0:
            empty += 1
            level = max(FEWEST, level - 1)
            if empty >= START_AGAIN:
                level, done = FEWEST, 0
            continue
        empty = 0
        if days >= DAYS_OF_A_WEEK:
            done += 1
            if done > FIRST_WEEKS and (done - FIRST_WEEKS) % WEEKS_A_SET == 0:
                level = min(MOST, level + 1)
    return level, done


def _week(day: int) -> int:
    return (day - 1) // 7
