<script lang="ts">
  import { noteName } from '../view/words';
  import { ledgerLines, nameAt, placeAt, placeOf, stepOf, type Sign, type StaffLines } from '../view/staff';
  import Engraving from './Engraving.svelte';

  /** An empty staff that takes notes where it is tapped, or by up, down and Enter. `svg` is a bar that holds `note` alone. */
  type Props = { svg: string; note: string; sign: Sign; add: (name: string) => void };
  const STEP_PX = 9;
  const LEFT_PX = 8;
  let { svg, note, sign, add }: Props = $props();
  let box = $state<HTMLDivElement>();
  let width = $state(0);
  let staff = $state<{ lines: StaffLines; known: { place: number; y: number }; left: number; right: number } | null>(
    null,
  );
  let chosen = $state<number | null>(null);

  const place = $derived(chosen ?? placeOf(note) ?? 28);
  const step = $derived(staff ? stepOf(staff.lines) : 0);
  const y = $derived(staff ? staff.known.y - (place - staff.known.place) * step : 0);

  // The bar is enlarged so far that a finger meets a step, and the staff stands in the middle of the box.
  $effect(() => {
    void [svg, width];
    const picture = box?.querySelector<HTMLElement>('.engraving');
    const known = placeOf(note);
    if (!box || !picture || known === null) return;
    picture.style.transform = 'none';
    const around = box.getBoundingClientRect();
    const lines = [...picture.querySelectorAll('.staff > path')].map((line) => line.getBoundingClientRect());
    const head = picture.querySelector('.note .notehead')?.getBoundingClientRect();
    const [first, last] = [lines[0], lines[4]];
    if (!first || !last || !head) return;
    const middle = (part: DOMRect) => part.top + part.height / 2 - around.top;
    const scale = (8 * STEP_PX) / (middle(last) - middle(first));
    const down = around.height / 2 - (scale * (middle(first) + middle(last))) / 2;
    const along = LEFT_PX - scale * (first.left - around.left);
    picture.style.transform = `translate(${along}px, ${down}px) scale(${scale})`;
    staff = {
      lines: { top: scale * middle(first) + down, bottom: scale * middle(last) + down },
      known: { place: known, y: scale * middle(head) + down },
      left: scale * (head.left - around.left) + along,
      right: scale * (first.right - around.left) + along,
    };
  });

  function at(event: PointerEvent): number | null {
    if (!staff || !box) return null;
    return placeAt(event.clientY - box.getBoundingClientRect().top, staff.lines, staff.known);
  }

  function keys(event: KeyboardEvent): void {
    const moved = { ArrowUp: 1, ArrowDown: -1, PageUp: 7, PageDown: -7 }[event.key];
    if (moved !== undefined) chosen = place + moved;
    else if (event.key === 'Enter' || event.key === ' ') add(nameAt(place, sign));
    else return;
    event.preventDefault();
  }
</script>

<div
  class="entry"
  role="slider"
  tabindex="0"
  aria-label="Staff: up and down to choose a note, Enter to add it"
  aria-orientation="vertical"
  aria-valuenow={place}
  aria-valuetext={noteName(nameAt(place, sign))}
  bind:this={box}
  bind:clientWidth={width}
  onpointerdown={(event) => (chosen = at(event))}
  onpointermove={(event) => (chosen = at(event))}
  onpointerup={(event) => {
    chosen = at(event);
    if (chosen !== null) add(nameAt(chosen, sign));
  }}
  onkeydown={keys}
>
  <Engraving {svg} title="Staff" />
  {#if staff}
    <svg class="ghost" aria-hidden="true">
      {#each ledgerLines(y, staff.lines) as line (line)}
        <line x1={staff.left - step} x2={staff.left + 4 * step} y1={line} y2={line} />
      {/each}
      <ellipse
        cx={staff.left + 1.5 * step}
        cy={y}
        rx={1.35 * step}
        ry={0.9 * step}
        transform="rotate(-18 {staff.left + 1.5 * step} {y})"
      />
      <text x={staff.right + 12} y={y + 6}>{noteName(nameAt(place, sign))}</text>
    </svg>
  {/if}
</div>

<style>
  .entry {
    position: relative;
    width: 100%;
    height: 100%;
    overflow: hidden;
    cursor: crosshair;
    touch-action: none;
  }

  .entry :global(.engraving) {
    transform-origin: 0 0;
  }

  /* Of the bar that was engraved, the staff and its clef are wanted, not the note in it. */
  .entry :global(.note),
  .entry :global(.meterSig),
  .entry :global(.barLine),
  .entry :global(.verse),
  .entry :global(.tempo),
  .entry :global(.dynam),
  .entry :global(.mNum) {
    opacity: 0;
  }

  .ghost {
    position: absolute;
    inset: 0;
    width: 100%;
    height: 100%;
    color: var(--verdigris);
    pointer-events: none;
  }

  .ghost ellipse,
  .ghost text {
    fill: currentColor;
  }

  .ghost text {
    font-weight: 600;
  }

  .ghost line {
    stroke: var(--ink);
    stroke-width: 1.2;
  }
</style>
