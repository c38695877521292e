"""The material of practice as a player sees it: families on the horn in hand, figures to look at and to hear, own figures."""

from dataclasses import dataclass
from uuid import uuid4

from sqlalchemy import select

from orexis.core.figures import Figure, Series
from orexis.core.horn import Instrument, Part
from orexis.errors import FigureError, InputError, MissingError
from orexis.files.figure_json import figure_to_json
from orexis.files.midi import figure_to_midi
from orexis.files.musicxml import figure_to_musicxml
from orexis.files.tune_files import placed_figure, read_tune
from orexis.services.clock import now
from orexis.services.codec import to_json
from orexis.services.practice import Practice
from orexis.services.rows import own_figure_of
from orexis.services.values import OwnFigure, Player
from orexis.store.models import OwnFigureRow

_MOST_OWN = 500
_NAME_LENGTH = 80
FORMATS = {
    "json": ("application/json", "json"),
    "musicxml": ("application/vnd.recordare.musicxml+xml", "musicxml"),
    "midi": ("audio/midi", "mid"),
}


@dataclass(frozen=True, slots=True)
class Wish:
    """What to make: a family with parameters, or a figure that the player keeps."""

    family: str
    params: dict[str, str]
    own: str | None = None


def series_wished(practice: Practice, person: Player, wish: Wish) -> Series:
    """The series on the horn in hand."""
    if wish.own is None:
        return person.series(wish.family, wish.params)
    kept = own_figure(practice, person.id, wish.own)
    if kept.figure is not None:
        if kept.figure.horn != person.horn:
            raise FigureError(f"“{kept.name}” was made for another horn: take that horn in hand to play it.")
        return Series(kept.family, person.horn, kept.name, (kept.figure,))
    return person.series(kept.family, kept.params)


def exported(figure: Figure, horn: Instrument, part: Part, form: str) -> tuple[bytes, str, str]:
    """A figure as a file: its bytes, media type and ending."""
    if form not in FORMATS:
        raise FigureError(f"There is no format “{form[:20]}”: choose {', '.join(FORMATS)}.")
    media, ending = FORMATS[form]
    data = {
        "json": lambda: figure_to_json(figure),
        "musicxml": lambda: figure_to_musicxml(figure, horn, part),
        "midi": lambda: figure_to_midi(figure),
    }[form]()
    return data, media, ending


def own_figures(practice: Practice, player_id: str) -> tuple[OwnFigure, ...]:
    """What the player keeps, newest first."""
    query = select(OwnFigureRow).where(OwnFigureRow.player_id == player_id).order_by(OwnFigureRow.made_at.desc())
    with practice.database.transaction() as db:
        return tuple(own_figure_of(row) for row in db.scalars(query))


def own_figure(practice: Practice, player_id: str, own_id: str) -> OwnFigure:
    """One of them."""
    found = next((item for item in own_figures(practice, player_id) if item.id == own_id), None)
    if found is None:
        raise MissingError("There is no such figure: it may have been deleted.")
    return found


def keep(practice: Practice, person: Player, name: str, wish: Wish, figure: Figure | None = None) -> OwnFigure:
    """Keep parameters, or a figure from a file, under a name."""
    cleaned = " ".join(name.split())
    if not 1 <= len(cleaned) <= _NAME_LENGTH:
        raise InputError(f"The name has {len(cleaned)} letters: write 1 to {_NAME_LENGTH}.")
    if len(own_figures(practice, person.id)) >= _MOST_OWN:
        raise InputError(f"{_MOST_OWN} figures are kept already: delete one first.")
    if figure is None:
        person.series(wish.family, wish.params)  # refuse now what could not be played later
    row = OwnFigureRow(
        id=uuid4().hex,
        player_id=person.id,
        name=cleaned,
        horn=person.horn,
        family=wish.family,
        params=dict(wish.params),
        figure=to_json(figure) if figure else None,
        made_at=now(),
    )
    with practice.database.transaction() as db:
        db.add(row)
        return own_figure_of(row)


def forget(practice: Practice, player_id: str, own_id: str) -> None:
    """Delete a kept figure; takes made of it keep their own copy."""
    own_figure(practice, player_id, own_id)
    with practice.database.transaction() as db:
        db.delete(db.get_one(OwnFigureRow, own_id))


def imported(
    practice: Practice, person: Player, data: bytes, *, name: str, octave: int | None = None, semitones: int = 0
) -> OwnFigure:
    """A tune or figure from a file, placed on the horn in hand and kept."""
    figure = placed_figure(read_tune(data), person.instrument, octave=octave, semitones=semitones)
    return keep(practice, person, name or figure.title, Wish(figure.family, {}), figure)
