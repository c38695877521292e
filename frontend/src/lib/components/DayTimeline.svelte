<script lang="ts">
  import type { DayBlock } from '../api/client';
  import type { DayPlanner } from '../state/dayplan.svelte';
  import { minutesInWords } from '../view/dayline';
  import { LOAD_WORDS } from '../view/words';
  import BlockDetails from './BlockDetails.svelte';

  /** The plan to scale, which is its list: each block a button; drag it, or Alt and an arrow key, to move it. */
  let { day }: { day: DayPlanner } = $props();
  let opened = $state<string | null>(null);
  let dragged = $state<number | null>(null);
  let over = $state<number | null>(null);
  const block = $derived(day.blocks.find((item) => item.exercise_type === opened) ?? null);
  const named = (item: DayBlock) =>
    `${day.nameOf(item.exercise_type)}, ${minutesInWords(item.minutes)}, ${LOAD_WORDS[item.load_class]}`;

  function drop(to: number) {
    if (dragged !== null) day.moveTo(dragged, to);
    [dragged, over] = [null, null];
  }
  function onkeydown(event: KeyboardEvent, index: number) {
    const by = { ArrowLeft: -1, ArrowUp: -1, ArrowRight: 1, ArrowDown: 1 }[event.key];
    if (!event.altKey || !by) return;
    event.preventDefault();
    day.moveTo(index, index + by);
  }
</script>

<ol class="timeline" aria-label="Plan for today">
  {#each day.blocks as item, index (item.exercise_type)}
    <li style="flex-grow: {item.minutes}" class:over={over === index}>
      <button
        class="block {item.load_class}"
        aria-expanded={opened === item.exercise_type}
        aria-label={named(item)}
        title={named(item)}
        draggable="true"
        ondragstart={() => (dragged = index)}
        ondragover={(event) => {
          event.preventDefault();
          over = index;
        }}
        ondragend={() => ([dragged, over] = [null, null])}
        ondrop={(event) => {
          event.preventDefault();
          drop(index);
        }}
        onkeydown={(event) => onkeydown(event, index)}
        onclick={() => (opened = opened === item.exercise_type ? null : item.exercise_type)}
      >
        <b>{day.nameOf(item.exercise_type)}</b>
        <span class="quiet">{minutesInWords(item.minutes)}</span>
      </button>
    </li>
  {/each}
</ol>
{#if block}<BlockDetails {day} {block} close={() => (opened = null)} />{/if}

<style>
  .timeline {
    display: flex;
    margin-top: 2rem;
    border-bottom: 1.5px solid var(--ink);
  }

  li {
    flex: 1 1 0;
    min-width: 5.6rem; /* the shortest name in one piece */
  }

  li.over {
    box-shadow: inset 3px 0 0 var(--ink);
  }

  .block {
    display: flex;
    flex-direction: column;
    align-items: flex-start;
    gap: 0.2rem;
    width: calc(100% - 3px);
    height: 100%;
    min-height: 92px;
    padding: 0.6rem 0.5rem;
    text-align: left;
    border-top: 6px solid var(--rule);
    cursor: pointer;
    overflow: hidden;
    hyphens: auto;
  }

  .block b {
    font-weight: 550;
    line-height: 1.2;
    overflow-wrap: anywhere;
  }

  .block.medium {
    border-top-color: var(--ink-soft);
  }

  /* Heavy is hatched, as everywhere. */
  .block.high {
    border-top: 0;
    padding-top: calc(0.6rem + 6px);
    background: repeating-linear-gradient(135deg, var(--ink) 0 3px, transparent 3px 6px) top / 100% 10px no-repeat;
  }

  .block[aria-expanded='true'],
  .block:hover {
    background-color: var(--paper-deep);
  }

  @media (max-width: 60rem) {
    .timeline {
      flex-direction: column;
      border-bottom: 0;
    }

    li {
      flex: none;
    }

    .block {
      flex-direction: row;
      justify-content: space-between;
      align-items: center;
      width: 100%;
      min-height: 52px;
      border-top: 1px solid var(--rule);
      border-left: 6px solid var(--rule);
      padding: 0.4rem 0.8rem;
    }

    .block.medium {
      border-left-color: var(--ink-soft);
      border-top-color: var(--rule);
    }

    .block.high {
      padding-top: 0.4rem;
      border-top: 1px solid var(--rule);
      border-left: 0;
      padding-left: calc(0.8rem + 6px);
      background: repeating-linear-gradient(135deg, var(--ink) 0 3px, transparent 3px 6px) left / 10px 100% no-repeat;
    }
  }
</style>
