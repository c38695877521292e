<script lang="ts">
  import Mic from '@lucide/svelte/icons/mic';
  import Bot from '@lucide/svelte/icons/user-round-cog';
  import { household } from '../state/household.svelte';

  const choices = [
    ['microphone', 'Microphone', Mic],
    ['simulated', 'Simulated player', Bot],
  ] as const;
</script>

<div role="radiogroup" aria-label="Who plays" class="flex">
  {#each choices as [kind, name, Icon] (kind)}
    {@const chosen = household.source === kind}
    <button
      role="radio"
      aria-checked={chosen}
      class="choice flex items-center gap-2"
      class:chosen
      onclick={() => household.setSource(kind)}
    >
      <Icon size={20} />{name}
    </button>
  {/each}
</div>

<style>
  .choice {
    min-height: 64px;
    padding: 0 1.25rem;
    border: 1.5px solid var(--rule);
    color: var(--ink-soft);
    cursor: pointer;
  }

  .choice + .choice {
    border-left: 0;
  }

  .choice.chosen {
    border: 1.5px solid var(--ink);
    color: var(--ink);
    font-weight: 600;
  }
</style>
