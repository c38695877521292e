"""Core values as the screen wants them: horns, material, ladders, figures with their lanes, traces."""

from collections import Counter
from dataclasses import replace
from datetime import date

import numpy as np

from orexis.api.schemas import (
    AimKindOut,
    FamilyOut,
    FigureView,
    HornOut,
    LadderOut,
    LaneOut,
    LaneSpan,
    MaterialOut,
    NoteNameOut,
    PartOut,
    RangeOut,
    RungOut,
    SessionOut,
    TraceOut,
    WrittenNote,
)
from orexis.core.coach import Reach, Rung, caution_for
from orexis.core.figures import FAMILIES, Family, Figure, Medium, Param, Series, families_for
from orexis.core.horn import (
    HandSlide,
    Instrument,
    Part,
    Tube,
    has_slot,
    lowest_pedal,
    partial_frequency_hz,
    partial_near,
    seven_tubes,
)
from orexis.core.planning import BOUNDS, AimKind
from orexis.core.theory import Pitch, nearest_pitch, pitch_of_midi, ratio_of
from orexis.core.trace import Trace
from orexis.services.application import Application
from orexis.services.players.values import Player, Terms
from orexis.services.queries.ladder import Ladder
from orexis.services.sessions.values import PracticeSession

_BEYOND = 5  # semitones over the top that can be wished for


def session_out(session: PracticeSession) -> SessionOut:
    """A sitting for the screen: without its figures, which are asked for one by one."""
    return SessionOut(
        id=session.id,
        player_id=session.player_id,
        family=session.family,
        title=session.title,
        horn=session.horn,
        state=session.state,
        started_at=session.started_at,
        ended_at=session.ended_at,
    )


def figure_by_terms(house: Application, terms: Terms, figure: Figure) -> FigureView:
    """A figure as it is asked and judged by these terms, engraved."""
    horn, part = terms.instrument, terms.written
    family = FAMILIES.get(figure.family)
    return figure_view(
        figure,
        horn,
        part,
        a4=terms.a4_hz,
        centre_limit=terms.limits["pitch_error_cents"],
        svg=house.material.svg(figure, horn, part),
        caution=caution_for(family.place if family else None, terms.care),
    )


def aim_kind_out(kind: AimKind) -> AimKindOut:
    """A kind of aim with its bounds."""
    low, high, unit = BOUNDS.get(kind, (0.0, 127.0, "note"))
    return AimKindOut(id=kind, unit=unit, low=low, high=high)


def horn_out(horn: Instrument) -> HornOut:
    """A horn for the screen."""
    return HornOut(
        id=horn.id,
        name=horn.name,
        parts=[PartOut(id=part.id, clef=part.clef, semitones=part.transposition.semitones) for part in horn.parts],
        kind=horn.kind,
        mechanism="slide" if horn.slides else "valves",
        valves=_valve_names(horn),
        moving=[] if isinstance(horn.mechanism, HandSlide) else list(horn.mechanism.moving),
        low=horn.lowest.midi,
        high=horn.highest.midi,
        source=horn.source,
    )


def _valve_names(horn: Instrument) -> list[str]:
    if isinstance(horn.mechanism, HandSlide):
        return [f"{'VW'[i]}: {valve.name} valve" for i, valve in enumerate(horn.mechanism.valves)]
    return [str(number) for number in range(1, horn.mechanism.count + 1)]


def ladder_out(person: Player, ladder: Ladder) -> LadderOut:
    """Every semitone with its state; those never tried are none."""
    horn = person.instrument
    part = horn.part(person.part)
    out = []
    for midi in range(lowest_pedal(horn).midi, horn.highest.midi + 1):
        pitch = pitch_of_midi(midi)
        rung = ladder.rungs.get(midi, Rung(midi))
        out.append(
            RungOut(
                midi=midi,
                written=part.transposition.written(pitch).name,
                sounding=pitch.name,
                kind="slot" if has_slot(horn, pitch) else "false",
                state=rung.state,
                alone=rung.alone.state,
                in_line=rung.in_line.state,
                joined=rung.joined,
                days_held=rung.days_held,
                clean_days=[date.fromordinal(day).isoformat() for day in sorted(rung.clean_days)],
                best_match=rung.best_match,
                best_take=rung.best_take,
                latest_take=rung.latest_take,
            )
        )
    return LadderOut(
        rungs=out,
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
    """Families, notes and tubes of the horn in hand."""
    horn = person.instrument
    part = horn.part(person.part)
    families = [
        FamilyOut(
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
        for f in families_for(horn)
    ]
    notes = [
        NoteNameOut(sounding=pitch.name, written=part.transposition.written(pitch).name)
        for pitch in (pitch_of_midi(midi) for midi in range(lowest_pedal(horn).midi, horn.highest.midi + _BEYOND + 1))
    ]
    return MaterialOut(families=families, notes=notes, tubes=[tube.label for tube in seven_tubes(horn)])


def _params(person: Player, family: Family) -> list[Param]:
    """A family's parameters; what the player's schools decide is the default."""
    chosen = family.school_params(person.settings.chosen, person.instrument)
    return [replace(param, default=chosen.get(param.key, param.default)) for param in family.specs(person.instrument)]


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


def figure_view(
    figure: Figure,
    horn: Instrument,
    part: Part,
    *,
    a4: float,
    centre_limit: float,
    svg: str,
    caution: str | None = None,
) -> FigureView:
    """A figure for the screen."""
    notes = []
    for note in figure.notes:
        target = figure.target_hz(note, a4=a4)
        share = note.instrument_cents if note.keep_tube else 0.0
        notes.append(
            WrittenNote(
                id=note.id,
                written=part.transposition.written(note.pitch).name,
                sounding=note.pitch.name,
                tube=note.tube.label,
                target_hz=target,
                expected_hz=target * ratio_of(share),
                start_s=figure.start_s(note),
                duration_s=note.beats * figure.beat_s,
            )
        )
    return FigureView(
        figure=figure,
        notes=notes,
        lanes=lanes_of(figure, horn, part, figure.notes[0].tube),
        spans=_spans(figure, horn, part),
        svg=svg,
        duration_s=figure.duration_s,
        count_in_s=figure.count_in_beats * figure.beat_s,
        beat_s=figure.beat_s,
        centre_limit_cents=centre_limit,
        drone_hz=figure.drone.frequency(a4=a4) if figure.drone else None,
        caution=caution,
    )


def titled(figure: Figure, part: Part) -> str:
    """Its title, with its note where it is about one: as the player writes it."""
    sounding = {note.pitch.midi: note.pitch for note in figure.notes}
    if len(sounding) != 1:
        return figure.title
    return f"{figure.title}, {part.transposition.written(next(iter(sounding.values()))).name}"


def titles_of(series: Series, part: Part) -> list[str]:
    """A title for each figure; where several have the same one, with the note it begins on."""
    titles = [titled(figure, part) for figure in series.figures]
    counted = Counter(titles)
    return [
        f"{title}, from {part.transposition.written(figure.notes[0].pitch).name}" if counted[title] > 1 else title
        for title, figure in zip(titles, series.figures, strict=True)
    ]


def lanes_of(figure: Figure, horn: Instrument, part: Part, tube: Tube) -> list[LaneOut]:
    """The tube's slots around the figure's notes, two beyond on either side; a mouthpiece has none."""
    if figure.medium != Medium.HORN:
        return []
    asked = [figure.target_hz(note, a4=440.0) for note in figure.notes]
    low, _ = partial_near(horn, tube, min(asked))
    high, _ = partial_near(horn, tube, max(asked))
    return [_lane(horn, part, tube, partial) for partial in range(max(1, low - 2), min(high + 2, 32) + 1)]


def _spans(figure: Figure, horn: Instrument, part: Part) -> list[LaneSpan]:
    """From one change of tube to the next; the first reaches back to the count-in, the last to the end."""
    runs: list[tuple[float, Tube]] = []
    for note in figure.notes:
        if not runs or runs[-1][1] != note.tube:
            runs.append((figure.start_s(note), note.tube))
    ends = [start for start, _ in runs[1:]] + [figure.duration_s]
    return [
        LaneSpan(
            from_s=0.0 if i == 0 else start, to_s=ends[i], tube=tube.label, lanes=lanes_of(figure, horn, part, tube)
        )
        for i, (start, tube) in enumerate(runs)
    ]


def _lane(horn: Instrument, part: Part, tube: Tube, partial: int) -> LaneOut:
    hz = partial_frequency_hz(horn, tube, partial)
    written: Pitch = part.transposition.written(nearest_pitch(hz))
    return LaneOut(partial=partial, hz=hz, written=written.name, label=tube.label)
