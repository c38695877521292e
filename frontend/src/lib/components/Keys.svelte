<script lang="ts">
  import { Dialog, Portal } from '@skeletonlabs/skeleton-svelte';

  import { household } from '../state/household.svelte';
  import { route } from '../router';
  import { FREE_KEYS, KEYS } from '../view/keys';
  import Toggle from './Toggle.svelte';

  /** The keys of the page that is open; it comes in when it is first asked for. */
  let { open = $bindable() }: { open: boolean } = $props();
</script>

<Dialog {open} onOpenChange={(details) => (open = details.open)}>
  <Portal>
    <Dialog.Backdrop class="fixed inset-0 z-20 bg-[var(--veil)]" />
    <Dialog.Positioner class="fixed inset-0 z-30 flex items-center justify-center p-4">
      <Dialog.Content
        class="max-h-full max-w-lg overflow-auto border border-[var(--ink)] bg-[var(--paper)] p-8 text-[var(--ink)]"
      >
        <Dialog.Title><span class="serif text-2xl">Keys and page-turn pedal</span></Dialog.Title>
        <dl class="my-4 grid grid-cols-[auto_1fr] gap-x-6 gap-y-2">
          {#each route.pathname === '/play' ? FREE_KEYS : KEYS as [key, what] (key)}
            <dt class="font-semibold">{key}</dt>
            <dd>{what}</dd>
          {/each}
        </dl>
        <p class="mb-4">
          <Toggle label="Single-letter keys" checked={household.letters} set={(on) => household.setLetters(on)} />
        </p>
        <Dialog.CloseTrigger class="press small">Close</Dialog.CloseTrigger>
      </Dialog.Content>
    </Dialog.Positioner>
  </Portal>
</Dialog>
