"""What a tuner shows for an instrument: each note with its place, its usual fingering, and where it tends to lie."""

from dataclasses import dataclass

from sqlalchemy.orm import Session

from orexis.core.instruments import fingering_options
from orexis.core.messages import tell
from orexis.core.theory import Chord, Pitch, Temperament, chord_hz, pitch_of_midi, ratio_of, tempered_cents
from orexis.core.tuning import usual_cents
from orexis.errors import InputError, InstrumentError
from orexis.services.material.chart import chart
from orexis.services.queries.notes_by_day import notes_of
from orexis.services.values.players import Player, checked_a4

_AS_BUILT_HZ = 440.0  # to another A the whole instrument is tuned by its slide, and each note's lean stays
_DAYS = 36  # five weeks, as long as an instrument stays as it is set


@dataclass(frozen=True, slots=True)
class TunerNote:
    """A note. `tendency`: cents by which the instrument lies off there by itself, `own`: where this player usually has it."""

    midi: int
    written: str
    sounding: str
    hz: float
    fingering: str
    tendency: float
    own: float | None


def tuner_notes(
    db: Session, person: Player, *, a4: float, temperament: Temperament, root: int
) -> tuple[TunerNote, ...]:
    """Every note of the instrument in hand. `root`: the sounding pitch class (0 is C) that the temperament starts from."""
    checked_a4(a4)
    own = usual_cents(notes_of(db, person.id, person.instrument, days=_DAYS))
    out = []
    for row in chart(person.own_instrument, person.own_instrument.part(person.part), a4=_AS_BUILT_HZ):
        pitch = pitch_of_midi(row.midi)
        fingering, tendency = _usual(person, pitch)
        hz = pitch.frequency(a4=a4) * ratio_of(tempered_cents(temperament, row.midi - root))
        note = TunerNote(
            row.midi, row.written, row.sounding, round(hz, 4), fingering, round(tendency, 1), own.get(row.midi)
        )
        out.append(note)
    return tuple(out)


def drone_hz(*, midi: int, chord: Chord, temperament: Temperament, a4: float) -> tuple[float, ...]:
    """The frequencies of a drone over a sounding root."""
    checked_a4(a4)
    if not 12 <= midi <= 96:
        raise InputError(tell("A drone on key {midi} can’t be heard well: choose 12 to 96.", midi=midi))
    return chord_hz(pitch_of_midi(midi), chord, temperament, a4=a4)


def _usual(person: Player, pitch: Pitch) -> tuple[str, float]:
    try:
        option = fingering_options(person.own_instrument, pitch, a4=_AS_BUILT_HZ)[0]
    except InstrumentError:
        return "", 0.0
    return option.fingering.label, option.cents
