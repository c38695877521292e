<script lang="ts">
  import type { FigureBrowser } from '../state/figures.svelte';
  import { household } from '../state/household.svelte';
  import { PLACE_WORDS } from '../view/words';

  /** All families in the order of the day, or only those good for one thing; the player's own on top. */
  let { browser }: { browser: FigureBrowser } = $props();
  let wanted = $state('');
  let chooser = $state<HTMLInputElement>();

  const groups = $derived(
    (household.catalogue?.places ?? [])
      .map((place) => ({
        place,
        families: (browser.material?.families ?? []).filter(
          (family) => family.place === place && (!wanted || family.serves.includes(wanted)),
        ),
      }))
      .filter((group) => group.families.length),
  );
</script>

<nav aria-label="Figures" class="list rule p-6 max-sm:p-4 md:border-r">
  <label class="field">
    <span>Good for</span>
    <select bind:value={wanted}>
      <option value="">everything</option>
      {#each household.catalogue?.serves ?? [] as purpose (purpose)}<option>{purpose}</option>{/each}
    </select>
  </label>
  {#if browser.own.length}
    <h2 class="mt-4 !text-lg">Your own</h2>
    <ul>
      {#each browser.own as item (item.id)}
        <li>
          <button
            class="pick"
            aria-current={browser.kept?.id === item.id ? 'true' : undefined}
            onclick={() => browser.chooseOwn(item)}>{item.name}</button
          >
        </li>
      {/each}
    </ul>
  {/if}
  {#each groups as group (group.place)}
    <h2 class="mt-4 !text-lg">{PLACE_WORDS[group.place] ?? group.place}</h2>
    <ul>
      {#each group.families as family (family.id)}
        <li>
          <button
            class="pick"
            aria-current={!browser.kept && browser.familyId === family.id ? 'true' : undefined}
            onclick={() => browser.choose(family.id)}>{family.name}</button
          >
        </li>
      {/each}
    </ul>
  {/each}
  <p class="mt-6">
    <button class="line py-2 text-left" onclick={() => chooser?.click()}>Read a tune: MusicXML, MXL, MIDI</button>
  </p>
  <input
    bind:this={chooser}
    type="file"
    accept=".musicxml,.xml,.mxl,.mid,.midi,.json"
    class="sr-only"
    aria-label="Tune or figure from a file"
    tabindex="-1"
    onchange={(event) => {
      const file = event.currentTarget.files?.[0];
      if (file) void browser.read(file);
      event.currentTarget.value = '';
    }}
  />
</nav>

<style>
  @media (min-width: 768px) {
    .list {
      max-height: calc(100dvh - 61px);
      overflow-y: auto;
      position: sticky;
      top: 0;
    }
  }

  .pick {
    display: block;
    width: 100%;
    text-align: left;
    padding: 0.3rem 0 0.3rem 0.75rem;
    border-left: 3px solid transparent;
    cursor: pointer;
  }

  .pick[aria-current] {
    border-left-color: var(--ink);
    font-weight: 650;
  }

  .pick:hover {
    border-left-color: var(--rule);
  }

  .pick[aria-current]:hover {
    border-left-color: var(--ink);
  }
</style>
