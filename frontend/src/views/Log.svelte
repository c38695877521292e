<script lang="ts">
  import { api, type LogPage } from '../lib/api/client';
  import LogSitting from '../lib/components/LogSitting.svelte';
  import Pages from '../lib/components/Pages.svelte';
  import { household } from '../lib/state/household.svelte';
  import { Loaded } from '../lib/state/loaded.svelte';

  const PAGE = 10;
  let page = $state(1);
  const log = new Loaded<LogPage>();

  $effect(() => {
    const player = household.player;
    const offset = PAGE * (page - 1);
    if (player) void log.load(() => api.log(player.id, offset));
  });
</script>

<svelte:head><title>Log – Orexis</title></svelte:head>

<section class="mx-auto max-w-5xl p-8 max-sm:p-4">
  <h1>Log</h1>
  {#if log.trouble}<p role="alert" class="mt-4">{log.trouble}</p>{/if}
  {#if log.value?.total === 0}
    <p class="mt-6 text-lg">
      Nothing here yet. <a class="line" href="/">Choose something to work on</a>; every take is kept here with its
      sound.
    </p>
  {/if}
  {#each log.value?.sessions ?? [] as session, i (session.id)}
    <LogSitting {session} open={i === 0 && page === 1} />
  {/each}
  {#if log.value}
    <Pages count={log.value.total} size={PAGE} {page} turn={(to) => (page = to)} />
  {/if}
</section>
