<script lang="ts">
  import { api, type Lips, type Schemas } from '../lib/api/client';
  import BeginAnyway from '../lib/components/BeginAnyway.svelte';
  import Choice from '../lib/components/Choice.svelte';
  import DayTimeline from '../lib/components/DayTimeline.svelte';
  import OwnRoutines from '../lib/components/OwnRoutines.svelte';
  import SourceChoice from '../lib/components/SourceChoice.svelte';
  import Toggle from '../lib/components/Toggle.svelte';
  import { navigate } from '../lib/router';
  import { Beginning } from '../lib/state/beginning.svelte';
  import { DayPlanner } from '../lib/state/dayplan.svelte';
  import { household } from '../lib/state/household.svelte';
  import { words } from '../lib/state/loaded.svelte';
  import { ask, reads } from '../lib/state/reads.svelte';
  import { isoDay, weekdayOf } from '../lib/view/dates';
  import { planInWords } from '../lib/view/dayline';
  import { saveBlob } from '../lib/view/save';
  import { isOpen } from '../lib/view/exchanges';
  import { weekInWords } from '../lib/view/weeks';
  import { counted, isQuiet, seconds, seenBy, sentence } from '../lib/view/words';
  import { named } from '../lib/view/names';

  const day = new DayPlanner();
  let said = $state<string | null>(null);
  /** Quiet by the clock, unless the player says otherwise. */
  let quietChosen = $state<boolean | null>(null);
  const quiet = $derived(
    quietChosen ??
      (household.player?.settings.mute !== 'practice mute' && isQuiet(household.player?.settings.quiet_from)),
  );
  const player = $derived(household.player);
  const left = reads(() => player && ask('latestSession', player.id));
  const today = reads(() => player && ask('day', player.id));
  const weeks = reads(() => player && ask('weeks', player.id));
  const notices = reads(() => player && ask('notices'));
  const taught = $derived(household.teachers.length > 0 && !player?.settings.teaches);
  const exchanges = reads(() => player && taught && ask('exchanges', player.id));
  const lessons = $derived((exchanges.value ?? []).filter((one) => one.way === 'received' && isOpen(one)));
  const broken = reads(() => player && ask('brokenTakes'));
  const open = $derived(left.value);
  const fewest = $derived(household.catalogue?.day_minutes[0] ?? 10);
  const most = $derived(household.catalogue?.day_minutes[1] ?? 120);
  const PRESETS = ['15', '30', '45', '60', '90'];
  const CARE: Partial<Record<Lips, string>> = {
    tired: 'Nothing heavy today. Stop as soon as it stops feeling better.',
    sore: 'Sore lips heal by resting. If you play, play only what’s easy. If it lasts, see a doctor.',
  };

  /** As long as the player gives to this day of the week, until they say otherwise. */
  let asGiven = $state<string | null>(null);
  $effect(() => {
    if (!player || asGiven === player.id) return;
    asGiven = player.id;
    const { minutes = [], moved = {} } = player.settings;
    const given = moved[isoDay()] ?? minutes[weekdayOf()] ?? 0;
    if (given >= fewest) day.minutes = given;
  });
  $effect(() => {
    const id = player?.id;
    void [player?.instrument, player?.standard];
    if (id) void day.load(id, quiet);
  });

  /** Takes with a mute are compared with their like, and say nothing of the instrument's tuning. */
  const MUTES: Schemas['Mute'][] = ['none', 'practice mute', 'straight mute', 'cup mute', 'another mute'];
  async function putIn(mute: Schemas['Mute']) {
    if (!player) return;
    try {
      await api.changeSettings(player.id, { mute });
      await household.load();
    } catch (error) {
      said = words(error);
    }
  }

  const beginning = new Beginning((session) => navigate('/stand/:id', { params: { id: session.id } }));
  async function print() {
    if (!player) return;
    try {
      saveBlob(await api.printDay(player.id, day.wish(quiet)), `practice-${isoDay()}.pdf`);
    } catch (error) {
      said = words(error);
    }
  }
  const start = () => player && beginning.begin((anyway) => api.openDay(player.id, day.wish(quiet, anyway)));
  const block = $derived(open?.state.plan[open.state.block]);
</script>

<svelte:head><title>Today – Orexis</title></svelte:head>

{#if player}
  <section class="mx-auto w-full max-w-6xl p-8 max-sm:p-4">
    {#if open && block}
      <p class="rule mb-6 flex flex-wrap items-center gap-x-6 gap-y-2 border-b pb-4">
        <button class="press small first" onclick={() => void navigate('/stand/:id', { params: { id: open.id } })}
          >Continue</button
        >
        <span>
          <b>{block.title}</b>, {open.state.exercise_index + 1} of {block.exercises}, {counted(
            open.state.takes.length,
            ['# take', '# takes'],
          )} so far
        </span>
      </p>
    {/if}
    <div class="lead">
      <h1>{day.blocks.length ? planInWords(day.blocks) : 'Today'}</h1>
      <button class="press start" class:first={!open} disabled={!day.blocks.length} onclick={start}>Start</button>
      <a class="press free" href="/play">Just play</a>
    </div>
    <BeginAnyway {beginning} />
    {#each [day.shown.trouble, said].filter(Boolean) as trouble (trouble)}<p role="alert" class="mt-3">
        {trouble}
      </p>{/each}
    {#each lessons as lesson (lesson.id)}
      <p role="status" class="mt-3">
        {lesson.sender} gave you a lesson: <a class="line" href="/lessons/{lesson.id}">{lesson.lesson?.title}</a>
      </p>
    {/each}
    {#each notices.value ?? [] as notice (notice)}<p role="status" class="mt-3">{notice}</p>{/each}
    {#each broken.value ?? [] as item (item.take_id)}
      <p role="status" class="mt-3">
        A take was cut off and couldn’t be saved: {item.why} What is left of it is in the data folder, under journal/broken.
        Everything else is safe.
        <button class="line py-2" onclick={() => void api.seenBrokenTake(item.take_id)}>Close</button>
      </p>
    {/each}
    <div class="mt-5 flex flex-wrap items-center gap-x-10 gap-y-3">
      <div class="flex flex-wrap items-center gap-3">
        <Choice
          label="Minutes"
          said
          value={String(day.minutes)}
          options={PRESETS.map((option) => ({ value: option, label: named(option) }))}
          choose={(option) => (day.minutes = Number(option))}
          bare
        />
        <input
          class="number"
          type="number"
          min={fewest}
          max={most}
          step="5"
          value={day.minutes}
          aria-label="Minutes, {fewest} to {most}"
          onchange={(event) => (day.minutes = Number(event.currentTarget.value) || day.minutes)}
        />
      </div>
      <Choice
        label="Lips"
        said
        bare
        value={day.lips}
        options={(household.catalogue?.lips ?? []).map((option) => ({ value: option, label: named(option) }))}
        choose={(option) => (day.lips = option as Lips)}
      />
      <Toggle label="quiet" checked={quiet} set={(on) => (quietChosen = on)} />
    </div>
    {#if CARE[day.lips]}<p class="mt-3" style="color: var(--oxblood)">{CARE[day.lips]}</p>{/if}
    {#if quiet}<p class="mt-3">Only buzzing and soft work. It rests your ears and the neighbours.</p>{/if}
    {#each day.shown.value?.plan.says ?? [] as line (line)}<p class="mt-3">{sentence(line)}</p>{/each}
    <DayTimeline {day} />
    <div class="mt-4 flex flex-wrap items-center gap-x-6 gap-y-2">
      <OwnRoutines {day} playerId={player.id} />
      <span class="grow"></span>
      <label class="flex items-center gap-3">
        <span class="quiet">Mute</span>
        <select
          class="plain"
          value={player.settings.mute}
          onchange={(event) => void putIn(event.currentTarget.value as Schemas['Mute'])}
        >
          {#each MUTES as mute (mute)}<option value={mute}>{named(mute)}</option>{/each}
        </select>
      </label>
      <SourceChoice />
      {#if household.source === 'simulated'}
        <label class="flex items-center gap-3">
          <span class="quiet">Speed</span>
          <select
            class="plain"
            value={String(household.speed)}
            onchange={(event) => (household.speed = Number(event.currentTarget.value))}
          >
            <option value="1">normal</option>
            <option value="5">5 times</option>
            <option value="20">20 times</option>
          </select>
        </label>
      {/if}
      <button class="line py-2" onclick={print}>Print</button>
    </div>
    <p class="quiet mt-4">
      {weeks.value ? `${weekInWords(weeks.value)} ` : ''}{#if today.value?.takes}Today: {seconds(today.value.playing_s)} of
        playing, {today.value.clean} of {counted(today.value.takes, ['# take', '# takes'])} clean.{/if}
    </p>
    {#if taught}<p class="quiet mt-2">{seenBy(household.teachers.map((one) => one.name))}</p>{/if}
  </section>
{/if}

<style>
  .lead {
    display: flex;
    flex-wrap: wrap;
    align-items: center;
    gap: 1rem 3rem;
  }

  .lead h1 {
    flex: 1 1 24rem;
  }

  .start {
    min-width: 14rem;
    min-height: 84px;
    font-size: 1.5rem;
  }

  .free {
    display: inline-flex;
    align-items: center;
    justify-content: center;
    min-height: 84px;
    border-color: var(--rule);
  }

  @media (max-width: 40rem) {
    .free {
      display: none; /* the bar has it in sight */
    }

    .lead h1 {
      flex-basis: 100%;
      font-size: 1.8rem;
    }

    .start {
      width: 100%;
      min-height: 64px;
    }
  }
</style>
