"""How well notes and what happens between them are read from a trace: onsets, touches, gaps, entries."""

from dataclasses import dataclass, field

import numpy as np

from benchmarks.ear.case import Case, Event
from benchmarks.ear.score import events_found, matched
from orexis.core.instruments import instrument_named
from orexis.core.measures import ClickTrack, ListeningTask, Measures, SoundCheck, measure
from orexis.core.trace import Trace

_WITHIN_S = 0.03
_CHECK = SoundCheck(0.0, 0.0, None, None)
_LONG_TOUCH_S, _LONG_GAP_S = 0.025, 0.02


@dataclass
class Reading:
    true_notes: int = 0
    found_notes: int = 0
    matched_notes: int = 0
    onset_ms: list[float] = field(default_factory=list)
    centre_off: list[float] = field(default_factory=list)
    touches: int = 0
    touches_found: int = 0
    short_touches: int = 0
    short_found: int = 0
    caught: int = 0
    caught_right: int = 0
    gaps: int = 0
    gaps_found: int = 0
    gap_off_ms: list[float] = field(default_factory=list)
    false_gaps: int = 0
    entry_off: list[float] = field(default_factory=list)
    clean_entries: int = 0
    false_entries: int = 0

    def add(self, case: Case, trace: Trace) -> None:
        got = measure(
            trace,
            _CHECK,
            ListeningTask(instrument_named(case.instrument), None),
            click=ClickTrack(at_s=case.clicks_s, peak_db=case.click_db),
        )
        self._notes(case, got)
        if "moves" in case.tags:
            self._moves(case, got)

    def _notes(self, case: Case, got: Measures) -> None:
        rows = [n for n in got.notes if n.onset_s is not None]
        found, true = [float(n.onset_s or 0.0) for n in rows], [n.onset_s for n in case.notes]
        pairs = matched(found, true, _WITHIN_S)
        self.true_notes += len(true)
        self.found_notes += len(found)
        self.matched_notes += len(pairs)
        for i, j in matched(found, true, 0.1):
            note, row = case.notes[j], rows[i]
            self.onset_ms.append(1000.0 * abs(found[i] - true[j]))
            if row.f0_hz and note.release_s - note.onset_s >= 0.5 and abs(1200 * np.log2(row.f0_hz / note.hz)) < 100:
                self.centre_off.append(abs(1200.0 * float(np.log2(row.f0_hz / note.hz))))
            if row.attack_error_cents is None or note.attack_error_cents is None:
                continue
            if note.attack_error_cents == 0.0:
                self.clean_entries += 1
                self.false_entries += abs(row.attack_error_cents) > 10.0
            else:
                self.entry_off.append(abs(row.attack_error_cents - note.attack_error_cents))

    def _moves(self, case: Case, got: Measures) -> None:
        caught = [Event(c.start_s, c.ms / 1000.0, c.f0_hz) for m in got.moves for c in m.clipped_partials]
        long = [t for t in case.touches if t.length_s >= max(_LONG_TOUCH_S, 3.0 / (t.hz or 1.0))]
        short = [t for t in case.touches if t not in long]
        self.touches += len(long)
        self.short_touches += len(short)
        self.touches_found += events_found(long, caught)[0]
        self.short_found += events_found(short, caught)[0]
        self.caught += len(caught)
        self.caught_right += events_found(list(case.touches), caught)[1]
        gaps = [Event(m.gap_start_s, m.gap_ms / 1000.0) for m in got.moves if m.gap_ms and m.gap_start_s is not None]
        gaps += [
            Event(a.release_s, b.onset_s - a.release_s)
            for a, b in zip(got.notes, got.notes[1:], strict=False)
            if a.release_s and b.onset_s and not b.slurred
        ]
        wanted = [g for g in case.gaps if g.length_s >= _LONG_GAP_S]
        self.gaps += len(wanted)
        self.gaps_found += events_found(wanted, gaps)[0]
        if not case.gaps:
            self.false_gaps += sum(1 for m in got.moves if m.gap_ms and m.slurred)
        for true in wanted:
            near = [g for g in gaps if abs(g.start_s - true.start_s) < 0.05]
            self.gap_off_ms += [1000.0 * abs(near[0].length_s - true.length_s)] if near else []

    def exercises(self) -> dict[str, float]:
        def share(part: int, whole: int) -> float:
            return part / whole if whole else float("nan")

        def middle(values: list[float]) -> float:
            return float(np.median(values)) if values else float("nan")

        precision, recall = share(self.matched_notes, self.found_notes), share(self.matched_notes, self.true_notes)
        return {
            "onset median ms": middle(self.onset_ms),
            "onset F1": 2 * precision * recall / (precision + recall) if precision + recall else 0.0,
            "onset precision": precision,
            "onset recall": recall,
            "note centre median c": middle(self.centre_off),
            "note centre p95 c": float(np.percentile(self.centre_off, 95)) if self.centre_off else float("nan"),
            "touch recall": share(self.touches_found, self.touches),
            "touch precision": share(self.caught_right, self.caught),
            "short touch recall": share(self.short_found, self.short_touches),
            "gap recall": share(self.gaps_found, self.gaps),
            "gap off median ms": middle(self.gap_off_ms),
            "false gaps": float(self.false_gaps),
            "entry off median c": middle(self.entry_off),
            "false entries": share(self.false_entries, self.clean_entries),
        }
