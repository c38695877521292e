<script lang="ts">
  import type { DayBlock } from '../api/client';
  import type { DayPlanner } from '../state/dayplan.svelte';
  import { loadInWords, LOAD_WORDS, noteSigns, sentence } from '../view/words';

  /** One block of the plan: why it is there, and what can be changed. */
  let { day, block, close }: { day: DayPlanner; block: DayBlock; close: () => void } = $props();
  const LENGTHS = [1, 2, 3, 4, 5, 6, 8, 10, 12, 15, 20, 25, 30];
  const lengths = $derived([...new Set([...LENGTHS, block.minutes])].sort((a, b) => a - b));
  const name = $derived(day.nameOf(block.exercise_type));
  const index = $derived(day.blocks.findIndex((item) => item.exercise_type === block.exercise_type));
  const others = $derived(day.shown.value?.instead[block.exercise_type] ?? []);
</script>

<section class="rule border-b py-4" aria-label={name}>
  <h2>{name}</h2>
  <p class="mt-1">
    {noteSigns(sentence(block.why))}
    <span class="quiet">
      {block.says ? `Level ${(block.step ?? 0) + 1} of ${block.of}: ${noteSigns(block.says)}. ` : ''}{sentence(
        `${LOAD_WORDS[block.load_class]}, ${loadInWords(block.load)}`,
      )}
    </span>
  </p>
  <div class="mt-3 flex flex-wrap items-center gap-x-6 gap-y-2">
    <label class="flex items-center gap-3">
      <span class="quiet">Minutes</span>
      <select
        class="plain"
        aria-label="Minutes for {name}"
        value={String(block.minutes)}
        onchange={(event) => day.last(block, Number(event.currentTarget.value))}
      >
        {#each lengths as length (length)}<option value={String(length)}>{length}</option>{/each}
      </select>
    </label>
    {#if others.length}
      <label class="flex items-center gap-3">
        <span class="quiet">Swap</span>
        <select
          class="plain"
          aria-label="Swap {name} for"
          value=""
          onchange={(event) => {
            day.swap(block, event.currentTarget.value);
            close();
          }}
        >
          <option value="" disabled>choose</option>
          {#each others as other (other)}<option value={other}>{day.nameOf(other)}</option>{/each}
        </select>
      </label>
    {/if}
    {#if !day.arranged}
      <button class="line py-2" aria-pressed={block.locked} onclick={() => day.hold(block)}
        >{block.locked ? 'Unpin' : 'Pin'}</button
      >
    {/if}
    <button class="line py-2" disabled={index <= 0} onclick={() => day.moveTo(index, index - 1)}>Move earlier</button>
    <button class="line py-2" disabled={index === day.blocks.length - 1} onclick={() => day.moveTo(index, index + 1)}
      >Move later</button
    >
    <button
      class="line py-2"
      disabled={day.blocks.length === 1}
      onclick={() => {
        day.drop(block);
        close();
      }}>Remove</button
    >
  </div>
</section>

<style>
  button:disabled {
    color: var(--ink-soft);
    text-decoration: none;
    cursor: default;
  }
</style>
