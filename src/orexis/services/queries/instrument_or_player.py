"""Instrument or me: the fit over the last days of an instrument, in the player's notes; its part taken over into the instrument, and given back."""

from dataclasses import dataclass, replace

from orexis.core.instruments import instrument_named
from orexis.core.theory import pitch_of_midi
from orexis.core.tuning import Estimate, Fit, NoteFit, advised, fit_of, learned_from, missing_for
from orexis.core.tuning.words import advice_in_words, days_in_words, habits_in_words
from orexis.errors import InputError
from orexis.services.players.use import Players
from orexis.services.queries.notes_by_day import notes_of
from orexis.services.record import Record
from orexis.services.values.players import Player

DAYS = 36  # of practice that are looked at


@dataclass(frozen=True, slots=True)
class NoteOnInstrument:
    """A note by one way. `instrument`: what the instrument does there by itself; `departs`: of that, what theory does not know."""

    written: str
    fingering: str
    partial: int
    notes: int
    days: int
    instrument: float
    departs: Estimate
    player: Estimate
    left: Estimate


@dataclass(frozen=True, slots=True)
class InstrumentOrPlayer:
    """The page. `missing` says what it takes where there is too little; then everything else is empty."""

    missing: str | None
    days: int
    count: int
    habits: tuple[str, ...]
    day_says: str
    advice: tuple[str, ...]
    notes: tuple[NoteOnInstrument, ...]
    taken_over: bool


class Tuning:
    """What of the deviations is the instrument's."""

    def __init__(self, record: Record, players: Players) -> None:
        self._record, self._players = record, players

    def read(self, player_id: str) -> InstrumentOrPlayer:
        """Over the last days of practice on the instrument in hand."""
        person = self._players.get(player_id)
        missing, fit = self._fit(person)
        taken = bool(person.setup.learned)
        if fit is None:
            return InstrumentOrPlayer(missing, 0, 0, (), "", (), (), taken)
        instrument, part = instrument_named(person.instrument), person.own_instrument.part(person.part)

        def name_of(midi: int) -> str:
            return part.transposition.written(pitch_of_midi(midi)).name

        return InstrumentOrPlayer(
            None,
            fit.days,
            fit.count,
            habits_in_words(fit),
            days_in_words(fit),
            advice_in_words(instrument, advised(instrument, fit), name_of),
            tuple(_shown(note, name_of(note.midi)) for note in reversed(fit.notes)),
            taken,
        )

    def take_over(self, player_id: str) -> Player:
        """From now on exercises, chart and judgements count with this instrument. InputError where too little is known."""
        person = self._players.get(player_id)
        missing, fit = self._fit(person)
        if fit is None:
            raise InputError(missing or "Nothing is known of this instrument yet.")
        return self._players.change_instrument(
            player_id, replace(person.setup, learned=learned_from(person.own_instrument, fit))
        )

    def give_back(self, player_id: str) -> Player:
        """Theory again, with what the player entered by hand."""
        person = self._players.get(player_id)
        return self._players.change_instrument(player_id, replace(person.setup, learned=()))

    def _fit(self, person: Player) -> tuple[str | None, Fit | None]:
        with self._record.database.reading() as db:
            rows = notes_of(db, person.id, person.instrument, days=DAYS)
        missing = missing_for(rows)
        return missing, None if missing else fit_of(instrument_named(person.instrument), rows)


def _shown(note: NoteFit, written: str) -> NoteOnInstrument:
    return NoteOnInstrument(
        written,
        note.fingering,
        note.partial,
        note.notes,
        note.days,
        round(note.theory + note.departs.value, 1),
        note.departs,
        note.player,
        note.left,
    )
