"""Plans on the record: days remembered with each take, standings that follow, goals, weeks, own routines."""

from datetime import UTC, date, datetime, timedelta
from functools import partial
from pathlib import Path

import pytest

from orexis.core.coach import Standard
from orexis.core.instruments import instrument_named
from orexis.core.planning import CheckIn, DayKind, GoalKind, GoalTarget, middle_of
from orexis.core.practice import Event
from orexis.core.progress import path_of
from orexis.core.rehearsal import KINDS, Learner, flawless, learner
from orexis.errors import ConflictError, InputError, MissingError
from orexis.services.application import Application
from orexis.services.clock import local_day, now
from orexis.services.planning.days import PlayerOnInstrument, standings
from orexis.services.planning.written import in_written
from orexis.services.projections.levels import exercise_type_days
from orexis.services.projections.rebuild import bring_up_to_date
from orexis.services.values.planning import OwnBlock
from orexis.services.values.players import Player
from orexis.store.models import ProjectionRow

START = datetime(2026, 3, 2, 18, 0, tzinfo=UTC)
SIREN = {"interval": "7", "widest": "7", "beats": "4"}


def somebody(house: Application, instrument: str = "tuba-eb") -> Player:
    return house.players.add(name="Wim Olde", standard="developing", instrument=instrument, part=None)


def plays(
    house: Application, player: Player, exercise_type: str, params: dict[str, str], day: int, *, fails: bool = False
) -> str:
    """All exercises of an exercise type once, clean or with the first note missing."""
    session = house.sessions.open(player.id, exercise_type, params, at=START + timedelta(days=day))
    take = ""
    for number in range(40):
        state = house.sessions.get(session.id).state
        if state.phase == "done":
            break
        made = house.takes.measured(
            session.id, partial(_played, fails=fails), at=START + timedelta(days=day, minutes=number)
        )
        take = made.id
        house.takes.happen(session.id, Event("next"))
    return take


def _played(exercise, fails):  # type: ignore[no-untyped-def]
    from dataclasses import replace

    clean = flawless(exercise)
    if not fails:
        return clean
    return replace(clean, exercise=replace(clean.exercise, siren_jump_cents=900.0, siren_breaks=3))


def where(house: Application, player: Player, day: int) -> int:
    paths = house.planning.paths(player.id, at=START + timedelta(days=day))
    return next(item.step for item in paths if item.exercise_type == "siren")


def test_a_standing_follows_days_and_a_take_thrown_away_is_taken_out_of_it(house: Application) -> None:
    player = somebody(house)
    entry = where(house, player, 0)
    path = path_of("siren", player.own_instrument)
    assert path is not None
    params = dict(path.steps[entry].params)
    plays(house, player, "siren", params, 0)
    last = plays(house, player, "siren", params, 2)
    assert where(house, player, 2) == entry  # the day is not over
    assert where(house, player, 3) == entry + 1
    assert where(house, player, 16) == entry + 1
    assert where(house, player, 3 + 42) == entry  # six weeks away
    # One exercise of the second day thrown away: of two exercises, one is left.
    house.takes.discard(last, discarded=True)
    whose = PlayerOnInstrument(player.id, player.own_instrument, Standard.DEVELOPING)
    with house.record.database.reading() as db:
        days = exercise_type_days(db, whose.owner, since=0)
    assert [day.takes for day in days] == [2, 1]
    house.takes.discard(last, discarded=False)
    assert where(house, player, 3) == entry + 1
    plays(house, player, "siren", params, 4)
    assert where(house, player, 5) == entry + 1  # practised below the step


def test_a_take_of_an_earlier_day_that_comes_late_counts_for_its_day(house: Application) -> None:
    """Recovered after a crash, or played while the clock was put back."""
    player = somebody(house)
    entry = where(house, player, 0)
    params = dict(path_of("siren", player.own_instrument).steps[entry].params)  # type: ignore[union-attr]
    plays(house, player, "siren", params, 0)
    plays(house, player, "siren", params, 4)
    assert where(house, player, 4) == entry
    plays(house, player, "siren", params, 2)
    assert where(house, player, 4) == entry + 1


def test_the_players_own_word_is_kept_over_a_rebuilding(house: Application) -> None:
    player = somebody(house)
    plays(house, player, "siren", SIREN, 0)
    house.planning.set_step(player.id, "siren", 5, at=START + timedelta(days=1))
    assert where(house, player, 1) == 5
    plays(house, player, "siren", dict(path_of("siren", player.own_instrument).steps[5].params), 2)  # type: ignore[union-attr]
    plays(house, player, "siren", dict(path_of("siren", player.own_instrument).steps[5].params), 3)  # type: ignore[union-attr]
    before = house.planning.paths(player.id, at=START + timedelta(days=4))
    assert where(house, player, 4) == 6
    with house.record.database.writing() as db:
        db.query(ProjectionRow).delete()
    bring_up_to_date(house.record)
    assert house.planning.paths(player.id, at=START + timedelta(days=4)) == before
    for exercise_type, step, says in (("siren", 99, "choose 1 to 8"), ("step-ladder", 0, "follows your range")):
        with pytest.raises(InputError, match=says):
            house.planning.set_step(player.id, exercise_type, step)


def practised_weeks(house: Application, player: Player, weeks: int) -> Learner:
    who = learner(KINDS["steady"], player.own_instrument, player.standard, 3, middle=middle_of(player.own_instrument))
    for day in range(7 * weeks):
        if day % 7 in (0, 2, 4):
            session = house.sessions.open_day(player.id, 15, at=START + timedelta(days=day))
            for number in range(60):
                state = house.sessions.get(session.id).state
                if state.phase == "done":
                    break
                if state.phase == "rest":
                    house.takes.happen(session.id, Event("rest-over"))
                    continue
                step = None if state.checking else state.current.step
                moment = START + timedelta(days=day, minutes=number)
                house.takes.measured(session.id, partial(who.plays, step=step), at=moment)
                house.takes.happen(session.id, Event("go-on"))
        who.sleeps(practised=True)
    return who


def test_two_weeks_of_days_lead_to_the_third(house: Application) -> None:
    player = somebody(house)
    practised_weeks(house, player, 2)
    moment = START + timedelta(days=14)
    _, plan = house.planning.day(player, 15, CheckIn(), at=moment)
    assert any(block.step is not None and "level" in block.why for block in plan.blocks)
    assert plan.target is not None
    weeks = house.planning.weeks(player.id, at=moment)
    played = [sum(day.played or 0.0 for day in week.days) for week in weeks.weeks]
    assert played[0] > 0.0
    assert played[1] <= weeks.weeks[1].bound
    assert [week.start for week in weeks.weeks] == sorted(week.start for week in weeks.weeks)
    assert len(weeks.weeks) == 6  # two played, this one, three ahead
    # The record on disk and the planner agree on the same day twice.
    assert house.planning.day(player, 15, CheckIn(), at=moment)[1] == plan


def test_playing_elsewhere_counts_as_load_and_never_as_skill(house: Application) -> None:
    player = somebody(house)
    alone = house.planning.weeks(player.id, at=START + timedelta(days=3))
    entry = {"day": (START + timedelta(days=1)).date().isoformat(), "minutes": 90, "effort": "medium", "weekly": True}
    house.players.change_settings(player.id, {"elsewhere": [entry]})
    beside = house.planning.weeks(player.id, at=START + timedelta(days=3))
    this, then = beside.weeks[0], alone.weeks[0]
    assert this.days[1].played == 90 * 16.0
    assert sum(day.target for day in this.days) < sum(day.target for day in then.days)
    assert sum(day.target for day in beside.weeks[1].days) < beside.weeks[1].bound - 90 * 16.0
    assert not house.range_summary(house.players.get(player.id)).range_notes
    for wrong in ({"minutes": 0}, {"minutes": 9999}, {"day": "tomorrow"}):
        with pytest.raises(InputError):
            house.players.change_settings(player.id, {"elsewhere": [entry | wrong]})


def test_what_was_planned_counts_its_kind_and_two_instruments_share_one_load(house: Application) -> None:
    player = somebody(house)
    session = house.sessions.open_day(player.id, 15, at=START)
    house.takes.measured(session.id, flawless, at=START)
    assert house.sessions.get(session.id).params["kind"] in tuple(DayKind)
    before = house.planning.weeks(player.id, at=START).weeks[-4].days[0].played
    other = house.players.change(
        player.id, name="Wim Olde", standard="developing", instrument="trombone-tenor", part=None, a4_hz=440.0
    )
    plays(house, other, "siren", SIREN, 0)
    now = house.planning.weeks(player.id, at=START).weeks[-4].days[0].played
    assert before is not None
    assert now is not None
    assert now > before


def test_a_goal_from_its_beginning_to_its_end(house: Application) -> None:
    player = somebody(house)
    target = GoalTarget(GoalKind.HOLD, 6.0)
    by = date(2026, 6, 1)
    made = house.goals.add(player.id, target, by, at=START)
    assert (made.state, made.share, made.exercise_type) == ("on", 0.0, "long-low-tones")
    assert (made.median, made.missing_days) == (None, 3)  # nobody knows yet how fast this player gets on
    _, plan = house.planning.day(player, 15, CheckIn(), at=START)
    assert next(block for block in plan.blocks if block.exercise_type == "long-low-tones").must
    steps = path_of("long-low-tones", player.own_instrument)
    assert steps is not None
    for day in (0, 1, 2, 3, 4, 5):
        for step in (1, 2):
            plays(house, player, "long-low-tones", dict(steps.steps[step].params), day)
    [reached] = house.goals.all(player.id, at=START + timedelta(days=7))
    assert (reached.state, reached.ended, reached.share) == ("reached", "2026-03-09", 1.0)
    with pytest.raises(ConflictError, match="reached"):
        house.goals.change(player.id, reached.id, state="paused", by=None)


def test_a_forecast_stands_however_often_it_is_looked_at_and_counts_days_on_which_nobody_looked(
    house: Application,
) -> None:
    looked, unseen = (
        house.players.add(name=name, standard="developing", instrument="tuba-eb") for name in ("Wim", "Ada")
    )
    for player in (looked, unseen):
        house.goals.add(player.id, GoalTarget(GoalKind.HOLD, 16.0), date(2026, 12, 1), at=START)
        for day in range(1, 9):
            plays(house, player, "siren", SIREN, day)
            if player is looked:
                house.goals.all(player.id, at=START + timedelta(days=day))
    at = START + timedelta(days=9)
    first, again, other = (house.goals.all(one.id, at=at)[0] for one in (looked, looked, unseen))
    told = {(one.low, one.median, one.high) for one in (first, again, other)}
    assert len(told) == 1
    assert first.median is not None
    newcomer = house.players.add(name="Bo", standard="developing", instrument="tuba-eb")
    for day in (6, 7, 8):
        plays(house, newcomer, "siren", SIREN, day)
    fresh = house.goals.add(newcomer.id, GoalTarget(GoalKind.HOLD, 16.0), date(2026, 12, 1), at=at)
    assert fresh.median is not None
    assert first.median > fresh.median  # eight days without a gain count


def test_goals_that_cannot_be_are_refused_with_a_sentence(house: Application) -> None:
    player = somebody(house)
    by = date(2026, 6, 1)
    add = partial(house.goals.add, player.id, at=START)
    for target, day, says in (
        (GoalTarget(GoalKind.HOLD, 16.0), date(2026, 3, 2), "after today"),
        (GoalTarget(GoalKind.HOLD, 16.0), date(2036, 3, 2), "three years"),
        (GoalTarget(GoalKind.OWN, 100.0), by, "not on the"),
        (GoalTarget(GoalKind.PEDALS, 3.0), by, "a day of 40 minutes or more"),
    ):
        with pytest.raises(InputError, match=says):
            add(target, day)
    house.players.change_settings(player.id, {"minutes": (40, 30, 30, 30, 30, 30, 0)})
    easy = float(player.own_instrument.easy.midi)
    for target in (GoalTarget(GoalKind.PEDALS, 2.0), GoalTarget(GoalKind.OWN, easy)):
        made = add(target, by)
        assert made.steps_left >= 1  # who never played has reached nothing
        house.goals.change(player.id, made.id, state="given up", by=None)
    climber = house.players.add(name="Piran Vey", standard="developing", instrument="tuba-eb")
    for day in (0, 1, 2):
        plays(house, climber, "step-ladder", {"start": "Eb3", "steps": "1"}, day)
    with pytest.raises(InputError, match="can do that already"):
        house.goals.add(climber.id, GoalTarget(GoalKind.OWN, 51.0), by, at=START + timedelta(days=3))
    beginner = house.players.add(name="Ada Linn", standard="beginner", instrument="tuba-eb", part=None)
    with pytest.raises(InputError, match="Choose another goal"):
        house.goals.add(beginner.id, GoalTarget(GoalKind.SLUR, 4.0), by, at=START)
    first = add(GoalTarget(GoalKind.HOLD, 16.0), by)
    with pytest.raises(ConflictError, match="already"):
        add(GoalTarget(GoalKind.HOLD, 16.0), by)
    house.goals.change(player.id, first.id, state="paused", by=None)
    assert house.planning.known(player, CheckIn(), START).wishes == ()
    house.goals.change(player.id, first.id, state="given up", by=None)
    assert {goal.state for goal in house.goals.all(player.id, at=START)} == {"given up"}
    with pytest.raises(MissingError):
        house.goals.change(player.id, "x" * 32, state="on", by=None)
    stranger = house.players.add(name="Ada Brook", standard="developing", instrument="tuba-eb")
    with pytest.raises(MissingError):
        house.goals.change(stranger.id, first.id, state="on", by=None)


def test_own_routines_are_kept_by_name_and_opened_as_they_are(house: Application) -> None:
    player = somebody(house)
    blocks = (OwnBlock("tune", 4.0, {}), OwnBlock("siren", 6.0, {"tempo": "72"}))
    house.routines.keep(player.id, "  Short   one ", blocks)
    house.routines.keep(player.id, "Short one", blocks[:1])
    [kept] = house.routines.all(player.id)
    assert (kept.name, len(kept.blocks)) == ("Short one", 1)
    with pytest.raises(InputError, match="letters"):
        house.routines.keep(player.id, " ", blocks)
    with pytest.raises(InputError, match="minutes"):
        house.routines.keep(player.id, "Long", (OwnBlock("tune", 121.0, {}),))
    house.routines.drop(player.id, kept.id)
    assert house.routines.all(player.id) == ()


def test_days_and_dates_that_cannot_be_are_refused(house: Application) -> None:
    player = somebody(house)
    for change, says in (
        ({"minutes": [30] * 6}, "seven"),
        ({"minutes": [130] + [0] * 6}, "0 to 120"),
        ({"performances": ["tomorrow"]}, "no date"),
        ({"moved": {"2026-03-04": 500}}, "0 to 120"),
    ):
        with pytest.raises(InputError, match=says):
            house.players.change_settings(player.id, change)
    house.players.change_settings(player.id, {"performances": ["2026-03-05"], "moved": {"2026-03-03": 0}})
    days = house.planning.weeks(player.id, at=START).weeks[0].days
    assert [day.kind for day in days[:4]] == ["heavy", "off", "light", "light"]


def test_notes_stand_as_the_part_writes_them() -> None:
    instrument = instrument_named("trumpet-bb")
    assert in_written("own A4 (concert), alone", instrument.parts[0]) == "own B4, alone"
    assert in_written("up to Eb4; 12 takes, 4 of 7", instrument.parts[0]) == "up to F4; 12 takes, 4 of 7"


def test_an_older_record_is_brought_up_to_date(tmp_path: Path) -> None:
    """Takes from before days remembered their exercise types count for their day, and for no step."""
    house = Application(tmp_path / "data")
    player = somebody(house)
    plays(house, player, "siren", SIREN, 0)
    with house.record.database.writing() as db:
        from sqlalchemy import text

        db.execute(text("update take set fact = null"))
        db.query(ProjectionRow).delete()
    house.close()
    again = Application(tmp_path / "data")
    whose = PlayerOnInstrument(player.id, player.own_instrument, Standard.DEVELOPING)
    with again.record.database.reading() as db:
        [day] = exercise_type_days(db, whose.owner, since=0)
        found = standings(db, whose, [day], before=day.day + 1)
    assert (day.takes, day.step) == (1, None)
    assert found["siren"].last_day == day.day
    again.close()


def test_the_day_after_a_climb_to_the_limit_is_light_or_off(house: Application) -> None:
    player = somebody(house, "trumpet-bb")
    gate, limit = {"start": "F4", "steps": "2"}, {"start": "F4", "climb": "to today's limit"}

    def why_tomorrow(day: int) -> str:
        found = house.planning.weeks(player.id, at=START + timedelta(days=day + 1))
        return next(d.why for week in found.weeks for d in week.days if d.day == found.today)

    plays(house, player, "triad-with-reset", gate, 0)
    assert "limit" not in why_tomorrow(0)
    plays(house, player, "triad-with-reset", limit, 1)
    assert why_tomorrow(1) == "yesterday was heavy work"


def test_dates_long_past_make_room_for_new_ones(house: Application) -> None:
    player = somebody(house)
    today = local_day(now())
    past = {date.fromordinal(today - 300 + i).isoformat(): 20 for i in range(200)}
    house.players.change_settings(player.id, {"moved": past})
    holiday = {date.fromordinal(today + i).isoformat(): 0 for i in range(20)}
    assert house.players.change_settings(player.id, {"moved": past | holiday}).settings.moved == holiday
    many = {date.fromordinal(today + i).isoformat(): 0 for i in range(201)}
    with pytest.raises(InputError, match="At most 200 dates"):
        house.players.change_settings(player.id, {"moved": many})
