"""One word for one thing: nothing that a player reads says a word that is retired."""

from scripts.visible_words import all_said, retired


def test_no_retired_word_is_said() -> None:
    assert retired() == []


def test_everything_that_is_said_is_looked_at() -> None:
    said = [words for _, _, words in all_said()]
    assert len(said) > 1500
    for known in ("Usual mistake", "Repeat it.", "Import a file", "Print a tune from MusicXML"):
        assert any(known in words for words in said), known
