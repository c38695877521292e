<script lang="ts">
  import { household } from '../state/household.svelte';
  import type { Stand } from '../state/stand.svelte';
  import { noteName } from '../view/words';
  import TakeShape from './TakeShape.svelte';

  let { stand }: { stand: Stand } = $props();
  const figure = $derived(stand.figure);
  const first = $derived(figure?.notes[0]);
  const asked = $derived([...new Set((figure?.notes ?? []).map((note) => noteName(note.written)))].join(' – '));
  const here = $derived(
    (stand.state?.takes ?? []).filter((take) => take.figure_index === stand.state?.figure_index).slice(-8),
  );
</script>

<header class="flex flex-wrap items-center gap-x-8 gap-y-1 px-6 py-3 max-sm:px-4">
  <a href="/" class="serif text-2xl" aria-label="Leave the stand">Orexis</a>
  <span class="serif text-2xl">{stand.session?.series.title}</span>
  <span class="text-lg">
    {(stand.state?.figure_index ?? 0) + 1} of {stand.state?.figure_count}
    {#if first}
      · <b>{asked}</b> · tube <b>{first.tube}</b>
      · {figure?.figure.tempo_bpm} a minute
    {/if}
  </span>
  <span class="grow"></span>
  <span class="flex items-center gap-1" role="group" aria-label="Takes of this figure">
    {#each here as take (take.take_id)}<TakeShape outcome={take.outcome} />{/each}
  </span>
  <span class="quiet max-sm:hidden">{household.player?.name}</span>
</header>
