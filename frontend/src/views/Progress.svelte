<script lang="ts">
  import { api } from '../lib/api/client';
  import ChecksAfter from '../lib/components/ChecksAfter.svelte';
  import Choice from '../lib/components/Choice.svelte';
  import DaysPlayed from '../lib/components/DaysPlayed.svelte';
  import ProgressTabs from '../lib/components/ProgressTabs.svelte';
  import RangeHistory from '../lib/components/RangeHistory.svelte';
  import ThenAndNow from '../lib/components/ThenAndNow.svelte';
  import TrendChart from '../lib/components/TrendChart.svelte';
  import TwoSpans from '../lib/components/TwoSpans.svelte';
  import WeeksPlayed from '../lib/components/WeeksPlayed.svelte';
  import { household } from '../lib/state/household.svelte';
  import { ask, reads } from '../lib/state/reads.svelte';
  import { QUESTIONS, trendsOf } from '../lib/view/questions';
  import { saveText } from '../lib/view/save';
  import { csvOf, type Step } from '../lib/view/trends';
  import { dateInWords } from '../lib/view/weeks';
  import { noteName, noteSigns, sentence } from '../lib/view/words';

  const player = $derived(household.player);
  let weeks = $state('12');
  const shown = reads(() => player && ask('progress', player.id, Number(weeks)));
  const found = $derived(shown.value);
  const ladder = reads(() => player && ask('rangeSummary', player.id));
  /** Details are made when they are asked for. */
  let opened = $state<Record<string, boolean>>({});
  const SPANS = [
    { value: '6', label: '6 weeks' },
    { value: '12', label: '3 months' },
    { value: '26', label: '6 months' },
    { value: '52', label: '1 year' },
  ];

  const nameOf = (midi: number | null | undefined) =>
    noteName(ladder.value?.range_notes.find((item) => item.midi === midi)?.written ?? '–');
  const unit = $derived<Step>(found?.by_week ? 'week' : 'day');
  const questions = $derived(
    QUESTIONS.map((question) => ({ ...question, ...trendsOf(found?.trends ?? [], question.measures) })),
  );
  const tiring = $derived((found?.playing ?? []).filter((week) => week.minutes_to_tiring !== null).at(-1) ?? null);
  const changes = $derived([...(found?.improving ?? []), ...(found?.slipped ?? [])]);

  function save() {
    saveText(csvOf(found?.trends ?? [], unit), `orexis-trends-${weeks}-weeks.csv`);
  }
</script>

<svelte:head><title>Progress – Orexis</title></svelte:head>

{#if player && found}
  <section class="mx-auto w-full max-w-6xl p-8 max-sm:p-4">
    <ProgressTabs />
    <div class="mt-5 flex flex-wrap items-center gap-x-8 gap-y-2">
      <h1 class="grow">Progress</h1>
      <Choice label="Time" value={weeks} options={SPANS} choose={(value) => (weeks = value)} bare />
    </div>
    {#if shown.trouble}<p role="alert" class="mt-3">{shown.trouble}</p>{/if}
    {#if !found.trends.length}
      <p class="mt-6 text-lg">
        No practice in this time. <a class="line" href="/">Start today’s plan</a>; the first charts need five days.
      </p>
    {:else}
      <div class="mt-5 grid grid-cols-1 gap-x-12 gap-y-8 lg:grid-cols-2">
        <section aria-label="Range">
          <h2>Range</h2>
          {#if ladder.value}<RangeHistory ladder={ladder.value} {nameOf} />{/if}
        </section>
        {#each questions as question (question.id)}
          <section aria-label={question.title}>
            <h2>{question.title}</h2>
            {#if question.first}<TrendChart shown={question.first} {unit} />
            {:else if question.id !== 'endurance'}<p class="quiet mt-2">Nothing measured yet.</p>{/if}
            {#if question.id === 'endurance'}
              <p class="quiet mt-1">
                {tiring?.minutes_to_tiring != null
                  ? `Your lips last ${Math.round(tiring.minutes_to_tiring)} minutes of playing before they tire.`
                  : 'No check note has said “tiring” yet.'}
              </p>
            {/if}
            {#if question.more.length || question.scoped.length || question.id === 'endurance'}
              <details class="mt-2" bind:open={opened[question.id]}>
                <summary class="cursor-pointer py-2">Show more</summary>
                {#if opened[question.id]}
                  <div class="grid grid-cols-1 gap-6">
                    {#each [...question.more, ...question.scoped] as item (`${item.measure.id}@${item.trend.scope}`)}
                      <TrendChart shown={item} {unit} />
                    {/each}
                  </div>
                  {#if question.id === 'endurance'}
                    {#if unit === 'day'}<DaysPlayed days={found.days} />{/if}
                    <WeeksPlayed weeks={found.playing} />
                    <ChecksAfter checks={found.checks} />
                  {/if}
                {/if}
              </details>
            {/if}
          </section>
        {/each}
        <section aria-label="What changed">
          <h2>What changed</h2>
          <ul class="mt-2">
            {#each changes.slice(0, 5) as line (line.says)}
              <li class="py-1">
                {`${sentence(line.says)} `}{#if line.reason}<a
                    class="line whitespace-nowrap"
                    href="/progress/sessions?reason={line.reason}">Show takes</a
                  >{/if}
              </li>
            {:else}<li class="quiet">No clear change in this time.</li>{/each}
          </ul>
        </section>
      </div>
      <details class="mt-8" bind:open={opened['compare']}>
        <summary class="cursor-pointer py-2 text-lg">Compare, and export</summary>
        {#if opened['compare']}
          <TwoSpans playerId={player.id} weeks={Number(weeks)} />
          <ThenAndNow playerId={player.id} />
          <p class="mt-4 flex flex-wrap gap-x-6">
            <a class="line py-2" href={api.sheetUrl(player.id, 'report.pdf', { weeks: String(weeks) })} download
              >Report as PDF</a
            >
            <button class="line py-2" onclick={save}>Export charts as CSV</button>
          </p>
        {/if}
      </details>
    {/if}
    {#if found.milestones.length}
      <details class="mt-2" bind:open={opened['first']}>
        <summary class="cursor-pointer py-2 text-lg">First times ({found.milestones.length})</summary>
        {#if opened['first']}
          <ul class="mt-2">
            {#each found.milestones as item (item.day + item.says)}
              <li class="rule flex flex-wrap gap-x-4 border-b py-2">
                <span class="quiet w-44">{dateInWords(item.day)}</span>{noteSigns(sentence(item.says))}
              </li>
            {/each}
          </ul>
        {/if}
      </details>
    {/if}
  </section>
{:else if shown.trouble}
  <p role="alert" class="p-8">{shown.trouble}</p>
{:else}
  <p role="status" class="p-8">One moment …</p>
{/if}
