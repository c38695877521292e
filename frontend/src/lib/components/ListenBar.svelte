<script lang="ts">
  import Pause from '@lucide/svelte/icons/pause';
  import Play from '@lucide/svelte/icons/play';

  /** Listening to a take: play, and a rule to move along. */
  let { src, duration }: { src: string; duration: number } = $props();
  let audio = $state<HTMLAudioElement>();
  let time = $state(0);
  let paused = $state(true);
</script>

<audio bind:this={audio} bind:currentTime={time} bind:paused preload="none" {src}></audio>
<div class="flex grow items-center gap-4">
  <button
    class="press small"
    aria-label={paused ? 'Listen' : 'Pause'}
    onclick={() => (paused ? void audio?.play() : audio?.pause())}
  >
    {#if paused}<Play size={20} />{:else}<Pause size={20} />{/if}
  </button>
  <input
    type="range"
    class="grow"
    aria-label="Place in the take, in seconds"
    min="0"
    max={duration}
    step="0.05"
    value={time}
    oninput={(event) => {
      if (audio) audio.currentTime = Number(event.currentTarget.value);
    }}
  />
  <span class="quiet w-28 text-right">{time.toFixed(1)} of {duration.toFixed(1)} s</span>
</div>

<style>
  input {
    accent-color: var(--brass);
  }
</style>
