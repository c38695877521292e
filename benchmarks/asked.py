"""What an exercise asks for, played without it and as asked: over exercise types, instruments, loudness approaches and seeds.

`python -m benchmarks.asked [--instruments a,b] [--seeds 3] [--basics]`

Without what is asked nothing may be held; played as asked nearly everything must be. With `--basics` what is judged in any
exercise is left out in turn, too. The simulated player plays; limits are those of *growing*.
"""

import argparse
from collections import Counter, defaultdict
from collections.abc import Callable
from concurrent.futures import ProcessPoolExecutor
from dataclasses import dataclass, replace

from orexis.core.coach import limits_of
from orexis.core.coach.judging.basics import judged_measures_of, left_at
from orexis.core.coach.judging.dynamics import written_dynamics
from orexis.core.coach.judging.length import asks_length
from orexis.core.exercises import DYNAMICS, EXERCISE_TYPES, Exercise, ExerciseNote, Loudness, Medium, at_tempo
from orexis.core.instruments import Instrument, instrument_named
from orexis.core.listen import ClickTrack, JudgingTerms, ListeningTask, listen
from orexis.core.player import parse_flaws, play
from orexis.core.sound import Sound
from orexis.core.theory import pitch_of_midi
from orexis.errors import OrexisError

INSTRUMENTS = ("trumpet-bb", "horn-f-bb", "trombone-bass", "euphonium-bb-comp", "tuba-f-5")
_PARAMS = {"pedal-sets": {"notes": "8", "beats": "3", "sets": "1"}, "loose-pedals": {"steps": "2"}}
_MOST_EXERCISES = 3
NOT_ASKED = {"tone_match", "endurance"}  # compared with other takes


@dataclass(frozen=True, slots=True)
class Performance:
    """What is played instead: the same with flaws, another exercise, or another sound at one note (by id)."""

    flaws: tuple[str, ...] = ()
    exercise: Exercise | None = None
    other_sound_at: str | None = None


Leaves = Callable[[Exercise], Performance | None]


def _note(exercise: Exercise, wanted: Callable[[int, ExerciseNote], bool]) -> ExerciseNote | None:
    return next((note for at, note in enumerate(exercise.notes) if wanted(at, note)), None)


def _tongued(_at: int, note: ExerciseNote) -> bool:
    return not note.slurred and not note.free


def _joined(at: int, note: ExerciseNote) -> bool:
    return at > 0 and note.slurred and note.glide_beats <= 0.0


def _long(exercise: Exercise) -> ExerciseNote:
    return max(exercise.notes, key=lambda note: note.beats)


def _at(wanted: Callable[[int, ExerciseNote], bool], flaw: str) -> Leaves:
    def leaves(exercise: Exercise) -> Performance | None:
        note = _note(exercise, wanted)
        return Performance((f"{flaw}@{note.id}",)) if note else None

    return leaves


def _on_long(flaw: str, measure: str) -> Leaves:
    """At the longest note at which that is judged."""

    def leaves(exercise: Exercise) -> Performance | None:
        judged = [note for note in exercise.notes if measure not in left_at(exercise, note)]
        return Performance((f"{flaw}@{max(judged, key=lambda note: note.beats).id}",)) if judged else None

    return leaves


def _caught(exercise: Exercise) -> Performance | None:
    """Another slot of the fingering is touched on the way: one between, or the one beyond."""
    for before, note in zip(exercise.notes, exercise.notes[1:], strict=False):
        if (
            note.slurred
            and note.glide_beats <= 0.0
            and before.fingering == note.fingering
            and before.partial != note.partial
        ):
            low, high = sorted((before.partial, note.partial))
            return Performance((f"caught={low + 1 if high > low + 1 else high + 1}/120ms@{note.id}",))
    return None


def _split(exercise: Exercise) -> Performance | None:
    note = _note(exercise, _tongued)
    return Performance((f"split={note.partial + 1}/130ms@{note.id}",)) if note else None


def _hold(exercise: Exercise) -> Performance | None:
    note = _note(exercise, lambda _at, one: one.to_breath_end)
    return Performance((f"hold={0.35 * note.beats * exercise.beat_s:.2f}s@{note.id}",)) if note else None


def _short(exercise: Exercise) -> Performance | None:
    """The longest note whose length is judged is let go at once."""
    judged = [note for note in exercise.notes if asks_length(exercise, note)]
    if not judged:
        return None
    longest = max(judged, key=lambda note: note.beats)
    return Performance((f"hold={0.2 * longest.beats * exercise.beat_s:.2f}s@{longest.id}",))


def _unbent(exercise: Exercise) -> Performance | None:
    """The lip does not lead: the bent note stays where its slot is."""
    for before, note in zip(exercise.notes, exercise.notes[1:], strict=False):
        if note.slurred and (before.fingering, before.partial) == (note.fingering, note.partial):
            off = 100 * (before.pitch.midi - note.pitch.midi)
            if off:
                return Performance((f"centre={off}c@{note.id}",))
    return None


def _not_back(exercise: Exercise) -> Performance | None:
    bent = [
        (before, note)
        for before, note in zip(exercise.notes, exercise.notes[1:], strict=False)
        if note.slurred and (before.fingering, before.partial) == (note.fingering, note.partial)
    ]
    back = next((note for before, note in bent if note.pitch.midi > before.pitch.midi), None)
    return Performance((f"centre=-45c@{back.id}",)) if back else None


def _slower_trill(exercise: Exercise) -> Performance:
    return Performance(exercise=at_tempo(exercise, 66))


def _waved(exercise: Exercise) -> Performance:
    shortest = min(note.beats for note in exercise.notes)
    low = min(note.pitch.midi for note in exercise.notes)
    quick = [note for note in exercise.notes if note.beats < shortest + 1e-6]
    return Performance(tuple(f"centre={60 if note.pitch.midi == low else -60}c@{note.id}" for note in quick))


def _narrow(exercise: Exercise) -> Performance:
    low = min(note.pitch.midi for note in exercise.notes)
    near = [replace(n, pitch=pitch_of_midi(low + (n.pitch.midi - low) // 2)) for n in exercise.notes]
    return Performance(exercise=replace(exercise, notes=tuple(near)))


def _unled(exercise: Exercise) -> Performance:
    return Performance(exercise=replace(exercise, notes=tuple(replace(note, text=None) for note in exercise.notes)))


def _short_set(exercise: Exercise) -> Performance:
    return Performance(tuple(f"level=-80db@{note.id}" for note in exercise.notes[1::2]))


def _out_of_time(exercise: Exercise) -> Performance:
    return Performance(tuple(f"late={260 if at % 2 else -160}ms@{n.id}" for at, n in enumerate(exercise.notes) if at))


def _top(exercise: Exercise) -> Performance:
    """The highest note in another sound than the rest."""
    top = max(exercise.notes, key=lambda note: note.pitch.midi)
    return Performance(other_sound_at=top.id)


def _fallen(exercise: Exercise) -> Performance | None:
    """The longest note that is let go, and is not slurred away from, falls at its end."""
    after = [*exercise.notes[1:], None]
    let_go = [
        note
        for note, later in zip(exercise.notes, after, strict=True)
        if (later is None or not later.slurred) and "fall_off" not in left_at(exercise, note)
    ]
    if not let_go:
        return None
    return Performance((f"fall-off=-110c@{max(let_go, key=lambda note: note.beats).id}",))


def _dropped(exercise: Exercise) -> Performance | None:
    """A note in the middle of a line without written change is much softer than its neighbours."""
    plain = exercise.loudness in (None, Loudness.EVEN) and len(written_dynamics(exercise)) == 1
    notes = [note for note in exercise.notes if not note.free and not note.accent and note.shape in (None, "steady")]
    if not plain or len(notes) < max(4, len(exercise.notes)):
        return None
    return Performance((f"level=-46db@{notes[len(notes) // 2].id}",))


def _unshaped(exercise: Exercise) -> Performance:
    steady = all(note.shape in (None, "steady") for note in exercise.notes)
    return Performance((f"fade=14db@{_long(exercise).id}",) if steady else ("flat=1",))


def _other_height(exercise: Exercise) -> Performance:
    """Flat where it should grow or ease, growing where it should stay even."""
    if exercise.loudness != Loudness.EVEN:
        return Performance(("flat=1",))
    ordered = sorted({note.pitch.midi for note in exercise.notes})
    marks = {midi: DYNAMICS[min(5, 1 + 4 * at // max(1, len(ordered) - 1))] for at, midi in enumerate(ordered)}
    return Performance(
        exercise=replace(exercise, notes=tuple(replace(n, dynamic=marks[n.pitch.midi]) for n in exercise.notes))
    )


LEAVES: dict[str, Leaves] = {
    "pitch": _on_long("centre=48c", "pitch"),
    "pitch_wobble": _on_long("wobble=45c/3hz", "pitch_wobble"),
    "pitch_drift": _on_long("sag=-75c", "pitch_drift"),
    "attack": _at(_tongued, "entry=-150c/350ms"),
    "fall_off": _fallen,
    "response": _at(_tongued, "response=450ms"),
    "hold": _hold,
    "length": _short,
    "splits": _split,
    "gap": _at(_joined, "gap=260ms"),
    "clipped_partial": _caught,
    "bump": _at(_joined, "bump=16db"),
    "overshoot": _at(_joined, "overshoot=140c"),
    "one_breath": _at(lambda at, _note: at >= 2, "breathes=1"),
    "glide": _at(lambda _at, note: note.glide_beats > 0.0, "glide=0"),
    "level_wobble": _on_long("fade=18db", "level_wobble"),
    "line_level": _dropped,
    "breath_noise": lambda _exercise: Performance(("inhale=-14db/900ms",)),
    "tone_clarity": lambda _exercise: Performance(("breath=-5db",)),
    "start": lambda exercise: Performance((f"late=450ms@{exercise.notes[0].id}",)) if exercise.click else None,
    "timing": _out_of_time,
    "shape": _unshaped,
    "dynamics": lambda _exercise: Performance(("flat=1",)),
    "loudness_by_height": _other_height,
    "rise": lambda _exercise: Performance(("flat=1",)),
    "bend": _unbent,
    "dip": _at(lambda at, _note: at == 0, "sag=-60c"),
    "bend_back": _not_back,
    "trill": _slower_trill,
    "lock": _waved,
    "pulse": lambda exercise: Performance(("flat=1",)) if exercise.least("pulse") else None,
    "siren": _narrow,
    "ring": _unled,
    "count": _short_set,
    "two_ways": _at(lambda at, _note: at == 1, "centre=-55c"),
    "tone_match_across": _top,
}
Case = tuple[
    str, str, str, int, str | None, int
]  # instrument, exercise type, loudness, exercise, what is left out (None: nothing), seed


def series_of(instrument: Instrument, exercise_type_id: str, loudness: str) -> tuple[Exercise, ...]:
    """The exercise type's exercises at its defaults, by one approach of loudness."""
    params = dict(_PARAMS.get(exercise_type_id, {}))
    if loudness:
        params["loudness"] = loudness
    return EXERCISE_TYPES[exercise_type_id].series(instrument, params).exercises


def performed(played: Performance, exercise: Exercise, seed: int) -> Sound:
    """The sound of it; another sound at a note is cut in from a pinched performance of the same seed."""
    sound, truth = play(played.exercise or exercise, flaws=parse_flaws(played.flaws), seed=seed)
    if played.other_sound_at is None:
        return sound
    pinched, _ = play(exercise, flaws=parse_flaws(("pinched=9db",)), seed=seed)
    note = next(item for item in truth.notes if item.id == played.other_sound_at)
    start, end = (round(at * sound.rate) for at in (note.onset_s, note.release_s))
    samples = sound.samples.copy()
    samples[start:end] = pinched.samples[start:end]
    return Sound(samples, sound.rate)


def outcome(case: Case) -> tuple[Case, str, tuple[str, ...]]:
    """What the ear says of one performance: outcome and reasons."""
    instrument_id, exercise_type, loudness, index, left, seed = case
    instrument = instrument_named(instrument_id)
    exercise = series_of(instrument, exercise_type, loudness)[index]
    played = Performance() if left is None else LEAVES[left](exercise)
    assert played is not None
    sound = performed(played, exercise, seed)
    task, click = ListeningTask(instrument, exercise, first_beat_s=0.0), ClickTrack(delay_s=0.0)
    heard = listen(sound, task, JudgingTerms(limits_of("developing")), click=click)
    assert heard.verdict is not None
    return case, heard.verdict.outcome, tuple(finding.reason for finding in heard.verdict.findings)


def kinds(exercises: tuple[Exercise, ...]) -> list[int]:
    """Exercises that ask for different things, a few of them."""
    seen: dict[object, int] = {}
    for at, exercise in enumerate(exercises):
        shapes = frozenset(note.shape for note in exercise.notes)
        seen.setdefault((judged_measures_of(exercise), shapes, len(exercise.notes) > 1), at)
    return list(seen.values())[:_MOST_EXERCISES]


def cases(instruments: list[str], seeds: int, *, basics: bool) -> list[Case]:
    """All of them."""
    found: list[Case] = []
    for instrument_id in instruments:
        instrument = instrument_named(instrument_id)
        for exercise_type in EXERCISE_TYPES.values():
            if not exercise_type.suits(instrument) or not exercise_type.judged:
                continue
            asks_loudness = any(param.key == "loudness" for param in exercise_type.params(instrument))
            for loudness in ("grow", "even", "ease") if asks_loudness else ("",):
                exercises = series_of(instrument, exercise_type.id, loudness)
                for index in kinds(exercises):
                    exercise = exercises[index]
                    asked = judged_measures_of(exercise) if basics else _own(exercise)
                    wanted = [
                        m for m in asked if m in LEAVES and LEAVES[m](exercise) is not None and m not in NOT_ASKED
                    ]
                    for seed in range(1, seeds + 1):
                        found += [
                            (instrument_id, exercise_type.id, loudness, index, left, seed) for left in (None, *wanted)
                        ]
    return found


def _own(exercise: Exercise) -> tuple[str, ...]:
    """What the exercise itself asks for, and all that is written in it."""
    written = {"dynamics", "loudness_by_height", "rise", "shape", "glide"}
    if exercise.medium == Medium.AIR:
        return ()
    return tuple(name for name in judged_measures_of(exercise) if name in exercise.judged or name in written)


def main() -> None:
    """Play, judge, print the tables."""
    read = argparse.ArgumentParser(description=__doc__)
    read.add_argument("--instruments", default=",".join(INSTRUMENTS))
    read.add_argument("--seeds", type=int, default=3)
    read.add_argument("--basics", action="store_true")
    read.add_argument("--wrong", action="store_true", help="name each case that came out wrong")
    read.add_argument("--only", default="", help="leave out this alone")
    given = read.parse_args()
    asked = cases(given.instruments.split(","), given.seeds, basics=given.basics)
    if given.only:
        asked = [case for case in asked if case[4] == given.only]
    by_exercise_type: dict[str, Counter[str]] = defaultdict(Counter)
    by_measure: dict[str, Counter[str]] = defaultdict(Counter)
    with ProcessPoolExecutor(2) as pool:
        for case, said, reasons in pool.map(outcome, asked, chunksize=4):
            _, exercise_type, _, _, left, _ = case
            held = said == "clean"
            kind = "as asked" if left is None else "without"
            for rows, name in ((by_exercise_type, exercise_type), (by_measure, left or "as asked")):
                rows[name][kind] += 1
                rows[name][f"{kind} held"] += held
            if given.wrong and held != (left is None):
                print(case, said, reasons, flush=True)
    for title, rows in (("exercise_type", by_exercise_type), ("left out", by_measure)):
        print(f"\n| {title} | without it | held | as asked | held |\n|---|---|---|---|---|")
        for name, row in sorted(rows.items()):
            print(f"| {name} | {row['without']} | {row['without held']} | {row['as asked']} | {row['as asked held']} |")
    total: Counter[str] = sum(by_exercise_type.values(), Counter())
    share = total["as asked held"] / max(1, total["as asked"])
    print(
        f"\nwithout what is asked {total['without held']} of {total['without']} held; as asked {share:.1%} of {total['as asked']}"
    )


if __name__ == "__main__":
    try:
        main()
    except OrexisError as error:
        raise SystemExit(str(error)) from error
