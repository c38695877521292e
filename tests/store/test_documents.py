"""Stored JSON has a type, a version and upcasts: older documents are brought up, later ones are refused."""

from collections.abc import Callable
from typing import Any

import pytest
from sqlalchemy import select, text

from orexis.core.coach import Outcome, ReasonId, Verdict
from orexis.core.planning import ExerciseTypeDay
from orexis.core.tuning import NoteDay
from orexis.errors import InputError, NewerDatabaseError
from orexis.services.application import Application
from orexis.services.archive import bring_in, write_export
from orexis.services.archive.tables import TABLES, ByKind
from orexis.services.documents import DOCUMENTS, Document, Notes, Params, all_from_json, from_json, to_json
from orexis.services.projections.rebuild import rebuild
from orexis.store.models import AnalysisRow
from tests.store.test_record import opened

Declare = Callable[..., None]


@pytest.fixture
def declare(monkeypatch: pytest.MonkeyPatch) -> Declare:
    """Give a document upcasts, as a release that changed its type would."""

    def made(kind: Any, *upcasts: Callable[[Any], Any]) -> None:
        monkeypatch.setitem(DOCUMENTS, kind, Document(DOCUMENTS[kind].name, kind, upcasts))

    return made


def test_every_json_column_of_the_record_is_a_declared_document() -> None:
    kinds = [kind for part in TABLES for kind in part.values.values()]
    flat = [one for kind in kinds for one in (kind.kinds.values() if isinstance(kind, ByKind) else (kind,))]
    assert [kind for kind in flat if kind not in DOCUMENTS] == []
    assert len({document.name for document in DOCUMENTS.values()}) == len(DOCUMENTS) > 20


@pytest.mark.parametrize(
    ("kind", "value"),
    [
        (Verdict, Verdict(Outcome.NOT_YET, ReasonId("pitch-drift"), "n1", value=-12.0)),
        (ExerciseTypeDay, ExerciseTypeDay("siren", 5, takes=2)),
        (Notes, (NoteDay(5, 60, "0", 4, 2),)),
        (Notes, ()),
        (Params, {"keys": "3"}),
        (Params, {}),
    ],
)
def test_a_document_says_its_version_from_the_second_on(declare: Declare, kind: Any, value: Any) -> None:
    declare(kind)
    plain = to_json(value, kind)
    assert "$v" not in plain
    assert from_json(kind, plain) == value
    declare(kind, lambda old: old)
    marked = to_json(value, kind)
    assert marked.startswith('{"$v":2')
    assert from_json(kind, marked) == from_json(kind, plain) == value


def test_upcasts_are_applied_in_order_from_the_version_that_was_written(declare: Declare) -> None:
    declare(Params)
    plain = to_json({"a": "1"}, Params)
    declare(Params, lambda old: old | {"b": old["a"]})
    second = to_json({"a": "5", "b": "6"}, Params)
    declare(Params, lambda old: old | {"b": old["a"]}, lambda old: {**old, "c": old["b"]})
    assert from_json(Params, plain) == {"a": "1", "b": "1", "c": "1"}
    assert from_json(Params, second) == {"a": "5", "b": "6", "c": "6"}


def test_many_at_once_are_brought_up_one_by_one(declare: Declare) -> None:
    declare(ExerciseTypeDay)
    old = to_json(ExerciseTypeDay("sirens", 5, takes=2))
    declare(ExerciseTypeDay, lambda day: day | {"exercise_type": "siren"})
    new = to_json(ExerciseTypeDay("siren", 6, takes=1))
    assert [day.day for day in all_from_json(ExerciseTypeDay, [old, new])] == [5, 6]
    assert {day.exercise_type for day in all_from_json(ExerciseTypeDay, [old, new])} == {"siren"}


def test_a_document_of_a_later_release_is_refused_in_a_sentence() -> None:
    with pytest.raises(NewerDatabaseError, match="verdict was written by a later release"):
        from_json(Verdict, '{"$v":3,"outcome":"clean"}')
    with pytest.raises(ValueError, match="outcome"):
        from_json(Verdict, '{"outcome":"splendid"}')
    with pytest.raises(KeyError):
        to_json({"undeclared": 1})


def test_a_reason_renamed_leaves_every_verdict_readable(declare: Declare, house: Application, tmp_path: Any) -> None:
    """As if an earlier release had called it by another name: its verdicts, and the evidence made from them."""
    session = opened(house, "long-low-tones")
    made = house.simulated.take(session, "sagging", seed=3)
    assert made.verdict.reason == "pitch-drift"
    with house.record.database.writing() as db:
        db.execute(text("""UPDATE analysis SET verdict = replace(verdict, '"pitch-drift"', '"drift"')"""))
    with pytest.raises(ValueError, match="reason"):
        house.takes.get(made.id)
    write_export(house.record, tmp_path / "old.zip")
    other = Application(tmp_path / "other")
    with pytest.raises(InputError, match="verdict cannot be used"):
        bring_in(other.record, tmp_path / "old.zip")

    def renamed(old: dict[str, Any]) -> dict[str, Any]:
        findings = [
            item | {"reason": {"drift": "pitch-drift"}.get(item["reason"], item["reason"])} for item in old["findings"]
        ]
        return old | {"reason": {"drift": "pitch-drift"}.get(old["reason"], old["reason"]), "findings": findings}

    declare(Verdict, lambda old: old, renamed)
    assert house.takes.get(made.id).verdict == made.verdict
    with house.record.database.writing() as db:
        rebuild(db)
        stored = db.scalar(select(AnalysisRow.verdict))
    assert "drift" in (stored or "")  # what was said stays as it was said
    assert bring_in(other.record, tmp_path / "old.zip").added["takes"] == 1
    assert other.takes.get(made.id).verdict == made.verdict
    other.close()
