<script lang="ts">
  /** The figure as engraved by the server, in the colour of ink; it comes from our own engraver, never from a user. */
  let { svg, title }: { svg: string; title: string } = $props();
</script>

<div class="engraving h-full w-full" role="img" aria-label={title}>{@html svg}</div>

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
</style>
