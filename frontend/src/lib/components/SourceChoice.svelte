<script lang="ts">
  import Mic from '@lucide/svelte/icons/mic';
  import Bot from '@lucide/svelte/icons/user-round-cog';
  import { household } from '../state/household.svelte';

  const choices = [
    ['microphone', 'Microphone', Mic],
    ['simulated', 'Simulated player', Bot],
  ] as const;
</script>

<div role="radiogroup" aria-label="Who plays" class="flex flex-wrap">
  {#each choices as [kind, name, Icon] (kind)}
    {@const chosen = household.source === kind}
    <button
      role="radio"
      aria-checked={chosen}
      class="tap flex items-center gap-2"
      onclick={() => household.setSource(kind)}
    >
      <Icon size={20} />{name}
    </button>
  {/each}
</div>
