<script lang="ts">
  import Music2 from '@lucide/svelte/icons/music-2';
  import UserRound from '@lucide/svelte/icons/user-round';
  import { route } from '../router';
  import { household } from '../state/household.svelte';
  import { isHere, PLACES } from '../view/places';

  /** The five places: at the top, and on a phone at the bottom with icons; the player's menu beside them. */
  const known = $derived(household.player && !household.unknown);
</script>

<header class="rule top border-b px-6 print:hidden max-lg:px-4">
  <a href="/" class="serif py-2 text-2xl">Orexis</a>
  {#if known}
    <nav aria-label="Places" class="places">
      {#each PLACES as place (place.href)}
        {@const here = isHere(place, route.pathname)}
        <a href={place.href} class:here aria-current={here ? 'page' : undefined}>
          <place.icon size={20} class="sm:hidden" aria-hidden="true" />{place.name}
        </a>
      {/each}
    </nav>
    <span class="grow"></span>
    <a
      href="/play"
      class="just"
      class:here={route.pathname === '/play'}
      aria-current={route.pathname === '/play' ? 'page' : undefined}
    >
      <Music2 size={18} aria-hidden="true" />Just play
    </a>
    {#await import('./PlayerMenu.svelte')}<span class="quiet">{household.player?.name}</span>
    {:then { default: PlayerMenu }}<PlayerMenu />{/await}
  {:else}
    <span class="grow"></span>
    <a href="/help" class="inline-flex min-h-11 items-center gap-2"><UserRound size={18} aria-hidden="true" />Help</a>
  {/if}
</header>

<style>
  .top {
    display: flex;
    align-items: center;
    gap: 0 2rem;
    min-height: 60px;
  }

  .places {
    display: flex;
    gap: 0 1.5rem;
  }

  .just {
    display: inline-flex;
    align-items: center;
    gap: 0.5rem;
    min-height: 44px;
    white-space: nowrap;
  }

  .just.here {
    font-weight: 600;
  }

  .places a {
    display: inline-flex;
    align-items: center;
    min-height: 44px;
    border-bottom: 2px solid transparent;
    border-top: 2px solid transparent;
  }

  .places a.here {
    border-bottom-color: var(--ink);
    font-weight: 600;
  }

  @media (max-width: 52rem) {
    .top {
      gap: 0 1rem;
    }

    .places {
      gap: 0 0.9rem;
    }
  }

  @media (max-width: 40rem) {
    .places {
      position: fixed;
      inset: auto 0 0;
      z-index: 5;
      gap: 0;
      background: var(--paper);
      border-top: 1px solid var(--rule);
      padding-bottom: env(safe-area-inset-bottom);
    }

    .places a {
      flex: 1 1 0;
      flex-direction: column;
      justify-content: center;
      gap: 0.15rem;
      min-height: 56px;
      min-width: 0;
      font-size: clamp(0.65rem, 3vw, 0.75rem);
      border-bottom: 0;
    }

    .places a.here {
      border-top-color: var(--ink);
    }
  }

  /* Enlarged to four times its size a page is a few lines high: the bar must not take a fifth of them. */
  @media (max-width: 40rem) and (max-height: 22rem) {
    .top {
      flex-wrap: wrap;
    }

    .places {
      position: static;
      flex: 1 0 100%;
      order: 1;
    }
  }
</style>
