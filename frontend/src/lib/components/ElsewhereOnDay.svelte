<script lang="ts">
  import type { Schemas } from '../api/client';
  import { entriesOn, NOW_MINUTES } from '../view/elsewhere';
  import Toggle from './Toggle.svelte';
  import { named } from '../view/names';

  /** What was or will be played elsewhere on a day: minutes, then how hard; it counts as load. */
  type Entry = Schemas['PlayedElsewhere'];
  type Props = { iso: string; all: readonly Entry[]; set: (entries: Entry[]) => void };
  let { iso, all, set }: Props = $props();
  const EFFORTS: Schemas['Effort'][] = ['light', 'medium', 'heavy'];
  let minutes = $state(90);
  const here = $derived(entriesOn(all, iso));
</script>

<div class="flex w-full flex-wrap items-center gap-x-6 gap-y-2">
  {#each here as entry (entry)}
    <span class="flex flex-wrap items-center gap-x-4">
      <span>{entry.minutes} min elsewhere, {named(entry.effort)}</span>
      <Toggle
        label="every week"
        checked={entry.weekly ?? false}
        set={(weekly) => set(all.map((one) => (one === entry ? { ...one, weekly } : one)))}
      />
      <button class="line py-2" onclick={() => set(all.filter((one) => one !== entry))}>Remove</button>
    </span>
  {/each}
  <span class="flex flex-wrap items-center gap-x-3 gap-y-1">
    <label class="flex items-center gap-3">
      <span class="quiet">Playing elsewhere</span>
      <select class="plain" bind:value={minutes}>
        {#each NOW_MINUTES as one (one)}<option value={one}>{one} min</option>{/each}
      </select>
    </label>
    {#each EFFORTS as effort (effort)}
      <button
        class="press small"
        aria-label="Add {minutes} minutes, {named(effort)}"
        onclick={() => set([...all, { day: iso, minutes, effort, weekly: false }])}>{named(effort)}</button
      >
    {/each}
  </span>
</div>
