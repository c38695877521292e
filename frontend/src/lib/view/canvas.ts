/** What pictures on a canvas share. */

/** As many pixels as the screen has on this surface; gives their number to a pixel of the page. */
export function fitted(element: HTMLCanvasElement, width: number, height: number): number {
  const ratio = window.devicePixelRatio || 1;
  if (element.width !== Math.round(width * ratio)) element.width = Math.round(width * ratio);
  if (element.height !== Math.round(height * ratio)) element.height = Math.round(height * ratio);
  return ratio;
}

/** Draws again and again, so many milliseconds apart at the least; gives back what stops it. */
export function drawnOn(draw: () => void, leastMs: number): () => void {
  let frame = 0;
  let due = 0;
  const loop = (at: number) => {
    if (at >= due) {
      draw();
      due = at + leastMs;
    }
    frame = requestAnimationFrame(loop);
  };
  loop(performance.now());
  return () => cancelAnimationFrame(frame);
}
