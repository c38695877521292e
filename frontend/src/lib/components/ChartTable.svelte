<script lang="ts">
  import type { ChartRow, Setup } from '../api/client';
  import { fingeringInWords, noteName, pullInWords } from '../view/words';

  /** Every note, highest first: its usual way, how far it lies off, what mends it, and the other ways: touched, one of
   * those is how the player takes the note from now on. */
  type FingeringOption = ChartRow['options'][number];
  type Own = NonNullable<Setup['preferred']>;
  type Props = { rows: ChartRow[]; glides: boolean; own: Own; take: (own: Own) => void };
  let { rows, glides, own, take }: Props = $props();
  const isOwn = (midi: number) => own.some((item) => item.midi === midi);
  const others = (midi: number) => own.filter((item) => item.midi !== midi);
  let wanted = $state('');
  const plain = (name: string) => noteName(name).toLowerCase().replace('♭', 'b').replace('♯', '#');
  const ordered = $derived(
    [...rows]
      .reverse()
      .filter((row) => [row.written, row.sounding].some((name) => plain(name).startsWith(wanted.trim().toLowerCase()))),
  );
  const mends = $derived(rows.some((row) => row.options[0] && pullInWords(row.options[0])));
  const KINDS: Record<string, string> = { pedal: 'pedal', false: 'between partials: bent with the lip', high: 'above' };

  const NEAR = 20; // cents: further off nobody plays it, unless a slide brings it in tune
  const needsSlide = (option: FingeringOption) => Math.abs(option.cents) > NEAR;
  /** Other fingerings that a player would use. */
  const alternates = (row: ChartRow) =>
    row.options
      .slice(1)
      .filter((option) => !needsSlide(option) || (option.reachable && option.slide !== null))
      .slice(0, 5);

  function off(cents: number): string {
    const whole = Math.round(cents);
    return whole === 0 ? '0' : `${whole > 0 ? '+' : '−'}${Math.abs(whole)}`;
  }
</script>

<label class="field mt-6 max-w-56 print:hidden">
  <span>Search for a note</span>
  <input type="search" maxlength="6" bind:value={wanted} />
</label>
<div class="overflow-x-auto">
  <table class="chart mt-4 w-full text-left">
    <thead>
      <tr>
        <th scope="col">Written</th>
        <th scope="col">Sounds</th>
        <th scope="col">Fingering</th>
        <th scope="col" class="text-right">Cents</th>
        <th scope="col" class="lean"><span class="sr-only">Sharp or flat</span></th>
        {#if mends}<th scope="col" class="slide">Slide</th>{/if}
        <th scope="col" class="options">Alternates<span class="print:hidden">: click to use</span></th>
        {#if glides}<th scope="col" class="glide">Glissando from</th>{/if}
      </tr>
    </thead>
    <tbody>
      {#each ordered as row (row.midi)}
        {@const best = row.options[0]}
        <tr class:aside={row.kind !== 'usual' && row.kind !== 'low'}>
          <th scope="row" class="serif text-xl">{noteName(row.written)}</th>
          <td>{noteName(row.sounding)}</td>
          {#if best}
            <td class="instrument text-lg font-semibold"
              >{fingeringInWords(best.label, glides)} <span class="quiet text-sm">partial {best.partial}</span>
              {#if isOwn(row.midi)}<button
                  class="line own text-sm font-normal print:hidden"
                  aria-label="Use the chart’s fingering for {noteName(row.written)}"
                  onclick={() => take(others(row.midi))}>yours. Undo</button
                >{/if}</td
            >
            <td class="text-right">{off(best.cents)}</td>
            <td class="lean" aria-hidden="true">
              <i style="left: {50 + Math.max(-48, Math.min(48, best.cents))}%"></i>
            </td>
            {#if mends}<td class="slide">{pullInWords(best)}</td>{/if}
            <td class="options">
              {#each alternates(row) as option (option.rank)}
                <button
                  class="option mr-2"
                  aria-label="Play {noteName(row.written)} with {option.label}, partial {option.partial}"
                  title="partial {option.partial}"
                  onclick={() =>
                    take([...others(row.midi), { midi: row.midi, fingering: option.label, partial: option.partial }])}
                  ><b class="instrument">{fingeringInWords(option.label, glides)}</b>
                  {off(option.cents)}{needsSlide(option) ? ', needs the slide' : ''}</button
                >
              {/each}
            </td>
          {:else}
            <td colspan={mends ? 5 : 4} class="quiet">{KINDS[row.kind] ?? row.kind}</td>
          {/if}
          {#if glides}<td class="instrument glide">{row.glide_from ?? ''}</td>{/if}
        </tr>
      {/each}
    </tbody>
  </table>
</div>

<style>
  th,
  td {
    padding: 0.2rem 0.75rem 0.2rem 0;
    border-bottom: 1px solid var(--rule);
    vertical-align: baseline;
  }

  thead th {
    font-weight: 500;
    color: var(--ink-soft);
    font-size: 0.9rem;
  }

  .instrument {
    color: var(--verdigris);
  }

  .own {
    display: block;
    min-height: 24px;
    color: var(--ink);
  }

  .option {
    min-height: 24px;
    min-width: 24px;
    padding: 0 0.25rem;
    cursor: pointer;
  }

  .option:hover {
    text-decoration: underline;
    text-underline-offset: 0.25em;
  }

  .aside th {
    font-style: italic;
  }

  .lean {
    width: 110px;
    min-width: 70px;
    position: relative;
    background: linear-gradient(var(--rule), var(--rule)) center / 1px 60% no-repeat;
  }

  .lean i {
    position: absolute;
    top: 22%;
    width: 3px;
    height: 56%;
    background: var(--verdigris);
  }

  /* On a phone each note is two lines: how it is played, and under it the other ways. */
  @media screen and (max-width: 640px) {
    .chart tr {
      display: grid;
      grid-template-columns: 4rem 3.5rem 1fr 3rem;
      border-bottom: 1px solid var(--rule);
      padding: 0.25rem 0;
    }

    .chart :is(th, td) {
      border: 0;
    }

    .chart .lean {
      display: none;
    }

    .chart td:is(.options, .slide, .glide) {
      grid-column: 3 / -1;
    }

    .chart thead th:is(.options, .slide, .glide) {
      display: none;
    }
  }

  @media print {
    tr {
      break-inside: avoid;
    }
  }
</style>
