"""How notes are called: letters, letters with H and B, syllables. Octaves are numbered alike."""

import re
from enum import StrEnum

_NOTE = re.compile(r"\b([A-G])(##|#|bb|b|♯|𝄪|♭|𝄫)?(-?\d)\b")
_SIGNS = {"#": "♯", "##": "𝄪", "b": "♭", "bb": "𝄫"}
_SYLLABLES = {"C": "Do", "D": "Re", "E": "Mi", "F": "Fa", "G": "Sol", "A": "La", "B": "Si"}


class NoteNames(StrEnum):
    """How notes are named: by letters, with H and B, by solfege."""

    LETTERS = "letters"
    H_AND_B = "h-and-b"
    SYLLABLES = "syllables"


def called(text: str, names: NoteNames) -> str:
    """A text with every note in it (Bb3, F♯4) as players write it: B♭3; B3 and Fis4; Si♭3 and Fa♯4."""
    return _NOTE.sub(lambda found: _name(found[1], _SIGNS.get(found[2] or "", found[2] or ""), names) + found[3], text)


def _name(step: str, sign: str, names: NoteNames) -> str:
    if names == NoteNames.SYLLABLES:
        return _SYLLABLES[step] + sign
    if names == NoteNames.LETTERS:
        return step + sign
    if (step, sign) == ("B", "♭"):
        return "B"
    letter = "H" if step == "B" else step
    flat = "s" if letter in "EA" else "es"  # Es and As, but Des
    return letter + {"": "", "♯": "is", "𝄪": "isis", "♭": flat, "𝄫": f"{flat}es"}[sign]
