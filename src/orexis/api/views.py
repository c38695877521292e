"""Core values as the screen wants them: instruments, material, ladders, exercises with their lanes, traces."""

from collections import Counter
from dataclasses import replace
from datetime import date

import numpy as np

from orexis.api.schemas import (
    ExerciseTypeOut,
    ExerciseView,
    GoalKindOut,
    InstrumentOut,
    LaneOut,
    LaneSpan,
    MaterialOut,
    NoteNameOut,
    PartOut,
    RangeNoteOut,
    RangeOut,
    RangeSummaryOut,
    SessionOut,
    SoundingNote,
    TraceOut,
    WrittenNote,
)
from orexis.core.coach import RangeNote, Reach, caution_for
from orexis.core.exercises import (
    EXERCISE_TYPES,
    Exercise,
    ExerciseType,
    Medium,
    Param,
    Series,
    breathes_in_two_steps,
    exercise_types_for,
)
from orexis.core.instruments import (
    Fingering,
    HandSlide,
    Instrument,
    Part,
    has_slot,
    lowest_pedal,
    partial_frequency_hz,
    partial_near,
    seven_fingerings,
)
from orexis.core.messages import tell
from orexis.core.planning import BOUNDS, GoalKind
from orexis.core.theory import Pitch, nearest_pitch, pitch_of_midi, ratio_of
from orexis.core.trace import Trace
from orexis.services.application import Application
from orexis.services.queries.range_summary import RangeSummary
from orexis.services.values.players import Player, Terms
from orexis.services.values.sessions import PracticeSession

_BEYOND = 5  # semitones over the top that can be wished for


def session_out(session: PracticeSession) -> SessionOut:
    """A session for the screen: without its exercises, which are asked for one by one."""
    return SessionOut(
        id=session.id,
        player_id=session.player_id,
        exercise_type=session.exercise_type,
        title=session.title,
        instrument=session.instrument,
        state=session.state,
        started_at=session.started_at,
        ended_at=session.ended_at,
    )


def exercise_by_terms(house: Application, terms: Terms, exercise: Exercise) -> ExerciseView:
    """An exercise as it is asked and judged by these terms, engraved."""
    instrument, part = terms.own_instrument, terms.written
    exercise_type = EXERCISE_TYPES.get(exercise.exercise_type)
    return exercise_view(
        exercise,
        instrument,
        part,
        a4=terms.a4_hz,
        centre_limit=terms.limits["pitch_error_cents"],
        svg=house.material.svg(exercise, instrument, part),
        caution=caution_for(exercise_type.place if exercise_type else None, terms.care),
    )


def goal_kind_out(kind: GoalKind) -> GoalKindOut:
    """A kind of goal with its bounds."""
    low, high, unit = BOUNDS.get(kind, (0.0, 127.0, "note"))
    return GoalKindOut(id=kind, unit=unit, low=low, high=high)


def instrument_out(instrument: Instrument) -> InstrumentOut:
    """Return an instrument as the page lists it, with its parts and fundamentals."""
    return InstrumentOut(
        id=instrument.id,
        name=instrument.name,
        parts=[
            PartOut(id=part.id, clef=part.clef, semitones=part.transposition.semitones) for part in instrument.parts
        ],
        kind=instrument.kind,
        mechanism="slide" if instrument.slides else "valves",
        valves=_valve_names(instrument),
        moving=[] if isinstance(instrument.mechanism, HandSlide) else list(instrument.mechanism.moving),
        low=instrument.lowest.midi,
        high=instrument.highest.midi,
        source=instrument.source,
    )


def _valve_names(instrument: Instrument) -> list[str]:
    if isinstance(instrument.mechanism, HandSlide):
        return [
            tell("{value}: {valve} valve", value="VW"[i], valve=valve.name)
            for i, valve in enumerate(instrument.mechanism.valves)
        ]
    return [str(number) for number in range(1, instrument.mechanism.count + 1)]


def range_summary_out(person: Player, ladder: RangeSummary) -> RangeSummaryOut:
    """Every semitone with its state; those never tried are none."""
    instrument = person.own_instrument
    part = instrument.part(person.part)
    out = []
    for midi in range(lowest_pedal(instrument).midi, instrument.highest.midi + 1):
        pitch = pitch_of_midi(midi)
        range_note = ladder.range_notes.get(midi, RangeNote(midi))
        out.append(
            RangeNoteOut(
                midi=midi,
                written=part.transposition.written(pitch).name,
                sounding=pitch.name,
                kind="slot" if has_slot(instrument, pitch) else "false",
                state=range_note.state,
                alone=range_note.alone.state,
                in_line=range_note.in_line.state,
                joined=range_note.joined,
                days_held=range_note.days_held,
                clean_days=[date.fromordinal(day).isoformat() for day in sorted(range_note.clean_days)],
                best_match=range_note.best_match,
                best_take=range_note.best_take,
                latest_take=range_note.latest_take,
            )
        )
    return RangeSummaryOut(
        range_notes=out,
        middle=ladder.middle,
        low=ladder.range.low,
        high=ladder.range.high,
        start_up=ladder.start_up,
        start_down=ladder.start_down,
        lopsided=ladder.lopsided,
        alone_low=ladder.alone.low,
        alone_high=ladder.alone.high,
        joined_low=ladder.joined.low,
        joined_high=ladder.joined.high,
        history=[_range_out(day, reach) for day, reach in ladder.history],
    )


def _range_out(day: int, reach: Reach) -> RangeOut:
    return RangeOut(
        day=date.fromordinal(day).isoformat(),
        low=reach.own.low,
        high=reach.own.high,
        alone_low=reach.alone.low,
        alone_high=reach.alone.high,
        joined_low=reach.joined.low,
        joined_high=reach.joined.high,
    )


def material_out(person: Player) -> MaterialOut:
    """Exercise types, notes and fingerings of the instrument in hand."""
    instrument = person.own_instrument
    part = instrument.part(person.part)
    exercise_types = [
        ExerciseTypeOut(
            id=f.id,
            name=f.name,
            place=f.place,
            purpose=f.purpose,
            asks=f.asks,
            listen_for=f.listen_for,
            mistake=f.mistake,
            load=f.load,
            serves=list(f.serves),
            judged=list(f.judged),
            grows=f.grows,
            click=f.click,
            params=_params(person, f),
        )
        for f in exercise_types_for(instrument)
    ]
    notes = [
        NoteNameOut(sounding=pitch.name, written=part.transposition.written(pitch).name)
        for pitch in (
            pitch_of_midi(midi) for midi in range(lowest_pedal(instrument).midi, instrument.highest.midi + _BEYOND + 1)
        )
    ]
    return MaterialOut(
        exercise_types=exercise_types,
        notes=notes,
        fingerings=[fingering.label for fingering in seven_fingerings(instrument)],
    )


def _params(person: Player, exercise_type: ExerciseType) -> list[Param]:
    """An exercise type's parameters; what the player's approaches decide is the default."""
    chosen = exercise_type.approach_params(person.settings.chosen, person.own_instrument)
    return [
        replace(param, default=chosen.get(param.key, param.default))
        for param in exercise_type.specs(person.own_instrument)
    ]


def trace_out(trace: Trace) -> TraceOut:
    """Columns rounded to what a screen can show."""
    f0 = [round(float(value), 3) if np.isfinite(value) else None for value in trace.f0_hz]
    return TraceOut(
        first_s=round(float(trace.time_s[0]), 4) if len(trace) else 0.0,
        hop_s=0.005,
        f0_hz=f0,
        level_db=[round(float(value), 1) for value in trace.level_db],
        tone_to_noise_db=[round(float(value), 1) for value in trace.tone_to_noise_db],
        confidence=[round(float(value), 2) for value in trace.confidence],
    )


def exercise_view(
    exercise: Exercise,
    instrument: Instrument,
    part: Part,
    *,
    a4: float,
    centre_limit: float,
    svg: str,
    caution: str | None = None,
) -> ExerciseView:
    """Return an exercise with its engraving, lanes and the names of its notes as the player reads them."""
    notes = []
    for note in exercise.notes:
        target = exercise.target_hz(note, a4=a4)
        share = note.instrument_cents if note.keep_fingering else 0.0
        notes.append(
            WrittenNote(
                id=note.id,
                written=part.transposition.written(note.pitch).name,
                sounding=note.pitch.name,
                fingering=note.fingering.label,
                target_hz=target,
                expected_hz=target * ratio_of(share),
                start_s=exercise.start_s(note),
                duration_s=note.beats * exercise.beat_s,
            )
        )
    return ExerciseView(
        exercise=exercise,
        notes=notes,
        lanes=lanes_of(exercise, instrument, part, exercise.notes[0].fingering),
        spans=_spans(exercise, instrument, part),
        svg=svg,
        duration_s=exercise.duration_s,
        count_in_s=exercise.count_in_beats * exercise.beat_s,
        two_step_breath=breathes_in_two_steps(exercise, instrument),
        beat_s=exercise.beat_s,
        centre_limit_cents=centre_limit,
        drone_hz=exercise.drone.frequency(a4=a4) if exercise.drone else None,
        sounds=[
            SoundingNote(hz=tone.hz, start_s=tone.start_s, duration_s=tone.end_s - tone.start_s)
            for tone in exercise.sounding(a4=a4)
        ],
        caution=caution,
    )


def titled(exercise: Exercise, part: Part) -> str:
    """Its title, with its note where it is about one: as the player writes it."""
    sounding = {note.pitch.midi: note.pitch for note in exercise.notes}
    if len(sounding) != 1:
        return exercise.title
    return f"{exercise.title}, {part.transposition.written(next(iter(sounding.values()))).name}"


def titles_of(series: Series, part: Part) -> list[str]:
    """A title for each exercise; where several have the same one, with the note it begins on."""
    titles = [titled(exercise, part) for exercise in series.exercises]
    counted = Counter(titles)
    return [
        tell("{title}, from {written}", title=title, written=part.transposition.written(exercise.notes[0].pitch).name)
        if counted[title] > 1
        else title
        for title, exercise in zip(titles, series.exercises, strict=True)
    ]


def lanes_of(exercise: Exercise, instrument: Instrument, part: Part, fingering: Fingering) -> list[LaneOut]:
    """The fingering's slots around the exercise's notes, two beyond on either side; a mouthpiece has none."""
    if exercise.medium != Medium.INSTRUMENT:
        return []
    asked = [exercise.target_hz(note, a4=440.0) for note in exercise.notes]
    low, _ = partial_near(instrument, fingering, min(asked))
    high, _ = partial_near(instrument, fingering, max(asked))
    return [_lane(instrument, part, fingering, partial) for partial in range(max(1, low - 2), min(high + 2, 32) + 1)]


def _spans(exercise: Exercise, instrument: Instrument, part: Part) -> list[LaneSpan]:
    """From one change of fingering to the next; the first reaches back to the count-in, the last to the end."""
    runs: list[tuple[float, Fingering]] = []
    for note in exercise.notes:
        if not runs or runs[-1][1] != note.fingering:
            runs.append((exercise.start_s(note), note.fingering))
    ends = [start for start, _ in runs[1:]] + [exercise.duration_s]
    return [
        LaneSpan(
            from_s=0.0 if i == 0 else start,
            to_s=ends[i],
            fingering=fingering.label,
            lanes=lanes_of(exercise, instrument, part, fingering),
        )
        for i, (start, fingering) in enumerate(runs)
    ]


def _lane(instrument: Instrument, part: Part, fingering: Fingering, partial: int) -> LaneOut:
    hz = partial_frequency_hz(instrument, fingering, partial)
    written: Pitch = part.transposition.written(nearest_pitch(hz))
    return LaneOut(partial=partial, hz=hz, written=written.name, label=fingering.label)
