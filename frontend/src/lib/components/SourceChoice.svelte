<script lang="ts">
  import Mic from '@lucide/svelte/icons/mic';
  import Bot from '@lucide/svelte/icons/user-round-cog';
  import type { SourceKind } from '../audio/engine';
  import { household } from '../state/household.svelte';
  import Choice from './Choice.svelte';

  const options: { value: SourceKind; label: string; icon: typeof Mic }[] = [
    { value: 'microphone', label: 'Microphone', icon: Mic },
    { value: 'simulated', label: 'Demo player', icon: Bot },
  ];
</script>

<Choice label="Sound from" value={household.source} {options} choose={(value) => household.setSource(value)} bare />
