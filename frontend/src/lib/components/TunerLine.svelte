<script lang="ts">
  /** The last seconds as a line, each moment against its own nearest note; the instrument's tendency beside it. */
  import type { TunerNote } from '../api/client';
  import { drawnOn, fitted } from '../view/canvas';
  import { household } from '../state/household.svelte';
  import { line, paletteOf, Pen, SANS, type Palette } from '../view/pen';
  import { cents, HOP_S, type Track } from '../view/track';
  import { nearestNote } from '../view/tuner';
  import { noteName } from '../view/words';

  type Props = { track: Track; notes: readonly TunerNote[]; live: boolean };
  let { track, notes, live }: Props = $props();

  const SHOWN_S = 10;
  const REACH = 55; // cents above and below
  const EVERY_MS = 33;
  const PAUSE = 40; // frames
  const LEAST = 6;
  const MOVING = 14; // cents in 10 ms
  let canvas = $state<HTMLCanvasElement>();
  let width = $state(0);
  let height = $state(0);

  function draw(element: HTMLCanvasElement) {
    const g = element.getContext('2d');
    if (!g || !width || !height) return;
    const ratio = fitted(element, width, height);
    g.setTransform(ratio, 0, 0, ratio, 0, 0);
    g.clearRect(0, 0, width, height);
    const colours = paletteOf(element);
    const left = width < 500 ? 74 : 84;
    const yOf = (off: number) => height / 2 - (off / REACH) * (height / 2 - 8);
    scale(g, colours, left, yOf);
    const end = Math.max(SHOWN_S, track.f0.length * HOP_S);
    const xOf = (time: number) => left + ((time - end + SHOWN_S) / SHOWN_S) * (width - left - 8);
    const from = Math.max(0, Math.round((end - SHOWN_S) / HOP_S));
    const spans = spansOf(from);
    for (const span of spans) behind(g, colours, span, xOf(span.from * HOP_S), xOf(span.to * HOP_S), yOf);
    const pen = new Pen(g, colours.player, 0.9);
    for (const { note, from: first, to } of spans) {
      for (let i = first; i <= to; i++) {
        const off = offAt(i, note);
        pen.to(xOf(i * HOP_S), off === null ? NaN : yOf(off), track.level[i] ?? -120, track.tone[i] ?? 0);
      }
      pen.lift();
    }
  }

  type Span = { note: TunerNote; from: number; to: number };

  /** Notes one after another; a short silence inside one does not end it. */
  function spansOf(from: number): Span[] {
    const spans: Span[] = [];
    for (let i = from; i < track.f0.length; i++) {
      const f0 = track.f0[i];
      const last = spans.at(-1);
      if (!f0 || isMoving(i)) continue;
      if (last && i - last.to < PAUSE && Math.abs(cents(f0, last.note.hz)) < REACH) last.to = i;
      else {
        const note = nearestNote(notes, f0);
        if (note) spans.push({ note, from: i, to: i });
      }
    }
    return spans.filter((span) => span.to - span.from > LEAST);
  }

  /** On the way from one note to another the pitch is neither. */
  function isMoving(i: number): boolean {
    const [before, here] = [track.f0[i - 2], track.f0[i]];
    return !!before && !!here && Math.abs(cents(here, before)) > MOVING;
  }

  function offAt(i: number, note: TunerNote): number | null {
    const f0 = track.f0[i];
    const off = f0 && !isMoving(i) ? cents(f0, note.hz) : null;
    return off === null || Math.abs(off) > REACH ? null : off;
  }

  function scale(g: CanvasRenderingContext2D, colours: Palette, left: number, yOf: (off: number) => number) {
    g.font = `500 14px ${SANS}`;
    g.textAlign = 'right';
    g.textBaseline = 'middle';
    for (const off of [-50, -25, 0, 25, 50]) {
      g.strokeStyle = off ? colours.rule : colours.ink;
      g.lineWidth = off ? 1 : 1.5;
      g.setLineDash(off ? [2, 5] : []);
      line(g, left, yOf(off), width - 8, yOf(off));
      g.fillStyle = colours.soft;
      const word = off ? `${Math.abs(off)} ${off < 0 ? 'flat' : 'sharp'}` : 'in tune';
      if (height > 150 || off === 0 || Math.abs(off) === 50) g.fillText(word, left - 10, yOf(off));
    }
    g.setLineDash([]);
  }

  /** Behind a note: its name, and where the instrument has it by itself. */
  function behind(
    g: CanvasRenderingContext2D,
    colours: Palette,
    { note }: Span,
    x: number,
    end: number,
    yOf: (off: number) => number,
  ) {
    const lies = yOf(Math.max(-REACH, Math.min(REACH, note.tendency)));
    g.strokeStyle = colours.instrument;
    g.lineWidth = 2;
    if (Math.abs(note.tendency) >= 2) line(g, x, lies, end, lies);
    g.fillStyle = colours.soft;
    g.textAlign = 'left';
    g.fillText(noteName(note.written), x + 3, 12);
  }

  $effect(() => {
    if (!canvas) return;
    void [household.mode, width, height, notes, track];
    const element = canvas;
    if (!live) {
      requestAnimationFrame(() => draw(element));
      return;
    }
    return drawnOn(() => draw(element), EVERY_MS);
  });
</script>

<div
  class="absolute inset-0 overflow-hidden"
  role="img"
  aria-label="The last ten seconds of pitch"
  bind:clientWidth={width}
  bind:clientHeight={height}
>
  <canvas bind:this={canvas} style="width: {width}px; height: {height}px; display: block"></canvas>
</div>
