<script lang="ts">
  import { api, type Schemas } from '../lib/api/client';
  import BringIn from '../lib/components/BringIn.svelte';
  import ComfortStrip from '../lib/components/ComfortStrip.svelte';
  import { navigate } from '../lib/router';
  import { household } from '../lib/state/household.svelte';
  import { PLAYS_NOW } from '../lib/view/elsewhere';
  import { partInWords } from '../lib/view/words';
  import { midiOf, pitchName, pitchOfMidi, type Pitch } from '../lib/view/pitch';

  const LEVELS: Record<Schemas['Standard'], string> = {
    beginner: 'Beginner: first months',
    developing: 'Developing: most notes come',
    advanced: 'Advanced: steady in the usual range',
    professional: 'Professional: exact',
  };
  const REASONS = [
    ['range', 'More range'],
    ['flexibility', 'Flexibility'],
    ['intonation', 'Intonation'],
    ['return', 'Coming back to playing'],
    ['teacher', 'I’m a teacher with a file'],
  ] as const;
  let name = $state('');
  let instrument = $state('trumpet-bb');
  let part = $state('');
  let standard = $state<Schemas['Standard']>('developing');
  let reason = $state<(typeof REASONS)[number][0]>('range');
  let playsNow = $state<number | null>(null); // minutes a week
  let trouble = $state<string | null>(null);
  let busy = $state(false);
  /** The player, once there is one: where the rest was refused, the next press is about the same one. */
  let made: string | null = null;
  /** What is comfortable today, as it is written. */
  let comfort = $state<{ from: Pitch | null; to: Pitch | null }>({ from: null, to: null });

  const instruments = $derived(household.catalogue?.instruments ?? []);
  const taken = $derived(instruments.find((item) => item.id === instrument));
  const parts = $derived(taken?.parts ?? []);
  const chosenPart = $derived(parts.some((item) => item.id === part) ? part : (parts[0]?.id ?? null));

  const higher = $derived(parts.find((item) => item.id === chosenPart)?.semitones ?? 0);

  function sounding(note: Pitch | null): Pitch | null {
    return note && pitchOfMidi(midiOf(note) - higher);
  }

  async function add() {
    const about = { name: name.trim() || 'Player', standard, instrument, part: chosenPart, a4_hz: 440 };
    const player = made ? await api.changePlayer(made, about) : await api.addPlayer(about);
    made = player.id;
    return player;
  }

  /** A teacher needs no first note: straight to the files. */
  async function openFile() {
    busy = true;
    try {
      const player = await add();
      await household.load();
      household.choose(player.id);
      await navigate('/lessons');
    } catch (error) {
      trouble = error instanceof Error ? error.message : String(error);
      busy = false;
    }
  }

  async function start(source: 'microphone' | 'simulated', event?: Event) {
    event?.preventDefault();
    busy = true;
    trouble = null;
    try {
      household.setSource(source);
      const player = await add();
      const [low, high] = [sounding(comfort.from), sounding(comfort.to)];
      if (low) await api.changeInstrument(player.id, { ...player.setup, comfortable_low: low, comfortable_high: high });
      if (reason === 'return') await api.changeSettings(player.id, { returning: true });
      if (playsNow !== null) await api.changeSettings(player.id, { plays_now: playsNow });
      await household.load();
      household.choose(player.id);
      const session = await api.openSession({
        player_id: player.id,
        exercise_type: 'long-low-tones',
        // Two steps down, to the note that is comfortable.
        params: low ? { steps: '2', start: pitchName(pitchOfMidi(midiOf(low) + 2)) } : { steps: '2' },
        anyway: false,
      });
      await navigate('/stand/:id', { params: { id: session.id } });
    } catch (error) {
      trouble = error instanceof Error ? error.message : String(error);
      busy = false;
    }
  }
</script>

<svelte:head><title>Welcome – Orexis</title></svelte:head>

<section class="mx-auto grid w-full max-w-5xl gap-12 p-8 max-sm:p-4 md:grid-cols-[1fr_1.1fr] md:pt-14">
  <div>
    <h1>Play one note.</h1>
    <p class="mt-4 text-lg">Orexis listens while you practise and tells you what a good teacher would hear.</p>
    <p class="quiet mt-4">
      The sound stays on this computer. Stop when lips, teeth or jaw hurt; your teacher and doctor come first.
    </p>
    <div class="mt-6"><BringIn done={() => navigate('/')} /></div>
  </div>
  <form class="grid gap-5" onsubmit={(event) => start('microphone', event)}>
    <div class="grid gap-5 lg:grid-cols-2">
      <label class="field">
        <span>What do you play?</span>
        <select bind:value={instrument} onchange={() => (comfort = { from: null, to: null })}>
          {#each instruments as item (item.id)}<option value={item.id}>{item.name}</option>{/each}
        </select>
      </label>
      <label class="field">
        <span>Your part</span>
        <select
          value={chosenPart}
          onchange={(event) => {
            part = event.currentTarget.value;
            comfort = { from: null, to: null };
          }}
        >
          {#each parts as item (item.id)}<option value={item.id}>{partInWords(item)}</option>{/each}
        </select>
      </label>
    </div>
    <label class="field">
      <span>Your level</span>
      <select bind:value={standard}>
        {#each Object.entries(LEVELS) as [id, text] (id)}<option value={id}>{text}</option>{/each}
      </select>
    </label>
    <label class="field">
      <span>What brings you here?</span>
      <select bind:value={reason}>
        {#each REASONS as [id, text] (id)}<option value={id}>{text}</option>{/each}
      </select>
    </label>
    {#if reason !== 'teacher'}
      <label class="field">
        <span>How much do you play now?</span>
        <select bind:value={playsNow}>
          <option value={null}>about as much as I’ll practise here</option>
          {#each PLAYS_NOW as [minutes, label] (minutes)}<option value={minutes}>{label}</option>{/each}
        </select>
      </label>
    {/if}
    <label class="field"
      ><span>Your name, or any name</span><input bind:value={name} maxlength="60" autocomplete="off" /></label
    >
    {#if taken && reason !== 'teacher'}
      <details>
        <summary class="cursor-pointer py-2">Comfortable notes (optional)</summary>
        <p class="quiet mb-2 text-sm">Tap the lowest, then the highest.</p>
        <ComfortStrip
          low={taken.low + higher}
          high={taken.high + higher}
          from={comfort.from}
          to={comfort.to}
          onchange={(from, to) => (comfort = { from, to })}
        />
      </details>
    {/if}
    {#if trouble}<p role="alert">{trouble}</p>{/if}
    <div class="flex flex-wrap gap-4">
      {#if reason === 'teacher'}
        <button class="press first" type="button" disabled={busy} onclick={() => openFile()}>Open a file</button>
      {:else}
        <button class="press first" type="submit" disabled={busy}>Start</button>
        <button class="press" type="button" disabled={busy} onclick={() => start('simulated')}
          >Show the demo player</button
        >
      {/if}
    </div>
  </form>
</section>
