<script lang="ts">
  import { onDestroy } from 'svelte';
  import Pause from '@lucide/svelte/icons/pause';
  import Play from '@lucide/svelte/icons/play';
  import { api } from '../lib/api/client';
  import Engraving from '../lib/components/Engraving.svelte';
  import BeginAnyway from '../lib/components/BeginAnyway.svelte';
  import FigureKeep from '../lib/components/FigureKeep.svelte';
  import FigureList from '../lib/components/FigureList.svelte';
  import PathSteps from '../lib/components/PathSteps.svelte';
  import WaysByHand from '../lib/components/WaysByHand.svelte';
  import ParamField from '../lib/components/ParamField.svelte';
  import { navigate } from '../lib/router';
  import { Beginning } from '../lib/state/beginning.svelte';
  import { FigureBrowser } from '../lib/state/figures.svelte';
  import { words } from '../lib/state/loaded.svelte';
  import { household } from '../lib/state/household.svelte';
  import { LOAD_WORDS, noteName, noteSigns, sentence } from '../lib/view/words';

  const browser = new FigureBrowser(household.player?.id ?? '');
  browser.load().catch((error: unknown) => (browser.refused = words(error)));
  onDestroy(() => browser.stop());

  const family = $derived(browser.family);
  const shown = $derived(browser.shown);
  const asked = $derived(shown?.figure.notes.map((note) => noteName(note.written)).join(', ') ?? '');

  const beginning = new Beginning((session) => navigate('/stand/:id', { params: { id: session.id } }));
  /** On a telephone the list is longer than the screen: what was chosen from it is brought into sight. */
  let panel = $state<HTMLElement>();
  let before = '';
  $effect(() => {
    const now = browser.kept?.id ?? browser.familyId;
    if (before && before !== now && window.innerWidth < 768) panel?.scrollIntoView({ behavior: 'smooth' });
    before = now;
  });
  const toStand = () =>
    beginning.begin((anyway) => api.openSession({ ...browser.wish, index: undefined, anyway } as never));
</script>

<svelte:head><title>Figures – Orexis</title></svelte:head>

<section class="mx-auto grid max-w-[1400px] gap-x-10 md:grid-cols-[260px_1fr]">
  <FigureList {browser} />
  <div class="min-w-0 p-6 max-sm:p-4" bind:this={panel}>
    {#if family && shown && browser.material}
      <header class="flex flex-wrap items-baseline gap-x-6">
        <h1>{browser.kept?.name ?? family.name}</h1>
        <span class="quiet">{LOAD_WORDS[family.load]}{family.click ? '' : ', no click'}</span>
      </header>
      <p class="mt-1 max-w-3xl">{family.purpose} {family.asks}</p>
      {#if browser.kept?.words}<p class="serif mt-2 max-w-3xl text-lg">“{browser.kept.words}”</p>{/if}
      <div class="rule mt-4 h-[280px] border-y py-3 max-sm:h-[180px]">
        <Engraving svg={shown.figure.svg} title="{shown.figure.figure.title}: {asked}" sounding={browser.sounding} />
      </div>
      <div class="mt-3 flex flex-wrap items-center gap-x-6 gap-y-3">
        <button class="press small inline-flex items-center gap-2" onclick={() => browser.hear()}>
          {#if browser.playing}<Pause size={18} />Stop{:else}<Play size={18} />Listen{/if}
        </button>
        {#if shown.titles.length > 1}
          <label class="flex items-center gap-3">
            <span class="quiet">Figure</span>
            <select
              class="plain"
              value={String(browser.index)}
              onchange={(event) => browser.turnTo(Number(event.currentTarget.value))}
            >
              {#each shown.titles as title, i (i)}<option value={String(i)}>{i + 1}. {noteSigns(title)}</option>{/each}
            </select>
            <span class="quiet">of {shown.titles.length}</span>
          </label>
        {:else}<span>{shown.figure.figure.title}</span>{/if}
        <span class="grow"></span>
        <button class="press small first" onclick={toStand}>To the stand</button>
      </div>
      {#if shown.figure.caution}<p class="mt-3" style="color: var(--oxblood)">{shown.figure.caution}</p>{/if}
      {#if shown.figure.figure.hint && !browser.kept?.words}<p class="mt-3">{shown.figure.figure.hint}</p>{/if}
      <BeginAnyway {beginning} />
      {#if browser.trouble}<p role="alert" class="mt-3">{browser.trouble}</p>{/if}
      {#if browser.said}<p role="status" class="mt-3">{browser.said}</p>{/if}
      {#if browser.params.length}
        <div class="mt-5 grid grid-cols-2 gap-x-6 gap-y-4 lg:grid-cols-4">
          {#each browser.params.filter((item) => item.kind !== 'ways') as param (param.key)}
            <ParamField
              {param}
              value={browser.valueOf(param)}
              material={browser.material}
              set={(value) => void browser.set(param.key, value)}
            />
          {/each}
        </div>
      {/if}
      {#if browser.byHand}
        <WaysByHand
          playerId={browser.playerId}
          view={shown.figure}
          number={browser.index + 1}
          value={browser.valueOf(browser.byHand)}
          set={(value) => void browser.set('tubes', value)}
        />
      {/if}
      <p class="quiet mt-5">It grows: {sentence(family.grows).toLowerCase()}</p>
      {#if !browser.kept}<PathSteps family={family.id} take={(params) => void browser.take(params)} />{/if}
      <FigureKeep {browser} />
    {:else if browser.trouble}
      <p role="alert">{browser.trouble}</p>
    {:else}
      <p role="status">One moment …</p>
    {/if}
  </div>
</section>
