<script lang="ts">
  import type { Stand } from '../state/stand.svelte';
  import { household } from '../state/household.svelte';
  import { fingeringInWords, noteName, seconds } from '../view/words';
  import { blocksInSight } from '../view/plan';
  import TakeShape from './TakeShape.svelte';

  let { stand }: { stand: Stand } = $props();
  const exercise = $derived(stand.exercise);
  const who = $derived(
    household.own.length > 1
      ? (household.players.find((player) => player.id === stand.session?.player_id)?.name ?? '')
      : '',
  );
  const count = $derived(stand.state ? blocksInSight(stand.state) : 0);
  const block = $derived(stand.state?.plan[stand.state.block]);
  const names = $derived([...new Set((exercise?.notes ?? []).map((note) => noteName(note.written)))]);
  const asked = $derived(names.length > 4 ? `${names[0]} to ${names.at(-1)}` : names.join(' – '));
  const fingerings = $derived([...new Set((exercise?.notes ?? []).map((note) => note.fingering))]);
  const slide = $derived(
    household.catalogue?.instruments.find((item) => item.id === stand.session?.instrument)?.mechanism === 'slide',
  );
  const here = $derived(
    (stand.state?.takes ?? [])
      .filter((take) => take.block === stand.state?.block && take.exercise_index === stand.state?.exercise_index)
      .slice(-8),
  );
  /** While the verdict stands, nothing else is to be read. */
  const answered = $derived(stand.phase === 'verdict');
  const check = $derived(stand.state?.checks.at(-1));
</script>

<header class="flex flex-wrap items-center gap-x-6 gap-y-1 px-6 py-3 max-sm:px-4">
  <a href="/" class="serif text-2xl" title="Close the stand">Orexis</a>
  {#if stand.state?.checking}
    <h1 class="serif text-2xl">Check note</h1>
    <span class="text-lg"><b>{asked}</b></span>
  {:else}
    <h1 class="serif text-2xl">{block?.title}</h1>
    <span class="text-lg">
      {(stand.state?.exercise_index ?? 0) + 1} of {block?.exercises}
      {#if exercise && exercise.exercise.medium !== 'air' && !answered}
        · <b>{asked}</b>
        {#if fingerings.length === 1 && exercise.lanes.length}
          · <b>{fingeringInWords(fingerings[0] ?? '', slide)}</b>{/if}
        · {exercise.exercise.tempo_bpm} bpm
      {/if}
      {#if stand.state && stand.state.form !== 'as written'}· <b>{stand.state.form}</b>{/if}
    </span>
  {/if}
  <span class="grow"></span>
  <span class="flex items-center gap-1" role="group" aria-label="Takes of this exercise">
    {#each here as take (take.take_id)}<TakeShape outcome={take.outcome} />{/each}
  </span>
  <span class="quiet max-sm:hidden" class:invisible={answered}>
    {#if who}{who} ·{/if}
    {#if count > 1}{(stand.state?.block ?? 0) + 1} of {count} ·{/if}
    {seconds(stand.state?.playing_s ?? 0)} played{check?.state ? ` · ${check.state}` : ''}
  </span>
</header>

<style>
  h1 {
    font-size: 1.5rem;
    line-height: 1.2;
  }

  @media (max-height: 34rem) {
    h1 {
      font-size: 1.15rem;
    }
  }
</style>
