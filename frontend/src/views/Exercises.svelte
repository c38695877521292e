<script lang="ts">
  import { api } from '../lib/api/client';
  import Thumbnail from '../lib/components/Thumbnail.svelte';
  import { navigate } from '../lib/router';
  import { household } from '../lib/state/household.svelte';
  import { words } from '../lib/state/loaded.svelte';
  import { ask, reads } from '../lib/state/reads.svelte';
  import { LOAD_WORDS, PLACE_WORDS } from '../lib/view/words';
  import { named } from '../lib/view/names';

  /** All exercises with their first notes: search, filters, the player's own on top. */
  let word = $state('');
  let purpose = $state('');
  let load = $state('');
  let trouble = $state<string | null>(null);
  let said = $state<string | null>(null);
  let chooser = $state<HTMLInputElement>();
  const player = $derived(household.player);
  const material = reads(() => player && ask('material', player.id));
  const own = reads(() => player && ask('ownExercises', player.id));

  const groups = $derived(
    (household.catalogue?.places ?? [])
      .map((place) => ({
        place,
        exercise_types: (material.value?.exercise_types ?? []).filter(
          (item) =>
            item.place === place &&
            (!purpose || item.serves.includes(purpose)) &&
            (!load || item.load === load) &&
            `${item.name} ${item.purpose}`.toLowerCase().includes(word.trim().toLowerCase()),
        ),
      }))
      .filter((group) => group.exercise_types.length),
  );

  async function read(file: File) {
    if (!player) return;
    [trouble, said] = [null, null];
    try {
      const made = await api.importExercise(player.id, file, 0);
      await navigate('/exercises/:id', { params: { id: made.id } });
    } catch (error) {
      trouble = words(error);
    }
  }
</script>

<svelte:head><title>Exercises – Orexis</title></svelte:head>

{#if player}
  <section class="mx-auto w-full max-w-6xl p-8 max-sm:p-4">
    <div class="flex flex-wrap items-end gap-x-6 gap-y-4">
      <h1 class="grow">Exercises</h1>
      <label class="field w-56"><span>Search</span><input type="search" maxlength="40" bind:value={word} /></label>
      <label class="field">
        <span>Good for</span>
        <select bind:value={purpose}>
          <option value="">everything</option>
          {#each household.catalogue?.serves ?? [] as item (item)}<option value={item}>{named(item)}</option>{/each}
        </select>
      </label>
      <label class="field">
        <span>Load</span>
        <select bind:value={load}>
          <option value="">any</option>
          {#each Object.entries(LOAD_WORDS) as [id, name] (id)}<option value={id}>{name}</option>{/each}
        </select>
      </label>
      <a class="press small inline-flex items-center" href="/exercises/write">Write your own</a>
      <button class="press small" onclick={() => chooser?.click()}>Import a tune</button>
      <input
        bind:this={chooser}
        type="file"
        accept=".musicxml,.xml,.mxl,.mid,.midi,.json"
        class="sr-only"
        aria-label="Tune or exercise from a file"
        tabindex="-1"
        onchange={(event) => {
          const file = event.currentTarget.files?.[0];
          if (file) void read(file);
          event.currentTarget.value = '';
        }}
      />
    </div>
    {#each [trouble ?? material.trouble].filter(Boolean) as line (line)}<p role="alert" class="mt-3">{line}</p>{/each}
    {#if said}<p role="status" class="mt-3">{said}</p>{/if}
    {#if own.value?.length && !word && !purpose && !load}
      <h2 class="mt-6">Your own</h2>
      <ul class="cards">
        {#each own.value as item (item.id)}
          <li><a href="/exercises/{item.id}"><b>{item.name}</b></a></li>
        {/each}
      </ul>
    {/if}
    {#each groups as group (group.place)}
      <h2 class="mt-6">{PLACE_WORDS[group.place]}</h2>
      <ul class="cards">
        {#each group.exercise_types as item (item.id)}
          <li>
            <a href="/exercises/{item.id}">
              <Thumbnail playerId={player.id} exerciseType={item.id} name={item.name} />
              <b>{item.name}</b>{#if item.load === 'high'}<span class="quiet">, {LOAD_WORDS.high}</span>{/if}
              <span class="block">{item.purpose}</span>
            </a>
          </li>
        {/each}
      </ul>
    {:else}
      {#if material.value}<p class="mt-6 text-lg">Nothing matches. Change the search or the filters.</p>{/if}
    {/each}
  </section>
{/if}

<style>
  .cards {
    display: grid;
    grid-template-columns: repeat(auto-fill, minmax(17rem, 1fr));
    gap: 0 2rem;
    margin-top: 0.5rem;
  }

  .cards a {
    display: block;
    height: 100%;
    padding: 0.6rem 0 0.9rem;
    border-top: 1px solid var(--rule);
  }

  .cards a:hover {
    background: var(--paper-deep);
  }
</style>
