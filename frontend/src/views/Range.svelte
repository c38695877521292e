<script lang="ts">
  import { tick } from 'svelte';
  import { Listbox, useListCollection } from '@skeletonlabs/skeleton-svelte';
  import { api, type RangeNote } from '../lib/api/client';
  import BeginAnyway from '../lib/components/BeginAnyway.svelte';
  import RangeHistory from '../lib/components/RangeHistory.svelte';
  import ProgressTabs from '../lib/components/ProgressTabs.svelte';
  import RangeNoteShape from '../lib/components/RangeNoteShape.svelte';
  import { navigate } from '../lib/router';
  import { Beginning } from '../lib/state/beginning.svelte';
  import { ask, reads } from '../lib/state/reads.svelte';
  import { household } from '../lib/state/household.svelte';
  import { dayAndMonth } from '../lib/view/range';
  import { noteName } from '../lib/view/words';

  const player = $derived(household.player);
  const shown = reads(() => player && ask('rangeSummary', player.id));
  const ladder = $derived(shown.value);
  let chosen = $state<number | null>(null);
  const trouble = $derived(shown.trouble);

  const note = $derived(ladder?.range_notes.find((item) => item.midi === (chosen ?? ladder?.start_up)) ?? null);
  const collection = $derived(
    useListCollection<RangeNote>({
      items: ladder?.range_notes ?? [],
      itemToValue: (item) => String(item.midi),
      itemToString: (item) => item.written,
    }),
  );
  const tried = $derived(ladder?.range_notes.some((item) => item.state !== 'none') ?? false);
  const nameOf = (midi: number | null | undefined) =>
    noteName(ladder?.range_notes.find((item) => item.midi === midi)?.written ?? '–');
  const span = (low: number | null | undefined, high: number | null | undefined) =>
    low === null || low === undefined ? null : `${nameOf(low)} to ${nameOf(high)}`;
  const apart = $derived.by(() => {
    const alone = span(ladder?.alone_low, ladder?.alone_high);
    const line = span(ladder?.joined_low, ladder?.joined_high);
    if (!alone && !line) return null;
    return `On their own: ${alone ?? 'none yet'}. In slurs and scales: ${line ?? 'none yet'}.`;
  });
  const SAID: Record<RangeNote['state'], string> = {
    in_range: 'in your range: clean on three days within three weeks',
    reaching: 'coming: clean, but not on three days yet',
    touched: 'heard, not clean yet',
    none: 'not tried yet',
  };

  /** Where the ladder is wider than the screen, the note that is chosen stands in its middle at first. */
  $effect(() => {
    if (ladder && chosen === null)
      void tick().then(() =>
        document.querySelector('.range-note.picked')?.scrollIntoView({ inline: 'center', block: 'nearest' }),
      );
  });

  const beginning = new Beginning((session) => navigate('/stand/:id', { params: { id: session.id } }));
  const climb = (start: RangeNote, direction: 'up' | 'down') =>
    player &&
    beginning.begin((anyway) =>
      api.openSession({
        player_id: player.id,
        exercise_type: 'step-ladder',
        params: { start: start.sounding, direction },
        anyway,
      }),
    );
</script>

<svelte:head><title>Range – Orexis</title></svelte:head>

{#if player && ladder}
  <section class="mx-auto w-full max-w-6xl p-8 max-sm:p-4">
    <ProgressTabs />
    <h1 class="mt-5">Range</h1>
    <p class="mt-1">
      {#if ladder.low !== null}<b>{nameOf(ladder.low)} to {nameOf(ladder.high)}.</b>{/if}
      {#if tried}{apart ?? 'No note is in your range yet. A note counts after clean takes on three days.'}
      {:else}Play any exercise. Every clean note shows up here.{/if}
      {#if ladder.lopsided}
        <b>
          {ladder.lopsided === 'high'
            ? 'Your high notes have grown more. Give the low ones some days.'
            : 'Your low notes have grown more. Give the high ones some days.'}
        </b>
      {/if}
    </p>
    {#if trouble}<p role="alert" class="mt-3">{trouble}</p>{/if}
    <BeginAnyway {beginning} />
    <Listbox
      {collection}
      value={note ? [String(note.midi)] : []}
      onValueChange={(details) => (chosen = Number(details.value[0]))}
      orientation="horizontal"
      class="mt-6"
    >
      <Listbox.Label class="sr-only">Notes</Listbox.Label>
      <Listbox.Content class="ladder">
        {#each ladder.range_notes as item (item.midi)}
          <Listbox.Item
            {item}
            aria-label="{noteName(item.written)}, {SAID[item.state]}"
            class="range-note {item.midi === ladder.middle ? 'middle' : ''} {note?.midi === item.midi ? 'picked' : ''}"
          >
            <RangeNoteShape state={item.state} joined={item.joined} resonant={item.kind === 'slot'} />
            <span class="name">{item.written.length === 2 ? item.written : ''}</span>
          </Listbox.Item>
        {/each}
      </Listbox.Content>
    </Listbox>
    <p class="quiet mt-3 flex flex-wrap gap-x-8 text-sm">
      <span>full: in your range</span><span>half: coming</span><span>tick: heard</span>
      <span>foot: in slurs and scales too</span><span>dotted: between the partials</span>
    </p>
    {#if note}
      <div class="rule mt-6 flex items-baseline max-sm:flex-wrap gap-x-10 gap-y-3 border-t pt-5">
        <div class="grow">
          <h2>
            {noteName(note.written)} <span class="quiet text-base">sounds {noteName(note.sounding)}</span>
          </h2>
          <p class="mt-1">
            {SAID[note.state]}{note.state === 'in_range' && note.in_line !== 'in_range' && note.alone === 'in_range'
              ? ' (on its own; not yet in a slur or scale)'
              : ''}{note.clean_days.length
              ? `; last on ${dayAndMonth(note.clean_days.at(-1) ?? '')}`
              : ''}{note.best_match !== null ? `; tone match ${Math.round(note.best_match)} of 100` : ''}.
            {#if note.best_take}<a class="line" href="/take/{note.best_take}">Best take</a>{/if}
            {#if note.latest_take && note.latest_take !== note.best_take}
              <a class="line ml-3" href="/take/{note.latest_take}">Latest</a>
            {/if}
          </p>
        </div>
        {#if note.kind === 'slot'}
          <button class="press small whitespace-nowrap" onclick={() => climb(note, 'down')}>Start down from here</button
          >
          <button class="press small whitespace-nowrap" onclick={() => climb(note, 'up')}>Start up from here</button>
        {/if}
      </div>
      {#if ladder.low !== null}
        <p class="quiet mt-4">
          Next time the ladder starts up from <b>{nameOf(ladder.start_up)}</b> and down from
          <b>{nameOf(ladder.start_down)}</b>, inside your range.
        </p>
      {/if}
    {/if}
    <RangeHistory {ladder} {nameOf} bare />
  </section>
{:else if trouble}
  <p class="p-8" role="alert">{trouble}</p>
{/if}

<style>
  :global([data-part='content'].ladder) {
    display: flex;
    flex-direction: row;
    align-items: flex-end;
    gap: 0;
    border: 0;
    border-bottom: 1px solid var(--ink);
    border-radius: 0;
    background: none;
    overflow-x: auto;
    padding: 0 0 2px;
  }

  :global([data-part='item'].range-note) {
    flex: 1 0 19px;
    display: flex;
    flex-direction: column;
    justify-content: flex-end;
    gap: 0.4rem;
    padding: 0.4rem 0;
    min-width: 19px;
    border-radius: 0;
    background: none;
    color: var(--ink);
    cursor: pointer;
  }

  :global([data-part='item'].range-note.middle) {
    border-left: 1px solid var(--ink);
  }

  :global([data-part='item'].range-note.picked),
  :global([data-part='item'].range-note:hover) {
    background: var(--paper-deep);
  }

  :global([data-part='item'].range-note[data-highlighted]) {
    outline: 1.5px solid var(--ink);
    outline-offset: -2px;
  }

  .name {
    writing-mode: vertical-rl;
    transform: rotate(180deg);
    font-size: 0.85rem;
    height: 2rem;
    text-align: right;
  }
</style>
