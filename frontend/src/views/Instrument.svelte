<script lang="ts">
  import { api, type ChartRow, type Setup } from '../lib/api/client';
  import ChartTable from '../lib/components/ChartTable.svelte';
  import HornOrMe from '../lib/components/HornOrMe.svelte';
  import HornSettings from '../lib/components/HornSettings.svelte';
  import { Loaded, words } from '../lib/state/loaded.svelte';
  import { household } from '../lib/state/household.svelte';
  import { midiOf } from '../lib/view/pitch';
  import { noteName } from '../lib/view/words';

  const chart = new Loaded<ChartRow[]>();
  const player = $derived(household.player);
  const horn = $derived(household.catalogue?.horns.find((item) => item.id === player?.horn));

  async function load() {
    const id = player?.id;
    if (id) await chart.load(() => api.chart(id));
  }
  let trouble = $state<string | null>(null);
  /** Ways of the player's own, or the pedal at which the lips shift: kept at once, and the chart made anew. */
  async function keep(change: Partial<Setup>) {
    if (!player) return;
    try {
      await api.changeHorn(player.id, { ...player.setup, ...change });
      await household.load();
      await load();
      trouble = null;
    } catch (error) {
      trouble = words(error);
    }
  }
  const shiftsAt = $derived(player?.setup?.shifts_at ?? null);
  const nameOf = (midi: number) => chart.value?.find((row) => row.midi === midi)?.written ?? '';
  $effect(() => {
    void [player?.horn, player?.part, player?.a4_hz];
    void load();
  });
</script>

<svelte:head><title>Horn – Orexis</title></svelte:head>

{#if player && horn}
  <section class="mx-auto grid max-w-[1400px] gap-x-10 p-6 max-sm:p-4 lg:grid-cols-[1fr_320px]">
    <div class="min-w-0">
      <header class="flex flex-wrap items-baseline gap-x-6 gap-y-1">
        <h1>{horn.name}</h1>
        <span class="quiet">A4 = {player.a4_hz} Hz; sharp is positive, out is positive</span>
        <span class="grow"></span>
        <a class="line py-2 print:hidden" href={api.paperUrl(player.id, 'chart.csv')} download>as CSV</a>
        <a class="line py-2 print:hidden" href={api.sheetUrl(player.id, 'chart.pdf')} download>The chart as PDF</a>
      </header>
      {#if horn.mechanism === 'slide' && horn.valves.length}<p class="mt-1">{horn.valves.join(', ')}</p>{/if}
      {#if chart.trouble}<p role="alert" class="mt-3">{chart.trouble}</p>{/if}
      <HornOrMe {player} changed={load} />
      {#if trouble}<p role="alert" class="mt-3">{trouble}</p>{/if}
      {#if shiftsAt}
        <p class="mt-4">
          Pedal sets go down to {noteName(nameOf(midiOf(shiftsAt)))}, because you shift the lips there.
          <button class="line ml-2 print:hidden" onclick={() => keep({ shifts_at: null })}>No shift any more</button>
        </p>
      {/if}
      <ChartTable
        rows={chart.value ?? []}
        glides={horn.mechanism === 'slide'}
        own={player.setup?.preferred ?? []}
        take={(preferred) => void keep({ preferred })}
      />
    </div>
    <aside class="print:hidden"><HornSettings {player} {horn} changed={load} /></aside>
  </section>
{/if}
