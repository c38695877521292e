"""Where the pitch lies, and what of it is the instrument's."""

from collections.abc import Iterable
from statistics import fmean

from orexis.core.approaches import Ask, Choice
from orexis.core.coach.judging.context import Fault, JudgingContext
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
from orexis.core.coach.judging.echoes import near_by
from orexis.core.exercises import Exercise, ExerciseNote
from orexis.core.instruments import instrument_named, slide_that_mends
from orexis.core.measures import NoteMeasures
from orexis.core.messages import tell

_EACH_SHARE = 0.5  # of the limit: so far apart lie the nearest notes of two fingerings that do not agree
_INSTRUMENT_SHARE = 0.6  # of a note's error: more is the instrument's, and a slide mends it
_SHARP_HERE = "the instrument is sharp on this fingering"
_FLAT_HERE = "the instrument is flat on this fingering"
_SLIDES = {"first": "first valve slide", "third": "third valve slide", "hand slide": "slide"}


def _two_ways(sheet: JudgingContext) -> None:
    """How far the same note lies apart on two fingerings: at its end, where it may be mended, for first one hears what the instrument does."""
    by_fingering: dict[str, list[float]] = {}
    for note in sheet.measures.notes:
        written = sheet.written(note)
        if not written or not note.right:
            continue
        lies = note.judged_error_cents if written.keep_fingering else note.end_error_cents
        if lies is not None:
            by_fingering.setdefault(written.fingering.label, []).append(lies)
    if len(by_fingering) < 2:
        sheet.skipped.add("two_ways")
        return
    first, second = list(by_fingering.values())[:2]
    apart = fmean(second) - fmean(first)
    nearest = min(second) - max(first) if apart > 0.0 else min(first) - max(second)
    limit = sheet.limits["pitch_error_cents"]
    # One note out of tune is that note's, not its fingering's.
    if abs(apart) > limit and nearest > _EACH_SHARE * limit:
        other = next(note.id for note in sheet.exercise.notes if note.fingering.label == list(by_fingering)[1])
        sheet.drop("pitch")  # it is said of both in one
        sheet.find("two-ways", *sheet.place_of(other), round(apart, 1), limit, "c")


def _pitch(sheet: JudgingContext, note: NoteMeasures, written: ExerciseNote | None) -> None:
    """The pitch of a note; where the fingering may be mended and most of what is off is the instrument's, with that side."""
    mended = sheet.judges("two_ways") and written is not None and not written.keep_fingering
    value = note.end_error_cents if mended else note.judged_error_cents
    limit = sheet.limits["pitch_error_cents"]
    if value is None:
        sheet.skipped.add("pitch")
    elif abs(value) > limit:
        side = "high" if value > 0 else "low"
        share = 0.0 if written is None or written.keep_fingering else written.instrument_cents
        if abs(share) >= _INSTRUMENT_SHARE * abs(value) and abs(value - share) <= limit:
            side = f"instrument-{side}"
        sheet.find("pitch", note.target, note.onset_s, value, limit, "c", side=side)


def _slide_cue(finding: Fault, exercise: Exercise) -> Cue | None:
    """Which slide mends what the instrument does to a note, and how far it moves; None where it is the player's, or none does."""
    note = next((item for item in exercise.notes if item.id == finding.note), None)
    if note is None or not finding.side.startswith("instrument"):
        return None
    name, millimetres, reached = slide_that_mends(
        instrument_named(exercise.instrument), note.fingering, note.instrument_cents
    )
    if name is None or millimetres is None or not reached:
        return None
    cause = _SHARP_HERE if note.instrument_cents > 0 else _FLAT_HERE
    say = (
        tell("Move the {slide} out {mm:.0f} mm and listen.", slide=_SLIDES[name], mm=millimetres)
        if millimetres > 0
        else tell("Move the {slide} in {mm:.0f} mm and listen.", slide=_SLIDES[name], mm=-millimetres)
    )
    return Cue(cause, say)


def _buzz_off(sheet: JudgingContext) -> None:
    off, limit = sheet.measures.exercise.buzz_off_cents, sheet.limits["buzz_off_cents"]
    if off is None:
        sheet.skipped.add("buzz_off")
    elif abs(off) > limit:
        side = "low" if off < 0 else "high"
        sheet.find("buzz-off", sheet.exercise.notes[0].id, None, off, limit, "c", side=side)


def _rest(sheet: JudgingContext, note: NoteMeasures, written: ExerciseNote | None) -> None:
    missed, limit = note.ring_missed_cents, sheet.limits["ring_missed_cents"]
    if missed is not None and abs(missed) > limit:
        side = "high" if missed > 0 else "low"
        sheet.find("off-the-ring", note.target, note.onset_s, missed, limit, "c", side=side)


def _follows_a_sag(finding: Fault, on_its_note: Iterable[Fault]) -> bool:
    """What sinks from where it was right lies low."""
    if finding.value is None or finding.limit is None:
        return False
    sags = [item.value for item in on_its_note if item.reason == "pitch-drift" and item.value]
    return any(value * finding.value > 0 and abs(finding.value) - 0.5 * abs(value) <= finding.limit for value in sags)


PITCH = (
    Criterion(
        "ring",
        "how far a note that was bent up and down came to rest from where it is strongest and clearest",
        (
            FaultType(
                "off-the-ring",
                "beside the middle",
                "you settled {value:side} of where the note rings",
                {
                    "high": (
                        Cue("settled above the middle", "Lead the note lower and listen for the ring. Stay there."),
                        Cue("settled above the middle", "Relax the corners a little as you come back up."),
                    ),
                    "low": (
                        Cue("settled below the middle", "Lead the note higher and listen for the ring. Stay there."),
                        Cue("settled below the middle", "Keep the air moving as you come back down."),
                    ),
                },
                near=Nearness(by=10.0),
                about=About.BESIDE,
            ),
        ),
        limits=(Limit("ring_missed_cents", "Rest beside the middle of a note, cents", (20.0, 15.0, 10.0, 8.0)),),
        of_note=_rest,
        proves_nothing=True,
        main="ring_missed_cents",
    ),
    Criterion("endurance", "change of the check note against today's first: see endurance.py", (), proves_nothing=True),
    Criterion(
        "pitch",
        "median deviation from the target over the settled part, less the instrument's share where the fingering is kept",
        (
            FaultType(
                "pitch",
                "pitch",
                "{note} was {value:side}",
                {
                    "high": (
                        Cue(
                            "squeezed sharp",
                            "Let the note down until it rings, and stay there.",
                        ),
                        Cue(
                            "squeezed sharp",
                            "Rest the instrument on an open palm and play. That shows how much was pressure.",
                            True,
                            (Ask.PRESSURE, Choice.OPEN_PALM),
                        ),
                        Cue(
                            "squeezed sharp",
                            "Drop the jaw a little and slow the air. Find the widest sound.",
                            body=True,
                        ),
                    ),
                    "instrument-high": (
                        Cue(_SHARP_HERE, "Let the note down until it rings, or try another fingering or position."),
                        Cue(_SHARP_HERE, "Sing the pitch first. Then move the slide or the note down to it."),
                    ),
                    "instrument-low": (
                        Cue(_FLAT_HERE, "Lift the note with faster air, or try another fingering or position."),
                        Cue(_FLAT_HERE, "Sing the pitch first. Then move the slide or the note up to it."),
                    ),
                    "low": (
                        Cue(
                            "too loose",
                            "Sing the pitch, then play what you sang.",
                        ),
                        Cue(
                            "too loose",
                            "Draw the corners back a little. Keep the air the same.",
                            True,
                            (Ask.CORNERS, Choice.DRAWN_BACK),
                        ),
                        Cue(
                            "too loose",
                            "Focus the lips a little more. Use faster air, not harder air.",
                            body=True,
                        ),
                    ),
                },
                survives_loss=True,
                echoes=near_by(
                    "pitch", "pitch-drift", "clipped-partial", "wrong-partial", "wrong-fingering", "wrong-note"
                ),
                told_again=True,
                follows=_follows_a_sag,
                own_cue=_slide_cue,
            ),
        ),
        limits=(Limit("pitch_error_cents", "Pitch, cents", (25.0, 15.0, 10.0, 6.0)),),
        column=Column(2, "Pitch", ("pitch_error_cents",), "cents"),
        of_note=_pitch,
        main="judged_error_cents",
        trend=TrendSource(
            TrendMeasure("pitch", 1, "Pitch off the target", "cents", False, True, 0.0, 10.0, "pitch"),
            of_note=size_of("judged_error_cents"),
        ),
    ),
    Criterion(
        "buzz_off",
        "on the mouthpiece, how far the first buzz lies from what is written; everything else is measured from there",
        (
            FaultType(
                "buzz-off",
                "buzz as a whole",
                "the whole buzz was {value:side}",
                {
                    "low": (
                        Cue("the first buzz was flat", "Hear the first note, sing it, then buzz what you sang."),
                        Cue("the first buzz was flat", "Use faster air. Don’t squeeze."),
                    ),
                    "high": (
                        Cue("the first buzz was sharp", "Hear the first note, sing it, then buzz what you sang."),
                        Cue("the first buzz was sharp", "Use slower, warmer air and relax the lips a little."),
                    ),
                },
                survives_loss=True,
                about=About.BESIDE,
            ),
        ),
        limits=(Limit("buzz_off_cents", "A buzz as a whole, cents", (700.0, 70.0, 45.0, 25.0), 5.0, 700.0),),
        of_whole=_buzz_off,
    ),
    Criterion(
        "two_ways",
        "how far one note lies apart on two fingerings",
        (
            FaultType(
                "two-ways",
                "two fingerings",
                "the two fingerings were {value} cents apart",
                {
                    "": (
                        Cue("the two fingerings don’t agree", "Hold the note and move the slide until they agree."),
                        Cue("the two fingerings don’t agree", "Sing the pitch in between and bring both to it."),
                    )
                },
                survives_loss=True,
                about=About.WHOLE,
            ),
        ),
        of_whole=_two_ways,
    ),
)
