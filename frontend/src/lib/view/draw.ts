/** Drawing the lanes picture on a canvas. Ink is asked, verdigris is the horn, brass is the player. */
import type { Measures } from '../api/client';
import type { Scene } from './lanes';
import { HOP_S, type Track } from './track';

export type Palette = {
  paper: string;
  ink: string;
  soft: string;
  rule: string;
  asked: string;
  horn: string;
  hornSoft: string;
  player: string;
};

export function paletteOf(element: Element): Palette {
  const style = getComputedStyle(element);
  const get = (name: string) => style.getPropertyValue(name).trim();
  return {
    paper: get('--paper'),
    ink: get('--ink'),
    soft: get('--ink-soft'),
    rule: get('--rule'),
    asked: get('--asked'),
    horn: get('--verdigris'),
    hornSoft: get('--verdigris-soft'),
    player: get('--brass'),
  };
}

const SANS = "'Figtree Variable', sans-serif";

export function drawLanes(g: CanvasRenderingContext2D, scene: Scene, colours: Palette, showLabels = true): void {
  g.clearRect(0, 0, scene.width, scene.height);
  for (const beat of scene.beats) {
    g.strokeStyle = colours.rule;
    g.lineWidth = beat.first ? 1.5 : 0.75;
    line(g, beat.x, beat.first ? 0 : scene.height - 16, beat.x, scene.height - 4);
  }
  for (const lane of scene.lanes) {
    hatchLane(g, scene, lane.y, Math.min(lane.half, 26), colours.hornSoft, lane.asked);
    g.strokeStyle = colours.horn;
    g.globalAlpha = lane.asked ? 1 : 0.55;
    g.lineWidth = lane.asked ? 1.5 : 1;
    line(g, scene.left, lane.y, scene.width - 8, lane.y);
    g.globalAlpha = 1;
    if (showLabels) label(g, lane.y, scene, `${lane.partial}`, lane.written, colours, lane.asked);
  }
}

export function drawBars(g: CanvasRenderingContext2D, scene: Scene, colours: Palette): void {
  for (const bar of scene.bars) {
    if (bar.width <= 0) continue;
    g.fillStyle = colours.asked;
    g.globalAlpha = 0.82;
    g.fillRect(bar.x, bar.y - bar.half, bar.width, bar.half * 2);
    g.globalAlpha = 1;
    g.strokeStyle = colours.ink;
    g.lineWidth = 1;
    line(g, bar.x, bar.y - bar.half, bar.x, bar.y + bar.half);
  }
}

/** Width is loudness; solid when it rings, frayed when airy; hatched above or below where it leaves its bar. */
export function drawPlayer(g: CanvasRenderingContext2D, scene: Scene, track: Track, colours: Palette): void {
  const from = Math.max(0, Math.floor(0 / HOP_S));
  const step = Math.max(1, Math.round(track.f0.length / 6000));
  let last: { x: number; y: number } | null = null;
  g.lineCap = 'round';
  for (let i = from; i < track.f0.length; i += step) {
    const f0 = track.f0[i];
    const x = scene.xOf(i * HOP_S);
    if (!f0 || x < scene.left) {
      last = null;
      continue;
    }
    const y = scene.yOf(f0);
    if (y < -40 || y > scene.height + 40) {
      last = null;
      continue;
    }
    const point = { x, y };
    if (last) stroke(g, last, point, widthOf(track.level[i] ?? -120), track.tone[i] ?? 0, i, colours.player);
    offCentre(g, scene, point, i, colours.player);
    last = point;
  }
}

export function drawNow(g: CanvasRenderingContext2D, scene: Scene, now: number, colours: Palette): void {
  const x = scene.xOf(now);
  if (x < scene.left || x > scene.width) return;
  g.strokeStyle = colours.soft;
  g.lineWidth = 1;
  line(g, x, 0, x, scene.height);
}

/** Marks for what was found in a finished take: gaps as brackets, caught partials as rings. */
export function drawFindings(g: CanvasRenderingContext2D, scene: Scene, measures: Measures, colours: Palette): void {
  g.strokeStyle = colours.player;
  g.fillStyle = colours.player;
  g.lineWidth = 2;
  g.font = `600 14px ${SANS}`;
  g.textAlign = 'center';
  for (const move of measures.moves) {
    if (move.gap_ms && move.gap_start_s) {
      const a = scene.xOf(move.gap_start_s);
      const b = scene.xOf(move.gap_start_s + move.gap_ms / 1000);
      bracket(g, a, Math.max(b, a + 6), 14, scene.height - 24);
      g.fillText(`gap ${Math.round(move.gap_ms)} ms`, clamp((a + b) / 2, scene), 12);
    }
    for (const touch of move.caught) {
      const x = scene.xOf(touch.start_s + touch.ms / 2000);
      const y = scene.yOf(touch.f0_hz);
      g.beginPath();
      g.arc(x, y, 13, 0, Math.PI * 2);
      g.stroke();
      g.fillText(`${touch.partial} for ${Math.round(touch.ms)} ms`, clamp(x, scene), y > 40 ? y - 20 : y + 30);
    }
  }
}

function clamp(x: number, scene: Scene): number {
  return Math.min(Math.max(x, scene.left + 60), scene.width - 70);
}

function bracket(g: CanvasRenderingContext2D, a: number, b: number, top: number, bottom: number): void {
  for (const [x, turn] of [
    [a, 5],
    [b, -5],
  ] as const) {
    g.beginPath();
    g.moveTo(x + turn, top);
    g.lineTo(x, top);
    g.lineTo(x, bottom);
    g.lineTo(x + turn, bottom);
    g.stroke();
  }
}

function widthOf(level: number): number {
  return Math.min(9, Math.max(1.5, 2 + (level + 45) * 0.2));
}

function stroke(
  g: CanvasRenderingContext2D,
  a: { x: number; y: number },
  b: { x: number; y: number },
  width: number,
  tone: number,
  index: number,
  colour: string,
): void {
  g.strokeStyle = colour;
  if (tone >= 15) {
    g.lineWidth = width;
    line(g, a.x, a.y, b.x, b.y);
    return;
  }
  // Frayed: the less tone, the more the line comes apart into loose threads.
  const spread = (15 - tone) * 0.45 + 1;
  g.lineWidth = Math.max(1, width / 4);
  for (const side of [-1, 0, 1]) {
    if ((index + side + 1) % 3 === 0 && tone < 8) continue;
    line(g, a.x, a.y + side * spread, b.x, b.y + side * spread);
  }
}

function offCentre(
  g: CanvasRenderingContext2D,
  scene: Scene,
  point: { x: number; y: number },
  index: number,
  colour: string,
): void {
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

function hatchLane(
  g: CanvasRenderingContext2D,
  scene: Scene,
  y: number,
  half: number,
  colour: string,
  strong: boolean,
): void {
  if (scene.zoomed) half = Math.min(half, 60);
  g.strokeStyle = colour;
  g.lineWidth = 0.75;
  g.globalAlpha = strong ? 0.75 : 0.4;
  const rows = Math.max(1, Math.floor(half / 4));
  for (let row = 1; row <= rows; row++) {
    const away = (row / rows) * half;
    g.setLineDash([2 + 6 * (1 - row / rows), 3 + 5 * (row / rows)]);
    line(g, scene.left, y - away, scene.width - 8, y - away);
    line(g, scene.left, y + away, scene.width - 8, y + away);
  }
  g.setLineDash([]);
  g.globalAlpha = 1;
}

function label(
  g: CanvasRenderingContext2D,
  y: number,
  scene: Scene,
  partial: string,
  written: string,
  c: Palette,
  asked: boolean,
): void {
  g.textAlign = 'right';
  g.textBaseline = 'middle';
  g.fillStyle = asked ? c.ink : c.horn;
  g.font = `${asked ? 650 : 500} 17px ${SANS}`;
  g.fillText(written, scene.left - 14, y);
  g.fillStyle = c.horn;
  g.font = `500 13px ${SANS}`;
  g.fillText(partial, scene.left - 66, y);
  g.textBaseline = 'alphabetic';
}

function line(g: CanvasRenderingContext2D, x1: number, y1: number, x2: number, y2: number): void {
  g.beginPath();
  g.moveTo(x1, y1);
  g.lineTo(x2, y2);
  g.stroke();
}
