<script lang="ts">
  import type { Schemas } from '../api/client';

  /** What check notes said, by how much had been played before them. */
  let { checks }: { checks: readonly Schemas['ChecksAfter'][] } = $props();
  const all = (check: Schemas['ChecksAfter']) => check.fresh + check.tiring + check.spent;
  const most = $derived(Math.max(1, ...checks.map(all)));
</script>

{#if checks.length}
  <h3 class="mt-6 font-semibold">Check notes during sessions</h3>
  <div class="overflow-x-auto">
    <table class="mt-2">
      <thead>
        <tr>
          {#each ['After', 'Check notes', 'Fresh', 'Tiring', 'Worn out'] as name (name)}<th scope="col">{name}</th
            >{/each}
        </tr>
      </thead>
      <tbody>
        {#each checks as check (check.minutes)}
          <tr>
            <th scope="row">{check.minutes} to {check.minutes + 10} min of playing</th>
            <td class="bar">
              <span class="fresh" style="width: {(11 * check.fresh) / most}rem"></span><span
                class="tiring"
                style="width: {(11 * check.tiring) / most}rem"
              ></span><span class="spent" style="width: {(11 * check.spent) / most}rem"></span>
            </td>
            <td>{check.fresh}</td>
            <td>{check.tiring || ''}</td>
            <td>{check.spent || ''}</td>
          </tr>
        {/each}
      </tbody>
    </table>
  </div>
{/if}

<style>
  th,
  td {
    text-align: left;
    font-weight: 400;
    padding: 0.4rem 1.2rem 0.4rem 0;
    border-bottom: 1px solid var(--rule);
  }

  thead th {
    color: var(--ink-soft);
    font-size: 0.9rem;
  }

  .bar {
    width: 12rem;
    min-width: 8rem;
    white-space: nowrap;
  }

  .bar span {
    display: inline-block;
    height: 12px;
    border: 1.5px solid var(--brass);
  }

  .bar span[style*=' 0rem'] {
    border: 0;
  }

  .fresh {
    background: none;
  }

  .tiring {
    background: repeating-linear-gradient(135deg, var(--brass) 0 2px, transparent 2px 5px);
  }

  .spent {
    background: var(--brass);
  }
</style>
