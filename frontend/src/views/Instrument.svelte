<script lang="ts">
  import { api, type Setup } from '../lib/api/client';
  import Choice from '../lib/components/Choice.svelte';
  import ChartTable from '../lib/components/ChartTable.svelte';
  import InstrumentOrPlayer from '../lib/components/InstrumentOrPlayer.svelte';
  import InstrumentSettings from '../lib/components/InstrumentSettings.svelte';
  import { words } from '../lib/state/loaded.svelte';
  import { ask, reads } from '../lib/state/reads.svelte';
  import { household } from '../lib/state/household.svelte';
  import { midiOf } from '../lib/view/pitch';
  import { noteName } from '../lib/view/words';

  const player = $derived(household.player);
  const chart = reads(() => player && ask('chart', player.id));
  const instrument = $derived(household.catalogue?.instruments.find((item) => item.id === player?.instrument));

  const TABS = [
    { value: 'chart', label: 'Fingerings' },
    { value: 'tuning', label: 'Instrument or you' },
    { value: 'settings', label: 'Settings' },
  ] as const;
  let tab = $state<(typeof TABS)[number]['value']>('chart');
  let trouble = $state<string | null>(null);
  /** Ways of the player's own, or the pedal at which the lips shift: kept at once, and the chart made anew. */
  async function keep(change: Partial<Setup>) {
    if (!player) return;
    try {
      await api.changeInstrument(player.id, { ...player.setup, ...change });
      await household.load();
      trouble = null;
    } catch (error) {
      trouble = words(error);
    }
  }
  const shiftsAt = $derived(player?.setup?.shifts_at ?? null);
  const nameOf = (midi: number) => chart.value?.find((row) => row.midi === midi)?.written ?? '';
</script>

<svelte:head><title>Instrument – Orexis</title></svelte:head>

{#if player && instrument}
  <section class="mx-auto w-full max-w-6xl p-8 max-sm:p-4">
    <header class="flex flex-wrap items-center gap-x-6 gap-y-1">
      <h1 class="grow">{instrument.name}</h1>
      <Choice label="Show" bare value={tab} options={TABS} choose={(value) => (tab = value)} />
    </header>
    {#if instrument.mechanism === 'slide' && instrument.valves.length}<p class="quiet mt-1">
        {instrument.valves.join(', ')}
      </p>{/if}
    {#each [chart.trouble ?? trouble].filter(Boolean) as line (line)}<p role="alert" class="mt-3">{line}</p>{/each}
    {#if tab === 'chart'}
      {#if shiftsAt}
        <p class="mt-4">
          Pedal sets stop at {noteName(nameOf(midiOf(shiftsAt)))}, where your lips shift.
          <button class="line ml-2 print:hidden" onclick={() => keep({ shifts_at: null })}>Undo</button>
        </p>
      {/if}
      <ChartTable
        rows={chart.value ?? []}
        glides={instrument.mechanism === 'slide'}
        own={player.setup?.preferred ?? []}
        take={(preferred) => void keep({ preferred })}
      />
      <p class="mt-4 flex flex-wrap gap-x-6 print:hidden">
        <a class="line py-2" href={api.sheetUrl(player.id, 'chart.pdf')} download>Export chart as PDF</a>
        <a class="line py-2" href={api.paperUrl(player.id, 'chart.csv')} download>Export as CSV</a>
        <span class="quiet py-2">Cents at A4 = {player.a4_hz} Hz; sharp is positive.</span>
      </p>
    {:else if tab === 'tuning'}
      <InstrumentOrPlayer {player} />
    {:else}
      <div class="mt-4 max-w-md"><InstrumentSettings {player} {instrument} /></div>
    {/if}
  </section>
{/if}
