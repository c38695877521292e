<script lang="ts">
  import { dateInWords, weekdayLetters } from '../view/weeks';

  /** A week of a player: minutes of tone on each day as columns, and in words. */
  type Props = { minutes: readonly number[]; before: number; most: number; last: string | null };
  let { minutes, before, most, last }: Props = $props();
  const played = (time: number) => (time > 0 ? Math.max(1, Math.round(time)) : 0);
  const total = $derived(played(minutes.reduce((sum, one) => sum + one, 0)));
  const days = $derived(minutes.filter((one) => one > 0).length);
  const letters = weekdayLetters();
</script>

<div class="strip">
  <div class="columns" role="img" aria-label="{days} of 7 days, {total} minutes of playing">
    {#each minutes as one, i (i)}
      <span class="day">
        <span class="column" style="height: {one > 0 ? Math.max(3, (40 * one) / most) : 0}px"></span>
        <span class="quiet text-xs">{letters[i]}</span>
      </span>
    {/each}
  </div>
  {#if total || before}<p>{total} min <span class="quiet">({played(before)} last week)</span></p>{/if}
  {#if !days}<p class="quiet">{last ? `Last: ${dateInWords(last)}` : 'No practice yet'}</p>{/if}
</div>

<style>
  .columns {
    display: flex;
    gap: 4px;
    align-items: end;
  }

  .day {
    display: grid;
    justify-items: center;
    width: 18px;
  }

  .column {
    width: 14px;
    background: var(--brass);
    border-bottom: 1.5px solid var(--ink);
  }
</style>
