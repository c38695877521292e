"""The instruments that Orexis knows, as data.

Fundamentals, transpositions and clefs are the common build of each instrument. Slide travels are those of ordinary
student and professional models, measured in the hand to the nearest 5 mm; a player's own are settings. Ranges are what
a strong player uses, not records. A variant carries its difference in its id: -comp (the last valve compensates), -4
and -5 (valves), -g (the second valve in G), -dependent.
"""

from dataclasses import replace

from orexis.core.instruments.instrument import HandSlide, Instrument, MovingSlide, Part, Side, SlideValve, Valves
from orexis.core.messages import tell
from orexis.core.theory import Transposition, parse_pitch
from orexis.errors import InstrumentError

_P = parse_pitch
# A fifth valve is a whole step on top of the fourth, and so too long for one on the open tube.
_FIVE = (2.0, 1.0, 3.0, 5.0, 2.62)


def _part(part_id: str, clef: str, semitones: int) -> Part:
    return Part(part_id, clef, Transposition(semitones))


_BASS, _BAND = _part("bass", "bass", 0), _part("treble", "treble", 14)
_SLIDES = (MovingSlide("first", 1, 20.0), MovingSlide("third", 3, 40.0))
_F_VALVE, _GB_VALVE, _G_VALVE = SlideValve("F", 5.0), SlideValve("Gb", 4.0), SlideValve("G", 3.0)

_TRUMPET = Instrument(
    id="trumpet-bb",
    name="Trumpet in B flat",
    kind="trumpet",
    sides=(Side(None, _P("Bb2")),),
    mechanism=Valves(3, moving=_SLIDES),
    parts=(_part("treble", "treble", 2),),
    lowest=_P("E3"),
    highest=_P("F6"),
    easy=_P("Bb3"),
    top_partial=12,
    slur_partial=2,
    source="tubing 1.48 m; first slide has a saddle or trigger, third a ring",
)
_BARITONE = Instrument(
    id="baritone-bb",
    name="Baritone in B flat",
    kind="tuba",
    sides=(Side(None, _P("Bb1")),),
    mechanism=Valves(3),
    parts=(_BAND, _BASS),
    lowest=_P("E2"),
    highest=_P("D5"),
    easy=_P("Bb2"),
    top_partial=12,
    slur_partial=2,
    source="tubing 2.96 m; band parts in treble clef, orchestral ones in bass clef",
)
_EUPHONIUM = replace(
    _BARITONE,
    id="euphonium-bb",
    name="Euphonium in B flat, four valves",
    mechanism=Valves(4),
    parts=(_BASS, _BAND),
    lowest=_P("Db2"),
    highest=_P("Eb5"),
    source="tubing 2.96 m; four valves in a row leave C and B flat under the bass staff without a fingering",
)
_TENOR = Instrument(
    id="trombone-tenor",
    name="Tenor trombone",
    kind="trombone",
    sides=(Side(None, _P("Bb1")),),
    mechanism=HandSlide(positions=7, travel_m=0.67),
    parts=(_BASS, _part("tenor", "tenor", 0), _BAND),
    lowest=_P("E2"),
    highest=_P("F5"),
    easy=_P("Bb2"),
    top_partial=12,
    slur_partial=2,
    source="tubing 2.96 m; seven positions within 61 cm",
)
_BASS_TROMBONE = replace(
    _TENOR,
    id="trombone-bass",
    name="Bass trombone, independent F and G flat",
    mechanism=HandSlide(7, 0.67, (_F_VALVE, _GB_VALVE)),
    parts=(_BASS,),
    lowest=_P("Bb1"),
    highest=_P("C5"),
    source="both valves give D, 8 cents flat; six positions on F and on G flat, five on both",
)
_TUBA_EB = Instrument(
    id="tuba-eb",
    name="Tuba in E flat",
    kind="tuba",
    sides=(Side(None, _P("Eb1")),),
    mechanism=Valves(4),
    parts=(_BASS, _part("treble", "treble", 21)),
    lowest=_P("A1"),
    highest=_P("Bb4"),
    easy=_P("Eb2"),
    top_partial=12,
    slur_partial=2,
    source="tubing 4.43 m; four valves in a row, no compensation",
)
_TUBA_F = replace(
    _TUBA_EB,
    id="tuba-f",
    name="Tuba in F, four valves",
    sides=(Side(None, _P("F1")),),
    parts=(_BASS,),
    lowest=_P("B1"),
    highest=_P("C5"),
    easy=_P("F2"),
    source="tubing 3.95 m",
)
_TUBA_CC = replace(
    _TUBA_F,
    id="tuba-cc",
    name="Tuba in C, four valves",
    sides=(Side(None, _P("C1")),),
    lowest=_P("F#1"),
    highest=_P("G4"),
    easy=_P("C2"),
    source="tubing 5.27 m",
)
_TUBA_BBB = replace(
    _TUBA_CC,
    id="tuba-bbb",
    name="Tuba in B flat, three valves",
    sides=(Side(None, _P("Bb0")),),
    mechanism=Valves(3),
    parts=(_BASS, _part("treble", "treble", 26)),
    lowest=_P("E1"),
    highest=_P("F4"),
    easy=_P("Bb1"),
    source="tubing 5.92 m",
)

_DOUBLE_HORN = Instrument(
    id="horn-f-bb",
    name="Double horn in F and B flat",
    kind="instrument",
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
)

_INSTRUMENTS = (
    _TRUMPET,
    replace(_TRUMPET, id="cornet-bb", name="Cornet in B flat", highest=_P("D6"), source="as the trumpet, more conical"),
    replace(
        _TRUMPET,
        id="flugelhorn-bb",
        name="Flugelhorn in B flat",
        highest=_P("Bb5"),
        mechanism=Valves(3, moving=(MovingSlide("third", 3, 30.0),)),
        source="as the trumpet, wide bore; a trigger or ring on the third slide",
    ),
    replace(
        _TRUMPET,
        id="trumpet-c",
        name="Trumpet in C",
        sides=(Side(None, _P("C3")),),
        parts=(_part("treble", "treble", 0),),
        lowest=_P("F#3"),
        easy=_P("C4"),
        source="tubing 1.32 m",
    ),
    replace(
        _TRUMPET,
        id="trumpet-eb",
        name="Trumpet in E flat",
        sides=(Side(None, _P("Eb3")),),
        parts=(_part("treble", "treble", -3),),
        lowest=_P("A3"),
        highest=_P("G6"),
        easy=_P("Eb4"),
        source="tubing 1.11 m",
    ),
    replace(
        _TRUMPET,
        id="cornet-eb",
        name="Soprano cornet in E flat",
        sides=(Side(None, _P("Eb3")),),
        mechanism=Valves(3, moving=(MovingSlide("first", 1, 12.0), MovingSlide("third", 3, 25.0))),
        parts=(_part("treble", "treble", -3),),
        lowest=_P("A3"),
        highest=_P("Eb6"),
        easy=_P("Eb4"),
        source="tubing 1.11 m, conical; short slides that still reach",
    ),
    replace(
        _TRUMPET,
        id="trumpet-piccolo-bb",
        name="Piccolo trumpet in B flat, four valves",
        sides=(Side(None, _P("Bb3")),),
        mechanism=Valves(4, moving=(MovingSlide("third", 3, 15.0),)),
        parts=(_part("treble", "treble", -10),),
        lowest=_P("Db4"),
        highest=_P("G6"),
        easy=_P("Bb4"),
        top_partial=8,
        source="tubing 0.74 m; the fourth valve is a fourth",
    ),
    replace(
        _TRUMPET,
        id="trumpet-piccolo-a",
        name="Piccolo trumpet in A, four valves",
        sides=(Side(None, _P("A3")),),
        mechanism=Valves(4, moving=(MovingSlide("third", 3, 15.0),)),
        parts=(_part("treble", "treble", -9),),
        lowest=_P("C4"),
        highest=_P("F#6"),
        easy=_P("A4"),
        top_partial=8,
        source="the piccolo in B flat with its longer leadpipe, 0.78 m",
    ),
    Instrument(
        id="tenor-horn-eb",
        name="Tenor horn in E flat",
        kind="instrument",
        sides=(Side(None, _P("Eb2")),),
        mechanism=Valves(3),
        parts=(_part("treble", "treble", 9),),
        lowest=_P("A2"),
        highest=_P("Eb5"),
        easy=_P("Eb3"),
        top_partial=12,
        slur_partial=2,
        source="tubing 2.22 m; slides are set before playing",
    ),
    _DOUBLE_HORN,
    replace(
        _DOUBLE_HORN,
        id="horn-f",
        name="Single horn in F",
        sides=(Side(None, _P("F1")),),
        second_side_from=None,
        source="tubing 3.95 m; slides are set before playing, the hand in the bell does the rest",
    ),
    replace(
        _DOUBLE_HORN,
        id="horn-bb",
        name="Single horn in B flat",
        sides=(Side(None, _P("Bb1")),),
        second_side_from=None,
        lowest=_P("E2"),
        top_partial=12,
        slur_partial=3,
        source="tubing 2.96 m; slides are set before playing, the hand in the bell does the rest",
    ),
    _BARITONE,
    replace(
        _BARITONE,
        id="baritone-bb-comp",
        name="Baritone in B flat, compensating",
        mechanism=Valves(3, compensating=True),
        source="the third valve sends the air through second loops on the others",
    ),
    _EUPHONIUM,
    replace(
        _EUPHONIUM,
        id="euphonium-bb-comp",
        name="Euphonium in B flat, compensating",
        mechanism=Valves(4, compensating=True),
        lowest=_P("B1"),
        source="the fourth valve sends the air through second loops on the others: chromatic to the pedal",
    ),
    replace(
        _TENOR,
        id="trombone-alto",
        name="Alto trombone",
        sides=(Side(None, _P("Eb2")),),
        mechanism=HandSlide(positions=7, travel_m=0.50),
        parts=(_part("alto", "alto", 0),),
        lowest=_P("A2"),
        highest=_P("Bb5"),
        easy=_P("Eb3"),
        source="tubing 2.22 m; seven positions within 46 cm",
    ),
    _TENOR,
    replace(
        _TENOR,
        id="trombone-tenor-f",
        name="Tenor trombone with F valve",
        mechanism=HandSlide(7, 0.67, (_F_VALVE,)),
        lowest=_P("C2"),
        source="six positions with the valve",
    ),
    _BASS_TROMBONE,
    replace(
        _BASS_TROMBONE,
        id="trombone-bass-g",
        name="Bass trombone, independent F and G",
        mechanism=HandSlide(7, 0.67, (_F_VALVE, _G_VALVE)),
        source="both valves give E flat, 29 cents flat; six positions on G, five on both",
    ),
    replace(
        _BASS_TROMBONE,
        id="trombone-bass-dependent",
        name="Bass trombone, F and dependent second valve (D)",
        mechanism=HandSlide(7, 0.67, (_F_VALVE, _GB_VALVE), dependent=True),
        source="the second valve works only with the first",
    ),
    replace(
        _BASS_TROMBONE,
        id="trombone-bass-dependent-g",
        name="Bass trombone, F and dependent second valve (E flat)",
        mechanism=HandSlide(7, 0.67, (_F_VALVE, _G_VALVE), dependent=True),
        source="the second valve works only with the first",
    ),
    replace(
        _BASS_TROMBONE,
        id="trombone-contrabass-f",
        name="Contrabass trombone in F, with C and D flat",
        sides=(Side(None, _P("F1")),),
        mechanism=HandSlide(6, 0.72, (SlideValve("C", 5.0), SlideValve("Db", 4.0))),
        lowest=_P("F1"),
        highest=_P("G4"),
        easy=_P("F2"),
        source="tubing 3.95 m; six positions within 66 cm, five on each valve; both give A flat",
    ),
    _TUBA_EB,
    replace(
        _TUBA_EB,
        id="tuba-eb-comp",
        name="Tuba in E flat, compensating",
        mechanism=Valves(4, compensating=True),
        lowest=_P("E1"),
        source="the fourth valve sends the air through second loops on the others",
    ),
    _TUBA_F,
    replace(
        _TUBA_F,
        id="tuba-f-comp",
        name="Tuba in F, compensating",
        mechanism=Valves(4, compensating=True),
        lowest=_P("F#1"),
        source="the fourth valve compensates",
    ),
    replace(
        _TUBA_F,
        id="tuba-f-5",
        name="Tuba in F, five valves",
        mechanism=Valves(5, lowers=_FIVE),
        lowest=_P("G1"),
        source="the fifth valve is a whole step with the fourth down",
    ),
    _TUBA_CC,
    replace(
        _TUBA_CC,
        id="tuba-cc-5",
        name="Tuba in C, five valves",
        mechanism=Valves(5, lowers=_FIVE),
        lowest=_P("D1"),
        source="the fifth valve is a whole step with the fourth down",
    ),
    _TUBA_BBB,
    replace(
        _TUBA_BBB, id="tuba-bbb-4", name="Tuba in B flat, four valves", mechanism=Valves(4), source="four in a row"
    ),
)

INSTRUMENTS: dict[str, Instrument] = {instrument.id: instrument for instrument in _INSTRUMENTS}


def instrument_named(instrument_id: str) -> Instrument:
    """The instrument by id; InstrumentError names those there are."""
    try:
        return INSTRUMENTS[instrument_id]
    except KeyError:
        raise InstrumentError(
            tell(
                "There is no instrument “{instrument_id}”: choose one of {instruments}.",
                instrument_id=instrument_id[:40],
                instruments=", ".join(INSTRUMENTS),
            )
        ) from None
