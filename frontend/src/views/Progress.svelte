<script lang="ts">
  import { api, type Ladder, type ProgressShown } from '../lib/api/client';
  import ChecksAfter from '../lib/components/ChecksAfter.svelte';
  import Choice from '../lib/components/Choice.svelte';
  import DaysPlayed from '../lib/components/DaysPlayed.svelte';
  import RangeHistory from '../lib/components/RangeHistory.svelte';
  import ThenAndNow from '../lib/components/ThenAndNow.svelte';
  import TwoSpans from '../lib/components/TwoSpans.svelte';
  import TrendChart from '../lib/components/TrendChart.svelte';
  import WeeksPlayed from '../lib/components/WeeksPlayed.svelte';
  import { household } from '../lib/state/household.svelte';
  import { Loaded } from '../lib/state/loaded.svelte';
  import { saveText } from '../lib/view/save';
  import { csvOf, numberOf, type Step } from '../lib/view/trends';
  import { dateInWords } from '../lib/view/weeks';
  import { noteName, noteSigns, sentence } from '../lib/view/words';

  const shown = new Loaded<ProgressShown>();
  const ladder = new Loaded<Ladder>();
  const found = $derived(shown.value);
  const player = $derived(household.player);
  let weeks = $state('12');
  let by = $state<keyof typeof SCOPES>('all');
  const SCOPES = {
    all: { label: 'everything', has: () => false },
    register: { label: 'by register', has: (scope: string) => ['low', 'middle', 'high'].includes(scope) },
    loudness: { label: 'by loudness', has: (scope: string) => ['soft', 'loud'].includes(scope) },
    family: { label: 'by family', has: (scope: string) => !['low', 'middle', 'high', 'soft', 'loud'].includes(scope) },
  };
  const SPANS = [
    { value: '6', label: 'weeks', strong: '6' },
    { value: '12', label: 'weeks', strong: '12' },
    { value: '26', label: 'months', strong: '6' },
    { value: '52', label: 'year', strong: '1' },
  ];

  $effect(() => {
    const id = player?.id;
    void [player?.horn];
    const span = Number(weeks);
    if (!id) return;
    void shown.load(() => api.progress(id, span));
    void ladder.load(() => api.ladder(id));
  });
  const nameOf = (midi: number | null | undefined) =>
    noteName(ladder.value?.rungs.find((item) => item.midi === midi)?.written ?? '–');
  /** Everything first; one register, loudness or family by itself when it is asked for. */
  const trends = $derived(
    (found?.trends ?? []).filter((item) => (item.trend.scope ? SCOPES[by].has(item.trend.scope) : by === 'all')),
  );
  const unit = $derived<Step>(found?.by_week ? 'week' : 'day');
  const lines = $derived(
    found
      ? ([
          ['Improving', found.improving],
          ['Standing still', found.standing],
          ['Slipped', found.slipped],
        ] as const)
      : [],
  );

  function save() {
    saveText(csvOf(found?.trends ?? [], unit), `orexis-trends-${weeks}-weeks.csv`);
  }
</script>

<svelte:head><title>Progress – Orexis</title></svelte:head>

{#if player && found}
  <section class="mx-auto max-w-6xl p-8 max-sm:p-4">
    <h1>How it goes</h1>
    <div class="mt-4">
      <Choice label="Span" value={weeks} options={SPANS} choose={(value) => (weeks = value)} />
    </div>
    {#if shown.trouble}<p role="alert" class="mt-3">{shown.trouble}</p>{/if}
    {#if !found.trends.length}
      <p class="mt-6 text-lg">
        Nothing was played on this horn in that time. <a class="line" href="/">Begin with today</a>: five days make the
        first lines.
      </p>
    {:else}
      <dl class="mt-6 grid gap-x-8 gap-y-3 md:grid-cols-[9rem_1fr]">
        {#each lines as [name, said] (name)}
          <dt class="serif text-xl">{name}</dt>
          <dd class="pb-2">
            {#each said as line (line.says)}<p>
                {`${sentence(line.says)} `}{#if line.reason}<a
                    class="line whitespace-nowrap"
                    href="/log?reason={line.reason}">its takes</a
                  >{/if}
              </p>{:else}<p class="quiet">Nothing that may be claimed.</p>{/each}
          </dd>
        {/each}
      </dl>
      <p class="quiet mt-2 text-sm">
        A change is claimed only where the {unit}s allow it: nine in ten times it lies within what stands in brackets.
      </p>
      <div class="mt-8 flex flex-wrap items-center gap-6">
        <h2>Measures by {unit}</h2>
        <label class="flex items-center gap-3">
          <span class="quiet">Shown</span>
          <select class="plain" bind:value={by}>
            {#each Object.entries(SCOPES) as [id, scope] (id)}<option value={id}>{scope.label}</option>{/each}
          </select>
        </label>
        <span class="grow"></span>
        <a class="line py-2" href={api.sheetUrl(player.id, 'report.pdf', { weeks: String(weeks) })} download
          >A report as PDF</a
        >
        <button class="line py-2" onclick={save}>All of it as CSV</button>
      </div>
      <div class="mt-4 grid gap-x-12 gap-y-8 lg:grid-cols-2">
        {#each trends as item (`${item.measure.id}@${item.trend.scope}`)}<TrendChart shown={item} {unit} />{/each}
      </div>
      <TwoSpans playerId={player.id} weeks={Number(weeks)} />
      <ThenAndNow playerId={player.id} />
      <h2 class="mt-10">Endurance and load</h2>
      {#if unit === 'day'}<DaysPlayed days={found.days} />{/if}
      <WeeksPlayed weeks={found.playing} />
      <ChecksAfter checks={found.checks} />
      {#if found.spent.length}
        <h3 class="mt-6 font-semibold">Sessions that ended spent, beside those that did not</h3>
        <ul class="mt-2">
          {#each found.spent as item (item.label)}
            <li class="py-1">
              {item.label}: {numberOf(item.spent)} against {numberOf(item.other)}
              {item.unit}
            </li>
          {/each}
        </ul>
        <p class="quiet text-sm">Numbers of the middle session of either kind; why is for you to say.</p>
      {/if}
    {/if}
    {#if ladder.value}<RangeHistory ladder={ladder.value} {nameOf} />{/if}
    {#if found.milestones.length}
      <h2 class="mt-10">For the first time</h2>
      <ul class="mt-2">
        {#each found.milestones as item (item.day + item.says)}
          <li class="rule flex flex-wrap gap-x-4 border-b py-2">
            <span class="quiet w-44">{dateInWords(item.day)}</span>{noteSigns(sentence(item.says))}
          </li>
        {/each}
      </ul>
    {/if}
  </section>
{:else if shown.trouble}
  <p role="alert" class="p-8">{shown.trouble}</p>
{:else}
  <p role="status" class="p-8">One moment …</p>
{/if}
