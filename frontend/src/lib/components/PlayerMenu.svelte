<script lang="ts">
  import ChevronDown from '@lucide/svelte/icons/chevron-down';
  import { Menu, Portal } from '@skeletonlabs/skeleton-svelte';
  import { navigate } from '../router';
  import { household } from '../state/household.svelte';
  import { named } from '../view/names';

  /** Lessons, settings, help, the light, and who plays. */
  const other = $derived(household.mode === 'dark' ? 'light' : 'dark');
  const others = $derived(household.own.filter((player) => player.id !== household.player?.id));

  function choose(value: string) {
    if (value === 'light') household.setMode(other);
    else if (value.startsWith('player:')) household.choose(value.slice(7));
    else if (
      value === '/lessons' ||
      value === '/settings' ||
      value === '/help' ||
      value === '/who' ||
      value === '/class'
    )
      void navigate(value);
  }
  /* @wc-include */
  const guest = ', guest';
</script>

<Menu onSelect={(details) => choose(details.value)}>
  <Menu.Trigger class="trigger">
    <span class="name">{household.player?.name}{household.player?.guest ? guest : ''}</span>
    <span class="sr-only">Menu</span>
    <ChevronDown size={18} aria-hidden="true" />
  </Menu.Trigger>
  <Portal>
    <Menu.Positioner class="!z-20">
      <Menu.Content class="sheet">
        {#if household.player?.settings.teaches}
          <Menu.Item value="/class"><Menu.ItemText>Class</Menu.ItemText></Menu.Item>
        {/if}
        <Menu.Item value="/lessons"><Menu.ItemText>Lessons</Menu.ItemText></Menu.Item>
        <Menu.Item value="/settings"><Menu.ItemText>Settings</Menu.ItemText></Menu.Item>
        <Menu.Item value="/help"><Menu.ItemText>Help</Menu.ItemText></Menu.Item>
        <Menu.Item value="light"><Menu.ItemText>Use {named(other)} colours</Menu.ItemText></Menu.Item>
        <Menu.Separator class="rule my-1 border-t" />
        {#each others as player (player.id)}
          <Menu.Item value="player:{player.id}"><Menu.ItemText>Switch to {player.name}</Menu.ItemText></Menu.Item>
        {/each}
        <Menu.Item value="/who"><Menu.ItemText>All players</Menu.ItemText></Menu.Item>
      </Menu.Content>
    </Menu.Positioner>
  </Portal>
</Menu>

<style>
  :global(.trigger) {
    display: inline-flex;
    align-items: center;
    gap: 0.4rem;
    min-height: 44px;
    min-width: 0;
    max-width: 14rem;
    color: var(--ink-soft);
    cursor: pointer;
  }

  .name {
    overflow: hidden;
    text-overflow: ellipsis;
    white-space: nowrap;
  }

  @media (max-width: 52rem) {
    .name {
      max-width: 6.5rem;
    }
  }

  :global([data-part='content'].sheet) {
    min-width: 13rem;
    padding: 0.4rem 0;
    border: 1.5px solid var(--ink);
    border-radius: 0;
    background: var(--paper);
    color: var(--ink);
    box-shadow: none;
  }

  :global(.sheet [data-part='item']) {
    min-height: 44px;
    padding: 0 1.1rem;
    display: flex;
    align-items: center;
    border-radius: 0;
    cursor: pointer;
  }

  :global(.sheet [data-part='item'][data-highlighted]) {
    background: var(--paper-deep);
    box-shadow: inset 3px 0 0 var(--ink);
  }
</style>
