"""Against the pulse: trills and timing."""

from itertools import pairwise
from statistics import median

from orexis.core.coach.judging.declare import Cue, Judged, Limit, Reason
from orexis.core.coach.judging.sheet import Sheet
from orexis.core.schools import Ask, Choice

_FEWEST_ONSETS, _HEARD_SHARE = 4, 0.75


def _trill(sheet: Sheet) -> None:
    asked = sheet.figure.least("trill")
    if asked is None:
        return
    rate = _fastest_rate(sheet) or sheet.measures.figure.trill_hz
    if rate is None:
        sheet.skipped.add("trill")
    elif rate < asked:
        sheet.find("trill", value=rate, limit=round(asked, 2), unit="Hz", least=True)


def _fastest_rate(sheet: Sheet) -> float | None:
    """There-and-backs a second over the figure's shortest notes, from the first of them to the last."""
    shortest = min(note.beats for note in sheet.figure.notes)
    wanted = {note.id for note in sheet.figure.notes if note.beats < shortest + 1e-6}
    onsets = [n.onset_s for n in sheet.measures.notes if n.target in wanted and n.right and n.onset_s is not None]
    if len(onsets) < _HEARD_SHARE * len(wanted) or len(onsets) < _FEWEST_ONSETS:
        return None
    apart = median(later - earlier for earlier, later in pairwise(sorted(onsets)))
    return round(1.0 / (2.0 * apart), 2) if apart > 0 else None


def _timing(sheet: Sheet) -> None:
    spread, limit = sheet.measures.figure.timing_spread_ms, sheet.limits["timing_spread_ms"]
    if spread is None:
        sheet.skipped.add("timing")
    elif spread > limit:
        sheet.find("timing", value=spread, limit=limit, unit="ms")


PULSE = (
    Judged(
        "trill",
        "there-and-backs a second over the shortest notes",
        (
            Reason(
                "trill",
                "the trill",
                "{value:1} a second of {limit:1}",
                {
                    "": (
                        Cue("slower than was asked", "Halve the tempo, clean; then one notch up at a time."),
                        Cue("slower than was asked", "Say 'ee-oo' with the tongue, the lips quiet.", body=True),
                        Cue(
                            "slower than was asked",
                            "Let the jaw shake lightly with the trill.",
                            True,
                            (Ask.SLURS_LED_BY, Choice.JAW_AND_LIP),
                        ),
                    )
                },
            ),
        ),
        of_whole=_trill,
    ),
    Judged(
        "timing",
        "spread of the onsets against the click, or against the player's own pulse",
        (
            Reason(
                "timing",
                "the pulse",
                "the rhythm was uneven by {value} ms (limit {limit})",
                {
                    "": (
                        Cue(
                            "uneven against the pulse",
                            "Say the rhythm aloud with the click, then move exactly on the beat.",
                        ),
                        Cue(
                            "uneven against the pulse",
                            "Slower, counting the small beats; place the move, do not wait for it.",
                        ),
                    )
                },
            ),
        ),
        limits=(Limit("timing_spread_ms", "Timing spread, ms", (80.0, 50.0, 30.0, 20.0)),),
        of_whole=_timing,
    ),
)
