<script lang="ts">
  import { api, type Exchange } from '../api/client';
  import { household } from '../state/household.svelte';
  import { words } from '../state/loaded.svelte';
  import { partsOf } from '../view/exchanges';

  /** What is in a lesson; where it was received, each part becomes the player's own at a touch. */
  let { exchange, changed }: { exchange: Exchange; changed: (exchange: Exchange) => void } = $props();
  const parts = $derived(partsOf(exchange));
  const open = $derived(parts.map((part) => part.key).filter((key) => !exchange.taken.includes(key)));
  const received = $derived(exchange.way === 'received');
  let refused = $state<string[]>([]);

  async function take(keys: string[]) {
    if (!household.player) return;
    try {
      const came = await api.takeOverParts(household.player.id, exchange.id, keys);
      refused = came.refused;
      changed(came.exchange);
      await household.load();
    } catch (error) {
      refused = [words(error)];
    }
  }
</script>

{#if parts.length}
  <h2 class="mt-8">Contents</h2>
  <ul class="mt-2">
    {#each parts as part (part.key)}
      <li class="rule flex flex-wrap items-baseline gap-x-4 border-b py-2">
        <span class="quiet w-20">{part.kind}</span>
        <span class="min-w-0 grow">
          {part.name}
          {#if part.words}<span class="serif block">“{part.words}”</span>{/if}
        </span>
        {#if part.take}<a class="line py-2" href="/take/{part.take}">Listen</a>{/if}
        {#if received}
          {#if open.includes(part.key)}
            <button class="line py-2" aria-label="Add {part.name}" onclick={() => take([part.key])}>Add</button>
          {:else}<span class="quiet py-2">added</span>{/if}
        {/if}
      </li>
    {/each}
  </ul>
  {#if received && open.length > 1}
    <p class="mt-4"><button class="press small first" onclick={() => take(open)}>Add everything</button></p>
  {/if}
  {#each refused as line (line)}<p role="alert" class="mt-2">{line}</p>{/each}
{/if}
