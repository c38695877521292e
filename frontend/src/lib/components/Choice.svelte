<script lang="ts" generics="T extends string">
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
  const group = $props.id();
</script>

<fieldset class="choice">
  <legend class="sr-only">{label}</legend>
  {#if said}<span class="quiet self-center pr-3" aria-hidden="true">{label}</span>{/if}
  {#each options as option (option.value)}
    <label class="{bare ? 'bare' : 'tap'} inline-flex items-center gap-2">
      <input
        type="radio"
        class="sr-only"
        name={group}
        value={option.value}
        checked={option.value === value}
        onchange={() => choose(option.value)}
      />
      {#if option.icon}<option.icon size={20} />{/if}
      {#if option.strong}<b class="serif text-2xl">{option.strong}</b>{/if}
      {option.label}
    </label>
  {/each}
</fieldset>
