<script lang="ts">
  import { api, type Lips, type Schemas, type SessionOut } from '../lib/api/client';
  import DayBlocks from '../lib/components/DayBlocks.svelte';
  import DayLine from '../lib/components/DayLine.svelte';
  import OwnRoutines from '../lib/components/OwnRoutines.svelte';
  import SourceChoice from '../lib/components/SourceChoice.svelte';
  import { navigate } from '../lib/router';
  import Choice from '../lib/components/Choice.svelte';
  import Toggle from '../lib/components/Toggle.svelte';
  import { Beginning } from '../lib/state/beginning.svelte';
  import { DayPlanner } from '../lib/state/dayplan.svelte';
  import { Loaded, words } from '../lib/state/loaded.svelte';
  import { isoDay, weekdayOf } from '../lib/view/dates';
  import { saveBlob } from '../lib/view/save';
  import { household } from '../lib/state/household.svelte';
  import { isQuiet, seconds } from '../lib/view/words';

  const left = new Loaded<SessionOut | null>();
  const day = new DayPlanner();
  const today = new Loaded<Schemas['DaySoFar']>();
  const broken = new Loaded<Schemas['Broken'][]>();
  const open = $derived(left.value);
  /** Quiet by the clock, unless the player says otherwise. */
  let said = $state<string | null>(null);
  let quietChosen = $state<boolean | null>(null);
  const quiet = $derived(quietChosen ?? isQuiet(household.player?.settings.quiet_from));
  const trouble = $derived(day.shown.trouble);
  const player = $derived(household.player);
  const fewest = $derived(household.catalogue?.day_minutes[0] ?? 10);
  const most = $derived(household.catalogue?.day_minutes[1] ?? 120);
  const PRESETS = ['15', '30', '45', '60', '90'];
  const CARE: Partial<Record<Lips, string>> = {
    tired: 'Nothing heavy today, then. Stop as soon as it stops feeling better.',
    sore: 'Sore lips heal by resting. If you play at all, only what is easy; if it lasts, see a doctor.',
  };

  $effect(() => {
    const id = player?.id;
    if (!id) return;
    void left.load(() => api.latestSession(id));
    void today.load(() => api.day(id));
    void broken.load(() => api.brokenTakes());
  });
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
    void [player?.horn, player?.standard];
    if (id) void day.load(id, quiet);
  });

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
  const spare = $derived((day.shown.value?.plan.spare ?? []).map((block) => day.nameOf(block.family).toLowerCase()));
</script>

<svelte:head><title>Today – Orexis</title></svelte:head>

{#if player}
  <section class="mx-auto max-w-5xl p-8 max-sm:p-4">
    <p class="quiet">{player.name}, {household.hornName(player.horn)}, {player.standard}</p>
    <h1 class="mt-1">How long have you got?</h1>
    {#if trouble}<p role="alert" class="mt-4">{trouble}</p>{/if}
    {#each broken.value ?? [] as item (item.take_id)}
      <p role="status" class="mt-4">
        A take that was cut off could not be saved ({item.why}) What there is of it lies in the data folder, under
        journal/broken; everything else is as it was.
      </p>
    {/each}
    {#if today.value?.takes}
      <p class="mt-3">
        Today so far: {seconds(today.value.playing_s)} of tone in {today.value.takes}
        {today.value.takes === 1 ? 'take' : 'takes'}, {today.value.clean} held{today.value.pitch_error_cents != null
          ? `; in the usual take the furthest note lay ${Math.round(today.value.pitch_error_cents)} cents off`
          : ''}.
      </p>
    {/if}
    {#if open}
      <p class="rule mt-5 flex flex-wrap items-center gap-4 border-y py-3">
        <span class="grow">
          <b>{open.state.plan[open.state.block]?.title}</b> on the {household.hornName(open.horn)} is still open: figure {open
            .state.figure_index + 1} of {open.state.plan[open.state.block]?.figures}, {open.state.takes.length}
          {open.state.takes.length === 1 ? 'take' : 'takes'} so far.
        </span>
        <a class="press small inline-flex items-center" href="/stand/{open.id}">Go on with it</a>
      </p>
    {/if}
    <div class="mt-6 flex flex-wrap gap-x-12 gap-y-5">
      <div class="flex flex-wrap items-center gap-4">
        <Choice
          label="Minutes"
          value={String(day.minutes)}
          options={PRESETS.map((option) => ({ value: option, label: 'min', strong: option }))}
          choose={(option) => (day.minutes = Number(option))}
        />
        <label class="flex items-center gap-3">
          <span class="quiet">or</span>
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
        </label>
      </div>
      <Choice
        label="Lips"
        said
        value={day.lips}
        options={(household.catalogue?.lips ?? []).map((option) => ({ value: option, label: option }))}
        choose={(option) => (day.lips = option as Lips)}
      />
      <Toggle label="quiet" checked={quiet} set={(on) => (quietChosen = on)} />
    </div>
    {#if quiet}
      <p class="mt-4">Buzzing and soft work only: your ears and the neighbours rest as well.</p>
    {/if}
    {#if CARE[day.lips]}<p class="mt-4" style="color: var(--oxblood)">{CARE[day.lips]}</p>{/if}
    {#each day.shown.value?.plan.says ?? [] as line (line)}<p class="mt-4">{line}</p>{/each}
    <DayLine blocks={day.blocks} nameOf={day.nameOf} />
    <DayBlocks {day} />
    {#if spare.length}<p class="quiet mt-3">Where minutes are left over: {spare.join(', ')}.</p>{/if}
    <OwnRoutines {day} playerId={player.id} />
    {#await import('../lib/components/BeginAnyway.svelte') then { default: BeginAnyway }}
      <BeginAnyway {beginning} />
    {/await}
    {#if said}<p role="alert" class="mt-3">{said}</p>{/if}
    <div class="start mt-6 flex flex-wrap items-center gap-4">
      <button class="press first" onclick={start}>To the stand</button>
      <SourceChoice />
      {#if household.source === 'simulated'}
        <label class="flex items-center gap-3">
          <span class="quiet">How fast</span>
          <select
            class="plain"
            value={String(household.speed)}
            onchange={(event) => (household.speed = Number(event.currentTarget.value))}
          >
            <option value="1">as in life</option>
            <option value="5">5 times</option>
            <option value="20">20 times</option>
          </select>
        </label>
      {/if}
      <span class="grow"></span>
      <button class="line py-2" onclick={print}>On paper</button>
      <a class="line py-2" href="/figures">Or choose a single figure</a>
    </div>
  </section>
{/if}

<style>
  @media (max-width: 40rem) {
    /* On a telephone what begins is always at hand. */
    .start > :global(.first) {
      position: fixed;
      inset: auto 1rem 1rem;
      z-index: 2;
    }

    section {
      padding-bottom: 6rem;
    }
  }
</style>
