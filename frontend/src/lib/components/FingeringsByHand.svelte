<script lang="ts">
  import { type ExerciseView } from '../api/client';
  import { ask, reads } from '../state/reads.svelte';
  import { choicesOf, otherwise, readOptions, writeOptions } from '../view/fingeringOptions';
  import Toggle from './Toggle.svelte';

  /** Which fingering for which note of what is shown (`number` of its series): each pitch once, or every note on its own. */
  type Props = { playerId: string; view: ExerciseView; number: number; value: string; set: (value: string) => void };
  let { playerId, view, number, value, set }: Props = $props();
  const chart = reads(() => ask('chart', playerId));
  let each = $state(false);
  const named = $derived(readOptions(value));
  const choices = $derived(choicesOf(view, chart.value ?? [], each ? number : null));

  function choose(key: string, fingering: string) {
    set(writeOptions({ ...named, [key]: fingering }));
  }
</script>

<section class="mt-5" aria-label="Choose fingerings">
  <div class="flex flex-wrap items-center gap-x-6 gap-y-2">
    <h2 class="text-lg">Choose fingerings</h2>
    <Toggle label="Every note on its own" checked={each} set={(on) => (each = on)} />
    {#if Object.keys(named).length}<button class="line py-2" onclick={() => set('')}>Use the usual ones</button>{/if}
  </div>
  {#if chart.trouble}<p role="alert">{chart.trouble}</p>{/if}
  {#if chart.value && !choices.length}
    <p class="quiet mt-2">These notes have no alternate fingerings here.</p>
  {/if}
  <div class="mt-3 grid grid-cols-2 gap-x-6 gap-y-4 sm:grid-cols-3 lg:grid-cols-5">
    {#each choices as item (item.key)}
      <label class="field">
        <span>{item.name}</span>
        <select value={named[item.key] ?? ''} onchange={(event) => choose(item.key, event.currentTarget.value)}>
          <option value="">{otherwise(item, named)}</option>
          {#each item.options as option (option.label)}<option value={option.label}>{option.says}</option>{/each}
        </select>
      </label>
    {/each}
  </div>
</section>
