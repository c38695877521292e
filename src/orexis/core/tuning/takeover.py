"""The instrument's part of the fit as corrections: from then on exercises, charts and judgements count with this instrument, not with theory."""

from orexis.core.instruments import MOST_PARTIALS, Instrument, Learned, all_fingerings
from orexis.core.tuning.fit import Fit
from orexis.core.tuning.notes import side_of

_WORTH_CENTS, _GRAIN = 1.0, 0.5


def learned_from(instrument: Instrument, fit: Fit) -> tuple[Learned, ...]:
    """By fingering and partial, less what the player has entered by hand for the partial; ways never played get their parts' share."""
    played = {(note.fingering, note.partial): note.departs.value for note in fit.notes}
    learned = []
    for fingering in all_fingerings(instrument):
        for partial in range(1, min(MOST_PARTIALS, instrument.top_partial) + 1):
            by_parts = fit.partials.get((side_of(fingering.label), partial), 0.0) + (
                fit.fingerings[fingering.label].value if fingering.label in fit.fingerings else 0.0
            )
            own = sum(item.cents for item in instrument.setup.corrections if item.partial == partial)
            cents = _GRAIN * round((played.get((fingering.label, partial), by_parts) - own) / _GRAIN)
            if abs(cents) >= _WORTH_CENTS:
                learned.append(Learned(fingering.label, partial, cents))
    return tuple(learned)
