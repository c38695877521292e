"""Sessions of just playing: begun, ended, and what was read from them."""

import secrets
from collections.abc import Callable
from dataclasses import dataclass
from itertools import chain
from pathlib import Path

from sqlalchemy import func, select

from orexis.core.free_practice import FreeReading, read_freely
from orexis.core.measures import Measures
from orexis.core.messages import counted, tell
from orexis.core.player import play_freely
from orexis.core.practice import Event, EventName, Phase
from orexis.core.sound import Sound
from orexis.core.theory import Chord, Temperament, pitch_of_midi
from orexis.files.soundfiles import sound_blocks
from orexis.services.clock import now
from orexis.services.documents import from_json
from orexis.services.free_practice.listening import FreeListening
from orexis.services.free_practice.recognised import RecognisedExercises
from orexis.services.free_practice.tuner import TunerNote, drone_hz, tuner_notes
from orexis.services.journal import TakeHead
from orexis.services.players.use import Players
from orexis.services.record import Record
from orexis.services.sessions.use import Sessions
from orexis.services.takes.life import Takes
from orexis.services.values.sessions import PracticeSession
from orexis.store.models import AnalysisRow, TakeRow

_MOST_SIMULATED_S = 120.0  # bounds what one request makes


@dataclass(frozen=True, slots=True)
class FreeNames:
    """How the player writes the notes of a reading, by their keyboard number."""

    reading: FreeReading
    written: dict[int, str]


class FreePractice:
    """Sessions without an exercise: opened, recorded in parts, read afterwards."""

    def __init__(self, record: Record, players: Players, sessions: Sessions, takes: Takes) -> None:
        self._record, self._players, self._sessions, self._takes = record, players, sessions, takes
        self.recognised = RecognisedExercises(record, sessions, takes)

    def open(self, player_id: str) -> PracticeSession:
        """A session without an exercise, on the instrument in hand."""
        return self._sessions.open_free(self._players.get(player_id))

    def end(self, session_id: str) -> PracticeSession:
        """The player has stopped; a part that is still being read comes in all the same."""
        session = self._sessions.get(session_id)
        if session.state.phase != Phase.DONE:
            self._takes.happen(session_id, Event(EventName.STOP))
        return self._sessions.get(session_id)

    def from_file(self, player_id: str, path: Path, report: Callable[[str], None]) -> PracticeSession:
        """Read a recording as if it were played now: SoundError for what is none. `report` is told how far it is, and may raise to
        stop; parts that were read by then stay.
        """
        blocks = sound_blocks(path)
        first = next(blocks)
        session = self.open(player_id)
        head = TakeHead("", session.id, first.rate, None, "file", {}, now().isoformat(), clicked=False)
        listening, at, parts = FreeListening(self._takes, head), 0, 0
        try:
            for block in chain((first,), blocks):
                _, over = listening.accept(at, block.samples)
                at += len(block.samples)
                parts += self._keep(over)
                report(
                    tell(
                        "{at:.1f} min read, {parts}",
                        at=at / first.rate / 60.0,
                        parts=counted(parts, "{count} part", "{count} parts"),
                    )
                )
        finally:
            self._keep(listening.finish())
            self.end(session.id)
        return self._sessions.get(session.id)

    def _keep(self, keys: list[str]) -> int:
        return sum(self._takes.keep_part(key) is not None for key in keys)

    def read(self, session_id: str) -> FreeNames:
        """What its parts came to, each by its newest measures; MissingError when there is no such session."""
        session = self._sessions.get(session_id)
        newest = select(AnalysisRow.take_id, func.max(AnalysisRow.version).label("version")).group_by(
            AnalysisRow.take_id
        )
        latest = newest.subquery()
        query = (
            select(TakeRow.id, AnalysisRow.measures)
            .join(AnalysisRow, AnalysisRow.take_id == TakeRow.id)
            .join(latest, (latest.c.take_id == TakeRow.id) & (latest.c.version == AnalysisRow.version))
            .where(TakeRow.session_id == session_id, TakeRow.discarded_at.is_(None))
            .order_by(TakeRow.number)
        )
        with self._record.database.reading() as db:
            parts = [(key, from_json(Measures, text)) for key, text in db.execute(query)]
        terms = session.terms
        reading = read_freely(parts, terms.own_instrument, a4=terms.a4_hz)
        notes = {item.midi for item in reading.tuning} | {
            midi for midi in (reading.low, reading.high) if midi is not None
        }
        return FreeNames(
            reading, {midi: terms.written.transposition.written(pitch_of_midi(midi)).name for midi in sorted(notes)}
        )

    def simulated(self, player_id: str, seconds: float, seed: int | None) -> tuple[Sound, int]:
        """The simulated player just plays for so long, and the seed it was played by."""
        person = self._players.get(player_id)
        drawn = secrets.randbelow(2**31) if seed is None else seed
        length = min(seconds, _MOST_SIMULATED_S)
        return play_freely(person.own_instrument, a4=person.a4_hz, seconds=length, seed=drawn).sound, drawn

    def tuner(self, player_id: str, *, a4: float | None, temperament: Temperament, root: int) -> tuple[TunerNote, ...]:
        """What the tuner shows for the instrument in hand, at the player's A or at another."""
        person = self._players.get(player_id)
        with self._record.database.reading() as db:
            return tuner_notes(db, person, a4=a4 or person.a4_hz, temperament=temperament, root=root)

    def drone(
        self, player_id: str, *, midi: int, chord: Chord, temperament: Temperament, a4: float | None
    ) -> tuple[float, ...]:
        """Return the frequencies of a drone or chord, in Hz, in the temperament that was asked."""
        person = self._players.get(player_id)
        return drone_hz(midi=midi, chord=chord, temperament=temperament, a4=a4 or person.a4_hz)
