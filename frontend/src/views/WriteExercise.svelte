<script lang="ts">
  import { api, type Schemas } from '../lib/api/client';
  import Choice from '../lib/components/Choice.svelte';
  import Engraving from '../lib/components/Engraving.svelte';
  import StaffEntry from '../lib/components/StaffEntry.svelte';
  import Toggle from '../lib/components/Toggle.svelte';
  import { navigate } from '../lib/router';
  import { household } from '../lib/state/household.svelte';
  import { words } from '../lib/state/loaded.svelte';
  import { ask, reads } from '../lib/state/reads.svelte';
  import { PlayIn } from '../lib/state/playIn.svelte';
  import { withNote } from '../lib/view/ownline';
  import { roving } from '../lib/view/roving';
  import type { Sign } from '../lib/view/staff';
  import { noteName } from '../lib/view/words';

  /** An exercise of one's own: notes tapped, typed or played in, engraved at once, saved under a name. */
  const player = $derived(household.player);
  const material = reads(() => player && ask('material', player.id));
  const SIGNS: { value: Sign | 'natural'; label: string }[] = [
    { value: 'b', label: '♭' },
    { value: 'natural', label: '♮' },
    { value: '#', label: '♯' },
  ];
  const LOUDNESS = ['pp', 'p', 'mp', 'mf', 'f', 'ff'];
  const playIn = new PlayIn();
  let line = $state('');
  let past = $state<string[]>([]);
  let typedAt = 0;
  let sign = $state<Sign | 'natural'>('natural');
  let dynamic = $state('');
  let staff = $state<{ svg: string; note: string } | null>(null);
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

  // The staff to tap on is a bar of its own, engraved around a note from the middle of the instrument.
  $effect(() => {
    const notes = material.value?.notes ?? [];
    const naturals = notes.filter((note) => !/[#b]/.test(note.written));
    const note = naturals[Math.floor(naturals.length / 2)]?.written;
    if (!player || !note) return;
    api.viewLine({ player_id: player.id, line: `${note}:4`, tempo: 72, beats_per_bar: 4 }).then(
      (made) => (staff = { svg: made.svg, note }),
      (error) => (trouble = words(error)),
    );
  });
  $effect(() => () => playIn.dispose());

  function change(to: string, typed = false): void {
    // What is typed in one go is one change.
    if (!typed || performance.now() - typedAt > 1000) past = [...past.slice(-99), line];
    typedAt = typed ? performance.now() : 0;
    line = to;
  }

  function undo(): void {
    line = past.at(-1) ?? '';
    past = past.slice(0, -1);
  }

  function add(note: string): void {
    change(withNote(line, note, beats, slur, dynamic));
  }

  function playItIn(): void {
    if (!player) return;
    const done = (played: string) => change(`${line.trim()} ${played}`.trim());
    if (playIn.running === 'no') void playIn.start(player.id, tempo, bar, done);
    else void playIn.stop(done);
  }

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
    {:else}<p class="quiet">Tap, type or play notes.</p>{/if}
  </div>
  {#if trouble ?? playIn.trouble}<p role="alert" class="mt-3">{trouble ?? playIn.trouble}</p>{/if}
  <div class="mt-3 flex flex-wrap items-center gap-x-8 gap-y-3">
    <Choice
      label="Beats"
      said
      bare
      value={beats}
      options={['0.5', '1', '2', '4'].map((value) => ({ value, label: value === '0.5' ? '½' : value }))}
      choose={(value) => (beats = value)}
    />
    <Choice label="Sign" said bare value={sign} options={SIGNS} choose={(value) => (sign = value)} />
    <label class="flex items-center gap-3">
      <span class="quiet">Loudness</span>
      <select class="plain" bind:value={dynamic}>
        <option value="">as before</option>
        {#each LOUDNESS as mark (mark)}<option>{mark}</option>{/each}
      </select>
    </label>
    <Toggle label="slurred" checked={slur} set={(on) => (slur = on)} />
  </div>
  <div class="mt-3 flex flex-wrap items-center gap-x-8 gap-y-3">
    <div class="staff">
      {#if staff}<StaffEntry {...staff} sign={sign === 'natural' ? '' : sign} {add} />{/if}
    </div>
    <div class="flex flex-wrap gap-3">
      <button class="press small" onclick={() => change(`${line.trim()} rest:${beats}`.trim())}>Rest</button>
      <button class="press small" disabled={!line.trim()} onclick={() => change(`${line.trim()},`)}>Breath</button>
      <button class="press small" disabled={!past.length} onclick={undo}>Undo</button>
      <button
        class="press small"
        aria-pressed={playIn.running !== 'no'}
        disabled={playIn.running === 'reading'}
        onclick={playItIn}>{playIn.running === 'no' ? 'Play it in' : 'Stop'}</button
      >
      <span role="status" class="quiet self-center"
        >{{ no: '', 'count-in': 'Start after one bar of clicks.', playing: 'Listening …', reading: 'Reading …' }[
          playIn.running
        ]}</span
      >
    </div>
  </div>
  {#if material.value}
    <div class="notes mt-3" role="group" aria-label="Notes" {@attach atTheMiddle} {@attach roving}>
      {#each material.value.notes as note (note.sounding)}
        <button class="press small" onclick={() => add(note.written)}>{noteName(note.written)}</button>
      {/each}
    </div>
  {/if}
  <label class="field mt-4">
    <span>Notes as in your part</span>
    <textarea
      rows="2"
      maxlength="4000"
      value={line}
      oninput={(event) => change(event.currentTarget.value, true)}
      spellcheck="false"
      autocapitalize="off"></textarea>
  </label>
  <p class="quiet mt-1">
    Bb3:2 lasts two beats. A dash slurs, a comma is a breath, rest:1 is a rest, (p) is soft, (short) is short.
  </p>
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
  .staff {
    width: min(100%, 24rem);
    height: 15rem;
  }

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
