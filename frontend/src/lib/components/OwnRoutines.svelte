<script lang="ts">
  import { api, type OwnRoutine } from '../api/client';
  import type { DayPlanner } from '../state/dayplan.svelte';
  import { Loaded, words } from '../state/loaded.svelte';

  /** Days that the player arranged and kept, beside the one that is composed. */
  let { day, playerId }: { day: DayPlanner; playerId: string } = $props();
  const kept = new Loaded<OwnRoutine[]>();
  let name = $state('');
  let said = $state<string | null>(null);
  const load = () => kept.load(() => api.routines(playerId));

  $effect(() => {
    void [playerId];
    void load();
  });

  async function keep() {
    try {
      const blocks = day.blocks.map(({ family, minutes }) => ({ family, minutes, params: {} }));
      const made = await api.keepRoutine(playerId, { name, blocks });
      [said, name] = [`“${made.name}” is kept.`, ''];
      await load();
    } catch (error) {
      said = words(error);
    }
  }

  async function forget(routine: OwnRoutine) {
    await api.dropRoutine(playerId, routine.id);
    if (day.routine === routine.id) day.asComposed();
    await load();
  }
  const chosen = $derived(kept.value?.find((routine) => routine.id === day.routine));
</script>

<div class="mt-5 flex flex-wrap items-end gap-x-6 gap-y-3">
  {#if kept.value?.length}
    <label class="flex items-center gap-3">
      <span class="quiet">The day is</span>
      <select
        class="plain"
        value={day.routine ?? ''}
        onchange={(event) => {
          const routine = kept.value?.find((item) => item.id === event.currentTarget.value);
          if (routine) day.take(routine);
          else day.asComposed();
        }}
      >
        <option value="">composed from your record</option>
        {#each kept.value as routine (routine.id)}<option value={routine.id}>{routine.name}</option>{/each}
      </select>
    </label>
  {/if}
  {#if chosen}<button class="line py-2" onclick={() => void forget(chosen)}>Forget “{chosen.name}”</button>{/if}
  {#if day.changed && !day.routine}
    <button class="line py-2" onclick={() => day.asComposed()}>As it was composed</button>
    <form
      class="flex items-center gap-3"
      onsubmit={(event) => {
        event.preventDefault();
        void keep();
      }}
    >
      <label class="flex items-center gap-3">
        <span class="quiet">Keep this day as</span>
        <input class="named" maxlength="60" bind:value={name} placeholder="a name" />
      </label>
      <button class="press small" disabled={!name.trim()}>Keep</button>
    </form>
  {/if}
  {#if said}<p role="status">{said}</p>{/if}
</div>
