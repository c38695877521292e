<script lang="ts">
  import { household } from '../state/household.svelte';
  import type { Conductor } from '../state/conductor.svelte';
  import type { Stand } from '../state/stand.svelte';
  import { recentCents } from '../view/track';
  import { barsInWords, centsInWords, followedInWords, noteName, OUTCOME_WORDS, reasonInWords } from '../view/words';
  import { nothingFollows } from '../view/plan';
  import SourceChoice from './SourceChoice.svelte';
  import TakeShape from './TakeShape.svelte';

  type Props = { stand: Stand; conductor: Conductor; forward: () => void; back: () => void };
  let { stand, conductor, forward, back }: Props = $props();
  const phase = $derived(stand.phase);
  const nameOf = (id: string) => noteName(stand.exercise?.notes.find((note) => note.id === id)?.written ?? id);
  const first = $derived(stand.exercise?.notes[0]);
  const air = $derived(stand.exercise?.exercise.medium === 'air');
  const soon = $derived(conductor.left === null ? null : Math.max(1, Math.ceil(conductor.left)));
  const lastBlock = $derived(!stand.state || nothingFollows(stand.state));

  const breath = $derived(
    stand.exercise?.two_step_breath ? 'Breathe low, then high. Then play.' : 'Breathe, then play.',
  );
  const ears = $derived(
    stand.exercise?.exercise.accompaniment ? 'Headphones are best. What the loudspeaker plays is taken out.' : '',
  );
  let settled = $state<string | null>(null);
  $effect(() => {
    if (phase !== 'listening' || stand.exercise?.notes.length !== 1 || !first) {
      settled = null;
      return;
    }
    const timer = setInterval(() => {
      const cents = recentCents(stand.track, first.expected_hz, 0.5);
      settled = cents === null || Math.abs(cents) > 300 ? null : centsInWords(cents);
    }, 200);
    return () => clearInterval(timer);
  });

  let chooser = $state<HTMLInputElement>();
</script>

<footer class="foot flex flex-wrap items-center gap-x-8 gap-y-3 px-6 py-4 max-sm:px-4">
  <!-- Told to whoever listens: phases and verdicts. What changes by the second, and hints, are there to be read. -->
  <div class="words grow basis-0" aria-live="polite">
    {#if !stand.owner}
      <h2 class="serif text-3xl">Another window runs this session.</h2>
      <p class="mt-1">You can watch here, or take over.</p>
    {:else if stand.trouble}
      <p class="text-xl" role="alert">{stand.trouble}</p>
    {:else if !stand.connected}
      <h2 class="serif text-3xl">No connection.</h2>
      <p class="mt-1">What you play is safe in this window. It continues when the connection is back.</p>
    {:else if phase === 'preview' && stand.bars !== null}
      <!-- The click goes on: what was said of the last take stays until the next one is counted in. -->
      {#if stand.last}
        <h2 class="serif flex items-center gap-4 text-4xl">
          <TakeShape outcome={stand.last.outcome} size={32} />{OUTCOME_WORDS[stand.last.outcome]}
        </h2>
        <p class="mt-1 text-xl">{stand.last.said}</p>
      {/if}
      <p class="quiet mt-1" aria-hidden="true">
        {barsInWords(conductor.barsLeft)} <span class="max-sm:hidden">Space stops.</span>
      </p>
    {:else if phase === 'preview'}
      <h2 class="serif text-3xl">
        {#if stand.sounds.blown !== null}Air only.
        {:else if stand.state?.paused}Paused.
        {:else if stand.running && stand.startsByNote && household.source === 'microphone' && soon === null}Play when
          you’re ready.
        {:else if soon !== null}<span aria-hidden="true">Starting in {soon}</span>
        {:else}Ready.{/if}
      </h2>
      <p class="mt-1">
        {stand.sounds.blown !== null
          ? 'Blow the rhythm on one breath. Nothing is judged.'
          : (stand.sounds.sung ?? stand.exercise?.exercise.hint ?? ears)}
      </p>
      {#if !stand.running}
        <p class="quiet mt-1">
          One bar counts you in.
          <button class="line py-1" onclick={() => chooser?.click()}>Use a sound file</button>
        </p>
        {#if household.source === 'microphone'}
          <p class="quiet text-sm" aria-live="off">
            {#if stand.granted}{stand.granted}. {stand.meter.word}.{:else}
              <button class="line py-1" onclick={() => stand.listenIn(household.deviceId)}>Check the microphone</button>
            {/if}
          </p>
        {/if}
      {:else if stand.exercise?.caution}<p class="mt-1" style="color: var(--oxblood)">{stand.exercise.caution}</p>{/if}
      <input
        bind:this={chooser}
        type="file"
        accept="audio/*"
        class="sr-only"
        aria-label="Sound file as a take"
        tabindex="-1"
        onchange={(event) => {
          const file = event.currentTarget.files?.[0];
          if (file) void stand.dropFile(file);
          event.currentTarget.value = '';
        }}
      />
    {:else if phase === 'count-in' || phase === 'listening'}
      <h2 class="serif text-3xl">
        {phase === 'count-in' ? breath : air ? 'Breathe.' : 'Listening.'}
        {#if settled}<span class="ml-6" aria-hidden="true" style="color: var(--brass)">{settled}</span>{/if}
      </h2>
      <p class="quiet mt-1" aria-live="off">
        {stand.late
          ? 'Orexis is catching up. Play on: everything is kept.'
          : (stand.exercise?.exercise.hint ?? stand.meter.word)}
      </p>
      {#if air && stand.exercise?.caution}<p style="color: var(--oxblood)">{stand.exercise.caution}</p>{/if}
    {:else if phase === 'judging'}
      <h2 class="serif text-3xl">One moment.</h2>
    {:else if phase === 'verdict' && stand.verdict}
      <h2 class="serif flex items-center gap-4 text-4xl">
        <TakeShape outcome={stand.verdict.outcome} size={32} />{OUTCOME_WORDS[stand.verdict.outcome]}
      </h2>
      <p class="mt-1 text-xl">{reasonInWords(stand.verdict, nameOf)} {stand.verdict.cue ?? ''}</p>
      {#if stand.verdict.hidden}<p class="quiet mt-1">{stand.verdict.hidden}</p>{/if}
      <p class="quiet mt-1">
        {stand.state?.advice?.step === 'again' ? '' : (stand.state?.advice?.say ?? '')}
        {stand.state?.advice?.ask ?? ''}
        {#if conductor.barsLeft !== null}<span aria-hidden="true"
            >{barsInWords(conductor.barsLeft)} <span class="max-sm:hidden">Space stops.</span></span
          >
        {:else if soon !== null}<span aria-hidden="true">Starting in {soon}; Space stops.</span>{/if}
      </p>
    {:else if phase === 'done'}
      <h2 class="serif text-3xl">{stand.state?.stopped ? 'Stopped.' : 'That’s all for today.'}</h2>
      <p class="mt-1">
        {stand.state?.caution ?? 'Rest for as long as you played.'}
      </p>
    {/if}
    {#if phase === 'preview' && stand.state?.changed}<p class="mt-1" role="status">{stand.state.changed}</p>{/if}
    {#if stand.said}<p class="mt-1">{stand.said}</p>{/if}
    {#each stand.warnings as warning (warning)}<p class="mt-1">{warning}</p>{/each}
  </div>
  <div class="buttons flex flex-wrap items-center gap-3">
    {#if !stand.owner}
      <button class="press first" onclick={() => stand.takeOver()}>Take over</button>
    {:else if phase === 'preview'}
      {#if !stand.running}<SourceChoice />{/if}
      {#if stand.refused}
        <button
          class="press"
          onclick={() => {
            household.setSource('simulated');
            forward();
          }}>Use the demo player</button
        >
      {/if}
      {#if stand.bars !== null}
        <button class="press" onclick={back}>Repeat</button>
      {/if}
      <button class="press first" onclick={forward}>{stand.state?.paused ? 'Continue' : 'Start'}</button>
    {:else if phase === 'count-in' || phase === 'listening'}
      <button class="press" onclick={() => stand.halt()}>Stop</button>
    {:else if phase === 'judging' && stand.trouble}
      <button class="press" onclick={() => stand.say('drop')}>Delete</button>
      <button class="press first" onclick={() => stand.again()}>Try again</button>
    {:else if phase === 'verdict'}
      <button class="press" onclick={() => stand.say('drop')}>Delete</button>
      {#if stand.takeId}<a class="press inline-flex items-center" href="/take/{stand.takeId}"
          ><span class="max-sm:hidden">Show details</span><span class="sm:hidden">Details</span></a
        >{/if}
      {#if ['again', 'back', 'easier', 'from-the-top'].includes(stand.state?.advice?.step ?? '')}
        <button class="press" onclick={() => stand.say('next')}>Skip</button>
      {:else}
        <button class="press" onclick={back}>Repeat</button>
      {/if}
      <button class="press first" onclick={forward}>{followedInWords(stand.state?.advice?.step, lastBlock)}</button>
    {:else if phase === 'done'}
      <a class="press first inline-flex items-center" href="/session/{stand.session?.id}">Show session</a>
    {/if}
  </div>
</footer>

<style>
  .foot {
    min-height: 124px;
  }

  .words {
    min-width: min(280px, 100%);
  }

  /* Narrow: the verdict first, then one row of buttons. */
  @media (max-width: 40rem) {
    .foot {
      min-height: 0;
      max-height: 50dvh;
      overflow: auto;
      align-content: start;
    }

    .words {
      flex-basis: 100%;
    }

    .buttons {
      width: 100%;
      flex-wrap: nowrap;
      gap: 0.4rem;
    }

    .buttons:has(:global(.choice)) {
      flex-wrap: wrap;
    }

    .buttons > :global(.press) {
      flex: 1 1 auto;
      min-height: 64px;
      padding: 0 0.5rem;
      font-size: 1rem;
      justify-content: center;
    }
  }

  @media (max-height: 34rem) {
    .foot {
      min-height: 0;
      max-height: none;
    }

    .words {
      min-width: 0;
      flex-basis: 100%;
    }

    h2 {
      font-size: 1.4rem;
    }

    /* What is to be pressed comes before what is to be read. */
    .buttons {
      order: -1;
    }
  }
</style>
