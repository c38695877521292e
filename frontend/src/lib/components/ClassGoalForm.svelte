<script lang="ts">
  import { api, type Schemas } from '../api/client';
  import { words } from '../state/loaded.svelte';
  import GoalFields from './GoalFields.svelte';

  /** One goal with a date for the players who were chosen: a note as each of them reads it, or a number. */
  type Props = { players: string[]; given: (refused: string[]) => void };
  let { players, given }: Props = $props();
  let kind = $state<Schemas['GoalKind']>('own');
  let value = $state('');
  let joined = $state(true);
  let date = $state('');
  let trouble = $state<string | null>(null);

  async function give() {
    try {
      given(await api.giveGoal({ players, kind, value: String(value).trim(), joined: kind === 'own' && joined, date }));
    } catch (error) {
      trouble = words(error);
    }
  }
</script>

{#snippet note()}
  <label class="field">
    <span>Note as each of them reads it, such as F5 or Bb4</span>
    <input bind:value maxlength="5" />
  </label>
{/snippet}
<form
  class="flex flex-wrap items-end gap-x-6 gap-y-3"
  onsubmit={(event) => {
    event.preventDefault();
    void give();
  }}
>
  <GoalFields bind:kind bind:value bind:joined bind:date own="A note in their range" {note} yes="Give" />
</form>
{#if trouble}<p role="alert" class="mt-3">{trouble}</p>{/if}
