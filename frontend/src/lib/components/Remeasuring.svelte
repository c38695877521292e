<script lang="ts">
  import { onMount } from 'svelte';
  import { api, type Remeasured } from '../api/client';
  import { words } from '../state/loaded.svelte';
  import { counted } from '../view/numbers';

  /** Takes that an earlier version measured, measured again in the background. Nothing is shown where there are none. */
  const EVERY_MS = 3000;
  let shown = $state<Remeasured | null>(null);
  let said = $state<string | null>(null);

  async function ask(what: () => Promise<Remeasured>) {
    try {
      [shown, said] = [await what(), null];
    } catch (error) {
      said = words(error);
    }
  }
  onMount(() => {
    void ask(api.remeasuring);
    const timer = setInterval(() => shown?.running && void ask(api.remeasuring), EVERY_MS);
    return () => clearInterval(timer);
  });
  const takes = $derived(counted(shown?.old ?? 0, ['# take was measured', '# takes were measured']));
</script>

{#if shown && (shown.old || shown.running)}
  <div class="flex flex-wrap items-center gap-x-6 gap-y-2">
    <p role="status">
      {takes} by an earlier version of Orexis.
      {#if shown.running}Measuring them again while nobody plays ({shown.done} done).{/if}
    </p>
    {#if shown.running}
      <button class="line py-2" onclick={() => ask(api.stopRemeasuring)}>Pause</button>
    {:else}
      <button class="line py-2" onclick={() => ask(api.startRemeasuring)}>Measure again</button>
    {/if}
  </div>
{/if}
{#if said}<p role="alert">{said}</p>{/if}
