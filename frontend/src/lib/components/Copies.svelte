<script lang="ts">
  import { api, type Schemas } from '../api/client';
  import { Loaded, words } from '../state/loaded.svelte';
  import { dateInWords, isoOf } from '../view/weeks';
  import { counted, day } from '../view/words';
  import Ask from './Ask.svelte';

  /** Copies of the record: what is in each, and one in the place of the record. `fresh`: one can be made now. */
  let { fresh = true }: { fresh?: boolean } = $props();
  type Copy = Schemas['BackupCopy'];
  const found = new Loaded<Copy[]>();
  let asking = $state<Copy | null>(null);
  let busy = $state(false);
  let said = $state<string | null>(null);
  void found.load(api.copies);

  async function make() {
    said = null;
    await found.load(api.makeCopy);
  }
  async function restore(agreed: boolean) {
    const copy = asking;
    asking = null;
    if (!agreed || !copy) return;
    [busy, said] = [true, 'Restoring …'];
    try {
      await api.restoreCopy(copy.name);
      location.assign('/');
    } catch (error) {
      said = words(error);
    }
    busy = false;
  }
  const holds = (copy: Copy) =>
    copy.whole
      ? `${(copy.players ?? []).join(', ') || 'nobody'}; ${counted(copy.takes ?? 0, ['# take', '# takes'])}` +
        (copy.last_day ? `, the last on ${dateInWords(isoOf(copy.last_day))}` : '')
      : 'damaged';
</script>

<div class="grid gap-3">
  <h3 class="font-semibold">Copies</h3>
  <p class="quiet">Made once a week. Sound is not in them: it stays where it is.</p>
  {#if found.value?.length}
    <ul aria-label="Copies">
      {#each found.value as copy (copy.name)}
        <li class="rule flex flex-wrap items-center gap-x-6 gap-y-1 border-b py-1">
          <span>{day(copy.made_at)}{copy.before_restoring ? ', before restoring' : ''}</span>
          <span class="quiet grow">{holds(copy)}</span>
          {#if copy.whole}
            <button class="line py-2" disabled={busy} onclick={() => (asking = copy)}>Restore</button>
          {/if}
        </li>
      {/each}
    </ul>
  {:else if found.value}
    <p>There is no copy yet.</p>
  {/if}
  {#if fresh}<p><button class="line py-2" disabled={busy} onclick={make}>Make a copy now</button></p>{/if}
  {#each [said, found.trouble].filter(Boolean) as line (line)}<p role="status">{line}</p>{/each}
</div>
<Ask
  open={asking !== null}
  title="Restore this copy?"
  text="What was played after it leaves the pages. The present data is kept as a copy, so you can go back."
  yes="Restore"
  done={(agreed) => void restore(agreed)}
/>
