<script lang="ts" generics="T extends string">
  import { SegmentedControl } from '@skeletonlabs/skeleton-svelte';
  import type { Component } from 'svelte';

  /** One of a few, side by side; `bare`: without frames, within a line of other things. */
  type Option = { value: T; label: string; strong?: string; icon?: Component<{ size?: number }> };
  type Props = {
    label: string;
    value: T;
    options: readonly Option[];
    choose: (value: T) => void;
    said?: boolean;
    bare?: boolean;
  };
  let { label, value, options, choose, said = false, bare = false }: Props = $props();
</script>

<SegmentedControl {value} onValueChange={(details) => details.value && choose(details.value as T)} class="choice">
  <SegmentedControl.Label class={said ? 'quiet self-center pr-3' : 'sr-only'}>{label}</SegmentedControl.Label>
  <SegmentedControl.Control class="choices">
    {#each options as option (option.value)}
      <SegmentedControl.Item value={option.value} class="{bare ? 'bare' : 'tap'} inline-flex items-center gap-2">
        {#if option.icon}<option.icon size={20} />{/if}
        <SegmentedControl.ItemText>
          {#if option.strong}<b class="serif text-2xl">{option.strong}</b>{/if}
          {option.label}
        </SegmentedControl.ItemText>
        <SegmentedControl.ItemHiddenInput />
      </SegmentedControl.Item>
    {/each}
  </SegmentedControl.Control>
</SegmentedControl>
