<script lang="ts">
  import { api, type Mark } from '../api/client';
  import { household } from '../state/household.svelte';
  import { words, type Loaded } from '../state/loaded.svelte';
  import { decimals } from '../view/numbers';

  /** What was said at moments of a take, by whoever plays or heard it; numbered as the flags on the picture are. */
  type Props = { takeId: string; duration: number; marks: Loaded<Mark[]>; time: number };
  let { takeId, duration, marks, time = $bindable() }: Props = $props();
  let text = $state('');
  let trouble = $state<string | null>(null);
  const by = $derived(household.writer);
  const nearer = $derived(marks.value?.some((mark) => mark.nearer && mark.by === by) ?? false);

  async function change(call: () => Promise<Mark[]>) {
    try {
      const found = await call();
      await marks.load(() => Promise.resolve(found));
      trouble = null;
      return true;
    } catch (error) {
      trouble = words(error);
      return false;
    }
  }
  async function say(at_s: number | null) {
    if (await change(() => api.addMark(takeId, { at_s, nearer: false, words: text, by }))) text = '';
  }
  const callNearer = () => change(() => api.addMark(takeId, { at_s: null, nearer: true, words: '', by }));
  const inWords = (mark: Mark) =>
    [mark.nearer ? /* @wc-include */ 'closer' : '', mark.words].filter(Boolean).join(': ');
</script>

<h2 class="mt-8">Remarks</h2>
{#if marks.value?.length}
  <ol class="mt-2">
    {#each marks.value as mark, i (mark.id)}
      <li class="rule flex flex-wrap items-baseline gap-x-4 border-b py-1">
        <span class="number">{i + 1}</span>
        {#if mark.at_s != null}
          {@const at = mark.at_s}
          <button class="line py-2" onclick={() => (time = Math.max(0, at - 0.5))}>at {decimals(at, 1)} s</button>
        {:else}<span class="quiet py-2">whole take</span>{/if}
        <span class="min-w-0 grow">{inWords(mark)}</span>
        <span class="quiet">{mark.by}</span>
        <button
          class="line py-2"
          aria-label="Delete remark {i + 1}"
          onclick={() => change(() => api.dropMark(takeId, mark.id))}>Delete</button
        >
      </li>
    {/each}
  </ol>
{:else}<p class="quiet mt-1">No remarks yet. Click a moment in the picture to add one.</p>{/if}
<form
  class="mt-3 flex flex-wrap items-end gap-x-4 gap-y-3"
  onsubmit={(event) => {
    event.preventDefault();
    void say(Math.min(time, duration));
  }}
>
  <label class="field min-w-64 grow"
    ><span>Remark by {by}, at {decimals(time, 1)} s</span><input bind:value={text} maxlength="1000" /></label
  >
  <button class="press small" disabled={!text.trim()}>Add here</button>
  <button type="button" class="press small" disabled={!text.trim()} onclick={() => say(null)}
    >Add to the whole take</button
  >
  {#if !nearer}<button type="button" class="press small" onclick={callNearer}>Mark as closer</button>{/if}
</form>
{#if trouble}<p role="alert" class="mt-2">{trouble}</p>{/if}

<style>
  .number {
    flex: none;
    min-width: 1.4rem;
    padding: 0 0.3rem;
    text-align: center;
    font-size: 0.85rem;
    font-weight: 600;
    background: var(--ink);
    color: var(--paper);
  }
</style>
