<script lang="ts">
  import type { Snippet } from 'svelte';
  import type { Schemas } from '../api/client';
  import { household } from '../state/household.svelte';
  import { GOAL_NAMES } from '../view/words';
  import Toggle from './Toggle.svelte';

  /** What a goal is, how much, and by when. `note`: how a note is chosen; `own`: what a note in the range is called. */
  type Props = {
    kind: Schemas['GoalKind'];
    value: string;
    joined: boolean;
    date: string;
    own?: string;
    note: Snippet;
    yes: string;
  };
  let {
    kind = $bindable(),
    value = $bindable(),
    joined = $bindable(),
    date = $bindable(),
    own,
    note,
    yes,
  }: Props = $props();
  const kinds = $derived(household.catalogue?.goals ?? []);
  const bounds = $derived(kinds.find((item) => item.id === kind));
</script>

<label class="field">
  <span>Goal</span>
  <select
    value={kind}
    onchange={(event) => {
      kind = event.currentTarget.value as Schemas['GoalKind'];
      value = '';
    }}
  >
    {#each kinds as item (item.id)}
      <option value={item.id}>{item.id === 'own' && own ? own : GOAL_NAMES[item.id]}</option>
    {/each}
  </select>
</label>
{#if kind === 'own'}{@render note()}{:else}
  <label class="field">
    <span>{bounds?.unit}, {bounds?.low} to {bounds?.high}</span>
    <input type="number" min={bounds?.low} max={bounds?.high} step="any" bind:value />
  </label>
{/if}
<label class="field"><span>By</span><input type="date" bind:value={date} /></label>
<button class="press small first" disabled={value === '' || !date}>{yes}</button>
{#if kind === 'own'}<Toggle label="In a slur or scale" checked={joined} set={(on) => (joined = on)} />{/if}
