"""How a player breathes in, as far as it is heard."""

from orexis.core.coach.judging.context import JudgingContext
from orexis.core.coach.judging.criterion import About, Criterion, Cue, FaultType, Limit, Nearness


def _noise_of_breath(sheet: JudgingContext) -> None:
    """The loudest breath in, against the note that follows it. A take with it is close at most, and never lost."""
    breaths = [
        (note.inhalation_db - note.level_db, note)
        for note in sheet.measures.notes
        if note.right and note.inhalation_db is not None and note.level_db is not None
    ]
    if not breaths:
        return
    (over, note), limit = max(breaths, key=lambda pair: pair[0]), sheet.limits["breath_noise_db"]
    if over > limit:
        sheet.find("noisy-breath", note.target, note.onset_s, round(over, 1), limit, "dB")


BREATHING = (
    Criterion(
        "breath_noise",
        "the loudest breath in against the note that follows it",
        (
            FaultType(
                "noisy-breath",
                "loud breath",
                "the breath before {note} was loud",
                {
                    "": (
                        Cue("the throat was narrow", "Breathe in as if to yawn, without a sound."),
                        Cue("the breath came late and fast", "Start to breathe one beat earlier."),
                    )
                },
                near=Nearness(by=60.0),
                about=About.BESIDE,
            ),
        ),
        limits=(Limit("breath_noise_db", "Breath in against the tone, dB", (0.0, -6.0, -8.0, -10.0), -30.0, 20.0),),
        of_whole=_noise_of_breath,
    ),
)
