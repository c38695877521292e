<script lang="ts">
  import { api, type Outcome, type Sought } from '../lib/api/client';
  import LoggedSession from '../lib/components/LoggedSession.svelte';
  import ThrownAway from '../lib/components/ThrownAway.svelte';
  import ProgressTabs from '../lib/components/ProgressTabs.svelte';
  import Pages from '../lib/components/Pages.svelte';
  import { household } from '../lib/state/household.svelte';
  import { ask, reads } from '../lib/state/reads.svelte';
  import { counted, labelOf, OUTCOME_WORDS } from '../lib/view/words';

  const PAGE = 10;
  let page = $state(1);
  let word = $state('');
  let outcome = $state('');
  /** Another page may lead here with what is to be found. */
  let reason = $state(new URLSearchParams(location.search).get('reason') ?? '');
  let instrument = $state('');
  let since = $state('');
  let until = $state('');
  const wanted = $derived<Sought>({
    ...(word.trim() && { word: word.trim() }),
    ...(outcome && { outcome: outcome as Outcome }),
    ...(reason && { reason }),
    ...(instrument && { instrument }),
    ...(since && { since }),
    ...(until && { until }),
  });
  const player = $derived(household.player);
  const log = reads(() => player && ask('log', player.id, PAGE * (page - 1), wanted));
  const reasons = reads(() => player && ask('reasons', player.id));
  const played = reads(() => player && ask('instrumentsPlayed', player.id));
  const instruments = $derived(played.value ?? []);
  const looking = $derived(Object.keys(wanted).length > 0);

  $effect(() => {
    void wanted;
    page = 1;
  });
</script>

<svelte:head><title>Sessions – Orexis</title></svelte:head>

<section class="mx-auto w-full max-w-6xl p-8 max-sm:p-4">
  <ProgressTabs />
  <h1 class="mt-5">Sessions</h1>
  {#if log.trouble}<p role="alert" class="mt-4">{log.trouble}</p>{/if}
  {#if log.value?.total === 0 && !looking}
    <p class="mt-6 text-lg">
      No sessions yet. <a class="line" href="/">Start today’s plan</a>; every take is saved here with its sound.
    </p>
  {:else}
    <search class="mt-4 grid grid-cols-2 items-end gap-4 md:grid-cols-[repeat(auto-fit,minmax(8.5rem,1fr))]">
      <label class="field max-md:col-span-2"
        ><span>Search notes, exercises, remarks</span><input type="search" maxlength="60" bind:value={word} /></label
      >
      <label class="field">
        <span>Result</span>
        <select bind:value={outcome}>
          <option value="">any</option>
          {#each Object.entries(OUTCOME_WORDS) as [id, name] (id)}<option value={id}>{name}</option>{/each}
        </select>
      </label>
      <label class="field">
        <span>Reason</span>
        <select bind:value={reason}>
          <option value="">anything</option>
          {#each reasons.value ?? [] as id (id)}<option value={id}>{labelOf(id)}</option>{/each}
        </select>
      </label>
      {#if instruments.length > 1}
        <label class="field">
          <span>Instrument</span>
          <select bind:value={instrument}>
            <option value="">any</option>
            {#each instruments as id (id)}<option value={id}>{household.instrumentName(id)}</option>{/each}
          </select>
        </label>
      {/if}
      <label class="field"><span>From</span><input type="date" bind:value={since} /></label>
      <label class="field"><span>To</span><input type="date" bind:value={until} /></label>
    </search>
    {#if looking && log.value}
      <p role="status" class="quiet mt-3">
        {log.value.total === 0
          ? 'No session matches.'
          : `${counted(log.value.total, ['# session', '# sessions'])} found.`}
      </p>
    {/if}
  {/if}
  {#each log.value?.sessions ?? [] as session, i (session.id)}
    <LoggedSession {session} open={i === 0 && page === 1} />
  {/each}
  {#if log.value}
    {#if household.player}
      <p class="mt-8 flex flex-wrap gap-x-6">
        <a class="line py-2" href={api.paperUrl(household.player.id, 'takes.csv')} download>Export takes as CSV</a>
        <a class="line py-2" href={api.paperUrl(household.player.id, 'notes.csv')} download>Export notes as CSV</a>
      </p>
    {/if}
    {#if household.player}<ThrownAway playerId={household.player.id} />{/if}
    <Pages count={log.value.total} size={PAGE} {page} turn={(to) => (page = to)} />
  {/if}
</section>
