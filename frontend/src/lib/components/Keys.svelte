<script lang="ts">
  const rows = [
    ['→ or Page Down, also Enter', 'begin, then go on'],
    ['← or Page Up', 'once more, or the figure before'],
    ['Space', 'pause, and go on again'],
    ['R', 'hear the first note'],
    ['S', 'sing it first'],
    ['B', 'blow it first, as air alone'],
    ['E', 'an easier form'],
    ['N', 'leave this block'],
    ['Delete', 'throw the take away'],
    ['Escape', 'stop the take'],
    ['M', 'microphone or simulated player'],
    ['?', 'this list'],
  ] as const;
  let dialog = $state<HTMLDialogElement>();

  function onkeydown(event: KeyboardEvent) {
    const typing = event.target instanceof HTMLElement && event.target.closest('input, select, textarea');
    if (event.key === '?' && !typing) dialog?.showModal();
  }
</script>

<svelte:window {onkeydown} />
<dialog
  bind:this={dialog}
  aria-labelledby="keys-title"
  class="m-auto max-w-lg border p-8"
  style="background: var(--paper); color: var(--ink); border-color: var(--ink)"
>
  <h2 id="keys-title">Keys and pedal</h2>
  <dl class="my-4 grid grid-cols-[auto_1fr] gap-x-6 gap-y-2">
    {#each rows as [key, what] (key)}
      <dt class="font-semibold">{key}</dt>
      <dd>{what}</dd>
    {/each}
  </dl>
  <button class="press small" onclick={() => dialog?.close()}>Close</button>
</dialog>
