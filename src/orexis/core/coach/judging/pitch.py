"""Where the pitch lies, how it begins, how it goes on and ends."""

from statistics import fmean

from orexis.core.coach.judging.declare import Column, Cue, Judged, Limit, Reason, most
from orexis.core.coach.judging.sheet import Sheet
from orexis.core.figures import FigureNote
from orexis.core.measures import NoteMeasures
from orexis.core.schools import Ask, Choice
from orexis.core.theory import cents_between

_BEND_SHARE = 0.8  # of the depth asked for


def _bends(sheet: Sheet) -> set[str | None]:
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


def _is_bent(before: FigureNote, note: FigureNote) -> bool:
    same = before.tube == note.tube and before.partial == note.partial
    return same and note.slurred and note.pitch.midi < before.pitch.midi


def _two_ways(sheet: Sheet) -> None:
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
        sheet.find("two-ways", value=round(second - first, 1), limit=sheet.limits["centre_cents"], unit="c")


def _entry(sheet: Sheet, note: NoteMeasures, written: FigureNote | None) -> None:
    """An entry fails when it starts further out than the limit and needs longer than the limit's time to settle."""
    if note.slurred:
        return
    limit = sheet.limits["entry_cents"]
    if note.entry_cents is None or note.entry_ms is None:
        sheet.skipped.add("entry")
    elif abs(note.entry_cents) > limit and note.entry_ms > sheet.limits["entry_ms"]:
        side = "below" if note.entry_cents < 0 else "above"
        sheet.find("entry", note.target, note.onset_s, note.entry_cents, limit, "c", side=side)


_late = most("response", "response", "response_ms", "response_ms", "ms")


def _response(sheet: Sheet, note: NoteMeasures, written: FigureNote | None) -> None:
    if not note.slurred:
        _late(sheet, note, written)


def _hold(sheet: Sheet, note: NoteMeasures, written: FigureNote | None) -> None:
    asked = sheet.figure.hold_asked_s(written) if written is not None else None
    if asked is not None and note.hold_s is not None and note.hold_s < asked:
        sheet.find("hold", note.target, note.release_s, note.hold_s, round(asked, 2), "s", least=True)


PITCH = (
    Judged(
        "ring",
        "where, in a centre-finding bend, tone-to-noise and level peak: reported, not judged",
        (),
        main="ring_cents",
    ),
    Judged("endurance", "change of the check note against today's first: see endurance.py", ()),
    Judged(
        "centre",
        "median deviation from the target over the settled part, less the horn's share where the tube is kept",
        (
            Reason(
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
            ),
        ),
        limits=(Limit("centre_cents", "Centre, cents", (25.0, 15.0, 10.0, 6.0)),),
        column=Column(2, "Centre", ("centre_cents",), "cents"),
        of_note=most("centre", "centre", "judged_cents", "centre_cents", sides=("low", "high")),
        main="judged_cents",
    ),
    Judged(
        "bend",
        "how deep the lip bends a note",
        (
            Reason(
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
            ),
        ),
        claims=_bends,
    ),
    Judged(
        "bend_back",
        "how well a bent note comes back",
        (
            Reason(
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
            ),
        ),
    ),
    Judged(
        "two_ways",
        "how far one note lies apart on two tubes",
        (
            Reason(
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
            ),
        ),
        of_whole=_two_ways,
    ),
    Judged(
        "entry",
        "deviation of the first 30 ms, and the time until settled",
        (
            Reason(
                "entry",
                "the start",
                "{note} began {value:side} (limit {limit})",
                {
                    "below": (
                        Cue(
                            "slid up: not heard beforehand, or the air came late",
                            "Hear it, sing it, then start on the breath.",
                        ),
                        Cue(
                            "slid up: not heard beforehand, or the air came late",
                            "Start with the breath alone, no tongue, until it begins on pitch.",
                            body=True,
                        ),
                    ),
                    "above": (
                        Cue("fell in: started too tight", "A softer start, with the pitch already in your ear."),
                        Cue(
                            "fell in: started too tight",
                            "Breathe out a silent 'ho' first; let the note join that air.",
                            body=True,
                        ),
                    ),
                },
            ),
        ),
        limits=(
            Limit("entry_cents", "Start off by, cents", (60.0, 40.0, 25.0, 15.0)),
            Limit("entry_ms", "Start settled in, ms", (250.0, 180.0, 120.0, 80.0)),
        ),
        column=Column(6, "Start", ("entry_cents", "entry_ms"), "entry"),
        of_note=_entry,
    ),
    Judged(
        "response",
        "breath heard before the tone",
        (
            Reason(
                "response",
                "air before the tone",
                "air for {value} ms before {note} spoke (limit {limit})",
                {
                    "": (
                        Cue(
                            "air came before the tone: lips apart or stiff",
                            "A breath start on an easy low note, then back to this.",
                        ),
                        Cue(
                            "air came before the tone: no seal yet",
                            "Seal before the breath comes; no firmer than keeps the air in.",
                            True,
                            (Ask.PRESSURE, Choice.FIRM_SEAL),
                        ),
                        Cue(
                            "air came before the tone: lips apart or stiff",
                            "Lips just touching before the air comes.",
                            body=True,
                        ),
                    )
                },
            ),
        ),
        limits=(Limit("response_ms", "Air before tone, ms", (250.0, 150.0, 90.0, 50.0)),),
        column=Column(9, "Breath first", ("response_ms",), "ms"),
        of_note=_response,
    ),
    Judged(
        "sag",
        "slope of the pitch over the settled part times its length",
        (
            Reason(
                "sag",
                "sag",
                "{note} {value?sagged|rose} by {value} cents (limit {limit})",
                {
                    "down": (
                        Cue(
                            "the air slowed",
                            "Keep the air moving to the last moment. Play it shorter first, then longer.",
                        ),
                        Cue("the air slowed", "Grow very slightly to the end; feel the breath go past the note."),
                        Cue(
                            "the air slowed",
                            "Firmer air from the start, and keep it there.",
                            True,
                            (Ask.LOW_AIR, Choice.FAST_AND_FIRM),
                        ),
                    ),
                    "up": (
                        Cue("tightened towards the end", "Stop before you squeeze; leave some breath unused."),
                        Cue("tightened towards the end", "Let the corners hold and the middle stay easy.", body=True),
                    ),
                },
                survives_loss=True,
            ),
        ),
        limits=(Limit("sag_cents", "Sag, cents", (25.0, 15.0, 10.0, 6.0)),),
        column=Column(5, "Sag", ("sag_cents",), "whole"),
        of_note=most("sag", "sag", "sag_cents", "sag_cents", sides=("down", "up")),
        main="sag_cents",
    ),
    Judged(
        "spread",
        "how much the pitch wanders, sag and vibrato taken out",
        (
            Reason(
                "spread",
                "spread",
                "{note} wandered by {value} cents (limit {limit})",
                {
                    "": (
                        Cue("the pitch wandered", "Half as long, twice as calm. Then add a beat."),
                        Cue(
                            "the pitch wandered", "Even air, as if through a straw. Listen to the middle of the sound."
                        ),
                    )
                },
            ),
        ),
        limits=(Limit("spread_cents", "Spread, cents", (15.0, 10.0, 7.0, 4.0)),),
        column=Column(4, "Spread", ("spread_cents",), "one"),
        of_note=most("spread", "spread", "spread_cents", "spread_cents"),
    ),
    Judged(
        "fall_off",
        "the last 150 ms against the centre",
        (
            Reason(
                "fall-off",
                "the end",
                "the end of {note} fell away by {value} cents (limit {limit})",
                {
                    "": (
                        Cue("the end was let go", "Stop while the sound is still good, then make it longer by a beat."),
                        Cue("the end was let go", "End the note with the breath, not with the lips.", body=True),
                    )
                },
            ),
        ),
        limits=(Limit("fall_off_cents", "End, cents", (30.0, 20.0, 12.0, 8.0)),),
        column=Column(7, "End", ("fall_off_cents",), "whole"),
        of_note=most("fall_off", "fall-off", "fall_off_cents", "fall_off_cents"),
    ),
    Judged(
        "hold",
        "onset to release, against the share of the written length that is asked",
        (
            Reason(
                "hold",
                "length",
                "{note} lasted {value:1} s of {limit:1} s",
                {
                    "": (
                        Cue("the breath ended early", "A lower, quieter, fuller breath; start a shade softer."),
                        Cue("the breath ended early", "Let the first beat be gentle, so that the air lasts."),
                    )
                },
            ),
        ),
        column=Column(10, "Hold", ("hold_s",), "s"),
        of_note=_hold,
    ),
)
