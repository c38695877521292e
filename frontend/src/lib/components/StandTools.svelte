<script lang="ts">
  import { api } from '../api/client';
  import { household } from '../state/household.svelte';
  import { words } from '../state/loaded.svelte';
  import type { Stand } from '../state/stand.svelte';
  import { noteName } from '../view/words';
  import { named } from '../view/names';

  /** What stands at hand: one row of large targets; nothing here covers the stand. */
  let { stand }: { stand: Stand } = $props();
  let open = $state<'click' | 'hurts' | null>(null);
  const free = $derived(['preview', 'verdict', 'rest'].includes(stand.phase));
  const toggle = (name: 'click' | 'hurts') => (open = open === name ? null : name);
  const at = $derived(stand.state);
  const pauses = $derived(at?.plan[at.block]?.pauses ?? []);
  /** In the long pause the pitch that comes is shown, not the one that was played. */
  const shows = $derived(!(stand.phase === 'rest' && at && pauses.includes(at.exercise_index)));
  /** The pedal needs a shift of the lips: no sets below it, today and later, until that is taken back. */
  async function shifted() {
    const [player, note, shown] = [household.player, stand.exercise?.exercise.notes[0], stand.exercise?.notes[0]];
    if (!player || !note || !shown) return;
    try {
      await api.changeInstrument(player.id, { ...player.setup, shifts_at: note.pitch });
      await household.load();
      stand.said = `No sets below ${noteName(shown.written)}. You can undo this under Instrument.`;
      // What follows at once would be the next pitch down.
      if (stand.phase === 'verdict' && at && pauses.includes(at.exercise_index + 1)) stand.say('skip');
    } catch (error) {
      stand.said = words(error);
    }
  }
  const drone = $derived(stand.exercise?.drone_hz ?? stand.exercise?.notes[0]?.target_hz ?? null);
</script>

<div class="rule tools flex flex-wrap items-stretch border-t" role="toolbar" aria-label="Tools">
  {#if open === 'hurts'}
    <span class="flex items-center px-5" style="color: var(--oxblood)">What hurts?</span>
    {#each household.catalogue?.reports ?? [] as word (word)}
      <button
        class="tool"
        style="color: var(--oxblood)"
        onclick={() => {
          stand.say('report', { word });
          open = null;
        }}>{named(word)}</button
      >
    {/each}
    <button class="tool" onclick={() => (open = null)}>Cancel</button>
  {:else if open === 'click'}
    {#each [1, 2, 3, 4] as parts (parts)}
      <button class="tool" aria-pressed={household.click.parts === parts} onclick={() => household.setClick({ parts })}
        >{parts === 1 ? 'beats' : `${parts} per beat`}</button
      >
    {/each}
    <button
      class="tool"
      aria-pressed={household.click.accents}
      onclick={() => household.setClick({ accents: !household.click.accents })}>accent</button
    >
    <button
      class="tool"
      aria-pressed={household.click.silentBars > 0}
      onclick={() => household.setClick({ silentBars: household.click.silentBars ? 0 : 2 })}>two silent bars</button
    >
    <button class="tool" onclick={() => (open = null)}>Close</button>
  {:else}
    {#if stand.state?.paused}
      <button class="tool" onclick={() => stand.say('resume')}>Continue</button>
    {:else}
      <button class="tool" disabled={!free} onclick={() => stand.say('pause')}>Pause</button>
    {/if}
    <button class="tool" disabled={!free} onclick={() => stand.sounds.hearIt()}>Hear</button>
    {#if stand.phase === 'preview' && stand.bars === null}
      <button class="tool" onclick={() => stand.sounds.singIt(household.deviceId)}
        >{stand.sounds.singing ? 'Sing now …' : 'Sing'}</button
      >
      <button class="tool" aria-pressed={stand.sounds.blown !== null} onclick={() => stand.sounds.blowIt()}>Blow</button
      >
    {/if}
    {#if stand.phase !== 'verdict' && stand.bars === null}<button
        class="tool"
        aria-pressed={stand.sounds.drone !== null}
        onclick={() => stand.sounds.setDrone(stand.sounds.drone === null ? drone : null)}>Drone</button
      >
      <button class="tool" onclick={() => toggle('click')}>Metronome</button>
      <button
        class="tool"
        aria-pressed={household.tools.mirror}
        onclick={() => household.setTools({ mirror: !household.tools.mirror })}>Mirror</button
      >{/if}
    <button class="tool" disabled={!free} onclick={() => stand.say('easier')}>Easier</button>
    <button class="tool" disabled={!free} onclick={() => stand.say('harder')}>Harder</button>
    {#if stand.phase !== 'verdict'}
      <button class="tool" disabled={!free} onclick={() => stand.say('skip')}>Skip</button>
    {/if}
    <button class="tool" onclick={() => stand.say('stop')}>End</button>
    {#if stand.exercise?.exercise.judged.includes('count')}
      <button class="tool" disabled={!free || !shows} onclick={() => void shifted()}>My lips shift</button>
    {/if}
    <span class="grow"></span>
    <button class="tool hurts" style="color: var(--oxblood)" onclick={() => toggle('hurts')}>Something hurts</button>
  {/if}
</div>

<style>
  @media (max-width: 40rem), (max-height: 34rem) {
    .tools {
      flex-wrap: nowrap;
      overflow-x: auto;
      white-space: nowrap;
    }

    .tools .grow {
      display: none;
    }

    /* What hurts is never out of sight. */
    .tools .hurts {
      position: sticky;
      right: 0;
      background: var(--paper);
      border-left: 1px solid var(--rule);
    }
  }

  .tool {
    min-height: 64px;
    padding: 0 1.05rem;
    cursor: pointer;
    color: var(--ink);
  }

  @media (max-height: 34rem) {
    .tool {
      min-height: 48px;
    }
  }

  .tool[aria-pressed='true'] {
    box-shadow: inset 0 3px 0 var(--ink);
    font-weight: 650;
  }

  .tool:disabled {
    color: var(--ink-soft);
    opacity: 0.55;
    cursor: default;
  }
</style>
