"""Another language is a file: words, sentences with values and plurals come in it, ids and what players wrote stay."""

from collections.abc import Iterator
from pathlib import Path

import pytest
from fastapi.testclient import TestClient

from orexis.api.app import create_app
from orexis.api.language import InLanguage, language_for
from orexis.core.messages import ENGLISH, counted, spoken, tell
from scripts.catalogue import OUT, catalogue, written

DANISH = r"""
msgid ""
msgstr "Plural-Forms: nplurals=2; plural=(n != 1);\n"

msgid "Scales"
msgstr "Tonleitern"

msgid "There is no exercise “{exercise_type_id}”: choose one of {exercise_types}."
msgstr "Keine Übung heißt „{exercise_type_id}“."

msgid "{count} semitone higher"
msgid_plural "{count} semitones higher"
msgstr[0] "einen Halbton höher"
msgstr[1] "{count} Halbtöne höher"

msgctxt "value"
msgid "."
msgstr ","

msgid "A4 is {a} Hz"
msgstr "A4 ist {nonsense}"
"""


@pytest.fixture
def folder(tmp_path: Path) -> Path:
    place = tmp_path / "locales"
    place.mkdir()
    (place / "da.po").write_text(DANISH)
    return place


@pytest.fixture
def client(tmp_path: Path, folder: Path) -> Iterator[TestClient]:
    app = create_app(tmp_path / "data")
    app.add_middleware(InLanguage, folder=folder)
    with TestClient(app, base_url="http://127.0.0.1") as made:
        yield made


def test_words_and_errors_come_in_the_language_of_the_browser(client: TestClient) -> None:
    person = client.post(
        "/api/players", json={"name": "Scales", "standard": "advanced", "instrument": "tuba-eb"}
    ).json()
    path = f"/api/players/{person['id']}/material"
    danish = {"accept-language": "da-DK,da;q=0.9,en;q=0.5"}

    def named(headers: dict[str, str]) -> dict[str, str]:
        return {kind["id"]: kind["name"] for kind in client.get(path, headers=headers).json()["exercise_types"]}

    assert (named({})["one-octave-scale"], named(danish)["one-octave-scale"]) == ("Scales", "Tonleitern")
    assert set(named(danish)) == set(named({}))  # ids are ids
    wrong = {"player_id": person["id"], "exercise_type": "polka"}
    said = client.post("/api/sessions", json=wrong, headers=danish)
    assert said.json()["message"] == "Keine Übung heißt „polka“."
    assert client.post("/api/sessions", json=wrong).json()["message"].startswith("There is no exercise “polka”")


def test_plurals_follow_the_language_and_a_bad_translation_gives_way_to_english(folder: Path) -> None:
    assert counted(3, "{count} semitone higher", "{count} semitones higher") == "3 semitones higher"
    with spoken(language_for("da", folder)):
        assert counted(1, "{count} semitone higher", "{count} semitones higher") == "einen Halbton höher"
        assert counted(3, "{count} semitone higher", "{count} semitones higher") == "3 Halbtöne höher"
        assert tell("A4 is {a} Hz", a=440) == "A4 is 440 Hz"
        assert tell("{seconds:.1f} s", seconds=2.5) == "2,5 s"
    assert tell("{seconds:.1f} s", seconds=2.5) == "2.5 s"
    assert tell("A4 is {a} Hz", a=440) == "A4 is 440 Hz"


@pytest.mark.parametrize("accepted", ["", "en-GB,da", "xx", "../../etc", "fr;q=1", "dan", "da" * 5000])
def test_english_where_there_is_no_catalogue(folder: Path, accepted: str) -> None:
    assert language_for(accepted, folder) is ENGLISH


def test_the_first_language_that_there_is_a_catalogue_for(folder: Path) -> None:
    assert language_for("fr-CH, da-DK;q=0.8, en;q=0.5", folder).decimal == ","


def test_the_catalogue_is_what_the_code_says() -> None:
    assert OUT.read_bytes() == written(catalogue()), "run: make words"
