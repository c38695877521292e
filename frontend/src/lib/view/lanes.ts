/** Where things lie in the lanes picture: values in, geometry out, no drawing. Height is log frequency. */
import type { ExerciseView } from '../api/client';
import { isFree } from './take';

export type Lane = { y: number; half: number; partial: number; written: string; asked: boolean };
/** The lanes of one fingering, from x to x: when the fingering changes, the lanes move. */
export type LaneRun = { from: number; to: number; fingering: string; lanes: Lane[] };
/** `glide`: where an asked glide into this note begins. */
export type Bar = {
  id: string;
  name: string;
  x: number;
  width: number;
  y: number;
  half: number;
  glide: { x: number; y: number } | null;
};
/** The close look under the lanes: cents against each note's place, enlarged, on the same time axis. */
export type Strip = { top: number; height: number; middle: number; perCent: number; limit: number };
export type Scene = {
  width: number;
  height: number;
  left: number;
  zoomed: boolean;
  fingering: string;
  strip: Strip | null;
  runs: LaneRun[];
  /** The lanes in use where the picture looks: those that are labelled. */
  lanes: Lane[];
  bars: Bar[];
  beats: { x: number; first: boolean }[];
  xOf: (time: number) => number;
  timeOf: (x: number) => number;
  yOf: (hz: number) => number;
};

const SLOT_CENTS = 45; // how far a lane's hatching reaches: the slot's pull fades over about a quarter tone
const ZOOM_CENTS = 60;
const ZOOM_SECONDS = 10;
const LEAST_HALF = 5;
const STRIP_HEIGHT = 92;
const STRIP_CENTS = 50;
const BELOW_CENTS = 560; // how far below the lowest and above the highest asked note lanes are shown
const ABOVE_CENTS = 720;

export type View = { width: number; height: number; left: number; firstBeat: number; now: number | null };

export function sceneOf(exercise: ExerciseView, view: View): Scene {
  const zoomed = exercise.notes.length === 1 && !isFree(exercise);
  const span = zoomed ? zoomSpan(exercise, view) : wholeSpan(exercise, view);
  const range = zoomed ? zoomRange(exercise) : wholeRange(exercise);
  const xOf = (time: number) =>
    view.left + ((time - span.from) / (span.to - span.from)) * (view.width - view.left - 12);
  const timeOf = (x: number) => span.from + ((x - view.left) / (view.width - view.left - 12)) * (span.to - span.from);
  const logHigh = Math.log2(range.high);
  const free = isFree(exercise);
  const strip = free || zoomed || view.height < 240 ? null : stripOf(exercise, view);
  const tall = strip ? strip.top : view.height;
  const perOctave = (tall - 28) / (logHigh - Math.log2(range.low));
  const yOf = (hz: number) => 10 + (logHigh - Math.log2(hz)) * perOctave;
  const half = (c: number) => (c / 1200) * perOctave;
  const runs = exercise.spans.map((part, i) =>
    runOf(exercise, part, i, { range, yOf, half: half(SLOT_CENTS), xOf, view }),
  );
  const here = runs.find((run) => xOf(view.now ?? 0) < run.to) ?? runs[runs.length - 1];
  const lanes = here?.lanes ?? [];
  const bars: Bar[] = [];
  for (const [i, note] of exercise.notes.entries()) {
    const x = xOf(Math.max(span.from, view.firstBeat + note.start_s));
    const end = xOf(Math.min(span.to, view.firstBeat + note.start_s + note.duration_s));
    const before = bars.at(-1);
    const glides = (exercise.exercise.notes[i]?.glide_beats ?? 0) * exercise.beat_s;
    const glide = glides && before ? { x: xOf(view.firstBeat + note.start_s - glides), y: before.y } : null;
    if (glide && before) before.width = Math.max(0, glide.x - before.x);
    bars.push({
      id: note.id,
      name: note.written,
      x,
      width: Math.max(0, end - x - 3),
      y: yOf(note.expected_hz),
      half: Math.max(LEAST_HALF, half(exercise.centre_limit_cents)),
      glide,
    });
  }
  const fingering = here?.fingering ?? '';
  // Where nothing was asked, no bars lie in the picture and no beats: the lanes follow what was heard.
  const asked = free ? { bars: [], beats: [] } : { bars, beats: beatsOf(exercise, view, span, xOf) };
  return { ...view, zoomed, fingering, strip, runs, lanes, ...asked, xOf, timeOf, yOf };
}

type Span = { from: number; to: number };
type Frame = {
  range: { low: number; high: number };
  yOf: (hz: number) => number;
  xOf: (time: number) => number;
  half: number;
  view: View;
};

function runOf(exercise: ExerciseView, part: ExerciseView['spans'][number], index: number, frame: Frame): LaneRun {
  const { range, yOf, xOf, half, view } = frame;
  const last = index === exercise.spans.length - 1;
  const asked = new Set(
    exercise.exercise.notes
      .filter((_, i) => exercise.notes[i]?.fingering === part.fingering)
      .map((note) => note.partial),
  );
  const lanes = part.lanes
    .filter((lane) => lane.hz > range.low && lane.hz < range.high)
    .map((lane) => ({
      y: yOf(lane.hz),
      half,
      partial: lane.partial,
      written: lane.written,
      asked: asked.has(lane.partial),
    }));
  return {
    from: index === 0 ? view.left : Math.max(view.left, xOf(view.firstBeat + part.from_s)),
    to: last ? view.width - 8 : Math.min(view.width - 8, xOf(view.firstBeat + part.to_s)),
    fingering: part.fingering,
    lanes,
  };
}

function wholeSpan(exercise: ExerciseView, view: View): Span {
  const start = view.firstBeat + exercise.count_in_s;
  return { from: start - exercise.beat_s, to: view.firstBeat + exercise.duration_s + exercise.beat_s };
}

/** A single held note: the last ten seconds once it is longer than that. */
function zoomSpan(exercise: ExerciseView, view: View): Span {
  const whole = wholeSpan(exercise, view);
  const length = Math.max(ZOOM_SECONDS, whole.to - whole.from);
  const late = view.now !== null && view.now > whole.from + length;
  return late ? { from: (view.now ?? 0) - length, to: view.now ?? 0 } : { from: whole.from, to: whole.from + length };
}

function wholeRange(exercise: ExerciseView): { low: number; high: number } {
  const asked = exercise.notes.map((note) => note.expected_hz);
  const [low, high] = [Math.min(...asked) / 2 ** (BELOW_CENTS / 1200), Math.max(...asked) * 2 ** (ABOVE_CENTS / 1200)];
  const shown = exercise.spans
    .flatMap((part) => part.lanes.map((lane) => lane.hz))
    .filter((hz) => hz > low && hz < high);
  const margin = 2 ** (90 / 1200);
  return { low: Math.min(...shown, ...asked) / margin, high: Math.max(...shown, ...asked) * margin };
}

function stripOf(exercise: ExerciseView, view: View): Strip {
  const height = STRIP_HEIGHT;
  const top = view.height - height - 18;
  const reach = Math.max(STRIP_CENTS, 2.2 * exercise.centre_limit_cents);
  return {
    top,
    height,
    middle: top + height / 2,
    perCent: (height / 2 - 6) / reach,
    limit: exercise.centre_limit_cents,
  };
}

function zoomRange(exercise: ExerciseView): { low: number; high: number } {
  const hz = exercise.notes[0]?.expected_hz ?? 100;
  const margin = 2 ** (ZOOM_CENTS / 1200);
  return { low: hz / margin, high: hz * margin };
}

function beatsOf(exercise: ExerciseView, view: View, span: Span, xOf: (time: number) => number): Scene['beats'] {
  const beats = [];
  const bar = exercise.exercise.beats_per_bar;
  const count = Math.ceil((exercise.duration_s + 4) / exercise.beat_s);
  for (let beat = 0; beat <= count; beat++) {
    const time = view.firstBeat + beat * exercise.beat_s;
    if (time >= span.from - 1e-6 && time <= span.to + 1e-6) beats.push({ x: xOf(time), first: beat % bar === 0 });
  }
  return beats;
}
