<script lang="ts">
  import { Pagination } from '@skeletonlabs/skeleton-svelte';
  import ChevronLeft from '@lucide/svelte/icons/chevron-left';
  import ChevronRight from '@lucide/svelte/icons/chevron-right';

  /** Which page of a long list. */
  type Props = { count: number; size: number; page: number; turn: (page: number) => void };
  let { count, size, page, turn }: Props = $props();
</script>

{#if count > size}
  <Pagination
    {count}
    translations={{
      rootLabel: 'List of pages',
      itemLabel: ({ page, totalPages }) => `Page ${page} of ${totalPages}`,
    }}
    pageSize={size}
    {page}
    onPageChange={(details) => turn(details.page)}
    class="pages"
  >
    <Pagination.PrevTrigger class="page" aria-label="Newer"><ChevronLeft size={20} /></Pagination.PrevTrigger>
    <Pagination.Context>
      {#snippet children(pagination)}
        {#each pagination().pages as item, i (item.type === 'page' ? item.value : `gap${i}`)}
          {#if item.type === 'page'}
            <Pagination.Item {...item} class="page">{item.value}</Pagination.Item>
          {:else}
            <Pagination.Ellipsis index={i} class="page">…</Pagination.Ellipsis>
          {/if}
        {/each}
      {/snippet}
    </Pagination.Context>
    <Pagination.NextTrigger class="page" aria-label="Older"><ChevronRight size={20} /></Pagination.NextTrigger>
  </Pagination>
{/if}
