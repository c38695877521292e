<script lang="ts">
  import { api, type Player, type Schemas, type Setup } from '../api/client';
  import { words } from '../state/loaded.svelte';
  import { ask, reads } from '../state/reads.svelte';
  import { household } from '../state/household.svelte';
  import { pitchName, pitchOf } from '../view/pitch';
  import { noteName, sentence } from '../view/words';

  /** What is special about this player's instrument: the room, the slides, and how each partial departs from theory. */
  let { player, instrument }: { player: Player; instrument: Schemas['InstrumentOut'] } = $props();

  let room = $state(23);
  let travel = $state<number | null>(null);
  let slides = $state<{ name: string; valve: number; travel_mm: number }[]>([]);
  let corrections = $state<Record<number, number>>({});
  let said = $state<string | null>(null);
  /** Own bottom and top, as they sound; empty: as far as the instrument usually goes. */
  let lowest = $state('');
  let highest = $state('');
  let easyLow = $state('');
  let easyHigh = $state('');
  const ends = $derived<[string, string, (value: string) => void, string][]>([
    ['Lowest note', lowest, (value) => (lowest = value), 'usual'],
    ['Highest note', highest, (value) => (highest = value), 'usual'],
    ['Comfortable from', easyLow, (value) => (easyLow = value), 'from your takes'],
    ['Comfortable up to', easyHigh, (value) => (easyHigh = value), 'from your takes'],
  ]);
  const material = reads(() => ask('material', player.id));
  const notes = $derived(material.value?.notes ?? []);
  const partials = Array.from({ length: 11 }, (_, i) => i + 2);

  $effect(() => {
    const setup = player.setup;
    room = setup?.room_c ?? 23;
    travel = setup?.travel_m != null ? Math.round(setup.travel_m * 1000) / 10 : null;
    slides = (setup?.moving ?? instrument.moving).map((slide) => ({ ...slide }));
    [lowest, highest] = [pitchName(setup?.lowest), pitchName(setup?.highest)];
    [easyLow, easyHigh] = [pitchName(setup?.comfortable_low), pitchName(setup?.comfortable_high)];
    corrections = Object.fromEntries((setup?.corrections ?? []).map((item) => [item.partial, item.cents]));
  });

  async function keep(event: Event) {
    event.preventDefault();
    const body: Setup = {
      ...player.setup,
      room_c: room,
      travel_m: travel === null ? null : travel / 100,
      lowest: pitchOf(lowest),
      highest: pitchOf(highest),
      comfortable_low: pitchOf(easyLow),
      comfortable_high: pitchOf(easyHigh),
      moving: instrument.mechanism === 'valves' ? slides : null,
      corrections: partials.flatMap((n) => (corrections[n] ? [{ partial: n, cents: corrections[n] }] : [])),
    };
    try {
      await api.changeInstrument(player.id, body);
      await household.load();
      said = 'Saved. New exercises use it.';
    } catch (error) {
      said = words(error);
    }
  }
</script>

<form class="grid gap-5" onsubmit={keep}>
  <h2>Settings</h2>
  <p class="quiet text-sm">{sentence(instrument.source)}</p>
  <label class="field">
    <span>Room temperature, °C</span>
    <input type="number" min="-5" max="45" step="0.5" bind:value={room} />
  </label>
  {#each ends as [label, value, set, open] (label)}
    <label class="field">
      <span>{label}</span>
      <select {value} onchange={(event) => set(event.currentTarget.value)}>
        <option value="">{open}</option>
        {#if value && !notes.some((note) => note.sounding === value)}<option {value}
            >{noteName(value)} (sounding)</option
          >{/if}
        {#each notes as note (note.sounding)}<option value={note.sounding}>{noteName(note.written)}</option>{/each}
      </select>
    </label>
  {/each}
  {#if instrument.mechanism === 'slide'}
    <label class="field">
      <span>Slide travel, cm</span>
      <input type="number" min="30" max="120" step="0.5" bind:value={travel} />
    </label>
  {:else}
    {#each slides as slide, i (i)}
      <label class="field">
        <span>Slide of valve {slide.valve}, mm</span>
        <input type="number" min="0" max="120" step="1" bind:value={slide.travel_mm} />
      </label>
    {/each}
    {#if slides.length < instrument.valves.length}
      <button
        type="button"
        class="line justify-self-start py-2"
        onclick={() => {
          const free = instrument.valves.findIndex((_, i) => !slides.some((slide) => slide.valve === i + 1)) + 1;
          slides = [...slides, { name: `valve ${free}`, valve: free, travel_mm: 20 }];
        }}>Add a slide</button
      >
    {/if}
  {/if}
  <fieldset>
    <legend class="quiet text-sm">Correction for each partial, cents</legend>
    <div class="mt-2 grid grid-cols-4 gap-3">
      {#each partials as n (n)}
        <label class="field">
          <span>{n}</span>
          <input
            type="number"
            min="-100"
            max="100"
            step="1"
            value={corrections[n] ?? 0}
            oninput={(event) => (corrections = { ...corrections, [n]: Number(event.currentTarget.value) || 0 })}
          />
        </label>
      {/each}
    </div>
  </fieldset>
  <button class="press small first justify-self-start" type="submit">Save</button>
  {#if said}<p role="status">{said}</p>{/if}
</form>
