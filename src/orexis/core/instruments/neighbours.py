"""What follows from the ways: same-tube sets, trill neighbours, glide partners, false tones, the least change.

Pitches are concert; cents against equal temperament as everywhere in `instrument`.
"""

from dataclasses import dataclass
from functools import lru_cache

from orexis.core.instruments.fingering import (
    Fingering,
    all_fingerings,
    fingering_semitones,
    partial_frequency_hz,
    seven_fingerings,
)
from orexis.core.instruments.instrument import Instrument
from orexis.core.instruments.options import FingeringOption, deviation_cents, fingering_options
from orexis.core.messages import tell
from orexis.core.theory import Pitch, cents_between, flat_spelling, nearest_pitch, pitch_of_midi
from orexis.errors import InstrumentError

_TRILL_CENTS = (150.0, 410.0)  # a tone to a third: what two neighbouring partials are shaken between
_GLIDE_SAFE_CENTS = 20.0  # a partial further out than this is left for another
# What a change of tube costs against a way's rank: each valve that moves, each position passed.
_PER_MOVED_VALVE = 0.6
_PER_PASSED_POSITION = 0.7  # an arm passes a position in about the time of three quarters of a valve


@dataclass(frozen=True, slots=True)
class PartialSlot:
    """A partial of a tube and the note that it is taken for."""

    fingering: Fingering
    partial: int
    pitch: Pitch
    cents: float


@dataclass(frozen=True, slots=True)
class GlideStep:
    """One note of a glide ladder: from `pitch` at `start` into the next semitone on the same partial."""

    pitch: Pitch
    partial: int
    start: Fingering
    end: Fingering


def slot_of(instrument: Instrument, fingering: Fingering, partial: int) -> PartialSlot:
    """The note meant by a partial of a tube: that of the open tube lowered by whole semitones.

    A sharp 1-2-3 does not make it another note.
    """
    open_hz = partial * instrument.side(fingering.side).fundamental.frequency()
    pitch = flat_spelling(nearest_pitch(open_hz).midi - fingering_semitones(instrument, fingering))
    return PartialSlot(fingering, partial, pitch, deviation_cents(instrument, fingering, partial, pitch))


def trill_neighbours(instrument: Instrument, pitch: Pitch) -> tuple[tuple[PartialSlot, PartialSlot], ...]:
    """Pairs of neighbouring partials on one tube, a tone to a third apart, of which the lower is this note."""
    pairs = []
    for option in fingering_options(instrument, pitch):
        if option.partial + 1 > instrument.top_partial:
            continue
        gap = cents_between(option.partial, option.partial + 1)
        if _TRILL_CENTS[0] <= gap <= _TRILL_CENTS[1]:
            low = PartialSlot(option.fingering, option.partial, pitch, option.cents)
            high = slot_of(instrument, option.fingering, option.partial + 1)
            # The eleventh partial lies between two notes: under its other name it is no neighbour.
            if 2 <= high.pitch.midi - pitch.midi <= 4:
                pairs.append((low, high))
    return tuple(pairs)


def glide_step(instrument: Instrument, pitch: Pitch) -> GlideStep | None:
    """The best place from which sliding in gives the next semitone; None where there is none."""
    if not instrument.slides:
        return None
    try:
        options = [option for option in fingering_options(instrument, pitch) if option.glide_up and option.partial > 1]
    except InstrumentError:
        return None
    if not options:
        return None
    best = min(
        options, key=lambda w: (abs(w.cents) > _GLIDE_SAFE_CENTS, len(w.fingering.valves), w.fingering.position or 0)
    )
    return GlideStep(
        pitch, best.partial, best.fingering, Fingering(best.fingering.valves, (best.fingering.position or 2) - 1)
    )


def glide_ladder(instrument: Instrument, start: Pitch, most: int) -> tuple[GlideStep, ...]:
    """Steps a semitone apart from `start`; the ladder ends where no glide leads on."""
    steps: list[GlideStep] = []
    for step in range(most):
        glide = glide_step(instrument, pitch_of_midi(start.midi + step))
        if glide is None:
            break
        steps.append(glide)
    return tuple(steps)


def has_slot(instrument: Instrument, pitch: Pitch) -> bool:
    """Whether any tube has a partial there."""
    try:
        return bool(fingering_options(instrument, pitch))
    except InstrumentError:
        return False


@lru_cache(maxsize=64)
def lowest_pedal(instrument: Instrument) -> Pitch:
    """The lowest note that the first partial of any tube is near to."""
    lowest = min(partial_frequency_hz(instrument, fingering, 1) for fingering in all_fingerings(instrument))
    near = nearest_pitch(lowest).midi
    return next(pitch_of_midi(midi) for midi in (near - 1, near, near + 1) if has_slot(instrument, pitch_of_midi(midi)))


def false_tones(instrument: Instrument) -> tuple[Pitch, ...]:
    """Notes between the lowest pedal and the lowest normal note where no tube has a slot: bent there by the lip."""
    between = range(lowest_pedal(instrument).midi, instrument.lowest.midi)
    return tuple(pitch_of_midi(midi) for midi in between if not has_slot(instrument, pitch_of_midi(midi)))


def pedal_slots(instrument: Instrument) -> tuple[PartialSlot, ...]:
    """The pedals of the seven tubes (the first side's), open first."""
    return tuple(slot_of(instrument, fingering, 1) for fingering in seven_fingerings(instrument))


def checked_range(instrument: Instrument) -> Instrument:
    """The instrument itself; InstrumentError where a note that the player named has no slot to play it on."""
    named = {
        "lowest note": instrument.setup.lowest,
        "highest note": instrument.setup.highest,
        "comfortable low note": instrument.setup.comfortable_low,
        "comfortable high note": instrument.setup.comfortable_high,
    }
    for what, pitch in named.items():
        if pitch is not None and not has_slot(instrument, pitch):
            raise InstrumentError(
                tell(
                    "Your {what} is {pitch} (concert), and no fingering of the {instrument} has a partial there: choose a note from {lowest_pedal} up that has one.",
                    what=what,
                    pitch=pitch.name,
                    instrument=instrument.name,
                    lowest_pedal=lowest_pedal(instrument).name,
                )
            )
    return instrument


def option_after(
    instrument: Instrument, pitch: Pitch, previous: Fingering | None, *, a4: float = 440.0
) -> FingeringOption:
    """The way to take after `previous`: rank weighed against how much has to move."""
    options = fingering_options(instrument, pitch, a4=a4)
    if previous is None:
        return options[0]
    return min(options, key=lambda option: (option.rank + _change(previous, option.fingering), option.rank))


def _change(before: Fingering, after: Fingering) -> float:
    moved = len(set(before.valves) ^ set(after.valves)) + (before.side != after.side)
    passed = abs((before.position or 1) - (after.position or 1))
    return _PER_MOVED_VALVE * moved + _PER_PASSED_POSITION * passed
