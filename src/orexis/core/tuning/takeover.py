"""The instrument's part of the fit as corrections: from then on exercises, charts and judgements count with this instrument, not with theory."""

from orexis.core.instruments import MOST_PARTIALS, Instrument, Learned, all_tubes
from orexis.core.tuning.fit import Fit
from orexis.core.tuning.notes import side_of

_WORTH_CENTS, _GRAIN = 1.0, 0.5


def learned_from(instrument: Instrument, fit: Fit) -> tuple[Learned, ...]:
    """By tube and partial, less what the player has entered by hand for the partial; ways never played get their parts' share."""
    played = {(note.tube, note.partial): note.departs.value for note in fit.notes}
    found = []
    for tube in all_tubes(instrument):
        for partial in range(1, min(MOST_PARTIALS, instrument.top_partial) + 1):
            by_parts = fit.partials.get((side_of(tube.label), partial), 0.0) + (
                fit.tubes[tube.label].value if tube.label in fit.tubes else 0.0
            )
            own = sum(item.cents for item in instrument.setup.corrections if item.partial == partial)
            cents = _GRAIN * round((played.get((tube.label, partial), by_parts) - own) / _GRAIN)
            if abs(cents) >= _WORTH_CENTS:
                found.append(Learned(tube.label, partial, cents))
    return tuple(found)
