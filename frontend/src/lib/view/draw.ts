/** Drawing the lanes picture on a canvas. Ink is asked, verdigris is the instrument, brass is the player. */
import type { ExerciseView } from '../api/client';
import type { Bar, Lane, LaneRun, Scene } from './lanes';
import { cents, HOP_S, type Track } from './track';
import { noteName } from './words';
import { line, Pen, SANS, type Palette, type Surface } from './pen';

export function drawLanes(g: Surface, scene: Scene, colours: Palette, showLabels = true): void {
  g.clearRect(0, 0, scene.width, scene.height);
  for (const beat of scene.beats) {
    g.strokeStyle = colours.rule;
    g.lineWidth = beat.first ? 1.5 : 0.75;
    line(g, beat.x, beat.first ? 0 : scene.height - 14, beat.x, scene.height - 2);
  }
  for (const run of scene.runs) {
    if (run.to <= run.from) continue;
    for (const lane of run.lanes) {
      const half = scene.zoomed ? lane.half : Math.min(lane.half, 26);
      hatchLane(g, scene, { ...lane, half }, run, colours.instrumentSoft);
      g.strokeStyle = colours.instrument;
      g.globalAlpha = lane.asked ? 1 : 0.55;
      g.lineWidth = lane.asked ? 1.5 : 1;
      line(g, run.from, lane.y, run.to, lane.y);
      g.globalAlpha = 1;
    }
    // Where the lanes move, the new fingering is named.
    if (scene.runs.length > 1) fingeringName(g, run, colours);
  }
  if (!showLabels) return;
  // A mouthpiece has no lanes: the notes asked for are named instead.
  if (!scene.lanes.length) {
    const named = new Map(scene.bars.map((bar) => [bar.name, bar.y]));
    for (const [name, y] of named) label(g, y, scene, '', noteName(name), colours, true);
  }
  for (const lane of scene.lanes) {
    label(g, lane.y, scene, `${lane.partial} · ${scene.fingering}`, noteName(lane.written), colours, lane.asked);
  }
}

function fingeringName(g: Surface, run: LaneRun, colours: Palette): void {
  g.fillStyle = colours.instrument;
  g.font = `600 13px ${SANS}`;
  g.textAlign = 'left';
  g.textBaseline = 'top';
  if (run.to - run.from > 18) g.fillText(run.fingering, run.from + 4, 3);
  g.textBaseline = 'alphabetic';
}

export function drawBars(g: Surface, scene: Scene, colours: Palette): void {
  for (const bar of scene.bars) {
    g.fillStyle = colours.asked;
    g.globalAlpha = scene.zoomed ? 0.55 : 0.82;
    if (bar.glide) glideBand(g, bar, bar.glide);
    if (bar.width <= 0) continue;
    g.fillRect(bar.x, bar.y - bar.half, bar.width, bar.half * 2);
    g.globalAlpha = 1;
    g.strokeStyle = colours.ink;
    g.lineWidth = 1;
    line(g, bar.x, bar.y - bar.half, bar.x, bar.y + bar.half);
  }
}

/** An asked glide: the band leans from the note before into this one. */
function glideBand(g: Surface, bar: Bar, from: { x: number; y: number }): void {
  g.beginPath();
  g.moveTo(from.x, from.y - bar.half);
  g.lineTo(bar.x, bar.y - bar.half);
  g.lineTo(bar.x, bar.y + bar.half);
  g.lineTo(from.x, from.y + bar.half);
  g.fill();
}

/** Width is loudness; solid when it rings, frayed when airy; hatched above or below where it leaves its bar. */
export function drawPlayer(
  g: Surface,
  scene: Scene,
  track: Track,
  colours: Palette,
  exercise: ExerciseView,
  part: { from: number; to: number } = { from: 0, to: track.f0.length },
): void {
  const pen = new Pen(g, colours.player, scene.zoomed ? 1 : 0.62);
  const close = new Pen(g, colours.player, 0.45);
  const step = Math.max(1, Math.round(track.f0.length / 6000));
  for (let i = part.from; i < part.to; i += step) {
    const f0 = track.f0[i];
    const x = scene.xOf(i * HOP_S);
    const y = f0 && x >= scene.left ? scene.yOf(f0) : NaN;
    const level = track.level[i] ?? -120;
    const tone = track.tone[i] ?? 0;
    pen.to(x, y > -40 && y < (scene.strip?.top ?? scene.height) + 10 ? y : NaN, level, tone);
    if (f0 && y === y) offCentre(g, scene, { x, y }, i, colours.player);
    if (scene.strip) close.to(x, f0 ? stripY(scene, exercise, x, f0) : NaN, level, tone);
  }
  pen.lift();
  close.lift();
}

/** Another take under this one: a thin broken line, in the player's own colour. */
export function drawOver(g: Surface, scene: Scene, track: Track, colours: Palette): void {
  g.strokeStyle = colours.player;
  g.globalAlpha = 0.6;
  g.lineWidth = 1.5;
  g.setLineDash([2, 4]);
  g.beginPath();
  let drawing = false;
  for (let i = 0; i < track.f0.length; i++) {
    const f0 = track.f0[i];
    const x = scene.xOf(i * HOP_S);
    if (!f0 || x < scene.left) {
      drawing = false;
      continue;
    }
    if (drawing) g.lineTo(x, scene.yOf(f0));
    else g.moveTo(x, scene.yOf(f0));
    drawing = true;
  }
  g.stroke();
  g.setLineDash([]);
  g.globalAlpha = 1;
}

function stripY(scene: Scene, exercise: ExerciseView, x: number, f0: number): number {
  const strip = scene.strip;
  const at = scene.bars.findIndex((bar) => x >= bar.x && x <= bar.x + bar.width);
  const note = exercise.notes[at];
  if (!strip || !note) return NaN;
  const off = -cents(f0, note.expected_hz) * strip.perCent;
  return Math.abs(off) > strip.height / 2 ? NaN : strip.middle + off;
}

/** The close look: the allowed band in pale ink, the place asked for as a rule of the instrument. */
export function drawStrip(g: Surface, scene: Scene, colours: Palette): void {
  const strip = scene.strip;
  if (!strip) return;
  g.strokeStyle = colours.rule;
  g.lineWidth = 1;
  line(g, 0, strip.top - 6, scene.width, strip.top - 6);
  for (const bar of scene.bars) {
    g.fillStyle = colours.asked;
    g.globalAlpha = 0.7;
    g.fillRect(bar.x, strip.middle - strip.limit * strip.perCent, bar.width, 2 * strip.limit * strip.perCent);
    g.globalAlpha = 1;
    g.strokeStyle = colours.instrument;
    line(g, bar.x, strip.middle, bar.x + bar.width, strip.middle);
  }
  g.fillStyle = colours.soft;
  g.font = `500 13px ${SANS}`;
  g.textAlign = 'right';
  g.textBaseline = 'middle';
  g.fillText('close look', scene.left - 14, strip.middle - 9);
  g.fillText(`±${strip.limit} c`, scene.left - 14, strip.middle + 9);
  g.textBaseline = 'alphabetic';
}

export function drawNow(g: Surface, scene: Scene, now: number, colours: Palette): void {
  const x = scene.xOf(now);
  if (x < scene.left || x > scene.width) return;
  g.strokeStyle = colours.soft;
  g.lineWidth = 1;
  line(g, x, 0, x, scene.height);
}

function offCentre(g: Surface, scene: Scene, point: { x: number; y: number }, index: number, colour: string): void {
  if (index % 5 !== 0) return;
  const bar = scene.bars.find((item) => point.x >= item.x && point.x <= item.x + item.width);
  if (!bar) return;
  const off = point.y - bar.y;
  if (Math.abs(off) <= bar.half || Math.abs(off) > 60) return;
  const edge = bar.y + Math.sign(off) * bar.half;
  g.strokeStyle = colour;
  g.lineWidth = 1.25;
  line(g, point.x - 3, point.y, point.x + 3, edge);
}

function hatchLane(g: Surface, scene: Scene, lane: Lane, run: LaneRun, colour: string): void {
  g.strokeStyle = colour;
  g.lineWidth = 0.75;
  g.globalAlpha = lane.asked ? 0.75 : 0.4;
  const rows = Math.max(1, Math.floor(lane.half / (scene.zoomed ? 9 : 4)));
  for (let row = 1; row <= rows; row++) {
    const away = (row / rows) * lane.half;
    g.setLineDash([2 + 6 * (1 - row / rows), 3 + 5 * (row / rows)]);
    line(g, run.from, lane.y - away, run.to, lane.y - away);
    line(g, run.from, lane.y + away, run.to, lane.y + away);
  }
  g.setLineDash([]);
  g.globalAlpha = 1;
}

function label(
  g: Surface,
  y: number,
  scene: Scene,
  partial: string,
  written: string,
  c: Palette,
  asked: boolean,
): void {
  g.textAlign = 'right';
  g.textBaseline = 'middle';
  g.fillStyle = asked ? c.ink : c.instrument;
  g.font = `${asked ? 650 : 500} 17px ${SANS}`;
  g.fillText(written, scene.left - 14, y);
  g.fillStyle = c.instrument;
  g.font = `500 13px ${SANS}`;
  g.textAlign = 'left';
  g.fillText(partial, 12, y);
  g.textBaseline = 'alphabetic';
}
