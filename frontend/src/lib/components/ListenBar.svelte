<script lang="ts">
  import { tick } from 'svelte';
  import Pause from '@lucide/svelte/icons/pause';
  import Choice from './Choice.svelte';
  import Play from '@lucide/svelte/icons/play';
  import { named } from '../view/names';
  import { decimals } from '../view/numbers';

  /** Listening to a take: the whole or a part of it, slower at the same pitch; and how it would sound without a flaw. */
  type Props = {
    src: string;
    /** The model; nothing where nothing was asked. */
    ideal: string | null;
    other?: string | null;
    duration: number;
    part: { from: number; to: number; name: string } | null;
    /** Where in the take, in seconds. */
    time?: number;
  };
  let { src, ideal, other = null, duration, part, time = $bindable(0) }: Props = $props();
  let audio = $state<HTMLAudioElement>();
  let paused = $state(true);
  let rate = $state(1);
  let which = $state<'take' | 'ideal' | 'other'>('take');
  const SPEEDS = [
    { value: '1', label: named('normal') },
    { value: '0.75', label: named('slower') },
    { value: '0.5', label: 'half speed' },
  ];
  const sounds = $derived([
    { value: 'take' as const, label: 'as played' },
    ...(ideal ? [{ value: 'ideal' as const, label: named('model') }] : []),
    ...(other ? [{ value: 'other' as const, label: 'the other take' }] : []),
  ]);

  $effect(() => {
    if (audio) {
      audio.playbackRate = rate;
      audio.preservesPitch = true;
    }
  });
  $effect(() => {
    // A part that was asked for begins at once, and stops at its end.
    if (part && audio) {
      which = 'take';
      audio.currentTime = part.from;
      void audio.play();
    }
  });
  $effect(() => {
    if (part && which === 'take' && !paused && time >= part.to) audio?.pause();
  });

  /** The other take first, and this one after it. */
  let inTurn = $state(false);
  $effect(() => {
    if (!other && which === 'other') which = 'take';
  });

  function begin(next: 'take' | 'other') {
    which = next;
    void tick().then(() => audio?.play());
  }
  function over() {
    if (inTurn && which === 'other') begin('take');
    inTurn = false;
  }
  function choose(next: 'take' | 'ideal' | 'other') {
    inTurn = false;
    audio?.pause();
    which = next;
  }
</script>

<audio
  bind:this={audio}
  bind:currentTime={time}
  bind:paused
  preload="none"
  src={which === 'take' ? src : which === 'other' && other ? other : ideal}
  onended={over}
  onloadeddata={() => audio && (audio.playbackRate = rate)}
></audio>
<div class="flex grow flex-wrap items-center gap-4">
  <button
    class="press small"
    aria-label={paused ? 'Listen' : 'Pause'}
    onclick={() => (paused ? void audio?.play() : audio?.pause())}
  >
    {#if paused}<Play size={20} />{:else}<Pause size={20} />{/if}
  </button>
  <Choice label="Sound" bare value={which} options={sounds} choose={(next) => choose(next)} />
  {#if other}<button
      class="line py-2"
      onclick={() => {
        begin('other');
        inTurn = true;
      }}>Play both</button
    >{/if}
  <Choice label="Speed" bare value={String(rate)} options={SPEEDS} choose={(speed) => (rate = Number(speed))} />
  <input
    type="range"
    class="min-w-24 grow"
    aria-label="Position in the take, in seconds"
    min="0"
    max={duration}
    step="0.05"
    value={time}
    oninput={(event) => (time = Number(event.currentTarget.value))}
  />
  <span class="quiet whitespace-nowrap text-right">{decimals(time, 1)} of {decimals(duration, 1)} s</span>
</div>

<style>
  input {
    accent-color: var(--brass);
  }
</style>
