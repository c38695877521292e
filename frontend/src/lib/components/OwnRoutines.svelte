<script lang="ts">
  import { api, type OwnRoutine } from '../api/client';
  import type { DayPlanner } from '../state/dayplan.svelte';
  import { words } from '../state/loaded.svelte';
  import { ask, reads } from '../state/reads.svelte';

  /** Add an exercise, undo the changes, save the plan as a routine, open one. */
  let { day, playerId }: { day: DayPlanner; playerId: string } = $props();
  const kept = reads(() => ask('routines', playerId));
  let name = $state('');
  let said = $state<string | null>(null);

  async function keep() {
    try {
      const blocks = day.blocks.map(({ exercise_type, minutes }) => ({ exercise_type, minutes, params: {} }));
      const made = await api.keepRoutine(playerId, { name, blocks });
      [said, name] = [`“${made.name}” is saved.`, ''];
    } catch (error) {
      said = words(error);
    }
  }

  async function forget(routine: OwnRoutine) {
    await api.dropRoutine(playerId, routine.id);
    if (day.routine === routine.id) day.asComposed();
  }
  const chosen = $derived(kept.value?.find((routine) => routine.id === day.routine));
  const others = $derived(
    Object.entries(day.shown.value?.names ?? {}).filter(
      ([id]) => !day.blocks.some((block) => block.exercise_type === id),
    ),
  );
</script>

{#if others.length}
  <select
    class="plain add"
    aria-label="Add an exercise"
    value=""
    onchange={(event) => {
      day.add(event.currentTarget.value);
      event.currentTarget.value = '';
    }}
  >
    <option value="" disabled>Add</option>
    {#each others as [id, name] (id)}<option value={id}>{name}</option>{/each}
  </select>
{/if}
{#if kept.value?.length}
  <label class="flex items-center gap-3">
    <span class="quiet">Routine</span>
    <select
      class="plain"
      value={day.routine ?? ''}
      onchange={(event) => {
        const routine = kept.value?.find((item) => item.id === event.currentTarget.value);
        if (routine) day.take(routine);
        else day.asComposed();
      }}
    >
      <option value="">Today’s plan</option>
      {#each kept.value as routine (routine.id)}<option value={routine.id}>{routine.name}</option>{/each}
    </select>
  </label>
{/if}
{#if chosen}<button class="line py-2" onclick={() => void forget(chosen)}>Delete “{chosen.name}”</button>{/if}
{#if day.changed && !day.routine}
  <button class="line py-2" onclick={() => day.asComposed()}>Undo changes</button>
  <form
    class="flex items-center gap-3"
    onsubmit={(event) => {
      event.preventDefault();
      void keep();
    }}
  >
    <input class="named" maxlength="60" bind:value={name} aria-label="Name of the routine" placeholder="Routine name" />
    <button class="press small" disabled={!name.trim()}>Save</button>
  </form>
{/if}
{#if said}<p role="status">{said}</p>{/if}

<style>
  .add {
    width: 8rem;
  }
</style>
