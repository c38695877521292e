"""Measures made without sound, held against those of sound: flaws of known size played, heard, and written down directly."""

import numpy as np

from orexis.core.coach import limits_of
from orexis.core.exercises import Exercise, exercise_type_named
from orexis.core.instruments import instrument_named
from orexis.core.listen import JudgingTerms, ListeningTask, listen
from orexis.core.measures import Measures
from orexis.core.player import Flaws, parse_flaws, performance_flaws, person, play
from orexis.core.player.person import SimulatedLips
from orexis.core.rehearsal import measured

INSTRUMENTS = ("trumpet-bb", "trombone-tenor", "tuba-eb")
# flaw at its sizes -> exercise type, measure of the note or move that hears it
CASES: tuple[tuple[str, tuple[str, ...], str, str], ...] = (
    ("centre", ("-20c", "-8c", "8c", "20c"), "long-low-tones", "judged_error_cents"),
    ("sag", ("-40c", "-20c", "-8c"), "long-low-tones", "pitch_drift_cents"),
    ("wobble", ("8c/3hz", "16c/3hz", "30c/4hz"), "long-low-tones", "pitch_wobble_cents"),
    ("entry", ("-80c/200ms", "-40c/150ms", "-30c/90ms"), "long-low-tones", "attack_error_cents"),
    ("gap", ("40ms", "80ms", "140ms"), "two-partial-slur", "gap_ms"),
    ("caught", ("5/40ms", "5/80ms", "5/130ms"), "two-partial-slur", "caught"),
)


def calibrated() -> None:
    """Print, for each flaw, what sound gives against what is written without it."""
    print("| flaw | measure | sound / without it, middle | from | to |\n|---|---|---|---|---|")
    for name, sizes, exercise_type, measure in CASES:
        ratios = []
        for instrument in INSTRUMENTS:
            exercise = exercise_type_named(exercise_type).series(instrument_named(instrument), {}).exercises[0]
            target = exercise.notes[0 if exercise_type == "long-low-tones" else 1].id
            for size in sizes:
                flaws = parse_flaws([f"{name}={size}@{target}"])
                heard, made = _value(_heard(exercise, flaws), measure), _value(measured(exercise, flaws), measure)
                if made:
                    ratios.append(heard / made)
        low, middle, high = np.percentile(ratios, (10, 50, 90))
        print(f"| {name} | {measure} | {middle:.2f} | {low:.2f} | {high:.2f} |")
    _people()


def _people() -> None:
    """Verdicts on the same performances by people drawn: by sound and without it."""
    same = held = held_without = count = 0
    for seed in range(1, 13):
        for instrument in INSTRUMENTS:
            for exercise_type in ("long-low-tones", "two-partial-slur"):
                exercise = exercise_type_named(exercise_type).series(instrument_named(instrument), {}).exercises[0]
                flaws = performance_flaws(person(seed), SimulatedLips(0.0), exercise, seed=seed)
                heard, made = (_outcome(m, exercise) for m in (_heard(exercise, flaws), measured(exercise, flaws)))
                count += 1
                same += heard == made
                held += heard
                held_without += made
    print(f"\n{count} performances: held by sound {held}, without it {held_without}, the same in {same}")


def _outcome(measures: Measures, exercise: Exercise) -> bool:
    from orexis.core.coach import judge

    return judge(measures, exercise, limits_of("developing")).outcome == "clean"


def _heard(exercise: Exercise, flaws: Flaws) -> Measures:
    sound, _ = play(exercise, flaws=flaws, seed=3)
    instrument = instrument_named(exercise.instrument)
    return listen(
        sound, ListeningTask(instrument, exercise, first_beat_s=0.0), JudgingTerms(limits_of("developing"))
    ).measures


def _value(measures: Measures, name: str) -> float:
    if name == "gap_ms":
        return float(measures.moves[0].gap_ms or 0.0)
    if name == "caught":
        return float(sum(item.ms for item in measures.moves[0].clipped_partials))
    return float(getattr(measures.notes[0], name) or 0.0)
