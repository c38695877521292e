"""Is the sound as it should be: like the reference, and the same along the line?"""

from orexis.core.coach.judging.declare import Column, Cue, Judged, Limit, Nearness, Reason
from orexis.core.coach.judging.sheet import Sheet
from orexis.core.figures import FigureNote
from orexis.core.measures import NoteMeasures

_NEAR = Nearness(by=10.0)


def _match(sheet: Sheet, note: NoteMeasures, written: FigureNote | None) -> None:
    limit = sheet.limits["sound_match"]
    if note.sound_match is None:
        sheet.skipped.add("sound_match")
    elif note.sound_match < limit:
        sheet.find("sound-match", note.target, note.onset_s, note.sound_match, limit, least=True)


def _across(sheet: Sheet) -> None:
    across, limit, worst = (
        sheet.measures.figure.sound_across,
        sheet.limits["sound_match"],
        sheet.measures.figure.worst_step,
    )
    if across is None:
        sheet.skipped.add("sound_across")
    elif across < limit:
        note = sheet.measures.notes[worst] if worst is not None else None
        place = (note.target, note.onset_s) if note else (None, None)
        sheet.find("sound-across", *place, across, limit, least=True)


LIKENESS = (
    Judged(
        "sound_match",
        "likeness to the reference sound, 0 to 100",
        (
            Reason(
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
    ),
    Judged(
        "sound_across",
        "the least likeness of any note to the figure's easiest",
        (
            Reason(
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
            ),
        ),
        of_whole=_across,
    ),
)
