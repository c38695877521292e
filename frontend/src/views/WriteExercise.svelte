<script lang="ts">
  import { api, type Schemas } from '../lib/api/client';
  import Choice from '../lib/components/Choice.svelte';
  import Engraving from '../lib/components/Engraving.svelte';
  import Toggle from '../lib/components/Toggle.svelte';
  import { navigate } from '../lib/router';
  import { household } from '../lib/state/household.svelte';
  import { words } from '../lib/state/loaded.svelte';
  import { ask, reads } from '../lib/state/reads.svelte';
  import { withNote, withoutLast } from '../lib/view/ownline';
  import { roving } from '../lib/view/roving';
  import { noteName } from '../lib/view/words';

  /** An exercise of one's own: notes tapped or typed, engraved at once, saved under a name. */
  const player = $derived(household.player);
  const material = reads(() => player && ask('material', player.id));
  let line = $state('');
  let beats = $state('1');
  let slur = $state(false);
  let tempo = $state(72);
  let bar = $state(4);
  let name = $state('');
  let shown = $state<Schemas['ExerciseView'] | null>(null);
  let trouble = $state<string | null>(null);
  let asked = 0;

  $effect(() => {
    const body = player && { player_id: player.id, line, tempo, beats_per_bar: bar };
    const mine = ++asked;
    if (!body || !body.line.trim()) {
      [shown, trouble] = [null, null];
      return;
    }
    const soon = setTimeout(async () => {
      try {
        const made = await api.viewLine(body);
        if (mine === asked) [shown, trouble] = [made, null];
      } catch (error) {
        if (mine === asked) trouble = words(error);
      }
    }, 150);
    return () => clearTimeout(soon);
  });

  async function save() {
    if (!player) return;
    try {
      const kept = await api.keepLine({ player_id: player.id, line, tempo, beats_per_bar: bar, name });
      await navigate('/exercises/:id', { params: { id: kept.id } });
    } catch (error) {
      trouble = words(error);
    }
  }

  /** The strip of notes begins where most is played. */
  function atTheMiddle(strip: HTMLElement) {
    strip.scrollLeft = (strip.scrollWidth - strip.clientWidth) / 2;
  }
</script>

<svelte:head><title>Write your own – Orexis</title></svelte:head>

<section class="mx-auto w-full max-w-6xl p-8 max-sm:p-4">
  <p><a class="line inline-block py-1" href="/exercises">Exercises</a></p>
  <h1>Write your own</h1>
  <div class="rule mt-4 h-[200px] border-y py-3 max-sm:h-[140px]">
    {#if shown}<Engraving svg={shown.svg} title={shown.notes.map((note) => noteName(note.written)).join(', ')} />
    {:else}<p class="quiet">Tap notes below, or type them.</p>{/if}
  </div>
  {#if trouble}<p role="alert" class="mt-3">{trouble}</p>{/if}
  {#if material.value}
    <div class="notes mt-3" role="group" aria-label="Notes" {@attach atTheMiddle} {@attach roving}>
      {#each material.value.notes as note (note.sounding)}
        <button class="press small" onclick={() => (line = withNote(line, note.written, beats, slur))}
          >{noteName(note.written)}</button
        >
      {/each}
    </div>
  {/if}
  <div class="mt-3 flex flex-wrap items-center gap-x-8 gap-y-3">
    <Choice
      label="Beats"
      said
      bare
      value={beats}
      options={['0.5', '1', '2', '4'].map((value) => ({ value, label: value === '0.5' ? '½' : value }))}
      choose={(value) => (beats = value)}
    />
    <Toggle label="slurred" checked={slur} set={(on) => (slur = on)} />
    <div class="flex flex-wrap gap-3">
      <button class="press small" onclick={() => (line = `${line.trim()} rest:${beats}`.trim())}>Rest</button>
      <button class="press small" disabled={!line.trim()} onclick={() => (line = `${line.trim()},`)}>Breath</button>
      <button class="press small" disabled={!line.trim()} onclick={() => (line = withoutLast(line))}>Undo</button>
    </div>
  </div>
  <label class="field mt-4">
    <span>Notes as in your part</span>
    <textarea rows="2" maxlength="4000" bind:value={line} spellcheck="false" autocapitalize="off"></textarea>
  </label>
  <p class="quiet mt-1">Bb3:2 lasts two beats. A dash slurs, a comma is a breath, rest:1 is a rest.</p>
  <form
    class="mt-4 flex flex-wrap items-end gap-x-6 gap-y-4"
    onsubmit={(event) => {
      event.preventDefault();
      void save();
    }}
  >
    <label class="field w-40">
      <span>Tempo, beats a minute</span><input type="number" min="20" max="300" bind:value={tempo} />
    </label>
    <label class="field w-32">
      <span>Beats in a bar</span><input type="number" min="1" max="16" bind:value={bar} />
    </label>
    <label class="field grow"><span>Name</span><input maxlength="80" bind:value={name} /></label>
    <button class="press first" type="submit" disabled={!shown || !!trouble || !name.trim()}>Save</button>
  </form>
</section>

<style>
  .notes {
    display: flex;
    gap: 0.4rem;
    overflow-x: auto;
    padding-bottom: 0.6rem;
  }

  .notes button {
    flex: none;
    min-width: 3.6rem;
    padding: 0 0.5rem;
  }

  textarea {
    width: 100%;
  }
</style>
