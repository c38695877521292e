<script lang="ts">
  import { route } from '../router';

  /** What Progress is made of: the five questions, the range note by note, and the sessions. */
  const tabs = [
    ['/progress', 'Overview'],
    ['/progress/range', 'Range'],
    ['/progress/sessions', 'Sessions'],
  ] as const;
</script>

<nav aria-label="Progress" class="rule flex gap-x-6 border-b">
  {#each tabs as [href, name] (href)}
    <a {href} class="tab" aria-current={route.pathname === href ? 'page' : undefined}>{name}</a>
  {/each}
</nav>

<style>
  .tab {
    display: inline-flex;
    align-items: center;
    min-height: 44px;
    border-bottom: 2px solid transparent;
    color: var(--ink-soft);
  }

  .tab[aria-current] {
    border-bottom-color: var(--ink);
    color: var(--ink);
    font-weight: 600;
  }
</style>
