<script lang="ts">
  import type { Schemas } from '../api/client';
  import type { FreePlay } from '../state/freePlay.svelte';
  import { noteName } from '../view/words';
  import { named } from '../view/names';

  let { play }: { play: FreePlay } = $props();
  const CHORDS: { value: Schemas['Chord']; label: string }[] = [
    { value: 'note', label: 'one note' },
    { value: 'octave', label: named('octave') },
    { value: 'fifth', label: named('fifth') },
    { value: 'major', label: 'major chord' },
    { value: 'minor', label: 'minor chord' },
    { value: 'dominant', label: 'dominant seventh' },
  ];
  function set(change: Partial<typeof play.drone>) {
    play.drone = { ...play.drone, ...change };
    play.keep();
    void play.sound();
  }
</script>

<section aria-labelledby="drone" class="panel">
  <header class="flex flex-wrap items-center gap-x-4 gap-y-2">
    <h2 id="drone" class="grow">Drone</h2>
    <button class="press small" aria-pressed={play.droning} onclick={() => void play.toggleDrone()}
      >{play.droning ? 'Stop' : 'Start'}</button
    >
  </header>
  <div class="mt-2 flex flex-wrap items-center gap-x-6 gap-y-2">
    <label class="flex items-center gap-2">
      <span class="quiet">On</span>
      <select
        class="plain"
        value={String(play.drone.midi ?? play.usualDrone)}
        onchange={(event) => set({ midi: Number(event.currentTarget.value) })}
      >
        {#each play.notes as note (note.midi)}<option value={String(note.midi)}>{noteName(note.written)}</option>{/each}
      </select>
    </label>
    <label class="flex items-center gap-2">
      <span class="quiet">Sounds</span>
      <select
        class="plain"
        value={play.drone.chord}
        onchange={(event) => set({ chord: event.currentTarget.value as Schemas['Chord'] })}
      >
        {#each CHORDS as chord (chord.value)}<option value={chord.value}>{chord.label}</option>{/each}
      </select>
    </label>
  </div>
  {#if play.droning && play.listening}<p class="quiet mt-2">Use headphones, or the tuner hears the drone too.</p>{/if}
</section>
