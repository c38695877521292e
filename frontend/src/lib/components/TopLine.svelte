<script lang="ts">
  import Moon from '@lucide/svelte/icons/moon';
  import Sun from '@lucide/svelte/icons/sun';
  import { route } from '../router';
  import { household } from '../state/household.svelte';

  const links = [
    ['/', 'Today'],
    ['/weeks', 'Weeks'],
    ['/figures', 'Figures'],
    ['/ladder', 'Ladder'],
    ['/progress', 'Progress'],
    ['/horn', 'Horn'],
    ['/log', 'Log'],
    ['/lessons', 'Lessons'],
    ['/settings', 'Settings'],
  ] as const;
  const here = (href: string) =>
    route.pathname === href || (href === '/lessons' && route.pathname.startsWith('/lessons/'));
  const other = $derived(household.mode === 'dark' ? 'light' : 'dark');
</script>

<header
  class="rule flex flex-wrap print:hidden items-center gap-x-6 gap-y-1 max-lg:gap-x-3 border-b px-6 py-3 max-lg:px-4 max-sm:gap-4"
>
  <a href="/" class="serif text-2xl">Orexis</a>
  <nav aria-label="Main" class="flex flex-wrap gap-x-5 max-lg:gap-x-2.5 max-sm:order-last max-sm:w-full max-sm:gap-x-4">
    {#each links as [href, name] (href)}
      <a {href} class="py-2" class:line={here(href)} aria-current={here(href) ? 'page' : undefined}>{name}</a>
    {/each}
  </nav>
  <span class="grow"></span>
  {#if (household.own.length > 1 || household.player?.guest) && !household.unknown}
    <label>
      <span class="sr-only">Who is playing</span>
      <select
        class="who quiet"
        value={household.player?.id}
        onchange={(event) => household.choose(event.currentTarget.value)}
      >
        {#each household.own as player (player.id)}<option value={player.id}>{player.name}</option>{/each}
        {#if household.player?.guest}<option value={household.player.id}>{household.player.name}, a guest</option>{/if}
      </select>
    </label>
  {:else if household.player && !household.unknown}<span class="quiet max-lg:hidden">{household.player.name}</span>{/if}
  <button class="p-3" aria-label="Turn to {other}" title="Turn to {other}" onclick={() => household.setMode(other)}>
    {#if household.mode === 'dark'}<Sun size={20} />{:else}<Moon size={20} />{/if}
  </button>
</header>

<style>
  @media (min-width: 640px) and (max-width: 1023px) {
    .who {
      width: 6.6rem;
    }
  }

  .who {
    max-width: 9rem;
    padding: 0.5rem 0;
    background: transparent;
    cursor: pointer;
  }
</style>
