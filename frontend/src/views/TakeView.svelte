<script lang="ts">
  import { api, type ExerciseView, type Like, type Mark, type Take } from '../lib/api/client';
  import Ask from '../lib/components/Ask.svelte';
  import Engraving from '../lib/components/Engraving.svelte';
  import Lanes from '../lib/components/Lanes.svelte';
  import ListenBar from '../lib/components/ListenBar.svelte';
  import NoteTable from '../lib/components/NoteTable.svelte';
  import Remarks from '../lib/components/Remarks.svelte';
  import TakeShape from '../lib/components/TakeShape.svelte';
  import { route } from '../lib/router';
  import { household } from '../lib/state/household.svelte';
  import { Loaded } from '../lib/state/loaded.svelte';
  import { firstBeatOf, isFree } from '../lib/view/take';
  import { laidOver } from '../lib/view/overlay';
  import { emptyTrack, trackOf, type Track } from '../lib/view/track';
  import { day, noteName, OUTCOME_WORDS, reasonInWords, small, STANDARD_WORDS } from '../lib/view/words';

  const shown = new Loaded<[Take, ExerciseView]>();
  const traced = new Loaded<Track>();
  const alike = new Loaded<Like[]>();
  const otherTrack = new Loaded<Track>();
  const said = new Loaded<Mark[]>();
  /** Where in the sound: of the listening, and of what is remarked on. */
  let time = $state(0);
  let changed = $state<Take | null>(null);
  let remark = $state('');
  const take = $derived(changed ?? shown.value?.[0] ?? null);
  const exercise = $derived(shown.value?.[1] ?? null);
  const track = $derived(traced.value ?? emptyTrack());
  const trouble = $derived(shown.trouble);
  const like = $derived(alike.value ?? []);
  const over = $derived(otherTrack.value);
  let overId = $state('');
  let part = $state<{ from: number; to: number; name: string } | null>(null);
  const id = $derived((route.params as { id?: string }).id ?? '');

  $effect(() => {
    const wanted = id;
    [changed, overId, part] = [null, '', null];
    traced.drop();
    otherTrack.drop();
    void shown
      .load(() => Promise.all([api.take(wanted), api.takeExercise(wanted)]))
      .then((found) => {
        remark = found?.[0].remark ?? remark;
        const other = new URLSearchParams(location.search).get('over');
        if (found && other) void layOver(other);
      });
    time = Number(new URLSearchParams(location.search).get('at')) || 0;
    void said.load(() => api.marks(wanted));
    void alike.load(() => api.takesLike(wanted));
    void traced.load(() => api.takeTrace(wanted).then(trackOf));
  });

  const firstBeat = $derived(take ? firstBeatOf(take, exercise) : 0);
  const free = $derived(isFree(exercise));
  const nameOf = (note: string) =>
    noteName(exercise?.notes.find((item) => item.id === note)?.written ?? (free ? 'short' : note));

  /** Another take of the same exercise, aligned note by note. */
  async function layOver(id: string) {
    overId = id;
    const here = take;
    if (!id || !here) return otherTrack.drop();
    await otherTrack.load(async () => {
      const [other, trace] = await Promise.all([api.take(id), api.takeTrace(id)]);
      return laidOver(trackOf(trace), other.measures, here.measures, track.f0.length);
    });
  }

  function hearNote(index: number) {
    const note = take?.measures.notes[index];
    if (note?.onset_s == null || note.release_s == null) return;
    const name = note.target ? nameOf(note.target) : 'the extra note';
    part = { from: Math.max(0, note.onset_s - 0.15), to: note.release_s + 0.15, name };
  }

  const owner = $derived(household.players.find((player) => player.id === take?.player_id) ?? null);
  /** Whose other takes would be compared with it: a guest's take is held up to whoever looks at it. */
  const compares = $derived(
    owner?.guest
      ? [household.player, ...household.own].find((player) => !player?.guest && player?.instrument === take?.instrument)
      : owner,
  );
  const isReference = $derived(compares?.settings.reference_take === take?.id);

  /** Other takes are compared with this one from now on; once more, and it is today's easiest note again. */
  async function nameReference() {
    if (!compares || !take) return;
    await api.changeSettings(compares.id, { reference_take: isReference ? null : take.id });
    await household.load();
  }

  let asking = $state(false);
  /** The lesson or request from which the take was opened: the way back to it. */
  const lesson = new URLSearchParams(location.search).get('lesson');

  /** Measures and words stay. */
  async function forgetSound(agreed: boolean) {
    asking = false;
    if (!agreed || !take) return;
    await api.forgetSound(take.id);
    location.reload();
  }

  async function toss(discarded: boolean) {
    if (take) changed = await api.discard(take.id, discarded);
  }
</script>

<svelte:head><title>Take – Orexis</title></svelte:head>

<section class="mx-auto w-full max-w-6xl p-8 max-sm:p-4">
  {#if trouble}<p role="alert">{trouble} <a class="line" href="/progress/sessions">Open sessions</a></p>{/if}
  {#if take && exercise}
    <div class="flex flex-wrap items-start gap-x-10 gap-y-4">
      <div class="grow">
        <p class="quiet">
          {#if lesson}<a class="line" href="/lessons/{lesson}">Back to the lesson</a> ·
          {/if}{owner && owner.id !== household.player?.id ? `${owner.name} · ` : ''}{day(take.started_at)} · take {take.number}
          · {take.source === 'simulated' ? 'demo player' : take.source}
          {#if take.device.mute}· {take.device.mute}{/if}
          {free ? '' : `· ${small(STANDARD_WORDS[take.standard])}`}{take.recovered ? ' · saved after a break' : ''}
        </p>
        {#if free}
          <h1 class="mt-1">Just play, part {take.number}</h1>
          <p class="mt-3"><a class="line py-2" href="/session/{take.session_id}">What was heard in all parts</a></p>
        {:else}
          <h1 class="mt-1 flex items-center gap-4">
            <TakeShape outcome={take.verdict.outcome} size={30} />{OUTCOME_WORDS[take.verdict.outcome]}
          </h1>
          <p class="mt-3 text-xl">{reasonInWords(take.verdict, nameOf)}</p>
        {/if}
        {#if take.verdict.cue}<p class="mt-1">{take.verdict.cue}</p>{/if}
        {#if take.is_old}<p class="quiet mt-1">Measured by an earlier version of Orexis.</p>{/if}
        {#if take.verdict.hidden}<p class="quiet mt-1">{take.verdict.hidden}</p>{/if}
      </div>
      {#if !free}
        <div class="h-36 w-96 max-w-full">
          <Engraving
            svg={exercise.svg}
            title={exercise.exercise.title}
            found={(take.verdict.findings ?? []).flatMap((item) => item.note ?? [])}
          />
        </div>
      {/if}
    </div>
    {#if take.discarded}
      <p class="mt-4" role="status">
        This take is deleted. <button class="line py-2" onclick={() => toss(false)}>Restore</button>
      </p>
    {/if}
    <div class="rule mt-6 h-[400px] border-y">
      <Lanes
        {exercise}
        {track}
        {over}
        {firstBeat}
        measures={take.measures}
        marks={said.value ?? []}
        pick={(at) => (time = Math.min(Math.max(at, 0), take.duration_s))}
      />
    </div>
    <div class="mt-4 flex flex-wrap items-center gap-4">
      <ListenBar
        src={api.soundUrl(take.id)}
        other={overId ? api.soundUrl(overId) : null}
        ideal={free ? null : api.idealUrl(take.id)}
        duration={take.duration_s}
        {part}
        bind:time
      />
      {#if !take.discarded}
        <button class="press small" onclick={() => toss(true)}>Delete</button>
      {/if}
    </div>
    <div class="mt-3 flex flex-wrap items-center gap-x-8 gap-y-3">
      {#if !take.discarded && compares && !free}
        <button class="press small" aria-pressed={isReference} onclick={nameReference}>
          {isReference ? 'This is the tone to match' : 'Use as the tone to match'}
        </button>
      {/if}
      <p class="flex items-center gap-4">
        <span class="quiet">Export</span>
        {#each ['flac', 'wav', 'mp3'] as const as form (form)}
          <a class="line py-2" href={api.soundAs(take.id, form)} download>{form.toUpperCase()}</a>
        {/each}
        <button class="line py-2" onclick={() => (asking = true)}>Delete the sound</button>
      </p>
      {#if !take.discarded && !owner?.guest}
        <a class="line py-2" href="/lessons?hear={take.id}">Send to a teacher</a>
      {/if}
      {#if !free && (like.length || overId)}
        <label class="flex max-w-full flex-wrap items-center gap-3">
          <span class="quiet">Show another take over it</span>
          <select class="plain min-w-0" value={overId} onchange={(event) => layOver(event.currentTarget.value)}>
            <option value="">none</option>
            {#if overId && !like.some((item) => item.id === overId)}<option value={overId}>the earlier one</option>{/if}
            {#each like as item (item.id)}
              <option value={item.id}
                >{item.by ? `${item.by}, ` : ''}{day(item.started_at)}, {small(OUTCOME_WORDS[item.outcome])}</option
              >
            {/each}
          </select>
        </label>
      {/if}
    </div>
    <NoteTable measures={take.measures} limits={take.limits} {nameOf} {hearNote} {free} />
    {#if take.measures.sound.matched_elsewhere && !free}
      <p class="quiet mt-3">
        The tone to match came from another microphone, so brightness, air and volume aren’t compared.
      </p>
    {/if}
    <Remarks takeId={take.id} duration={take.duration_s} marks={said} bind:time />
    <label class="field mt-6">
      <span>{owner?.guest ? `${owner.name}’s note` : 'Your note'} on this take</span>
      <input bind:value={remark} maxlength="2000" onchange={() => take && void api.remark(take.id, remark)} />
    </label>
  {/if}
</section>
<Ask
  open={asking}
  title="Delete the sound of this take?"
  text="It can’t be restored. The measurements, the result and your notes stay."
  yes="Delete for good"
  done={forgetSound}
/>
