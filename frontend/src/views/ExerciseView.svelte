<script lang="ts">
  import { onDestroy } from 'svelte';
  import Pause from '@lucide/svelte/icons/pause';
  import Play from '@lucide/svelte/icons/play';
  import { api } from '../lib/api/client';
  import BeginAnyway from '../lib/components/BeginAnyway.svelte';
  import Engraving from '../lib/components/Engraving.svelte';
  import ExerciseLevels from '../lib/components/ExerciseLevels.svelte';
  import ExerciseSave from '../lib/components/ExerciseSave.svelte';
  import FingeringsByHand from '../lib/components/FingeringsByHand.svelte';
  import ParamField from '../lib/components/ParamField.svelte';
  import { navigate, route } from '../lib/router';
  import { Beginning } from '../lib/state/beginning.svelte';
  import { ExerciseBrowser } from '../lib/state/exercises.svelte';
  import { household } from '../lib/state/household.svelte';
  import { words } from '../lib/state/loaded.svelte';
  import { LOAD_WORDS, noteName, noteSigns } from '../lib/view/words';

  /** One exercise: its notes and sound, what it is for, its level, what can be changed. */
  const browser = new ExerciseBrowser(household.player?.id ?? '');
  const id = (route.params as { id?: string }).id;
  browser.load(id).catch((error: unknown) => (browser.refused = words(error)));
  onDestroy(() => browser.stop());

  const MAIN = 4; // parameters that are shown at once: the first matter most
  const exerciseType = $derived(browser.exerciseType);
  const shown = $derived(browser.shown);
  const asked = $derived(shown?.exercise.notes.map((note) => noteName(note.written)).join(', ') ?? '');
  const params = $derived(browser.params.filter((item) => item.kind !== 'ways'));

  const beginning = new Beginning((session) => navigate('/stand/:id', { params: { id: session.id } }));
  const start = () =>
    beginning.begin((anyway) => api.openSession({ ...browser.wish, index: undefined, anyway } as never));
</script>

<svelte:head><title>{browser.kept?.name ?? exerciseType?.name ?? 'Exercise'} – Orexis</title></svelte:head>

{#snippet fields(list: typeof params)}
  <div class="mt-3 grid grid-cols-2 gap-x-6 gap-y-4 lg:grid-cols-4">
    {#each list as param (param.key)}
      {#if browser.material}
        <ParamField
          {param}
          value={browser.valueOf(param)}
          material={browser.material}
          set={(value) => void browser.set(param.key, value)}
        />
      {/if}
    {/each}
  </div>
{/snippet}

<section class="mx-auto w-full max-w-6xl p-8 max-sm:p-4">
  <p><a class="line inline-block py-1" href="/exercises">Exercises</a></p>
  {#if exerciseType && shown && browser.material}
    <div class="flex flex-wrap items-center gap-x-8 gap-y-3">
      <div class="grow">
        <h1>{browser.kept?.name ?? exerciseType.name}</h1>
        <p class="mt-1 max-w-3xl">
          {exerciseType.purpose} <span class="quiet">({LOAD_WORDS[exerciseType.load]})</span>
        </p>
      </div>
      <button class="press small inline-flex items-center gap-2" onclick={() => browser.hear()}>
        {#if browser.playing}<Pause size={18} aria-hidden="true" />Stop{:else}<Play
            size={18}
            aria-hidden="true"
          />Listen{/if}
      </button>
      <button class="press first" onclick={start}>Start</button>
    </div>
    {#if browser.kept?.words}<p class="serif mt-2 max-w-3xl text-lg">“{browser.kept.words}”</p>{/if}
    <BeginAnyway {beginning} />
    {#if browser.trouble}<p role="alert" class="mt-3">{browser.trouble}</p>{/if}
    {#if browser.said}<p role="status" class="mt-3">{browser.said}</p>{/if}
    <div class="rule mt-4 h-[240px] border-y py-3 max-sm:h-[160px]">
      <Engraving
        svg={shown.exercise.svg}
        title="{shown.exercise.exercise.title}: {asked}"
        sounding={browser.sounding}
      />
    </div>
    {#if shown.titles.length > 1}
      <label class="mt-3 flex items-center gap-3 whitespace-nowrap">
        <span class="quiet">Show</span>
        <select
          class="plain min-w-0"
          aria-label="Show"
          value={String(browser.index)}
          onchange={(event) => browser.turnTo(Number(event.currentTarget.value))}
        >
          {#each shown.titles as title, i (i)}<option value={String(i)}>{i + 1}. {noteSigns(title)}</option>{/each}
        </select>
        <span class="quiet">of {shown.titles.length}</span>
      </label>
    {/if}
    {#if shown.says.length}<p class="mt-3">{shown.says.join(' ')}</p>{/if}
    {#if shown.exercise.caution}<p class="mt-3" style="color: var(--oxblood)">{shown.exercise.caution}</p>{/if}
    <dl class="mt-4 grid gap-x-8 gap-y-2 md:grid-cols-3">
      <div>
        <dt class="quiet">How to play it</dt>
        <dd>
          {shown.exercise.exercise.hint && !browser.kept?.words ? shown.exercise.exercise.hint : exerciseType.asks}
        </dd>
      </div>
      <div>
        <dt class="quiet">Listen for</dt>
        <dd>{exerciseType.listen_for}</dd>
      </div>
      <div>
        <dt class="quiet">Usual mistake</dt>
        <dd>{exerciseType.mistake}</dd>
      </div>
    </dl>
    {#if !browser.kept}<ExerciseLevels
        exerciseType={exerciseType.id}
        take={(levels) => void browser.take(levels)}
      />{/if}
    {#if params.length}
      {@render fields(params.slice(0, MAIN))}
      {#if params.length > MAIN}
        <details class="mt-3">
          <summary class="cursor-pointer py-2">More</summary>
          {@render fields(params.slice(MAIN))}
        </details>
      {/if}
    {/if}
    {#if browser.byHand}
      <FingeringsByHand
        playerId={browser.playerId}
        view={shown.exercise}
        number={browser.index + 1}
        value={browser.valueOf(browser.byHand)}
        set={(value) => void browser.set('fingerings', value)}
      />
    {/if}
    <ExerciseSave {browser} />
  {:else if browser.trouble}
    <p role="alert">{browser.trouble}</p>
  {:else}
    <p role="status">One moment …</p>
  {/if}
</section>
