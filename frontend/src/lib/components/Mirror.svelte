<script lang="ts">
  import { onDestroy } from 'svelte';

  /** The camera, flipped, with a line down the middle for the mouthpiece. Never stored, never sent. */
  let video = $state<HTMLVideoElement>();
  let trouble = $state<string | null>(null);
  let stream: MediaStream | null = null;

  async function open(element: HTMLVideoElement) {
    try {
      stream = await navigator.mediaDevices.getUserMedia({ video: { facingMode: 'user' }, audio: false });
      element.srcObject = stream;
      await element.play();
    } catch {
      trouble = 'No camera, or it was refused.';
    }
  }
  $effect(() => {
    if (video) void open(video);
  });
  onDestroy(() => stream?.getTracks().forEach((track) => track.stop()));
</script>

<div class="mirror">
  {#if trouble}<p class="p-4">{trouble}</p>{/if}
  <video bind:this={video} muted playsinline aria-label="Mirror: your camera, kept on this machine"></video>
  <i aria-hidden="true"></i>
</div>

<style>
  .mirror {
    position: relative;
    height: 100%;
    overflow: hidden;
    border-left: 1px solid var(--rule);
  }

  video {
    width: 100%;
    height: 100%;
    object-fit: cover;
    transform: scaleX(-1);
  }

  i {
    position: absolute;
    top: 0;
    bottom: 0;
    left: 50%;
    width: 1px;
    background: var(--paper);
    mix-blend-mode: difference;
  }
</style>
