<script lang="ts">
  /** The lanes picture: live, in review, small in lists. The drawing itself is in view/draw.ts. */
  import type { ExerciseView, Mark, Measures } from '../api/client';
  import { drawnOn, fitted } from '../view/canvas';
  import { household } from '../state/household.svelte';
  import { drawBars, drawLanes, drawNow, drawOver, drawPlayer, drawStrip } from '../view/draw';
  import { drawFindings, drawMarks } from '../view/findings';
  import { paletteOf, type Palette } from '../view/pen';
  import { sceneOf, type Scene } from '../view/lanes';
  import type { Track } from '../view/track';

  type Props = {
    exercise: ExerciseView;
    track: Track;
    firstBeat: number;
    now?: () => number | null;
    live?: boolean;
    measures?: Measures | null;
    over?: Track | null;
    marks?: readonly Mark[];
    /** A moment of the sound was pointed at. */
    pick?: ((time: number) => void) | null;
    label?: string;
  };
  let {
    exercise,
    track,
    firstBeat,
    now = () => null,
    live = false,
    measures = null,
    over = null,
    marks = [],
    pick = null,
    label,
  }: Props = $props();

  const LEAST_MS = 25; // between two pictures: the ear's frames come every 20 ms, and the sound goes before the picture
  const INK_FRAMES = 8;

  let canvas = $state<HTMLCanvasElement>();
  let width = $state(0);
  let height = $state(0);

  function draw(element: HTMLCanvasElement) {
    const g = element.getContext('2d');
    if (!g || !width || !height) return;
    const ratio = fitted(element, width, height);
    const time = now();
    const scene = sceneOf(exercise, viewAt(time));
    const colours = paletteOf(element);
    g.setTransform(1, 0, 0, 1, 0, 0);
    g.clearRect(0, 0, element.width, element.height);
    g.drawImage(page(scene, colours, ratio), 0, 0);
    g.setTransform(ratio, 0, 0, ratio, 0, 0);
    if (over) drawOver(g, scene, over, colours);
    drawPlayer(g, scene, track, colours, exercise, { from: inked(g, scene, colours, ratio), to: track.f0.length });
    if (live && time !== null) drawNow(g, scene, time, colours);
    if (measures) drawFindings(g, scene, measures, colours);
    if (marks.length) drawMarks(g, scene, marks, colours);
  }

  const viewAt = (time: number | null) => ({ width, height, left: width < 500 ? 92 : 124, firstBeat, now: time });
  // Pointing is a short way only: the same moment can be set beside the sound with keys.
  $effect(() => {
    const [element, tell] = [canvas, pick];
    if (!element || !tell) return;
    const point = (event: MouseEvent) => tell(sceneOf(exercise, viewAt(now())).timeOf(event.offsetX));
    element.addEventListener('click', point);
    return () => element.removeEventListener('click', point);
  });

  let printed: { key: string; sheet: OffscreenCanvas } | null = null;

  /** What does not move between two frames is drawn once and kept. */
  function page(scene: Scene, colours: Palette, ratio: number): OffscreenCanvas {
    const key = keyOf(scene, colours, ratio);
    if (printed?.key === key) return printed.sheet;
    const { sheet, g } = blank(scene, ratio);
    if (g) {
      drawLanes(g, scene, colours);
      drawBars(g, scene, colours);
      drawStrip(g, scene, colours);
    }
    // Letters drawn before the fonts are there would stay in the wrong face.
    printed = document.fonts.status === 'loaded' ? { key, sheet } : null;
    return sheet;
  }

  let written: { key: string; track: Track; sheet: OffscreenCanvas; upTo: number } | null = null;

  /** What was played and will not change any more is drawn once while a take is under way. Says where the rest begins. */
  function inked(to: CanvasRenderingContext2D, scene: Scene, colours: Palette, ratio: number): number {
    if (!live) return 0;
    const key = keyOf(scene, colours, ratio);
    if (written?.key !== key || written.track !== track)
      written = { key, track, sheet: blank(scene, ratio).sheet, upTo: 0 };
    const upTo = track.finals - 1;
    const g = written.sheet.getContext('2d');
    if (g && upTo - written.upTo >= INK_FRAMES) {
      drawPlayer(g, scene, track, colours, exercise, { from: written.upTo, to: upTo + 1 });
      written.upTo = upTo;
    }
    to.setTransform(1, 0, 0, 1, 0, 0);
    to.drawImage(written.sheet, 0, 0);
    to.setTransform(ratio, 0, 0, ratio, 0, 0);
    return written.upTo;
  }

  function keyOf(scene: Scene, colours: Palette, ratio: number): string {
    return [scene.width, scene.height, ratio, colours.paper, scene.xOf(0), scene.fingering, exercise.exercise.id].join(
      ' ',
    );
  }

  function blank(scene: Scene, ratio: number) {
    const sheet = new OffscreenCanvas(Math.round(scene.width * ratio), Math.round(scene.height * ratio));
    const g = sheet.getContext('2d');
    g?.setTransform(ratio, 0, 0, ratio, 0, 0);
    return { sheet, g };
  }

  $effect(() => {
    if (!canvas) return;
    // Named here so that the picture is drawn again when the light or the size changes.
    void [household.mode, width, height, firstBeat, track, measures, over, marks];
    const element = canvas;
    if (!live) {
      requestAnimationFrame(() => draw(element));
      void document.fonts.ready.then(() => draw(element));
      return;
    }
    return drawnOn(() => draw(element), LEAST_MS);
  });

  const said = $derived(
    label ??
      (exercise.lanes.length
        ? `Partials ${exercise.lanes.map((lane) => lane.partial).join(', ')} with fingering ${exercise.notes[0]?.fingering ?? ''}`
        : 'The notes to buzz; a mouthpiece has no partials'),
  );
</script>

<div
  class="h-full w-full min-w-0 overflow-hidden"
  role="img"
  aria-label={said}
  bind:clientWidth={width}
  bind:clientHeight={height}
>
  <canvas bind:this={canvas} style="width: {width}px; height: {height}px; display: block"></canvas>
</div>
