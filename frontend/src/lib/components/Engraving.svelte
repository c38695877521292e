<script lang="ts">
  /** The exercise as engraved by the server, in the colour of ink; it comes from our own engraver, never from a user. */
  type Props = { svg: string; title: string; sounding?: string | null; found?: string[] };
  let { svg, title, sounding = null, found = [] }: Props = $props();
  let box = $state<HTMLDivElement>();

  /** While it is played, the note that sounds keeps its ink and the others step back. Notes in which something was found
   *  take the player's colour. Tied pieces end in -2, -3 ... */
  $effect(() => {
    void svg;
    if (!box) return;
    for (const note of box.querySelectorAll<SVGElement>('.note[data-id]')) {
      const id = (note.dataset.id ?? '').replace(/-\d+$/, '');
      note.style.opacity = sounding === null || id === sounding ? '' : '0.35';
      note.style.color = found.includes(id) ? 'var(--brass)' : '';
      note.style.fill = found.includes(id) ? 'var(--brass)' : '';
    }
  });
</script>

<div class="engraving h-full w-full" role="img" aria-label={title} bind:this={box}>{@html svg}</div>

<style>
  .engraving :global(svg) {
    width: 100%;
    height: 100%;
    color: var(--ink);
    fill: currentColor;
  }

  .engraving :global(svg svg) {
    overflow: visible;
  }

  .engraving :global(text) {
    font-family: 'Figtree Variable', sans-serif !important;
    font-weight: 600;
  }

  .engraving :global(.dir text) {
    font-family: 'Fraunces Variable', serif !important;
    font-weight: 420;
  }
</style>
