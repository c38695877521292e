<script lang="ts">
  import { Dialog, Portal } from '@skeletonlabs/skeleton-svelte';

  /** A question before something that cannot be taken back. */
  type Props = { open: boolean; title: string; text: string; yes: string; done: (agreed: boolean) => void };
  let { open, title, text, yes, done }: Props = $props();
</script>

<Dialog {open} onOpenChange={(details) => !details.open && done(false)} role="alertdialog">
  <Portal>
    <Dialog.Backdrop class="fixed inset-0 z-20 bg-[var(--veil)]" />
    <Dialog.Positioner class="fixed inset-0 z-30 flex items-center justify-center p-4">
      <Dialog.Content
        class="max-h-full max-w-lg overflow-auto border border-[var(--ink)] bg-[var(--paper)] p-8 text-[var(--ink)]"
      >
        <Dialog.Title><span class="serif text-2xl">{title}</span></Dialog.Title>
        <Dialog.Description><p class="my-4">{text}</p></Dialog.Description>
        <p class="flex flex-wrap gap-4">
          <Dialog.CloseTrigger class="press small first">Cancel</Dialog.CloseTrigger>
          <button class="press small" onclick={() => done(true)}>{yes}</button>
        </p>
      </Dialog.Content>
    </Dialog.Positioner>
  </Portal>
</Dialog>
