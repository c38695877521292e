<script lang="ts">
  import type { Schemas } from '../api/client';
  import { csvOfWeeks } from '../view/days';
  import { loadMinutes, percent } from '../view/numbers';
  import { saveText } from '../view/save';
  import { numberOf } from '../view/trends';
  import { dateInWords } from '../view/weeks';

  /** Endurance by week, as a table with a bar for the load: tone, load, days, and how long it took until "tiring". */
  let { weeks }: { weeks: readonly Schemas['WeekOfPlaying'][] } = $props();
  const most = $derived(Math.max(1, ...weeks.map((week) => week.load)));
  const clean = /* @wc-context: takes that were clean */ 'Clean';
</script>

<div class="scroll">
  <table>
    <caption class="sr-only">What was played, week by week</caption>
    <thead>
      <tr>
        <th scope="col">Week of</th>
        <th scope="col" class="bar">Load, min</th>
        <th scope="col">Heavy</th>
        <th scope="col">Playing, min</th>
        <th scope="col">Rest</th>
        <th scope="col">Days</th>
        <th scope="col">{clean}</th>
        <th scope="col">Minutes to tiring</th>
        <th scope="col">Worn out</th>
        <th scope="col">Reported</th>
      </tr>
    </thead>
    <tbody>
      {#each weeks as week (week.start)}
        <tr>
          <th scope="row">{dateInWords(week.start).replace(/ \d{4}$/, '')}</th>
          <td class="bar"><span style="width: {(7 * week.load) / most}rem"></span>{loadMinutes(week.load)}</td>
          <td>{percent(week.high_share)}</td>
          <td>{numberOf(week.playing_min)}</td>
          <td>{percent(week.rest_share)}</td>
          <td>{week.days}</td>
          <td>{percent(week.takes ? week.clean / week.takes : 0)}</td>
          <td>{week.minutes_to_tiring === null ? 'never' : numberOf(week.minutes_to_tiring)}</td>
          <td>{week.spent || ''}</td>
          <td class:hurt={week.reports > 0}>{week.reports || ''}</td>
        </tr>
      {/each}
    </tbody>
  </table>
</div>
<p>
  <button class="line py-2" onclick={() => saveText(csvOfWeeks(weeks), 'orexis-weeks.csv')}>Export weeks as CSV</button>
</p>

<style>
  .scroll {
    overflow-x: auto;
  }

  table {
    width: 100%;
    border-collapse: collapse;
    margin-top: 0.75rem;
  }

  th,
  td {
    text-align: left;
    font-weight: 400;
    padding: 0.4rem 1rem 0.4rem 0;
    border-bottom: 1px solid var(--rule);
    white-space: nowrap;
  }

  thead th {
    color: var(--ink-soft);
    font-size: 0.9rem;
  }

  td.bar {
    min-width: 10rem;
  }

  td.bar span {
    display: inline-block;
    height: 10px;
    margin-right: 0.5rem;
    background: var(--brass);
  }

  .hurt {
    color: var(--oxblood);
  }
</style>
