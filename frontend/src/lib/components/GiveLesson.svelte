<script lang="ts">
  import { api } from '../api/client';
  import { household } from '../state/household.svelte';
  import { words } from '../state/loaded.svelte';
  import { ask, reads } from '../state/reads.svelte';
  import Toggle from './Toggle.svelte';

  /** One of the teacher's own lessons, for the players who were chosen. */
  type Props = { players: string[]; given: (refused: string[]) => void };
  let { players, given }: Props = $props();
  const found = reads(() => household.player && ask('exchanges', household.player.id));
  const lessons = $derived((found.value ?? []).filter((one) => one.lesson && one.way === 'sent'));
  let lesson = $state('');
  let added = $state(true);
  let trouble = $state<string | null>(null);

  async function give() {
    try {
      given(await api.giveLesson(lesson, players, added));
    } catch (error) {
      trouble = words(error);
    }
  }
</script>

{#if found.value && !lessons.length}
  <p>You have not written a lesson yet. <a class="line" href="/lessons">Write a lesson</a></p>
{:else}
  <form
    class="flex flex-wrap items-end gap-x-6 gap-y-3"
    onsubmit={(event) => {
      event.preventDefault();
      void give();
    }}
  >
    <label class="field">
      <span>Lesson</span>
      <select bind:value={lesson}>
        <option value="" disabled>choose</option>
        {#each lessons as one (one.id)}<option value={one.id}>{one.lesson?.title}</option>{/each}
      </select>
    </label>
    <Toggle label="Add it to their practice at once" checked={added} set={(on) => (added = on)} />
    <button class="press small first" disabled={!lesson}>Give</button>
    <a class="line py-2" href="/lessons">Write a lesson</a>
  </form>
{/if}
{#if trouble}<p role="alert" class="mt-3">{trouble}</p>{/if}
