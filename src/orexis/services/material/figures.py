"""The material of practice as a player sees it: families on the horn in hand, figures to look at and to hear, own figures."""

from dataclasses import dataclass, replace
from datetime import datetime
from textwrap import shorten
from uuid import uuid4

from sqlalchemy import func, select
from sqlalchemy.orm import Session

from orexis.core.figures import (
    AS_WRITTEN,
    MAX_TEXT,
    OCTAVES,
    TUNE,
    Figure,
    Meter,
    Param,
    Series,
    TunePart,
    melody_of_line,
    score_params,
    score_says,
    score_series,
)
from orexis.core.horn import Instrument, Part
from orexis.errors import FigureError, InputError
from orexis.files.engraving import figure_to_svg
from orexis.files.figure_json import figure_to_json
from orexis.files.midi import figure_to_midi
from orexis.files.musicxml import figure_to_musicxml
from orexis.files.tune_files import read_tune
from orexis.services.clock import now, utc
from orexis.services.documents import Params, from_json, to_json
from orexis.services.material.figure_sound import figure_wav
from orexis.services.players.values import Player
from orexis.services.record import Record, require_owned
from orexis.services.work import Workers
from orexis.store.models import OwnFigureRow

_MOST_OWN = 500
_NAME_LENGTH = 80
_TITLE = 40
_AS_WRITTEN = {"octave": AS_WRITTEN}
_ENGRAVING_S, _SOUND_S, _READING_S = 20.0, 60.0, 20.0
FORMATS = {
    "json": ("application/json", "json"),
    "musicxml": ("application/vnd.recordare.musicxml+xml", "musicxml"),
    "midi": ("audio/midi", "mid"),
}


@dataclass(frozen=True, slots=True)
class ExerciseRequest:
    """What to make: a family with parameters, or a figure that the player keeps."""

    family: str
    params: dict[str, str]
    own: str | None = None


@dataclass(frozen=True, slots=True)
class OwnFigure:
    """A figure that the player keeps: a family with parameters, or a figure that came from a file."""

    id: str
    name: str
    horn: str
    family: str
    params: dict[str, str]
    figure: Figure | None
    made_at: datetime
    words: str = ""  # how it is to be played
    choices: tuple[Param, ...] = ()  # of a tune from a file: part, octave, height, phrases


@dataclass(frozen=True, slots=True)
class WrittenLine:
    """Notes as the player writes them: see core/figures/own_line.py."""

    text: str
    tempo_bpm: float = 72.0
    beats_per_bar: int = 4


def _tune_of(person: Player, line: WrittenLine, title: str) -> tuple[TunePart, ...]:
    part, meter = person.instrument.part(person.part), Meter(line.beats_per_bar)
    read = melody_of_line(line.text, part.transposition, title=title, tempo_bpm=line.tempo_bpm, meter=meter)
    return (TunePart(title, read),)


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


class Material:
    """Figures as a player wishes for them, and those of their own."""

    def __init__(self, record: Record, workers: Workers) -> None:
        self._record, self._workers = record, workers

    def series(self, person: Player, wish: ExerciseRequest) -> Series:
        """The series wished for, on the horn in hand."""
        if wish.own is None:
            return person.series(wish.family, wish.params)
        kept = self.own_figure(person, wish.own)
        parts = self.tune(person, wish.own)
        if parts:
            given = kept.params | wish.params
            made = self._workers.run(score_series, person.instrument, parts, given, seconds=_READING_S)
            return _with_words(replace(made, title=kept.name), kept.words)
        if kept.figure is not None:
            if kept.figure.horn != person.horn:
                raise FigureError(f"“{kept.name}” was made for another instrument: choose that instrument to play it.")
            return _with_words(Series(kept.family, person.horn, kept.name, (kept.figure,)), kept.words)
        return _with_words(person.series(kept.family, kept.params), kept.words)

    def says(self, person: Player, wish: ExerciseRequest) -> tuple[str, ...]:
        """What became of a tune on the way from its file to this exercise; nothing of any other."""
        if wish.own is None:
            return ()
        kept, parts = self.own_figure(person, wish.own), self.tune(person, wish.own)
        return score_says(person.instrument, parts, kept.params | wish.params) if parts else ()

    def svg(self, figure: Figure, horn: Instrument, part: Part) -> str:
        """Return an exercise engraved as SVG."""
        if figure.from_file:
            return self._workers.run(figure_to_svg, figure, horn, part, seconds=_ENGRAVING_S)
        return figure_to_svg(figure, horn, part)

    def wav(self, figure: Figure, a4: float, *, click: bool) -> bytes:
        """The figure to listen to."""
        return self._workers.run(figure_wav, figure, a4, click=click, seconds=_SOUND_S)

    def own_figures(self, person: Player) -> tuple[OwnFigure, ...]:
        """What the player keeps, newest first."""
        query = select(OwnFigureRow).where(OwnFigureRow.player_id == person.id).order_by(OwnFigureRow.made_at.desc())
        with self._record.database.reading() as db:
            return tuple(_own_figure_of(row, person.instrument) for row in db.scalars(query))

    def own_figure(self, person: Player, own_id: str) -> OwnFigure:
        """Return a kept exercise of the player; MissingError where there is none by that id."""
        with self._record.database.reading() as db:
            return _own_figure_of(_row(db, person, own_id), person.instrument)

    def tune(self, person: Player, own_id: str) -> tuple[TunePart, ...]:
        """The parts of a kept tune from a file; none of any other figure."""
        with self._record.database.reading() as db:
            text = _row(db, person, own_id).tune
        return from_json(tuple[TunePart, ...], text) if text else ()

    def keep(
        self,
        person: Player,
        name: str,
        wish: ExerciseRequest,
        figure: Figure | None = None,
        *,
        words: str = "",
        tune: tuple[TunePart, ...] = (),
    ) -> OwnFigure:
        """Keep parameters, a figure or a tune from a file, under a name; `words`: how it is to be played."""
        cleaned = " ".join(name.split())
        if not 1 <= len(cleaned) <= _NAME_LENGTH:
            raise InputError(f"The name has {len(cleaned)} letters: write 1 to {_NAME_LENGTH}.")
        if wish.own is not None:
            tune = self.tune(person, wish.own)
            wish = ExerciseRequest(TUNE.id, wish.params) if tune else wish
        # Refuse now what could not be played later.
        if tune:
            self._workers.run(score_series, person.instrument, tune, wish.params, seconds=_READING_S)
        elif figure is None:
            person.series(wish.family, wish.params)
        row = OwnFigureRow(
            id=uuid4().hex,
            player_id=person.id,
            name=cleaned,
            horn=person.horn,
            family=wish.family,
            params=to_json(dict(wish.params), Params),
            figure=to_json(figure) if figure else None,
            made_at=now(),
            words=words,
            tune=to_json(tune, tuple[TunePart, ...]) if tune else None,
        )
        with self._record.database.writing() as db:
            mine = select(func.count()).select_from(OwnFigureRow).where(OwnFigureRow.player_id == person.id)
            if (db.scalar(mine) or 0) >= _MOST_OWN:
                raise InputError(f"{_MOST_OWN} exercises are saved already. Delete one first.")
            db.add(row)
            db.flush()
            return _own_figure_of(row, person.instrument)

    def written(self, person: Player, line: WrittenLine) -> Series:
        """An exercise from a line of text, as it is written in the part; FigureError says what cannot be read."""
        tune = _tune_of(person, line, "Your own")
        return self._workers.run(score_series, person.instrument, tune, _AS_WRITTEN, seconds=_READING_S)

    def keep_written(self, person: Player, name: str, line: WrittenLine) -> OwnFigure:
        """The same, kept under a name."""
        title = shorten(name, _TITLE, placeholder=" …") or "Your own"
        return self.keep(person, name, ExerciseRequest(TUNE.id, dict(_AS_WRITTEN)), tune=_tune_of(person, line, title))

    def forget(self, person: Player, own_id: str) -> None:
        """Delete a kept figure; takes made of it keep their own copy."""
        with self._record.database.writing() as db:
            db.delete(_row(db, person, own_id))

    def imported(self, person: Player, data: bytes, *, name: str, semitones: int = 0) -> OwnFigure:
        """A tune by its parts, or a figure, from a file, and kept; the first part's choices are what was asked for."""
        read = self._workers.run(read_on, data, person.instrument, seconds=_READING_S)
        if isinstance(read, Figure):
            return self.keep(person, name or read.title, ExerciseRequest(read.family, {}), read)
        chosen = {"semitones": str(semitones)} if semitones else {}
        title = read[0].melody.title
        return self.keep(person, name or title, ExerciseRequest(TUNE.id, chosen), tune=read)


def read_on(data: bytes, horn: Instrument) -> tuple[TunePart, ...] | Figure:
    """What a file holds; engraved once on the horn, so that what cannot be engraved or does not fit is refused now."""
    read = read_tune(data)
    if isinstance(read, Figure):
        if read.horn != horn.id:
            raise FigureError(
                f"The exercise was made for another instrument ({read.horn}): choose that instrument to use it."
            )
        read = replace(read, from_file=True)
        figure_to_svg(read, horn, horn.parts[0])
        return read
    figure_to_svg(score_series(horn, read, {}).figures[0], horn, horn.parts[0])
    return read


def figure_from_file(data: bytes, horn: Instrument, *, octave: int, semitones: int, part: str | None) -> Figure:
    """A file's tune or figure as one figure; FigureError for a part or an octave that there is not."""
    read = read_on(data, horn)
    if isinstance(read, Figure):
        return read
    if octave not in OCTAVES:
        raise FigureError(f"{octave} octaves: choose {', '.join(map(str, OCTAVES))}.")
    given = {"octave": OCTAVES[octave], "semitones": str(semitones)}
    given |= {"part": part} if part is not None else {}
    return score_series(horn, read, given).figures[-1]


def _with_words(series: Series, words: str) -> Series:
    """Words of a teacher stand beside the figure at the stand, in place of its own hint."""
    if not words:
        return series
    hint = shorten(words, MAX_TEXT, placeholder=" …")
    return replace(series, figures=tuple(replace(figure, hint=hint) for figure in series.figures))


def _row(db: Session, person: Player, own_id: str) -> OwnFigureRow:
    return require_owned(db, OwnFigureRow, own_id, person.id, "figure")


def _own_figure_of(row: OwnFigureRow, horn: Instrument) -> OwnFigure:
    figure = from_json(Figure, row.figure) if row.figure else None
    params = {key: str(value) for key, value in from_json(Params, row.params).items()}
    choices = score_params(horn, from_json(tuple[TunePart, ...], row.tune)) if row.tune else ()
    return OwnFigure(row.id, row.name, row.horn, row.family, params, figure, utc(row.made_at), row.words, choices)
