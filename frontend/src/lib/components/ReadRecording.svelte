<script lang="ts">
  import { api } from '../api/client';
  import { asWav } from '../audio/asWav';
  import { navigate } from '../router';
  import { words } from '../state/loaded.svelte';
  import FilePick from './FilePick.svelte';

  /** A recording of a rehearsal, read as if it were played here; it can be stopped. */
  let { playerId }: { playerId: string } = $props();
  let busy = $state<string | null>(null);
  let trouble = $state<string | null>(null);

  async function read(file: File) {
    [busy, trouble] = [`Reading ${file.name} …`, null];
    const asking = setInterval(() => {
      void api
        .recordingProgress()
        .then((now) => busy !== null && now.says && (busy = `${file.name}: ${now.says}`))
        .catch(() => undefined);
    }, 700);
    try {
      const session = await api.readRecording(playerId, await asWav(file));
      await navigate('/session/:id', { params: { id: session.id } });
    } catch (error) {
      trouble = words(error);
    }
    clearInterval(asking);
    busy = null;
  }
</script>

{#if busy}
  <span role="status"
    >{busy}
    <button class="line ml-3 py-2" onclick={() => api.stopRecording()}>Stop</button></span
  >
{:else}
  <FilePick label="Read a recording" accept="audio/*" take={read} />
{/if}
{#if trouble}<span role="alert">{trouble}</span>{/if}
