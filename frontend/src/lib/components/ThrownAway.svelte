<script lang="ts">
  import { api } from '../api/client';
  import { words } from '../state/loaded.svelte';
  import { ask, reads } from '../state/reads.svelte';
  import { day, noteNames } from '../view/words';
  import TakeShape from './TakeShape.svelte';
  import { counted } from '../view/numbers';

  /** Takes that were thrown away and may still be brought back. */
  let { playerId }: { playerId: string } = $props();
  const thrown = reads(() => ask('thrownAway', playerId));
  let said = $state<string | null>(null);

  async function bringBack(take: string) {
    try {
      await api.discard(take, false);
      said = 'Restored.';
    } catch (error) {
      said = words(error);
    }
  }
  async function forget(take: string) {
    try {
      await api.forgetTake(take);
      said = 'Deleted for good.';
    } catch (error) {
      said = words(error);
    }
  }
</script>

{#if thrown.value?.length}
  <details class="mt-10">
    <summary class="quiet cursor-pointer py-2">
      Deleted takes: {thrown.value.length}. They can be restored for thirty days.
    </summary>
    <ul>
      {#each thrown.value as take (take.id)}
        <li class="rule flex flex-wrap items-center gap-x-4 border-b py-2">
          <TakeShape outcome={take.outcome} size={16} />
          <a class="line" href="/take/{take.id}">{take.title}</a>
          <span class="quiet">{noteNames(take.written)}</span>
          <span class="quiet">{day(take.started_at)}</span>
          <span class="grow"></span>
          <span class="quiet">{counted(take.days_left, ['# day left', '# days left'])}</span>
          <button class="line py-2" onclick={() => bringBack(take.id)}>Restore</button>
          <button class="line py-2" onclick={() => forget(take.id)}>Delete for good</button>
        </li>
      {/each}
    </ul>
  </details>
{/if}
{#if said}<p role="status" class="mt-2">{said}</p>{/if}
