"""Loudness is judged wherever it is written: flat playing is not held, playing as asked is. Truth: the simulated player."""

import pytest

from orexis.core.coach import Outcome, Verdict, limits_of
from orexis.core.coach.judging.basics import judged_in
from orexis.core.figures import FAMILIES, Figure
from orexis.core.horn import horn_named
from orexis.core.listen import listen
from orexis.core.player import parse_flaws, play
from tests.conftest import some

HORNS = ("trombone-tenor",)  # it has all that the others have, and glides
# Figures that ask for loudness: family, parameters, which of the series.
ASKED = (
    ("step-ladder", {"forms": "plain, soft, loud, short, swelling, fading"}, 0),
    ("glide-ladder", {}, 1),
    ("two-partial-slur", {"loudness": "grow"}, 0),
    ("two-partial-slur", {"loudness": "ease", "rhythm": "eighths"}, 0),
    ("partial-chain", {"loudness": "ease"}, 0),
    ("partial-chain", {"loudness": "grow", "count": "5", "partial": "2"}, 0),
    ("wide-slur", {"loudness": "ease"}, 0),
    ("add-one-arpeggio", {"loudness": "grow"}, 1),
    ("chain-octave-down", {"loudness": "ease"}, 0),
    ("one-octave-scale", {"loudness": "grow"}, 0),
    ("one-octave-scale", {"loudness": "ease"}, 0),
    ("triad-with-reset", {}, 0),
    ("to-the-pedal", {}, 0),
    ("pedal-sets", {"notes": "8"}, 0),
    ("shaped-tones", {}, 2),
)


def figures(horn: str) -> list[Figure]:
    made = []
    for family, params, index in ASKED:
        if FAMILIES[family].suits(horn_named(horn)):
            made.append(FAMILIES[family].series(horn_named(horn), params).figures[index])
    return made


def verdict(figure: Figure, *flaws: str, standard: str = "developing", seed: int = 2) -> Verdict:
    sound, _ = play(figure, flaws=parse_flaws(flaws), seed=seed)
    heard = listen(
        sound,
        horn=horn_named(figure.horn),
        figure=figure,
        limits=limits_of(standard),
        a4=440.0,
        first_beat_s=0.0,
    )
    assert heard.verdict is not None
    return heard.verdict


@pytest.mark.parametrize(("horn", "third"), some([(horn, third) for third in range(3) for horn in HORNS], 1))
def test_flat_playing_is_not_held_and_playing_as_asked_is(horn: str, third: int) -> None:
    for figure in figures(horn)[third::3]:
        flat, asked = verdict(figure, "flat=1"), verdict(figure)
        reasons = {finding.reason for finding in flat.findings}
        assert flat.outcome != Outcome.CLEAN, figure.id
        assert reasons & {"dynamics", "shape", "loudness", "rise"}, (figure.id, reasons)
        assert asked.outcome == Outcome.CLEAN, (figure.id, asked.reason, asked.note, asked.value)


def test_the_other_way_round_is_told_with_how_far_it_fell_short() -> None:
    figure = FAMILIES["two-partial-slur"].series(horn_named("trumpet-bb"), {"loudness": "grow"}).figures[0]
    high, low = figure.notes[0].id, figure.notes[1].id
    told = verdict(figure, f"level=-24db@{high}", f"level=-20db@{low}", f"level=-24db@{figure.notes[2].id}")
    found = next(finding for finding in told.findings if finding.reason == "dynamics")
    assert found.value == pytest.approx(-4.0, abs=1.5)
    assert found.limit == 2.0


def test_a_beginner_is_asked_for_the_direction_alone() -> None:
    figure = FAMILIES["partial-chain"].series(horn_named("trombone-tenor"), {"loudness": "grow"}).figures[0]
    top = max(figure.notes, key=lambda note: note.pitch.midi).id
    flaws = [f"level={-22 if note.id == top else -23}db@{note.id}" for note in figure.notes]
    reasons = [
        {f.reason for f in verdict(figure, *flaws, standard=standard).findings}
        for standard in ("beginner", "developing")
    ]
    assert "dynamics" not in reasons[0]
    assert "dynamics" in reasons[1]


def test_every_figure_that_writes_a_dynamic_judges_it() -> None:
    for family in FAMILIES.values():
        horn = horn_named("trombone-tenor")
        for figure in family.series(horn, {}).figures:
            marks = {note.dynamic for note in figure.notes if note.dynamic} | {figure.dynamic}
            if figure.judged and len(marks) > 1 and not {"endurance", "siren"} & set(figure.judged):
                assert {"dynamics", "loudness_by_height", "rise"} & set(judged_in(figure)), figure.id
