<script lang="ts">
  import { ask, reads } from '../state/reads.svelte';
  import { day, noteNames } from '../view/words';
  import TakeShape from './TakeShape.svelte';

  /** The same exercise then and now: laid over each other, and heard one after the other. */
  let { playerId }: { playerId: string } = $props();
  const found = reads(() => ask('thenAndNow', playerId));
  const apart = (days: number) =>
    days < 14
      ? `${days} days apart`
      : days < 90
        ? `${Math.round(days / 7)} weeks apart`
        : `${Math.round(days / 30)} months apart`;
</script>

{#if found.value?.length}
  <h2 class="mt-10">Then and now</h2>
  <p class="quiet mt-1">The first and the latest take of one exercise, over each other.</p>
  <ul class="mt-2">
    {#each found.value as pair (pair.now_id)}
      <li class="rule flex flex-wrap items-center gap-x-4 border-b py-2">
        <a class="line" href="/take/{pair.now_id}?over={pair.then_id}">{pair.title}</a>
        <span class="quiet min-w-0 truncate">{noteNames(pair.written)}</span>
        <span class="grow"></span>
        <TakeShape outcome={pair.then_outcome} size={16} />
        <TakeShape outcome={pair.now_outcome} size={16} />
        <span class="quiet w-56 text-right">{apart(pair.days)}, since {day(pair.then_at)}</span>
      </li>
    {/each}
  </ul>
{/if}
