<script lang="ts">
  import { api } from '../api/client';
  import { household } from '../state/household.svelte';
  import { words } from '../state/loaded.svelte';
  import { sizeInWords } from '../view/sizes';
  import FilePick from './FilePick.svelte';
  import { counted } from '../view/numbers';

  /** A file with everything, from another machine or from before, brought in; it can be stopped. */
  let { done }: { done?: () => void } = $props();
  let busy = $state<string | null>(null);
  let said = $state<string | null>(null);

  async function bringIn(file: File) {
    const name = `${file.name}, ${sizeInWords(file.size)}`;
    [busy, said] = [`Reading ${name} …`, null];
    const asking = setInterval(() => {
      void api
        .importProgress()
        .then((now) => busy !== null && now.says && (busy = `${name}: ${now.says}`))
        .catch(() => undefined);
    }, 700);
    let brought = false;
    try {
      const found = await api.bringIn(file);
      const takes = found.added?.['takes'] ?? 0;
      const kept = Object.values(found.kept ?? {}).reduce((sum, count) => sum + count, 0);
      said =
        `${counted(takes, ['# take', '# takes'])} and ${found.sounds} sounds imported.` +
        (kept ? ` ${kept} entries were here already and stay as they are.` : '');
      await household.load();
      brought = true;
    } catch (error) {
      said = words(error);
    }
    clearInterval(asking);
    busy = null;
    if (brought) done?.();
  }
</script>

<FilePick label="Import a file" take={bringIn} />
{#if busy}
  <p role="status">
    {busy}
    <button class="line ml-4 py-2" onclick={() => api.stopImport()}>Cancel</button>
  </p>
{/if}
{#if said}<p role="status">{said}</p>{/if}
