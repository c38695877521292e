<script lang="ts">
  import { Dialog, Portal } from '@skeletonlabs/skeleton-svelte';

  import { household } from '../state/household.svelte';
  import Toggle from './Toggle.svelte';

  const rows = [
    ['→ or Page Down, also Enter', 'begin, then go on; while you play: the take is over'],
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
  let open = $state(false);

  function onkeydown(event: KeyboardEvent) {
    const typing = event.target instanceof HTMLElement && event.target.closest('input, select, textarea');
    if (event.key === '?' && !typing && household.letters) open = true;
  }
</script>

<svelte:window {onkeydown} />
<Dialog {open} onOpenChange={(details) => (open = details.open)}>
  <Portal>
    <Dialog.Backdrop class="fixed inset-0 z-20 bg-[var(--veil)]" />
    <Dialog.Positioner class="fixed inset-0 z-30 flex items-center justify-center p-4">
      <Dialog.Content
        class="max-h-full max-w-lg overflow-auto border border-[var(--ink)] bg-[var(--paper)] p-8 text-[var(--ink)]"
      >
        <Dialog.Title><span class="serif text-2xl">Keys and pedal</span></Dialog.Title>
        <dl class="my-4 grid grid-cols-[auto_1fr] gap-x-6 gap-y-2">
          {#each rows as [key, what] (key)}
            <dt class="font-semibold">{key}</dt>
            <dd>{what}</dd>
          {/each}
        </dl>
        <p class="mb-4">
          <Toggle label="keys of a single letter" checked={household.letters} set={(on) => household.setLetters(on)} />
        </p>
        <Dialog.CloseTrigger class="press small">Close</Dialog.CloseTrigger>
      </Dialog.Content>
    </Dialog.Positioner>
  </Portal>
</Dialog>
