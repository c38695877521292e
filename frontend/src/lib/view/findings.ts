/** Marks on the picture for what was found in a finished take. */
import type { Mark, Measures } from '../api/client';
import type { Scene } from './lanes';
import { line, SANS, type Palette, type Surface } from './pen';

/** Marks for what was found in a finished take: gaps as brackets, caught partials as rings. */
export function drawFindings(g: Surface, scene: Scene, measures: Measures, colours: Palette): void {
  g.strokeStyle = colours.player;
  g.fillStyle = colours.player;
  g.lineWidth = 2;
  g.font = `600 14px ${SANS}`;
  g.textAlign = 'center';
  for (const move of measures.moves) {
    if (move.gap_ms && move.gap_start_s) {
      const a = scene.xOf(move.gap_start_s);
      const b = scene.xOf(move.gap_start_s + move.gap_ms / 1000);
      bracket(g, a, Math.max(b, a + 6), 18, (scene.strip?.top ?? scene.height) - 12);
      g.fillText(`gap ${Math.round(move.gap_ms)} ms`, clamp((a + b) / 2, scene), 12);
    }
    for (const touch of move.clipped_partials) {
      const x = scene.xOf(touch.start_s + touch.ms / 2000);
      const y = scene.yOf(touch.f0_hz);
      g.beginPath();
      g.arc(x, y, 13, 0, Math.PI * 2);
      g.stroke();
      const far = x > scene.width - 160;
      g.textAlign = far ? 'right' : 'left';
      g.fillText(`${touch.partial} for ${Math.round(touch.ms)} ms`, far ? x - 20 : x + 20, y + 5);
      g.textAlign = 'center';
    }
  }
}

/** Where something was said: numbered flags in ink, as many as the list under the picture has. */
export function drawMarks(g: Surface, scene: Scene, marks: readonly Mark[], colours: Palette): void {
  g.lineWidth = 1.5;
  g.font = `600 13px ${SANS}`;
  g.textAlign = 'center';
  let last = -Infinity;
  for (const [i, mark] of marks.entries()) {
    if (mark.at_s == null) continue;
    const x = Math.min(Math.max(scene.xOf(mark.at_s), scene.left), scene.width - 13);
    const flag = Math.min(Math.max(x, last + 25), scene.width - 13); // those of one moment stand side by side
    last = flag;
    g.strokeStyle = colours.ink;
    g.setLineDash([2, 4]);
    line(g, x, 20, x, scene.height);
    g.setLineDash([]);
    g.fillStyle = colours.ink;
    g.fillRect(flag - 11, 0, 22, 20);
    g.fillStyle = colours.paper;
    g.fillText(String(i + 1), flag, 15);
  }
}

function clamp(x: number, scene: Scene): number {
  return Math.min(Math.max(x, scene.left + 60), scene.width - 70);
}

function bracket(g: Surface, a: number, b: number, top: number, bottom: number): void {
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
