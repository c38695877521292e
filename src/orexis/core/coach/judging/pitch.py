"""Where the pitch lies, and where the lip bends it."""

from collections.abc import Iterable
from statistics import fmean

from orexis.core.coach.judging.context import Fault, JudgingContext
from orexis.core.coach.judging.criterion import (
    About,
    Column,
    Criterion,
    Cue,
    FaultType,
    Followed,
    Limit,
    TrendMeasure,
    size_of,
    upper_limit_rule,
)
from orexis.core.coach.judging.echoes import near_by, on_the_same_note
from orexis.core.figures import FigureNote
from orexis.core.measures import NoteMeasures
from orexis.core.schools import Ask, Choice
from orexis.core.theory import cents_between

_BEND_SHARE = 0.8  # of the depth asked for


def _bends(sheet: JudgingContext) -> set[str | None]:
    """Bends by the lip: depth and return. Gives the ids of the bent notes, which no other rule looks at.

    A bend that is too shallow is heard as one note that moved: its depth is then that of the movement.
    """
    figure, rows = sheet.figure, {note.target: note for note in sheet.measures.notes}
    asked = figure.least("bend")
    seen: set[str | None] = set()
    if asked is None:
        return seen
    for before, bent, after in zip(figure.notes, figure.notes[1:], figure.notes[2:], strict=False):
        first, low, last = (rows.get(note.id) for note in (before, bent, after))
        if not _is_bent(before, bent) or first is None or first.f0_hz is None:
            continue
        apart = low is not None and low.right and low.f0_hz is not None
        depth = (
            cents_between(low.f0_hz, first.f0_hz) if apart and low and low.f0_hz else abs(first.bend_down_cents or 0.0)
        )
        seen.add(bent.id)
        if not apart and (last is None or not last.sounded):
            seen.add(after.id)
        if depth < _BEND_SHARE * asked:
            sheet.find("bend", bent.id, first.onset_s, round(depth, 1), _BEND_SHARE * asked, "c", least=True)
        if sheet.judges("bend_back") and apart and last is not None and last.f0_hz is not None:
            off, limit = round(cents_between(first.f0_hz, last.f0_hz), 1), sheet.limits["centre_cents"]
            if abs(off) > limit:
                sheet.find("bend-back", after.id, last.onset_s, off, limit, "c")
    return seen


def _dip(sheet: JudgingContext, note: NoteMeasures, written: FigureNote | None) -> None:
    """The note before a bend stays where it is until the bend is asked: the fingers show what comes, the lips do not."""
    notes = sheet.figure.notes
    at = next((i for i, item in enumerate(notes) if item is written), None)
    if at is None or at + 1 >= len(notes) or not _is_bent(notes[at], notes[at + 1]):
        return
    limit = sheet.limits["sag_cents"]
    if note.sag_cents is None:
        sheet.skipped.add("dip")
    elif note.sag_cents < -limit:
        sheet.find("dip", note.target, note.onset_s, note.sag_cents, limit, "c")


def _is_bent(before: FigureNote, note: FigureNote) -> bool:
    same = before.tube == note.tube and before.partial == note.partial
    return same and note.slurred and note.pitch.midi < before.pitch.midi


def _two_ways(sheet: JudgingContext) -> None:
    """How far the same note lies apart on two tubes."""
    by_tube: dict[str, list[float]] = {}
    for note in sheet.measures.notes:
        written = sheet.written(note)
        if written and note.right and note.judged_cents is not None:
            by_tube.setdefault(written.tube.label, []).append(note.judged_cents)
    if len(by_tube) < 2:
        sheet.skipped.add("two_ways")
        return
    first, second = (fmean(values) for values in list(by_tube.values())[:2])
    if abs(second - first) > sheet.limits["centre_cents"]:
        other = next(note.id for note in sheet.figure.notes if note.tube.label == list(by_tube)[1])
        sheet.find("two-ways", *sheet.place_of(other), round(second - first, 1), sheet.limits["centre_cents"], "c")


def _buzz_off(sheet: JudgingContext) -> None:
    off, limit = sheet.measures.figure.buzz_off_cents, sheet.limits["buzz_off_cents"]
    if off is None:
        sheet.skipped.add("buzz_off")
    elif abs(off) > limit:
        side = "low" if off < 0 else "high"
        sheet.find("buzz-off", sheet.figure.notes[0].id, None, off, limit, "c", side=side)


def _follows_a_sag(finding: Fault, on_its_note: Iterable[Fault]) -> bool:
    """What sinks from where it was right lies low."""
    if finding.value is None or finding.limit is None:
        return False
    sags = [item.value for item in on_its_note if item.reason == "sag" and item.value]
    return any(value * finding.value > 0 and abs(finding.value) - 0.5 * abs(value) <= finding.limit for value in sags)


PITCH = (
    Criterion(
        "ring",
        "where, in a centre-finding bend, tone-to-noise and level peak: reported, not judged",
        (),
        proves_nothing=True,
        main="ring_cents",
    ),
    Criterion("endurance", "change of the check note against today's first: see endurance.py", (), proves_nothing=True),
    Criterion(
        "centre",
        "median deviation from the target over the settled part, less the horn's share where the tube is kept",
        (
            FaultType(
                "centre",
                "centre",
                "{note} lay {value:side} (limit {limit})",
                {
                    "high": (
                        Cue(
                            "squeezed above the middle of its slot",
                            "Lean the note down until it rings, and stay there.",
                        ),
                        Cue(
                            "squeezed above the middle of its slot",
                            "Let the horn rest on an open palm and play it so: what is gone was pressure.",
                            True,
                            (Ask.PRESSURE, Choice.OPEN_PALM),
                        ),
                        Cue(
                            "squeezed above the middle of its slot",
                            "Drop the jaw a hair, slower air; find the widest sound.",
                            body=True,
                        ),
                    ),
                    "low": (
                        Cue(
                            "loose, under the middle of its slot",
                            "Sing the pitch, then place the note inside what you sang.",
                        ),
                        Cue(
                            "loose, under the middle of its slot",
                            "Corners back by a hair, the air as before.",
                            True,
                            (Ask.CORNERS, Choice.DRAWN_BACK),
                        ),
                        Cue(
                            "loose, under the middle of its slot",
                            "A little more focus in the lips; let the air be quicker, not harder.",
                            body=True,
                        ),
                    ),
                },
                survives_loss=True,
                echoes=near_by("centre", "sag", "caught", "wrong-partial", "wrong-note"),
                told_again=True,
                follows=_follows_a_sag,
            ),
        ),
        limits=(Limit("centre_cents", "Centre, cents", (25.0, 15.0, 10.0, 6.0)),),
        column=Column(2, "Centre", ("centre_cents",), "cents"),
        of_note=upper_limit_rule("centre", "centre", "judged_cents", "centre_cents", sides=("low", "high")),
        main="judged_cents",
        trend=Followed(
            TrendMeasure("centre", 1, "Distance from the centre", "cents", False, True, 0.0, 10.0, "centre"),
            of_note=size_of("judged_cents"),
        ),
    ),
    Criterion(
        "buzz_off",
        "on the mouthpiece, how far the first buzz lies from what is written; everything else is measured from there",
        (
            FaultType(
                "buzz-off",
                "where the buzz lies",
                "the buzz as a whole lay {value:side} (limit {limit})",
                {
                    "low": (
                        Cue("the first buzz lay low", "Hear the first note, sing it, then buzz what you sang."),
                        Cue("the first buzz lay low", "Quicker air through the same lips; nothing squeezed."),
                    ),
                    "high": (
                        Cue("the first buzz lay high", "Hear the first note, sing it, then buzz what you sang."),
                        Cue("the first buzz lay high", "Slower, warmer air; let the lips hang a little more."),
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
        "bend",
        "how deep the lip bends a note",
        (
            FaultType(
                "bend",
                "the bend",
                "the bend to {note} went {value} cents deep (at least {limit})",
                {
                    "": (
                        Cue(
                            "the bend did not go far enough",
                            "Sing the lower note first; then take the sound there, not the lips.",
                        ),
                        Cue(
                            "the bend did not go far enough",
                            "More room in the mouth, the corners where they are.",
                            body=True,
                        ),
                    )
                },
                survives_loss=True,
                about=About.BESIDE,
                echoes=on_the_same_note,
            ),
        ),
        claims=_bends,
    ),
    Criterion(
        "dip",
        "how far the note before a bend sinks by itself",
        (
            FaultType(
                "dip",
                "sank before the bend",
                "{note} sank by {value} cents before the bend was asked (limit {limit})",
                {
                    "": (
                        Cue("the note gave way early", "Hold it as if nothing were to come; then bend, all at once."),
                        Cue(
                            "the note gave way early",
                            "Only the fingers think of the next note; the air stays with this one.",
                        ),
                    )
                },
                survives_loss=True,
                about=About.BESIDE,
            ),
        ),
        of_note=_dip,
    ),
    Criterion(
        "bend_back",
        "how well a bent note comes back",
        (
            FaultType(
                "bend-back",
                "the way back",
                "{note} came back {value:side} (limit {limit})",
                {
                    "": (
                        Cue(
                            "it did not come back to where it was",
                            "Let go, rather than push up; the slot takes it back.",
                        ),
                        Cue(
                            "it did not come back to where it was",
                            "Half as deep, and hear the first note all the way through.",
                        ),
                    )
                },
                survives_loss=True,
                about=About.BESIDE,
            ),
        ),
    ),
    Criterion(
        "two_ways",
        "how far one note lies apart on two tubes",
        (
            FaultType(
                "two-ways",
                "the two ways",
                "the two ways lie {value} cents apart (limit {limit})",
                {
                    "": (
                        Cue("the two ways lie apart", "Move the slide while you hold the note, until they agree."),
                        Cue("the two ways lie apart", "Sing the pitch between them and bring both to it."),
                    )
                },
                survives_loss=True,
                about=About.WHOLE,
            ),
        ),
        of_whole=_two_ways,
    ),
)
