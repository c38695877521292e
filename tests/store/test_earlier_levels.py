"""Numbers of levels that an earlier release stored become those of today, once; all else stays as it is."""

import json

from sqlalchemy import create_engine, text

from orexis.core.instruments import instrument_named
from orexis.core.progress import path_of, renumbered_level
from orexis.store.earlier_levels import renumber_levels, with_levels_of_today

FACT = '{"$v":2,"exercise_type":"lip-trill","day":739945,"exercise":"n","outcome":"clean","step":46}'
OTHER = '{"$v":2,"exercise_type":"breath","day":739945,"exercise":"n","outcome":"done","step":3}'
NONE = '{"$v":2,"exercise_type":"lip-trill","day":739945,"exercise":"n","outcome":"clean","step":null}'


def test_takes_and_levels_set_by_hand_are_brought_up() -> None:
    engine = create_engine("sqlite://")
    with engine.begin() as db:
        db.execute(text("CREATE TABLE take (id, instrument, exercise_type, fact)"))
        db.execute(text("CREATE TABLE path_place (player_id, instrument, exercise_type, by_hand)"))
        for key, exercise_type, fact in (("a", "lip-trill", FACT), ("b", "breath", OTHER), ("c", "lip-trill", NONE), ("d", "tune", None)):  # fmt: skip
            row = {"id": key, "exercise_type": exercise_type, "fact": fact}
            db.execute(text("INSERT INTO take VALUES (:id, 'trumpet-bb', :exercise_type, :fact)"), row)
        for instrument, by_hand in (("trumpet-bb", "[[739940,92],[739950,0]]"), ("horn-f-bb", "[]")):
            row = {"instrument": instrument, "by_hand": by_hand}
            db.execute(text("INSERT INTO path_place VALUES ('p', :instrument, 'lip-trill', :by_hand)"), row)
        renumber_levels(db)
        facts = {row.id: row.fact for row in db.execute(text("SELECT id, fact FROM take"))}
        places = {row.instrument: row.by_hand for row in db.execute(text("SELECT instrument, by_hand FROM path_place"))}
    path = path_of("lip-trill", instrument_named("trumpet-bb"))
    assert path is not None
    assert json.loads(facts["a"]) == json.loads(FACT) | {"step": 12}
    assert (facts["b"], facts["c"], facts["d"]) == (OTHER, NONE, None)
    assert json.loads(places["trumpet-bb"]) == [[739940, len(path.steps) - 1], [739950, 0]]
    assert places["horn-f-bb"] == "[]"


def test_an_exported_row_of_an_instrument_that_there_is_not_stays() -> None:
    row = {"instrument": "serpent", "exercise_type": "lip-trill", "fact": FACT}
    assert with_levels_of_today(row) == row
    trumpet = with_levels_of_today(row | {"instrument": "trumpet-bb"})
    assert json.loads(trumpet["fact"])["step"] == renumbered_level("lip-trill", instrument_named("trumpet-bb"), 46)
