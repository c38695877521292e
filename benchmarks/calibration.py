"""The ear's error on the simulated player, for `core/player/imagined.py`: `python -m benchmarks.calibration`.

Plays figures by many drawn persons on every horn, hears them, and prints bias and spread of each measure against truth.
"""

import numpy as np

from orexis.core.coach import limits_of
from orexis.core.figures import family_named
from orexis.core.horn import HORNS
from orexis.core.listen import listen
from orexis.core.player import Lips, performance_flaws, person, play

_STAGES = ("starting", "growing", "secure")


def errors(*, takes: int, first_seed: int = 0) -> dict[str, np.ndarray]:
    """Heard minus true, by measure."""
    found: dict[str, list[float]] = {
        name: [] for name in ("centre_cents", "sag_cents", "entry_cents", "response_ms", "gap_ms", "caught_ms")
    }
    horns = list(HORNS.values())
    for k in range(takes):
        horn, stage = horns[k % len(horns)], _STAGES[k // len(horns) % 3]
        family = ("long-low-tones", "two-partial-slur")[k // 2 % 2]
        figure = family_named(family).series(horn).figures[0]
        flaws = performance_flaws(person(first_seed + k, stage=stage), Lips(), figure, seed=k)
        sound, _ = play(figure, flaws=flaws, seed=k)
        got = listen(sound, horn=horn, figure=figure, limits=limits_of(stage), a4=440.0, first_beat_s=0.0).measures
        for note in got.notes:
            if note.target is None or not note.right:
                continue
            for name, flaw in (
                ("centre_cents", "centre"),
                ("sag_cents", "sag"),
                ("entry_cents", "entry"),
                ("response_ms", "response"),
            ):
                value = getattr(note, "judged_cents" if name == "centre_cents" else name)
                if value is not None:
                    found[name].append(value - flaws.size(flaw, 0.0, note.target))
        for move in got.moves:
            target = got.notes[move.after].target
            gap, caught = flaws.find("gap", target), flaws.find("caught", target)
            if gap and move.gap_ms:
                found["gap_ms"].append(move.gap_ms - gap.size)
            if caught and move.caught:
                found["caught_ms"].append(move.caught[0].ms - caught.extra)
    return {name: np.array(values) for name, values in found.items()}


if __name__ == "__main__":
    for name, values in errors(takes=160).items():
        middle = np.median(values)
        spread = 1.4826 * np.median(np.abs(values - middle))
        print(
            f"{name:14} n {len(values):4}   bias {middle:6.2f}   spread {spread:6.2f}   p95 {np.percentile(np.abs(values), 95):6.1f}"
        )
