"""Is the sound as it should be: like the reference, and the same along the line?"""

from statistics import median

from orexis.core.coach.judging.context import JudgingContext
from orexis.core.coach.judging.criterion import (
    About,
    Column,
    Criterion,
    Cue,
    FaultType,
    Limit,
    Nearness,
    TrendMeasure,
    TrendSource,
    size_of,
)
from orexis.core.coach.judging.echoes import on_the_same_note
from orexis.core.exercises import ExerciseNote
from orexis.core.measures import NoteMeasures

_NEAR = Nearness(by=10.0)
_CLEAR_OF_ROOM_DB = 24.0  # under this the room's noise colours the sound more than the player does
_DRY_DB_S, _SHORT_S, _LONG_S = 200.0, 0.3, 1.2  # where the room rings, the tail of the last note lies in the next one
_FAR_BELOW_DB = 3.0  # one note alone, in a line that is clear
_ROUGH_HZ = 70.0  # below it single pulses are heard, and every tone is rough

_NEARER, _FAR_OCTAVES, _MOST_ASKED = 17.0, 0.67, 84.0  # points more for the reference's own note; none from so far on
_SAME_NOTE = 0.05  # octaves
_FAR_APART = 15.0  # points of likeness by which the ends of a line may differ more than two neighbours


def _match(sheet: JudgingContext, note: NoteMeasures, written: ExerciseNote | None) -> None:
    limit = round(_match_limit(sheet, note), 1)
    if note.tone_match is None:
        sheet.skipped.add("tone_match")
    elif note.tone_match < limit:
        side = note.tone_differs or ""
        sheet.find("tone-match", note.target, note.onset_s, note.tone_match, limit, least=True, side=side)


def _match_limit(sheet: JudgingContext, note: NoteMeasures) -> float:
    """More is asked of a note near the reference: two takes of one note are more alike than notes half an octave apart.

    A room answers each note otherwise: there only the reference's own note is held to it.
    """
    limit, away = sheet.limits["tone_match"], note.tone_match_octaves
    if away is None or (sheet.measures.sound.room_db_s is not None and away > _SAME_NOTE):
        return limit
    return max(limit, min(_MOST_ASKED, limit + _NEARER * (1.0 - min(1.0, away / _FAR_OCTAVES))))


def _across(sheet: JudgingContext) -> None:
    """A break between neighbours is where the shift lies; over the whole line the sound may change more, because good notes far
    apart do.
    """
    whole, limit = sheet.measures.exercise, sheet.limits["tone_match"]
    if whole.tone_match_across is None or whole.worst_step_match is None:
        sheet.skipped.add("tone_match_across")
        return
    value = min(whole.worst_step_match, whole.tone_match_across + _FAR_APART)
    if value < limit:
        note = sheet.measures.notes[whole.worst_step] if whole.worst_step is not None else None
        place = (note.target, note.onset_s) if note else (None, None)
        sheet.find("tone-match-across", *place, round(value, 1), limit, least=True)


def _tone(sheet: JudgingContext) -> None:
    """Air in the tone of the take's long notes, or of one that stands out; low pedals, whose own pulse is rough, and loud rooms are left out."""
    sound, limit = sheet.measures.sound, sheet.limits["tone_to_noise_db"]
    if (
        sound.noise_db is not None
        and sound.tone_db_fs is not None
        and sound.tone_db_fs - sound.noise_db < _CLEAR_OF_ROOM_DB
    ):
        return
    shortest = _LONG_S if (sound.room_db_s or _DRY_DB_S) < _DRY_DB_S else _SHORT_S
    heard = [
        (note.tone_to_noise_db, note)
        for note in sheet.measures.notes
        if note.right
        and note.tone_to_noise_db is not None
        and (note.hold_s or 0.0) >= shortest
        and (note.f0_hz or 0.0) > _ROUGH_HZ
    ]
    if not heard:
        return
    value, worst = min(heard, key=lambda pair: pair[0])
    if median(value for value, _ in heard) < limit or value < limit - _FAR_BELOW_DB:
        sheet.find("airy", worst.target, worst.onset_s, value, limit, "dB", least=True)


LIKENESS = (
    Criterion(
        "tone_match",
        "tone match with the reference, 0 to 100",
        (
            FaultType(
                "tone-match",
                "tone match",
                "{note} didn’t sound like your easy note",
                {
                    "airier": (
                        Cue("airier than the easy note", "Play it softly until it rings. Then let it grow."),
                        Cue("airier than the easy note", "Play the easy note and this one on one breath."),
                    ),
                    "thinner": (
                        Cue("thinner than the easy note", "Keep the air warm and slow, and the throat open."),
                        Cue("thinner than the easy note", "Slur up from the easy note and keep its sound."),
                    ),
                    "darker": (
                        Cue("duller than the easy note", "Lead the air forward until the note rings."),
                        Cue("duller than the easy note", "Slur from the easy note and keep its ring."),
                    ),
                    "": (
                        Cue(
                            "a different tone from the easy note",
                            "Play the easy note, then this one with the same sound.",
                        ),
                        Cue(
                            "thin, squeezed or spread",
                            "Breathe in two steps, low then high, and grow into the note.",
                            body=True,
                        ),
                    ),
                },
                near=_NEAR,
                survives_loss=True,
            ),
        ),
        limits=(Limit("tone_match", "Tone match, of 100", (55.0, 65.0, 75.0, 85.0), 1.0, 99.0),),
        column=Column(12, "Tone", ("tone_match",), "whole"),
        of_note=_match,
        trend=TrendSource(
            TrendMeasure("tone_match", 10, "Tone match", "of 100", True, False, 50.0, 100.0, "tone-match"),
            of_note=size_of("tone_match"),
        ),
    ),
    Criterion(
        "tone_match_across",
        "the least tone match of two neighbours, or with 15 points more of any note to the exercise's easiest",
        (
            FaultType(
                "tone-match-across",
                "tone change in the line",
                "the tone changed{at}",
                {
                    "": (
                        Cue(
                            "the tone changed",
                            "Play the two notes where it changes, slowly, until they match.",
                        ),
                        Cue(
                            "the tone changed",
                            "Keep the lips the same from end to end. Move only air and tongue.",
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
        "tone_clarity",
        "tone against breath in the long notes",
        (
            FaultType(
                "airy",
                "airy tone",
                "{note} was airy",
                {
                    "": (
                        Cue(
                            "more air than the lips could use",
                            "Play softly and bring the lips closer until it rings. Then play louder.",
                        ),
                        Cue(
                            "more air than the lips could use",
                            "Buzz the note for four beats, then play it on the instrument.",
                        ),
                    )
                },
                near=Nearness(by=2.0),
                about=About.BESIDE,
            ),
        ),
        limits=(Limit("tone_to_noise_db", "Tone clarity, dB", (12.0, 16.0, 18.0, 20.0)),),
        of_whole=_tone,
    ),
)
