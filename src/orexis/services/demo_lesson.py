"""What passed between the demo's player and her teacher: a review request and its answer, and a lesson, each opened as the file it is."""

import tempfile
from datetime import timedelta
from pathlib import Path

from orexis.core.planning import GoalKind, GoalTarget
from orexis.core.player import play
from orexis.services.application import Application
from orexis.services.clock import now
from orexis.services.lessons.use import ChosenItem, LessonWish
from orexis.services.material.exercises import ExerciseRequest
from orexis.services.values.lessons import Exchange
from orexis.services.values.planning import OwnBlock

TEACHER = "Marra Quill"
_REASON = "clipped-partial"


def teach(folder: Path, player_id: str) -> None:
    """The takes of the last slurs are heard; the one that caught another partial is remarked on, and one is nearer."""
    with tempfile.TemporaryDirectory() as elsewhere:
        house, study = Application(folder, locked=False), Application(Path(elsewhere) / "study")
        try:
            _exchange(house, study, player_id, Path(elsewhere))
        finally:
            house.close()
            study.close()


def _exchange(house: Application, study: Application, player_id: str, folder: Path) -> None:
    teacher = study.players.add(name=TEACHER, standard="advanced", instrument="tuba-eb", part="bass").id
    takes = house.log.takes(house.log.page(player_id).sessions[0].id)
    missed = next((take for take in takes if take.reason == _REASON), takes[0])
    held = next((take for take in reversed(takes) if take.outcome == "clean"), takes[-1])
    words = "The slur still clips the partial between. Is it the air?"
    review_request = house.lessons.review_request(
        player_id, (missed.id, held.id), to=TEACHER, title="Slurs, sixteenth week", words=words, weeks=True
    )
    study.lessons.open(teacher, _file(house, review_request, folder))
    first, *_, last = study.takes.get(missed.id).measures.notes
    for note, said in (
        (first, "Full and open. Start the slur from here."),
        (last, "Half the air, and it speaks by itself."),
    ):
        study.marks.add(missed.id, at_s=note.onset_s, nearer=False, words=said, by=TEACHER)
    study.marks.add(held.id, at_s=None, nearer=True, words="this is the gesture", by=TEACHER)
    answer = study.lessons.answer(
        review_request.id, words="Warmer than in autumn. Think of one note that moves.", by=TEACHER
    )
    house.lessons.open(player_id, _file(study, answer, folder))
    house.lessons.open(player_id, _file(study, _lesson(study, teacher), folder))


def _lesson(study: Application, teacher: str) -> Exchange:
    """Two exercises, a day, a goal, and a take to match."""
    person = study.players.get(teacher)
    slurs = study.material.keep(person, "Low slurs, slow", ExerciseRequest("two-partial-slur", {"tempo": "63"}))
    tones = study.material.keep(person, "Three long tones", ExerciseRequest("long-low-tones", {"steps": "3"}))
    blocks = (OwnBlock("long-low-tones", 8.0, {}), OwnBlock("two-partial-slur", 12.0, {}))
    day = study.routines.keep(teacher, "Twenty quiet minutes", blocks)
    target = study.goals.add(teacher, GoalTarget(GoalKind.HOLD, 14.0), (now() + timedelta(days=56)).date())
    session = study.sessions.open(teacher, "two-partial-slur", {"tempo": "63"})
    sound, _ = play(session.exercise, seed=17)
    take = study.takes.whole(session.id, sound, source="simulated", first_beat_sample=0, device={})
    wish = LessonWish(
        "Ottoline",
        "Until the winter concert",
        "Low first, and never louder than the room.",
        (ChosenItem(slurs.id, "as if the bell were full of water"), ChosenItem(tones.id)),
        (ChosenItem(day.id),),
        (ChosenItem(target.id),),
        (ChosenItem(take.id, "this length, this ease"),),
    )
    return study.lessons.lesson(teacher, wish)


def _file(house: Application, exchange: Exchange, folder: Path) -> Path:
    path = folder / f"{exchange.id}.zip"
    path.write_bytes(b"".join(house.lessons.file(exchange.id)))
    return path
