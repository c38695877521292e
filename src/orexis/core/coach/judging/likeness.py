"""Is the sound as it should be: like the reference, and the same along the line?"""

from statistics import median

from orexis.core.coach.judging.context import JudgingContext
from orexis.core.coach.judging.criterion import (
    About,
    Column,
    Criterion,
    Cue,
    FaultType,
    Followed,
    Limit,
    Nearness,
    TrendMeasure,
    size_of,
)
from orexis.core.coach.judging.echoes import on_the_same_note
from orexis.core.figures import FigureNote
from orexis.core.measures import NoteMeasures

_NEAR = Nearness(by=10.0)
_CLEAR_OF_ROOM_DB = 24.0
_DRY_DB_S, _SHORT_S, _LONG_S = 200.0, 0.4, 1.2  # where the room rings, the tail of the last note lies in the next one
_ROUGH_HZ = 70.0

_FAR_APART = 15.0  # points of likeness by which the ends of a line may differ more than two neighbours


def _match(sheet: JudgingContext, note: NoteMeasures, written: FigureNote | None) -> None:
    limit = sheet.limits["sound_match"]
    if note.sound_match is None:
        sheet.skipped.add("sound_match")
    elif note.sound_match < limit:
        sheet.find("sound-match", note.target, note.onset_s, note.sound_match, limit, least=True)


def _across(sheet: JudgingContext) -> None:
    """A break between neighbours is where the shift lies; over the whole line the sound may change more, because good notes far
    apart do.
    """
    whole, limit = sheet.measures.figure, sheet.limits["sound_match"]
    if whole.sound_across is None or whole.worst_step_match is None:
        sheet.skipped.add("sound_across")
        return
    value = min(whole.worst_step_match, whole.sound_across + _FAR_APART)
    if value < limit:
        note = sheet.measures.notes[whole.worst_step] if whole.worst_step is not None else None
        place = (note.target, note.onset_s) if note else (None, None)
        sheet.find("sound-across", *place, round(value, 1), limit, least=True)


def _tone(sheet: JudgingContext) -> None:
    """Breath in the tone of the take's long notes; low pedals, whose own pulse is rough, and loud rooms are left out."""
    sound, limit = sheet.measures.sound, sheet.limits["tone_db"]
    if (
        sound.noise_db is not None
        and sound.tone_db_fs is not None
        and sound.tone_db_fs - sound.noise_db < _CLEAR_OF_ROOM_DB
    ):
        return
    shortest = _LONG_S if (sound.room_db_s or _DRY_DB_S) < _DRY_DB_S else _SHORT_S
    heard = [
        (note.tone_db, note)
        for note in sheet.measures.notes
        if note.right
        and note.tone_db is not None
        and (note.hold_s or 0.0) >= shortest
        and (note.f0_hz or 0.0) > _ROUGH_HZ
    ]
    if heard and median(value for value, _ in heard) < limit:
        value, worst = min(heard, key=lambda pair: pair[0])
        sheet.find("breathy", worst.target, worst.onset_s, value, limit, "dB", least=True)


LIKENESS = (
    Criterion(
        "sound_match",
        "likeness to the reference sound, 0 to 100",
        (
            FaultType(
                "sound-match",
                "the sound",
                "{note} was {value} of 100 like the easy note (at least {limit})",
                {
                    "": (
                        Cue(
                            "the sound was another than on the easy note",
                            "Play the easy note, then this one, with that sound in your ear.",
                        ),
                        Cue(
                            "the sound was another: thin, squeezed or spread",
                            "Breath in two stages, and grow into the note.",
                            body=True,
                        ),
                    )
                },
                near=_NEAR,
                survives_loss=True,
            ),
        ),
        limits=(Limit("sound_match", "Likeness, of 100", (55.0, 65.0, 75.0, 85.0), 1.0, 99.0),),
        column=Column(12, "Sound", ("sound_match",), "whole"),
        of_note=_match,
        trend=Followed(
            TrendMeasure(
                "match", 10, "Likeness to the reference sound", "of 100", True, False, 50.0, 100.0, "sound-match"
            ),
            of_note=size_of("sound_match"),
        ),
    ),
    Criterion(
        "sound_across",
        "the least likeness of two neighbours, or with 15 points more of any note to the figure's easiest",
        (
            FaultType(
                "sound-across",
                "the sound along the line",
                "the sound changed{at}: {value} of 100 alike (at least {limit})",
                {
                    "": (
                        Cue(
                            "the sound changed along the line",
                            "Play the two notes where it changes, slowly, until one sound covers both.",
                        ),
                        Cue(
                            "the sound changed along the line",
                            "Same lips from end to end; only air and tongue move.",
                            body=True,
                        ),
                    )
                },
                near=_NEAR,
                about=About.BESIDE,
                echoes=on_the_same_note,
            ),
        ),
        of_whole=_across,
    ),
    Criterion(
        "tone",
        "tone against breath in the long notes",
        (
            FaultType(
                "breathy",
                "breath in the tone",
                "breath was in the tone of {note}: {value} dB of tone over noise (at least {limit})",
                {
                    "": (
                        Cue(
                            "more air went out than the lips turned into tone",
                            "Softer, and let the lips come nearer until it rings; then the same louder.",
                        ),
                        Cue(
                            "more air went out than the lips turned into tone",
                            "Buzz the note alone for four beats, then put the horn to it.",
                        ),
                    )
                },
                near=Nearness(by=2.0),
                about=About.BESIDE,
            ),
        ),
        limits=(Limit("tone_db", "Tone over breath, dB", (9.0, 12.0, 14.0, 16.0)),),
        of_whole=_tone,
    ),
)
