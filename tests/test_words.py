"""One word for one thing: nothing that a player reads says a word that is retired."""

from scripts.visible_words import all_said, retired


def test_no_retired_word_is_said_and_everything_is_looked_at() -> None:
    said = list(all_said())
    assert retired(said) == []
    assert len(said) > 1500
    for known in ("Usual mistake", "Repeat it.", "Import a file", "Print a tune from MusicXML"):
        assert any(known in words for _, _, words in said), known
