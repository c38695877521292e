<script lang="ts">
  import { Switch } from '@skeletonlabs/skeleton-svelte';

  /** On or off. */
  type Props = { label: string; checked: boolean; set: (on: boolean) => void };
  let { label, checked, set }: Props = $props();
</script>

<Switch {checked} onCheckedChange={(details) => set(details.checked)} class="toggle">
  <Switch.Control class="toggle-track"><Switch.Thumb class="toggle-thumb" /></Switch.Control>
  <Switch.Label>{label}</Switch.Label>
  <Switch.HiddenInput />
</Switch>
