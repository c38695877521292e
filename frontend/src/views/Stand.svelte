<script lang="ts">
  import { onDestroy, onMount } from 'svelte';
  import { forgetReads } from '../lib/state/reads.svelte';
  import BeatCount from '../lib/components/BeatCount.svelte';
  import Engraving from '../lib/components/Engraving.svelte';
  import Lanes from '../lib/components/Lanes.svelte';
  import StandFoot from '../lib/components/StandFoot.svelte';
  import StandHead from '../lib/components/StandHead.svelte';
  import { navigate, route } from '../lib/router';
  import { household } from '../lib/state/household.svelte';
  import BreathPace from '../lib/components/BreathPace.svelte';
  import Mirror from '../lib/components/Mirror.svelte';
  import RestPanel from '../lib/components/RestPanel.svelte';
  import StandTools from '../lib/components/StandTools.svelte';
  import { keyOf } from '../lib/state/keys';
  import { Conductor } from '../lib/state/conductor.svelte';
  import { speak } from '../lib/state/speech';
  import { Stand } from '../lib/state/stand.svelte';
  import { noteName, OUTCOME_WORDS, reasonInWords } from '../lib/view/words';
  import { keepAwake } from '../lib/state/wake';

  const stand = new Stand((route.params as { id?: string }).id ?? '');
  let trouble = $state<string | null>(null);
  let dropping = $state(false);

  onMount(() => {
    stand.open().catch((error: unknown) => (trouble = error instanceof Error ? error.message : String(error)));
    // Opening the microphone early shows its level; without a touch before, the browser would not let it sound.
    const touched = navigator.userActivation?.hasBeenActive ?? false;
    if (household.source === 'microphone' && touched) void stand.listenIn(household.deviceId);
    Object.assign(window, { orexisStand: stand });
    return keepAwake();
  });
  const conductor = new Conductor(stand, {
    goesOn: () => household.player?.settings.goes_on ?? true,
    speed: () => (household.source === 'simulated' ? household.speed : 1),
    source: () => household.source,
    begin: (bars) => void stand.begin(household.source, household.deviceId, bars),
  });
  stand.onHeard = (seconds, sounding) => conductor.heard(seconds, sounding);
  $effect(() => {
    void [stand.state, stand.running, stand.owner, stand.verdict];
    conductor.follow();
  });
  $effect(() => {
    const verdict = stand.verdict;
    if (!verdict || stand.phase !== 'verdict' || !household.player?.settings.spoken) return;
    const nameOf = (id: string) => noteName(stand.exercise?.notes.find((note) => note.id === id)?.written ?? id);
    speak(`${OUTCOME_WORDS[verdict.outcome] ?? ''}. ${reasonInWords(verdict, nameOf)} ${verdict.cue ?? ''}`);
  });
  onDestroy(() => {
    forgetReads();
    conductor.stop();
    stand.close();
  });

  const blowing = $derived(stand.sounds.blown !== null);
  const counting = $derived(stand.phase === 'count-in');
  const live = $derived(counting || stand.phase === 'listening');

  function forward() {
    if (stand.state?.paused) stand.say('resume');
    else if (stand.bars !== null && ['verdict', 'preview'].includes(stand.phase)) conductor.sooner();
    else if (stand.phase === 'verdict') stand.say('go-on');
    else if (stand.phase === 'rest') stand.say('rest-over');
    else if (stand.phase === 'preview') void stand.begin(household.source, household.deviceId);
    else if (stand.phase === 'listening') stand.end();
    else if (stand.phase === 'done') void navigate('/session/:id', { params: { id: stand.session?.id ?? '' } });
  }

  function back() {
    if (live && stand.inTime.running) return stand.halt(); // the left pedal stops the click
    if (stand.phase === 'verdict' || (stand.phase === 'preview' && stand.bars !== null)) stand.say('again');
    else if (stand.phase === 'preview') stand.say('back');
  }

  const actions: Record<string, () => void> = {
    ArrowRight: forward,
    PageDown: forward,
    Enter: forward,
    ArrowLeft: back,
    PageUp: back,
    Delete: () => stand.say('drop'),
    Escape: () => (live ? stand.halt() : undefined),
    ' ': () => (stand.state?.paused ? stand.say('resume') : live ? stand.halt() : stand.say('pause')),
    r: () => void stand.sounds.hearIt(),
    s: () => void stand.sounds.singIt(household.deviceId),
    b: () => (stand.phase === 'preview' ? void stand.sounds.blowIt() : undefined),
    e: () => stand.say('easier'),
    n: () => stand.say('skip'),
    m: () => household.setSource(household.source === 'microphone' ? 'simulated' : 'microphone'),
  };

  function onkeydown(event: KeyboardEvent) {
    const key = keyOf(event, household.letters) ?? '';
    // While the click goes on, any key that means nothing at the moment stops it.
    const stops = stand.inTime.running && live && key.length === 1 && key !== ' ';
    const action = stops ? () => stand.halt() : actions[key];
    if (!action) return;
    event.preventDefault();
    action();
  }

  function ondrop(event: DragEvent) {
    event.preventDefault();
    dropping = false;
    const file = event.dataTransfer?.files[0];
    if (file) void stand.dropFile(file);
  }
</script>

<svelte:head><title>Stand – Orexis</title></svelte:head>
<svelte:window {onkeydown} />

<div
  class="stand"
  role="region"
  aria-label="Stand"
  class:dropping
  class:resting={stand.phase === 'rest'}
  ondragover={(event) => {
    event.preventDefault();
    dropping = true;
  }}
  ondragleave={() => (dropping = false)}
  {ondrop}
>
  {#if trouble}
    <p class="p-8" role="alert">{trouble} <a class="line" href="/">Open Today</a></p>
  {:else if stand.exercise && stand.session}
    <StandHead {stand} />
    {#if stand.phase === 'rest'}
      <RestPanel {stand} {conductor} />
    {:else}
      <div class="page">
        <Engraving
          svg={stand.exercise.svg}
          title="{stand.exercise.exercise.title}: {stand.exercise.notes.map((n) => n.written).join(', ')}"
          found={(stand.verdict?.findings ?? []).flatMap((item) => item.note ?? [])}
        />
      </div>
      <div class="lanes rule border-y" class:mirrored={household.tools.mirror}>
        {#if counting || blowing}<BeatCount
            beat={blowing ? stand.sounds.blown : stand.beat}
            bar={stand.exercise.exercise.beats_per_bar}
            all={Math.ceil(stand.exercise.count_in_s / stand.exercise.beat_s)}
            twoSteps={stand.exercise.two_step_breath}
          />{/if}
        {#if blowing || stand.exercise.exercise.medium === 'air'}
          <BreathPace exercise={stand.exercise} beat={blowing ? stand.sounds.blown : stand.beat} />
        {:else}
          {#key stand.exercise.exercise.id + stand.phase}
            <Lanes
              exercise={stand.exercise}
              track={stand.track}
              firstBeat={stand.shownFirstBeat}
              now={() => stand.now}
              {live}
            />
          {/key}
        {/if}
        {#if household.tools.mirror}<Mirror />{/if}
      </div>
      <StandFoot {stand} {conductor} {forward} {back} />
    {/if}
    {#if stand.owner && stand.phase !== 'done'}<StandTools {stand} />{/if}
  {:else}
    <p class="p-8" role="status">One moment …</p>
  {/if}
</div>

<style>
  .stand {
    display: grid;
    grid-template-columns: minmax(0, 1fr); /* the picture must not hold the window wide when it is turned */
    grid-template-rows: auto minmax(110px, 1fr) minmax(200px, 1.9fr) auto auto;
    height: 100dvh;
    overflow: hidden;
  }

  .dropping {
    outline: 3px dashed var(--ink);
    outline-offset: -10px;
  }

  .page {
    padding: 0.25rem 1.5rem;
    min-height: 0;
  }

  .stand.resting {
    grid-template-rows: auto 1fr auto;
  }

  .lanes {
    position: relative;
    min-height: 0;
  }

  .lanes.mirrored {
    display: grid;
    grid-template-columns: minmax(0, 1fr) 30%;
  }

  /* Low: a telephone on its side, a tablet's half, a page at twice its size. The controls stand beside the picture. */
  @media (max-height: 34rem) {
    .stand:not(.resting) {
      grid-template-columns: minmax(0, 1fr) minmax(15rem, 38%);
      grid-template-rows: auto minmax(0, 0.8fr) minmax(0, 1.2fr) auto;
    }

    .stand:not(.resting) > :global(header) {
      grid-column: 1 / -1;
      padding-block: 0.25rem;
    }

    .stand:not(.resting) > :global(footer) {
      grid-column: 2;
      grid-row: 2 / 4;
      overflow: auto;
      align-content: start;
      padding: 0.5rem 1rem;
    }

    .stand:not(.resting) > :global(.tools) {
      grid-column: 1 / -1;
      grid-row: 4;
    }

    .page,
    .lanes {
      grid-column: 1;
    }
  }

  @media (max-width: 40rem) and (min-height: 34rem) {
    .stand {
      grid-template-rows: auto minmax(64px, 0.6fr) minmax(130px, 1.4fr) minmax(0, auto) auto;
    }
  }
</style>
