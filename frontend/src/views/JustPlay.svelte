<script lang="ts">
  import { onDestroy, onMount } from 'svelte';
  import { forgetReads } from '../lib/state/reads.svelte';
  import type { Schemas } from '../lib/api/client';
  import DronePanel from '../lib/components/DronePanel.svelte';
  import MetronomePanel from '../lib/components/MetronomePanel.svelte';
  import ReadRecording from '../lib/components/ReadRecording.svelte';
  import SourceChoice from '../lib/components/SourceChoice.svelte';
  import Toggle from '../lib/components/Toggle.svelte';
  import TunerLine from '../lib/components/TunerLine.svelte';
  import { FreePlay } from '../lib/state/freePlay.svelte';
  import { household } from '../lib/state/household.svelte';
  import { keyOf } from '../lib/state/keys';
  import { keepAwake } from '../lib/state/wake';
  import { offInWords, tendencyInWords } from '../lib/view/tuner';
  import { counted, noteName, seconds } from '../lib/view/words';
  import { named } from '../lib/view/names';
  import { decimals } from '../lib/view/numbers';

  const play = new FreePlay();
  const player = $derived(household.player);
  const heard = $derived(play.heard);
  const TEMPERAMENTS: { value: Schemas['Temperament']; label: string }[] = [
    { value: 'equal', label: named('equal') },
    { value: 'just', label: named('just') },
    { value: 'pythagorean', label: 'pure fifths' },
    { value: 'meantone', label: named('meantone') },
  ];
  /** One octave of roots, as the player writes them. */
  const roots = $derived(play.notes.slice(0, 12).map((note) => ({ root: note.midi % 12, name: note.written })));

  onMount(() => {
    Object.assign(window, { orexisFree: play });
    return keepAwake();
  });
  onDestroy(() => {
    play.close();
    forgetReads();
  });
  $effect(() => {
    const id = player?.id;
    void [player?.instrument, player?.part, play.a4, play.tuning];
    if (id) void play.loadNotes(id);
  });

  function tune(change: Partial<typeof play.tuning>) {
    play.tuning = { ...play.tuning, ...change };
    play.keep();
    void play.sound();
  }
  const listen = () => void (play.listening ? play.stop() : play.listen());
  const actions: Record<string, () => void> = {
    Enter: listen,
    ' ': () => void play.toggleClick(),
    PageDown: () => void play.toggleClick(),
    ArrowRight: () => void play.toggleClick(),
    PageUp: listen,
    ArrowLeft: () => void play.toggleDrone(),
    ArrowUp: () => play.setPulse({ tempo: play.pulse.tempo + 1 }),
    ArrowDown: () => play.setPulse({ tempo: play.pulse.tempo - 1 }),
    t: () => play.tap(),
    d: () => void play.toggleDrone(),
  };
  function onkeydown(event: KeyboardEvent) {
    const action = actions[keyOf(event, household.letters) ?? ''];
    if (!action) return;
    event.preventDefault();
    action();
  }
  const played = $derived(
    play.parts
      ? `${counted(play.parts, ['# part', '# parts'])}, ${seconds(play.playingS)} of playing`
      : 'Nothing was played',
  );
</script>

<svelte:head><title>Just play – Orexis</title></svelte:head>
<svelte:window {onkeydown} />

{#if player}
  <div class="play mx-auto w-full max-w-6xl px-8 py-4 max-sm:px-4">
    <h1 class="sr-only">Just play</h1>
    <section aria-label="Tuner" class="tuner">
      <div class="reading">
        {#if heard}<p class="note serif">{noteName(heard.note.written)}</p>{/if}
        <div class="beside">
          {#if heard}<p class="off serif">{offInWords(heard.cents)}</p>{/if}
          <p class="quiet">
            {heard
              ? [
                  heard.note.written !== heard.note.sounding && `sounds ${noteName(heard.note.sounding)}`,
                  `${decimals(heard.hz, 1)} Hz`,
                  tendencyInWords(heard.note),
                ]
                  .filter(Boolean)
                  .join(' · ')
              : play.listening
                ? 'Play any note.'
                : 'Press Listen and play. A note shows here with how far it is out.'}
          </p>
        </div>
        <button class="press" class:first={!play.listening} disabled={play.ending} onclick={listen}>
          {play.ending ? 'One moment …' : play.listening ? 'Stop' : 'Listen'}
        </button>
      </div>
      <div class="rule line-of border-y"><TunerLine track={play.track} notes={play.notes} live={play.listening} /></div>
      {#each [play.trouble, ...play.warnings].filter(Boolean) as said (said)}<p role="alert" class="mt-2">
          {said}
        </p>{/each}
      <div class="mt-2 flex flex-wrap items-center gap-x-8 gap-y-1">
        <Toggle
          label="record"
          checked={play.record}
          set={(on) => {
            play.record = on;
            play.keep();
          }}
        />
        {#if !play.listening}<SourceChoice /><ReadRecording playerId={player.id} />{/if}
        <label class="flex items-center gap-2">
          <span class="quiet">A4</span>
          <input
            class="number"
            type="number"
            min="392"
            max="470"
            step="0.5"
            value={play.a4}
            aria-label="A4 in hertz"
            onchange={(event) => tune({ a4: Number(event.currentTarget.value) || null })}
          />
        </label>
        <label class="flex items-center gap-2">
          <span class="quiet">Temperament</span>
          <select
            class="plain"
            value={play.tuning.temperament}
            onchange={(event) => tune({ temperament: event.currentTarget.value as Schemas['Temperament'] })}
          >
            {#each TEMPERAMENTS as one (one.value)}<option value={one.value}>{one.label}</option>{/each}
          </select>
        </label>
        {#if play.tuning.temperament !== 'equal'}
          <label class="flex items-center gap-2">
            <span class="quiet">from</span>
            <select
              class="plain"
              value={String(play.tuning.root)}
              onchange={(event) => tune({ root: Number(event.currentTarget.value) })}
            >
              {#each roots as one (one.root)}<option value={String(one.root)}>{noteName(one.name).slice(0, -1)}</option
                >{/each}
            </select>
          </label>
        {/if}
        <span class="grow"></span>
        <span class="quiet" role="status">
          {#if play.listening}{play.parts ? played : ''}{:else if play.session && !play.ending}{played}.
            {#if play.parts}<a class="line" href="/session/{play.session}">See what was heard</a>{/if}{/if}
        </span>
      </div>
    </section>
    <div class="panels">
      <MetronomePanel {play} />
      <DronePanel {play} />
    </div>
  </div>
{/if}

<style>
  .play {
    display: grid;
    grid-template-rows: minmax(0, 1fr) auto;
    gap: 1.25rem;
    min-height: calc(100dvh - 62px);
  }

  .tuner {
    display: flex;
    flex-direction: column;
    min-height: 0;
  }

  .reading {
    display: flex;
    align-items: center;
    gap: 0.5rem 2rem;
    min-height: 8.5rem;
  }

  .beside {
    flex: 1 1 0;
  }

  .note {
    font-size: clamp(4.5rem, 13vw, 9rem);
    line-height: 0.95;
    min-width: 2.2em;
    color: var(--brass);
  }

  .off {
    font-size: clamp(2rem, 5vw, 3.6rem);
    line-height: 1.1;
    min-height: 1.1em;
  }

  .line-of {
    position: relative;
    flex: 1 1 0;
    min-height: 170px;
  }

  .panels {
    display: grid;
    grid-template-columns: 3fr 2fr;
    gap: 1rem 3rem;
  }

  .panels > :global(.panel) {
    border-top: 1.5px solid var(--ink);
    padding-top: 0.75rem;
  }

  .panels :global(.number),
  .tuner .number {
    width: 5.5rem;
  }

  @media (max-width: 52rem) {
    .panels {
      grid-template-columns: minmax(0, 1fr);
    }
  }

  @media (max-width: 40rem) {
    .play {
      min-height: 0;
    }

    .reading {
      flex-wrap: wrap;
    }

    .beside {
      flex-basis: 12rem;
    }

    .note {
      min-width: 0;
    }
  }
</style>
