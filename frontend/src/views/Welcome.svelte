<script lang="ts">
  import { api } from '../lib/api/client';
  import BringIn from '../lib/components/BringIn.svelte';
  import ComfortStrip from '../lib/components/ComfortStrip.svelte';
  import { navigate } from '../lib/router';
  import { household } from '../lib/state/household.svelte';
  import { midiOf, pitchName, pitchOfMidi, type Pitch } from '../lib/view/pitch';

  const standards: Record<string, string> = {
    starting: 'Starting – first months, notes still come and go',
    growing: 'Growing – most notes come, some waver',
    secure: 'Secure – steady in the usual range',
    concert: 'Concert – asked to be exact',
  };
  const clefs: Record<string, string> = {
    treble: 'treble clef',
    bass: 'bass clef',
    tenor: 'tenor clef',
    alto: 'alto clef',
  };

  let name = $state('');
  let horn = $state('trumpet-bb');
  let part = $state('');
  let standard = $state('developing');
  let trouble = $state<string | null>(null);
  let busy = $state(false);
  /** The player, once there is one: where the rest was refused, the next press is about the same one. */
  let made: string | null = null;
  /** What is comfortable today, as it is written. */
  let comfort = $state<{ from: Pitch | null; to: Pitch | null }>({ from: null, to: null });

  const horns = $derived(household.catalogue?.horns ?? []);
  const taken = $derived(horns.find((item) => item.id === horn));
  const parts = $derived(taken?.parts ?? []);
  const chosenPart = $derived(parts.some((item) => item.id === part) ? part : (parts[0]?.id ?? null));

  const higher = $derived(parts.find((item) => item.id === chosenPart)?.semitones ?? 0);

  function sounding(note: Pitch | null): Pitch | null {
    return note && pitchOfMidi(midiOf(note) - higher);
  }

  function partName(item: { id: string; clef: string; semitones: number }): string {
    const clef = clefs[item.clef] ?? item.clef;
    if (item.id === 'bass-old') return `${clef}, old notation`;
    return item.semitones === 0 ? `${clef}, sounds as written` : `${clef}, transposed`;
  }

  async function start(source: 'microphone' | 'simulated', event?: Event) {
    event?.preventDefault();
    busy = true;
    trouble = null;
    try {
      household.setSource(source);
      const about = { name: name.trim() || 'Player', standard, horn, part: chosenPart, a4_hz: 440 };
      const player = made ? await api.changePlayer(made, about) : await api.addPlayer(about);
      made = player.id;
      const [low, high] = [sounding(comfort.from), sounding(comfort.to)];
      if (low) await api.changeHorn(player.id, { ...player.setup, comfortable_low: low, comfortable_high: high });
      await household.load();
      household.choose(player.id);
      const session = await api.openSession({
        player_id: player.id,
        family: 'long-low-tones',
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

<section class="mx-auto grid max-w-5xl gap-12 p-8 md:grid-cols-[1fr_1.1fr] md:pt-16">
  <div>
    <h1>Play one note.</h1>
    <p class="mt-4 text-lg">
      Orexis listens while you play, tells you what a careful teacher would hear, and keeps the record. Say what you
      play, then hold one comfortable low note.
    </p>
    <p class="quiet mt-6">
      The sound stays on this machine. Nothing is sent anywhere. A teacher’s word goes before anything said here; stop
      when lips, teeth or jaw hurt.
    </p>
    <div class="mt-8 grid justify-items-start gap-2">
      <p class="quiet">You have a record already, on another machine or from before?</p>
      <BringIn done={() => navigate('/')} />
    </div>
  </div>
  <form class="grid gap-5" onsubmit={(event) => start('microphone', event)}>
    <label class="field"
      ><span>Your name, or any name</span><input bind:value={name} maxlength="60" autocomplete="off" /></label
    >
    <div class="grid gap-5 lg:grid-cols-2">
      <label class="field">
        <span>Horn</span>
        <select bind:value={horn} onchange={() => (comfort = { from: null, to: null })}>
          {#each horns as item (item.id)}<option value={item.id}>{item.name}</option>{/each}
        </select>
      </label>
      <label class="field">
        <span>Your part is written in</span>
        <select
          value={chosenPart}
          onchange={(event) => {
            part = event.currentTarget.value;
            comfort = { from: null, to: null };
          }}
        >
          {#each parts as item (item.id)}<option value={item.id}>{partName(item)}</option>{/each}
        </select>
      </label>
    </div>
    <label class="field">
      <span>Where you are</span>
      <select bind:value={standard}>
        {#each Object.entries(standards) as [id, text] (id)}<option value={id}>{text}</option>{/each}
      </select>
    </label>
    {#if taken}
      <div>
        <p class="quiet mb-2 text-sm">
          Comfortable today, in two taps: the lowest note and the highest. You may leave it open.
        </p>
        <ComfortStrip
          low={taken.low + higher}
          high={taken.high + higher}
          from={comfort.from}
          to={comfort.to}
          onchange={(from, to) => (comfort = { from, to })}
        />
      </div>
    {/if}
    {#if trouble}<p role="alert">{trouble}</p>{/if}
    <div class="flex flex-wrap gap-4">
      <button class="press first" type="submit" disabled={busy}>To the stand, with my microphone</button>
      <button class="press" type="button" disabled={busy} onclick={() => start('simulated')}
        >Let the simulated player show it</button
      >
    </div>
  </form>
</section>
