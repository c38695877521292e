<script lang="ts">
  import { untrack } from 'svelte';

  import { ask, reads } from '../state/reads.svelte';
  import { csv } from '../view/csv';
  import { daysAgo } from '../view/dates';
  import { saveText } from '../view/save';
  import { numberOf } from '../view/trends';
  import { sentence } from '../view/words';

  /** Compare two periods: by itself the first third of the days shown, and the last. */
  let { playerId, weeks }: { playerId: string; weeks: number } = $props();
  let first = $state({ from: '', to: '' });
  let last = $state({ from: '', to: '' });
  let everything = $state(false);
  const dated = $derived(first.from && first.to && last.from && last.to);
  const found = reads(() => dated && ask('compareSpans', playerId, { ...first }, { ...last }));

  $effect(() => {
    const days = 7 * weeks;
    untrack(() => {
      first = { from: daysAgo(days), to: daysAgo(Math.round((2 * days) / 3)) };
      last = { from: daysAgo(Math.round(days / 3)), to: daysAgo(0) };
    });
  });
  const rows = $derived((found.value ?? []).filter((row) => everything || !row.scope));

  function save() {
    const rows = (found.value ?? []).map((row) => [
      row.measure.id,
      row.scope,
      row.measure.unit,
      row.first,
      row.first_days,
      row.last,
      row.last_days,
    ]);
    const head = ['measure', 'scope', 'unit', 'first', 'first_days', 'last', 'last_days'];
    saveText(csv(head, rows), `orexis-${first.from}-beside-${last.from}.csv`);
  }
</script>

<h2 class="mt-10">Compare two periods</h2>
<div class="mt-3 flex flex-wrap items-end gap-4">
  <label class="field"><span>First period, from</span><input type="date" bind:value={first.from} /></label>
  <label class="field"><span>to</span><input type="date" bind:value={first.to} /></label>
  <span class="w-4"></span>
  <label class="field"><span>Second period, from</span><input type="date" bind:value={last.from} /></label>
  <label class="field"><span>to</span><input type="date" bind:value={last.to} /></label>
</div>
{#if found.trouble}<p role="alert" class="mt-3">{found.trouble}</p>{/if}
{#if rows.length}
  <div class="overflow-x-auto">
    <table class="mt-4 w-full text-left">
      <thead>
        <tr>
          <th scope="col">Measure</th>
          <th scope="col" class="text-right">First</th>
          <th scope="col" class="text-right">Second</th>
          <th scope="col">Change</th>
          <th scope="col" class="text-right">Days</th>
        </tr>
      </thead>
      <tbody>
        {#each rows as row (row.measure.id + row.scope)}
          <tr>
            <th scope="row">{row.measure.label}{row.scope ? `, ${row.scope}` : ''}</th>
            <td class="text-right">{numberOf(row.first)}</td>
            <td class="text-right">{numberOf(row.last)} <span class="quiet">{row.measure.unit}</span></td>
            <td>{row.says ? sentence(row.says) : ''}<span class="quiet">{row.says ? '' : 'no clear change'}</span></td>
            <td class="quiet text-right">{row.first_days} and {row.last_days}</td>
          </tr>
        {/each}
      </tbody>
    </table>
  </div>
  <p class="mt-2 flex flex-wrap gap-6">
    <button class="line py-2" onclick={() => (everything = !everything)}>
      {everything ? 'Show less' : 'Show registers, dynamics and exercises'}
    </button>
    <button class="line py-2" onclick={save}>Export as CSV</button>
  </p>
{:else if found.value}
  <p class="quiet mt-3">Nothing was measured in both periods.</p>
{/if}

<style>
  th,
  td {
    padding: 0.3rem 0.9rem 0.3rem 0;
    border-bottom: 1px solid var(--rule);
    font-weight: 400;
    vertical-align: baseline;
  }

  thead th {
    color: var(--ink-soft);
    font-size: 0.9rem;
  }
</style>
