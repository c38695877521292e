<script lang="ts">
  import ArrowDown from '@lucide/svelte/icons/arrow-down';
  import ArrowUp from '@lucide/svelte/icons/arrow-up';
  import Pin from '@lucide/svelte/icons/pin';
  import X from '@lucide/svelte/icons/x';
  import type { DayPlanner } from '../state/dayplan.svelte';
  import { noteSigns, sentence } from '../view/words';

  /** The blocks one under another: what, how long, on which step, why; each can be kept, changed, moved, left out. */
  let { day }: { day: DayPlanner } = $props();
  const shown = $derived(day.shown.value);
  const LENGTHS = [1, 2, 3, 4, 5, 6, 8, 10, 12, 15, 20, 25, 30];
  const lengths = (own: number) => [...new Set([...LENGTHS, own])].sort((a, b) => a - b);
  const others = $derived(
    Object.entries(shown?.names ?? {}).filter(([id]) => !day.blocks.some((block) => block.family === id)),
  );
</script>

<ol class="mt-4">
  {#each day.blocks as block, index (block.family)}
    {@const name = day.nameOf(block.family)}
    <li class="rule row border-b py-2">
      <label class="minutes">
        <span class="sr-only">Minutes of {name}</span>
        <select
          class="plain"
          value={String(block.minutes)}
          onchange={(event) => day.last(block, Number(event.currentTarget.value))}
        >
          {#each lengths(block.minutes) as length (length)}<option value={String(length)}>{length}</option>{/each}
        </select>
        <span class="quiet">min</span>
      </label>
      <div class="what">
        <b>{name}</b>{block.load_class === 'high' ? ', heavy' : ''}{#if block.says}<span class="quiet"
            >: step {(block.step ?? 0) + 1} of {block.of}, {noteSigns(block.says)}</span
          >{/if}
        <br /><span class="quiet">{noteSigns(sentence(block.why))}</span>
      </div>
      <div class="tools">
        {#if !day.arranged}
          <button
            class="tool"
            aria-pressed={block.locked}
            aria-label="Keep {name}"
            title="Keep it, whatever else is composed"
            onclick={() => day.hold(block)}><Pin size={18} fill={block.locked ? 'currentColor' : 'none'} /></button
          >
        {/if}
        {#if shown?.instead[block.family]?.length}
          <select
            class="plain swap"
            aria-label="In place of {name}"
            value=""
            onchange={(event) => day.swap(block, event.currentTarget.value)}
          >
            <option value="" disabled>instead</option>
            {#each shown.instead[block.family] as other (other)}<option value={other}>{day.nameOf(other)}</option
              >{/each}
          </select>
        {/if}
        <button class="tool" aria-label="{name} earlier" disabled={index === 0} onclick={() => day.move(index, -1)}
          ><ArrowUp size={18} /></button
        >
        <button
          class="tool"
          aria-label="{name} later"
          disabled={index === day.blocks.length - 1}
          onclick={() => day.move(index, 1)}><ArrowDown size={18} /></button
        >
        <button
          class="tool"
          aria-label="Leave out {name}"
          disabled={day.blocks.length === 1}
          onclick={() => day.drop(block)}><X size={18} /></button
        >
      </div>
    </li>
  {/each}
</ol>
{#if others.length}
  <label class="mt-3 inline-flex items-center gap-3">
    <span class="quiet">One more</span>
    <select
      class="plain"
      value=""
      onchange={(event) => {
        day.add(event.currentTarget.value);
        event.currentTarget.value = '';
      }}
    >
      <option value="" disabled>choose</option>
      {#each others as [id, name] (id)}<option value={id}>{name}</option>{/each}
    </select>
  </label>
{/if}

<style>
  .row {
    display: grid;
    grid-template-columns: 7.4rem 1fr auto;
    align-items: center;
    gap: 0.25rem 1rem;
  }

  .minutes {
    display: inline-flex;
    align-items: center;
    gap: 0.4rem;
  }

  .minutes select {
    width: 4.8rem;
  }

  .tools {
    display: flex;
    align-items: center;
  }

  .tool {
    min-width: 44px;
    min-height: 44px;
    display: inline-flex;
    align-items: center;
    justify-content: center;
    color: var(--ink-soft);
    cursor: pointer;
  }

  .tool[aria-pressed='true'] {
    color: var(--ink);
  }

  .tool:disabled {
    opacity: 0.3;
    cursor: default;
  }

  .swap {
    width: 6.4rem;
    background: transparent;
    border-bottom-color: transparent;
    color: var(--ink-soft);
  }

  @media (max-width: 48rem) {
    .row {
      grid-template-columns: 7.4rem 1fr;
    }

    .tools {
      grid-column: 1 / -1;
      justify-content: flex-end;
    }
  }
</style>
