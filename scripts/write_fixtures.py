"""Write the snapshots that the front end's tests read: real answers of the back end, through the same types."""

import json
from pathlib import Path

from orexis.api.views import exercise_view, trace_out
from orexis.core.coach import limits_of
from orexis.core.exercises import exercise_type_named
from orexis.core.instruments import instrument_named
from orexis.core.listen import JudgingTerms, ListeningTask, listen
from orexis.core.player import parse_flaws, play
from orexis.services.documents import plain

OUT = Path("frontend/src/lib/fixtures")


def slur() -> dict[str, object]:
    """A slur on the tuba with a gap before its second note."""
    instrument = instrument_named("tuba-eb")
    exercise = exercise_type_named("two-partial-slur").series(instrument).exercises[0]
    sound, _ = play(exercise, flaws=parse_flaws(["gap=130ms@n2"]), seed=1)
    limits = limits_of("developing")
    heard = listen(sound, ListeningTask(instrument, exercise, first_beat_s=0.0), JudgingTerms(limits))
    assert heard.verdict is not None
    part = instrument.parts[0]
    view = exercise_view(
        exercise, instrument, part, a4=440.0, centre_limit=limits["pitch_error_cents"], svg="<svg></svg>"
    )
    return {
        "exercise": view.model_dump(mode="json"),
        "trace": trace_out(heard.trace.part(3.0, 5.5)).model_dump(mode="json"),
        "verdict": plain(heard.verdict),
        "measures": plain(heard.measures),
    }


def main() -> None:
    """Write them all."""
    OUT.mkdir(parents=True, exist_ok=True)
    (OUT / "slur.json").write_text(json.dumps(slur(), indent=1) + "\n")


if __name__ == "__main__":
    main()
