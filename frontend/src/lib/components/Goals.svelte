<script lang="ts">
  import { api, type Material, type Programme, type Schemas } from '../api/client';
  import { household } from '../state/household.svelte';
  import { Loaded, words } from '../state/loaded.svelte';
  import { midiOf, pitchOf } from '../view/pitch';
  import { dateAtRisk, dateInWords, forecastInWords } from '../view/weeks';
  import { noteName, noteSigns } from '../view/words';

  /** Aims with their dates: how far, when, and what would change it; a new one below. */
  let { playerId }: { playerId: string } = $props();
  type Kind = Schemas['AimKind'];
  const found = new Loaded<Programme[]>();
  const material = new Loaded<Material>();
  let kind = $state<Kind>('own');
  let value = $state('');
  let joined = $state(false);
  let date = $state('');
  let said = $state<string | null>(null);

  const NAMES: Record<Kind, string> = {
    own: 'A note of my own',
    hold: 'Seconds of one low tone',
    slur: 'Partials slurred clean, up and back',
    trill: 'Lip trill, times a second',
    pedals: 'Pedal sets a day',
    centre: 'Centre within so many cents',
    minutes: 'Minutes of playing before tiring',
  };
  const aims = $derived(household.catalogue?.aims ?? []);
  const aim = $derived(aims.find((item) => item.id === kind));
  const load = () => found.load(() => api.programmes(playerId));

  $effect(() => {
    void [household.player?.horn];
    void load();
    void material.load(() => api.material(playerId));
  });

  async function add() {
    said = null;
    try {
      await api.addProgramme(playerId, { kind, value: Number(value), joined: kind === 'own' && joined, date });
      [value, date] = ['', ''];
      await load();
    } catch (error) {
      said = words(error);
    }
  }

  async function change(programme: Programme, state: Schemas['ProgrammeChange']['state']) {
    try {
      await api.changeProgramme(playerId, programme.id, { state });
      await load();
    } catch (error) {
      said = words(error);
    }
  }
</script>

<section class="mt-10">
  <h2>Programmes</h2>
  {#if found.trouble}<p role="alert" class="mt-3">{found.trouble}</p>{/if}
  {#if found.value && !found.value.length}
    <p class="quiet mt-1">None yet. An aim with a date gives the days a direction, and says when it will be reached.</p>
  {/if}
  <ul class="mt-3">
    {#each found.value ?? [] as programme (programme.id)}
      <li class="rule border-b py-4" class:resting={programme.state !== 'on'}>
        <p>
          <b class="serif text-xl">{noteSigns(programme.says).replace(/^./, (first) => first.toUpperCase())}</b>
          <span class="quiet">by {dateInWords(programme.date)}</span>
        </p>
        <div class="way" role="img" aria-label="{Math.round(100 * programme.share)} of 100 of the way">
          <span class="gone" style="width: {100 * programme.share}%"></span>
        </div>
        <p class="ends quiet"><span>now: {noteSigns(programme.now)}</span><span>{noteSigns(programme.asked)}</span></p>
        <p class="mt-1">{forecastInWords(programme)}</p>
        {#if dateAtRisk(programme)}<p class="mt-1"><b>{dateAtRisk(programme)}</b></p>{/if}
        <p class="mt-2 flex flex-wrap gap-5">
          {#if programme.state === 'on'}
            <button class="line py-2" onclick={() => void change(programme, 'paused')}>Pause it</button>
          {:else if programme.state !== 'reached'}
            <button class="line py-2" onclick={() => void change(programme, 'on')}>Go on with it</button>
          {/if}
          {#if programme.state === 'on' || programme.state === 'paused'}
            <button class="line py-2" onclick={() => void change(programme, 'given up')}>Leave it</button>
          {/if}
        </p>
      </li>
    {/each}
  </ul>
  <form
    class="mt-5 grid items-end gap-x-6 gap-y-4 sm:grid-cols-2 lg:grid-cols-[1.4fr_1fr_1fr_auto]"
    onsubmit={(event) => {
      event.preventDefault();
      void add();
    }}
  >
    <label class="field">
      <span>A new aim</span>
      <select
        value={kind}
        onchange={(event) => {
          kind = event.currentTarget.value as Kind;
          value = '';
        }}
      >
        {#each aims as item (item.id)}<option value={item.id}>{NAMES[item.id]}</option>{/each}
      </select>
    </label>
    {#if kind === 'own'}
      <label class="field">
        <span>Note</span>
        <select bind:value>
          <option value="" disabled>choose</option>
          {#each material.value?.notes ?? [] as note (note.sounding)}
            <option value={String(midiOf(pitchOf(note.sounding)))}>{noteName(note.written)}</option>
          {/each}
        </select>
      </label>
    {:else}
      <label class="field">
        <span>{aim?.unit}, {aim?.low} to {aim?.high}</span>
        <input type="number" min={aim?.low} max={aim?.high} step="any" bind:value />
      </label>
    {/if}
    <label class="field"><span>By</span><input type="date" bind:value={date} /></label>
    <button class="press small" disabled={value === '' || !date}>Begin it</button>
    {#if kind === 'own'}
      <label class="flex items-center gap-3">
        <input type="checkbox" bind:checked={joined} class="size-5" /> reached along a line, not by itself
      </label>
    {/if}
  </form>
  {#if said}<p role="alert" class="mt-3">{said}</p>{/if}
</section>

<style>
  .way {
    position: relative;
    height: 12px;
    margin-top: 0.6rem;
    border: 1px solid var(--ink);
    border-width: 0 1.5px 1.5px;
    max-width: 40rem;
  }

  .gone {
    position: absolute;
    left: 0;
    bottom: 0;
    height: 7px;
    background: var(--brass);
  }

  .ends {
    display: flex;
    justify-content: space-between;
    gap: 1rem;
    max-width: 40rem;
    font-size: 0.9rem;
  }

  .resting .gone {
    opacity: 0.5;
  }
</style>
