<script lang="ts">
  import { api, type Schemas } from '../api/client';
  import { household } from '../state/household.svelte';
  import { words } from '../state/loaded.svelte';
  import { GOAL_NAMES } from '../view/words';
  import Toggle from './Toggle.svelte';

  /** One goal with a date for the players who were chosen: a note as each of them reads it, or a number. */
  type Props = { players: string[]; given: (refused: string[]) => void };
  let { players, given }: Props = $props();
  let kind = $state<Schemas['GoalKind']>('own');
  let value = $state('');
  let joined = $state(true);
  let date = $state('');
  let trouble = $state<string | null>(null);
  const kinds = $derived(household.catalogue?.goals ?? []);
  const bounds = $derived(kinds.find((item) => item.id === kind));

  async function give() {
    try {
      given(await api.giveGoal({ players, kind, value: String(value).trim(), joined: kind === 'own' && joined, date }));
    } catch (error) {
      trouble = words(error);
    }
  }
</script>

<form
  class="flex flex-wrap items-end gap-x-6 gap-y-3"
  onsubmit={(event) => {
    event.preventDefault();
    void give();
  }}
>
  <label class="field">
    <span>Goal</span>
    <select bind:value={kind} onchange={() => (value = '')}>
      {#each kinds as item (item.id)}<option value={item.id}
          >{item.id === 'own' ? 'A note in their range' : GOAL_NAMES[item.id]}</option
        >{/each}
    </select>
  </label>
  {#if kind === 'own'}
    <label class="field">
      <span>Note as each of them reads it, such as F5 or Bb4</span>
      <input bind:value maxlength="5" />
    </label>
    <Toggle label="In a slur or scale" checked={joined} set={(on) => (joined = on)} />
  {:else}
    <label class="field">
      <span>{bounds?.unit}, {bounds?.low} to {bounds?.high}</span>
      <input type="number" min={bounds?.low} max={bounds?.high} step="any" bind:value />
    </label>
  {/if}
  <label class="field"><span>By</span><input type="date" bind:value={date} /></label>
  <button class="press small first" disabled={value === '' || !date}>Give</button>
</form>
{#if trouble}<p role="alert" class="mt-3">{trouble}</p>{/if}
