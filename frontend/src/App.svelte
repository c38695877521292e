<script lang="ts">
  import { tick } from 'svelte';
  import { Router } from 'sv-router';
  import TopLine from './lib/components/TopLine.svelte';
  import { fetchViews, navigate, route } from './lib/router';
  import { Trouble } from './lib/api/client';
  import { words } from './lib/state/loaded.svelte';
  import { household } from './lib/state/household.svelte';
  import { stayHere } from './lib/state/here';

  let trouble = $state<string | null>(null);
  let damaged = $state(false);
  /** This device was not let in yet. */
  let outside = $state(false);

  async function start() {
    [trouble, outside] = [null, false];
    try {
      await household.load();
      fetchViews();
      void stayHere().catch(() => {}); // a server that does not answer has nothing to end
      await tick(); // the router comes in with the household, and goes first
      if (!household.own.length) await navigate('/welcome');
    } catch (error) {
      if (error instanceof Trouble && error.status === 401) outside = true;
      else trouble = words(error);
      damaged = error instanceof Trouble && error.kind === 'DamagedError';
    }
  }
  void start();

  $effect(() => {
    document.documentElement.dataset.mode = household.mode;
  });
  /** The list of keys, on “?”: brought in when it is first wanted. */
  let keysAsked = $state(false);
  let keysOpen = $state(false);
  function onkeydown(event: KeyboardEvent) {
    const typing = event.target instanceof HTMLElement && event.target.closest('input, select, textarea');
    if (event.key === '?' && !typing && household.letters) keysAsked = keysOpen = true;
  }

  async function backToClass() {
    household.endVisit();
    await navigate('/class');
  }

  const atStand = $derived(route.pathname.startsWith('/stand/'));
</script>

<svelte:window {onkeydown} />
<div class="frame" class:stand={atStand}>
  {#if !atStand && !outside}
    <a
      href="#places"
      class="sr-only focus:not-sr-only focus:absolute focus:z-10 focus:bg-[var(--paper)] focus:p-3"
      onclick={(event) => {
        event.preventDefault();
        document.querySelector<HTMLElement>('#places a')?.focus();
      }}>Go to the menu</a
    >
  {/if}
  <main id="main" tabindex="-1" class="outline-none">
    {#if outside}
      {#await import('./views/Pair.svelte') then { default: Pair }}<Pair done={start} />{/await}
    {:else if trouble}
      <section class="mx-auto max-w-2xl p-8">
        <h1>{damaged ? 'Your data can’t be read' : 'Orexis does not answer'}</h1>
        <p class="my-4">{trouble}</p>
        {#if damaged}
          {#await import('./lib/components/Copies.svelte') then { default: Copies }}<Copies fresh={false} />{/await}
        {/if}
        <button class="press mt-4" onclick={start}>Try again</button>
      </section>
    {:else if household.ready && household.unknown && !atStand && route.pathname !== '/welcome'}
      {#await import('./views/WhoPlays.svelte') then { default: WhoPlays }}<WhoPlays />{/await}
    {:else if household.ready && household.locked && route.pathname !== '/who' && route.pathname !== '/welcome'}
      {#await import('./views/EnterPin.svelte') then { default: EnterPin }}<EnterPin />{/await}
    {:else if household.ready}
      {#if household.visitor && !atStand}
        <p role="status" class="rule flex flex-wrap items-center gap-x-6 border-b px-8 py-1 max-sm:px-4">
          You are looking at {household.player?.name}’s practice.
          <button class="line py-2" onclick={backToClass}>Back to the class</button>
        </p>
      {/if}
      <Router />
    {:else}
      <p class="p-8" role="status">One moment …</p>
    {/if}
  </main>
  {#if !atStand && !outside}<div id="places"><TopLine /></div>{/if}
</div>
{#if keysAsked}
  {#await import('./lib/components/Keys.svelte') then { default: Keys }}<Keys bind:open={keysOpen} />{/await}
{/if}

<style>
  /* What is done first comes first for keys and readers; the places stand above it on the screen. */
  .frame {
    display: flex;
    flex-direction: column;
    min-height: 100dvh;
  }

  #places {
    order: -1;
  }

  @media (max-width: 40rem) {
    .frame:not(.stand) {
      padding-bottom: 64px; /* the bar of places lies over the bottom */
    }
  }
</style>
