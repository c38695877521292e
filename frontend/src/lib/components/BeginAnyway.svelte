<script lang="ts">
  import type { Beginning } from '../state/beginning.svelte';

  /** What speaks against a session that is to start, and the second touch that starts it anyway. */
  let { beginning }: { beginning: Beginning } = $props();
</script>

{#if beginning.against}
  <div role="alert" class="against mt-4 max-w-2xl border-l-4 py-1 pl-4">
    <p>{beginning.against}</p>
    <p class="mt-3 flex flex-wrap gap-4">
      <button class="press small first" onclick={() => beginning.leave()}>Not today</button>
      <button class="press small" onclick={() => beginning.anyway()}>Start anyway</button>
    </p>
  </div>
{:else if beginning.trouble}
  <p role="alert" class="mt-3">{beginning.trouble}</p>
{/if}

<style>
  .against {
    border-color: var(--oxblood);
  }
</style>
