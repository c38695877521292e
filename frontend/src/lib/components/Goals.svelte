<script lang="ts">
  import { api, type Goal, type Schemas } from '../api/client';
  import { words } from '../state/loaded.svelte';
  import { ask, reads } from '../state/reads.svelte';
  import { midiOf, pitchOf } from '../view/pitch';
  import { dateAtRisk, dateInWords, forecastInWords } from '../view/weeks';
  import { noteName, noteSigns } from '../view/words';
  import GoalFields from './GoalFields.svelte';

  /** Goals as cards: position, likely date, what would help; and a new one. */
  let { playerId, goals }: { playerId: string; goals: readonly Goal[] } = $props();
  type Kind = Schemas['GoalKind'];
  let adding = $state(false);
  const material = reads(() => adding && ask('material', playerId));
  let kind = $state<Kind>('own');
  let value = $state('');
  let joined = $state(false);
  let date = $state('');
  let said = $state<string | null>(null);

  async function act(what: () => Promise<unknown>) {
    said = null;
    try {
      await what();
    } catch (error) {
      said = words(error);
    }
  }
  const add = () =>
    act(async () => {
      await api.addGoal(playerId, { kind, value: Number(value), joined: kind === 'own' && joined, date });
      [value, date, adding] = ['', '', false];
    });
  const change = (goal: Goal, state: Schemas['GoalChange']['state']) =>
    act(() => api.changeGoal(playerId, goal.id, { state }));
  const upper = (text: string) => noteSigns(text).replace(/^./, (first) => first.toUpperCase());
</script>

{#snippet note()}
  <label class="field">
    <span>Note</span>
    <select bind:value>
      <option value="" disabled>choose</option>
      {#each material.value?.notes ?? [] as note (note.sounding)}
        <option value={String(midiOf(pitchOf(note.sounding)))}>{noteName(note.written)}</option>
      {/each}
    </select>
  </label>
{/snippet}

<section class="mt-8" aria-label="Goals">
  <div class="flex flex-wrap items-center gap-x-6">
    <h2>Goals</h2>
    <button class="line py-2" aria-expanded={adding} onclick={() => (adding = !adding)}>Add a goal</button>
  </div>
  {#if adding}
    <form
      class="rule my-3 grid items-end gap-x-6 gap-y-4 border-y py-4 sm:grid-cols-2 lg:grid-cols-[1.4fr_1fr_1fr_auto]"
      onsubmit={(event) => {
        event.preventDefault();
        void add();
      }}
    >
      <GoalFields bind:kind bind:value bind:joined bind:date {note} yes="Add" />
    </form>
  {/if}
  {#if said}<p role="alert" class="mt-3">{said}</p>{/if}
  <ul class="mt-3 grid gap-x-10 gap-y-6 lg:grid-cols-2">
    {#each goals as goal (goal.id)}
      <li class="rule border-t pt-3" class:resting={goal.state !== 'on'}>
        <p><b class="serif text-xl">{upper(goal.says)}</b> <span class="quiet">by {dateInWords(goal.date)}</span></p>
        <div class="way" role="img" aria-label="{Math.round(100 * goal.share)}% done">
          <span class="gone" style="width: {100 * goal.share}%"></span>
        </div>
        <p class="ends quiet"><span>Now: {noteSigns(goal.now)}</span><span>{noteSigns(goal.asked)}</span></p>
        <p class="mt-1">{dateAtRisk(goal) ?? forecastInWords(goal)}</p>
        <p class="mt-1 flex flex-wrap gap-5">
          {#if goal.state === 'on'}
            <button class="line py-2" onclick={() => void change(goal, 'paused')}>Pause</button>
          {:else if goal.state !== 'reached'}
            <button class="line py-2" onclick={() => void change(goal, 'on')}>Continue</button>
          {/if}
          {#if goal.state === 'on' || goal.state === 'paused'}
            <button class="line py-2" onclick={() => void change(goal, 'given up')}>End</button>
          {/if}
        </p>
      </li>
    {:else}
      {#if !adding}<li class="quiet">No goals yet. A goal gives your practice a direction and a date.</li>{/if}
    {/each}
  </ul>
</section>

<style>
  .way {
    position: relative;
    height: 12px;
    margin-top: 0.6rem;
    border: 1px solid var(--ink);
    border-width: 0 1.5px 1.5px;
  }

  .gone {
    position: absolute;
    left: 0;
    bottom: 0;
    height: 7px;
    background: var(--brass);
  }

  .ends {
    display: flex;
    justify-content: space-between;
    gap: 1rem;
    font-size: 0.9rem;
  }

  .resting .gone {
    opacity: 0.5;
  }
</style>
