"""How the simulated player plays when it stands in for a person: a few manners, each a set of flaws drawn by seed."""

import numpy as np

from orexis.core.exercises import Exercise
from orexis.core.player.flaws import Flaw, Flaws


def manner_flaws(manner: str, exercise: Exercise, seed: int) -> Flaws:
    """The flaws of one performance. `clean` has none but those of every living lip."""
    rng = np.random.default_rng(seed)
    if manner == "clean":
        return Flaws()
    flaws = [
        Flaw("centre", size=float(rng.normal(0.0, 6.0))),
        Flaw("sag", size=float(rng.normal(-4.0, 4.0))),
        Flaw("entry", size=float(rng.normal(-12.0, 14.0)), extra=float(rng.uniform(60.0, 140.0))),
        Flaw("response", size=float(rng.uniform(20.0, 70.0))),
        Flaw("noise", size=-66.0),
    ]
    slurred = [note for note in exercise.notes if note.slurred]
    if manner == "sagging":
        flaws.append(Flaw("sag", size=float(rng.uniform(-34.0, -20.0))))
    elif manner == "sliding":
        flaws.append(Flaw("entry", size=float(rng.uniform(-95.0, -65.0)), extra=float(rng.uniform(300.0, 420.0))))
    elif manner == "breathless":
        flaws.append(Flaw("hold", size=float(rng.uniform(0.35, 0.6)) * exercise.notes[-1].beats * exercise.beat_s))
        flaws += [Flaw("gap", size=float(rng.uniform(80.0, 170.0)), note=slurred[-1].id)] if slurred else []
    elif manner == "catching" and slurred:
        beyond = max(note.partial for note in exercise.notes) + 1
        flaws.append(Flaw("caught", size=float(beyond), extra=float(rng.uniform(55.0, 110.0)), note=slurred[-1].id))
    return Flaws(tuple(flaws))
