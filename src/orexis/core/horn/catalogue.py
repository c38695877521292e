"""The horns that Orexis knows, as data.

Fundamentals, transpositions and clefs are the common build of each instrument. Slide travels are those of ordinary
student and professional models, measured in the hand to the nearest 5 mm; a player's own are settings.
"""

from orexis.core.horn.instrument import HandSlide, Instrument, MovingSlide, Part, Side, Valves
from orexis.core.theory import Transposition, parse_pitch
from orexis.errors import HornError

_P = parse_pitch


def _part(part_id: str, clef: str, semitones: int) -> Part:
    return Part(part_id, clef, Transposition(semitones))


_HORNS = (
    Instrument(
        id="trumpet-bb",
        name="Trumpet in B flat",
        sides=(Side(None, _P("Bb2")),),
        mechanism=Valves(3, moving=(MovingSlide("first", 1, 20.0), MovingSlide("third", 3, 40.0))),
        parts=(_part("treble", "treble", 2),),
        lowest=_P("E3"),
        highest=_P("F6"),
        easy=_P("Bb3"),
        top_partial=12,
        slur_partial=2,
        source="open tube 1.48 m; first slide has a saddle or trigger, third a ring",
    ),
    Instrument(
        id="horn-f-bb",
        name="Double horn in F and B flat",
        sides=(Side("F", _P("F1")), Side("Bb", _P("Bb1"))),
        mechanism=Valves(3),
        parts=(_part("treble", "treble", 7), _part("bass-new", "bass", 7), _part("bass-old", "bass", -5)),
        lowest=_P("B1"),
        highest=_P("F5"),
        easy=_P("F3"),
        top_partial=16,
        slur_partial=4,
        second_side_from=_P("C#4"),
        flat_weight=2.0,
        source="F side 3.95 m, B flat side 2.96 m; slides are set before playing, the hand in the bell does the rest",
    ),
    Instrument(
        id="trombone-tenor",
        name="Tenor trombone",
        sides=(Side(None, _P("Bb1")),),
        mechanism=HandSlide(positions=7, travel_m=0.67),
        parts=(_part("bass", "bass", 0), _part("tenor", "tenor", 0), _part("treble", "treble", 14)),
        lowest=_P("E2"),
        highest=_P("F5"),
        easy=_P("Bb2"),
        top_partial=12,
        slur_partial=2,
        source="open tube 2.96 m; seven positions within 61 cm",
    ),
    Instrument(
        id="tuba-eb",
        name="Tuba in E flat",
        sides=(Side(None, _P("Eb1")),),
        mechanism=Valves(4),
        parts=(_part("bass", "bass", 0), _part("treble", "treble", 21)),
        lowest=_P("A1"),
        highest=_P("Bb4"),
        easy=_P("Eb2"),
        top_partial=12,
        slur_partial=2,
        source="open tube 4.43 m; four valves in a row, no compensation",
    ),
)

HORNS: dict[str, Instrument] = {horn.id: horn for horn in _HORNS}


def horn_named(horn_id: str) -> Instrument:
    """The horn by id; HornError names those there are."""
    try:
        return HORNS[horn_id]
    except KeyError:
        raise HornError(f"There is no horn “{horn_id[:40]}”: choose one of {', '.join(HORNS)}.") from None
