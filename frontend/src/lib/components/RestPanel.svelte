<script lang="ts">
  import type { Conductor } from '../state/conductor.svelte';
  import type { Stand } from '../state/stand.svelte';
  import { sentence } from '../view/words';
  import Engraving from './Engraving.svelte';
  import { tag } from '../../locales/locale.js';

  /** A rest fills the stand: quiet, counting down, with what comes next in sight. */
  let { stand, conductor }: { stand: Stand; conductor: Conductor } = $props();
  const rest = $derived(stand.state?.rest);
  const block = $derived(stand.state?.plan[stand.state.block]);
  const left = $derived(Math.max(0, Math.ceil(conductor.left ?? rest?.seconds ?? 0)));
  const LONG_S = 180;
  /** The time of day at which so many seconds are over. */
  const clock = (seconds: number) =>
    new Date(Date.now() + 1000 * seconds).toLocaleTimeString(tag, { hour: '2-digit', minute: '2-digit' });
  const share = $derived(conductor.total ? Math.max(0, (conductor.left ?? 0) / conductor.total) : 0);
</script>

<section class="panel" aria-label="Rest">
  <div>
    <p class="serif text-3xl">{stand.state?.paused ? 'Rest, paused' : 'Rest'}</p>
    <p class="serif left">{Math.floor(left / 60)}:{String(left % 60).padStart(2, '0')}</p>
    <div class="measure" aria-hidden="true"><span style="width: {100 * share}%"></span></div>
    <p class="mt-4 text-lg">
      {sentence(rest?.why ?? '')}
      {#if rest && rest.heard_s > 0}You played for {Math.round(rest.heard_s)} s, so it lasts longer.
      {:else}Take the instrument off your lips.{/if}
      {#if !stand.running}After the rest it waits for you.{:else if (conductor.total ?? 0) >= LONG_S && !stand.state?.paused}It
        continues at {clock(left)}.{/if}
    </p>
    {#if stand.state?.changed}<p class="mt-2 text-lg" role="status">{stand.state.changed}</p>{/if}
    {#if stand.said}<p class="mt-2 text-lg" role="status">{stand.said}</p>{/if}
    {#if stand.state?.caution}<p class="mt-2 text-lg" style="color: var(--oxblood)">{stand.state.caution}</p>{/if}
    <div class="mt-6 flex flex-wrap gap-3">
      <button class="press" onclick={() => stand.say('rest-over')}>Continue</button>
      <button class="press" onclick={() => stand.say('skip')}>Skip the next one</button>
    </div>
  </div>
  <div class="next">
    <p class="quiet">Next</p>
    <h2>{stand.state?.checking ? 'Check note' : block?.title}</h2>
    {#if block?.why && !stand.state?.checking}<p class="mt-1">{sentence(block.why)}</p>{/if}
    {#if stand.exercise}
      <div class="mt-4 h-48"><Engraving svg={stand.exercise.svg} title={stand.exercise.exercise.title} /></div>
    {/if}
  </div>
</section>

<style>
  .panel {
    display: grid;
    grid-template-columns: 1fr 1fr;
    gap: 3rem;
    align-items: center;
    padding: 1rem 4rem;
    min-height: 0;
    overflow: auto;
  }

  .left {
    font-size: clamp(6rem, 22vh, 13rem);
    line-height: 1.1;
  }

  .measure {
    height: 3px;
    background: var(--rule);
  }

  .measure span {
    display: block;
    height: 100%;
    background: var(--ink);
  }

  .next {
    border-left: 1px solid var(--rule);
    padding-left: 3rem;
    min-width: 0;
  }

  @media (max-width: 900px) {
    .panel {
      grid-template-columns: 1fr;
      padding: 1rem;
      gap: 1.5rem;
    }

    .next {
      border-left: 0;
      padding-left: 0;
    }
  }
</style>
