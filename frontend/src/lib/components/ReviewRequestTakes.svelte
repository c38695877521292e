<script lang="ts">
  import { api, type Mark, type Exchange } from '../api/client';
  import { dayAndMonth } from '../view/range';
  import { day, noteNames, noteSigns, OUTCOME_WORDS, sentence, small } from '../view/words';
  import TakeShape from './TakeShape.svelte';
  import { counted } from '../view/numbers';

  /** The recordings with the remarks on them, and how the last weeks went. */
  let { exchange }: { exchange: Exchange } = $props();
  const takes = $derived(exchange.review_request?.takes ?? []);
  const clean = /* @wc-context: takes that were clean */ 'Clean';
  const columns = $derived(['Week of', 'Days', 'Minutes of playing', 'Takes', clean]);
  const weeks = $derived(exchange.review_request?.weeks ?? []);
  let said = $state<Record<string, Mark[]>>({});

  $effect(() => {
    for (const { id } of takes)
      void api
        .marks(id)
        .then((found) => (said[id] = found))
        .catch(() => undefined);
  });
  function remarks(id: string): string {
    const found = said[id];
    if (!found) return /* @wc-include */ 'deleted';
    const count = found.filter((mark) => mark.words).length;
    const nearer = found.some((mark) => mark.nearer) ? /* @wc-include */ 'closer' : '';
    const remarks = count ? counted(count, ['# remark', '# remarks']) : '';
    return [nearer, remarks].filter(Boolean).join(', ') || 'no remarks yet';
  }
</script>

<h2 class="mt-8">Takes</h2>
<ul class="mt-2">
  {#each takes as take (take.id)}
    <li class="rule flex flex-wrap items-center gap-x-4 border-b py-2">
      <TakeShape outcome={take.outcome} size={18} />
      <a class="line py-1" href="/take/{take.id}?lesson={exchange.id}">{take.title}</a>
      <span class="quiet min-w-0 truncate">{noteNames(take.written)}, {small(OUTCOME_WORDS[take.outcome])}</span>
      <span class="grow"></span>
      <span>{remarks(take.id)}</span>
      <span class="quiet">{day(take.started_at)}</span>
    </li>
  {/each}
</ul>
{#if weeks.length}
  <h2 class="mt-8">The last weeks</h2>
  {#each exchange.review_request?.says ?? [] as line (line)}<p class="mt-1">{sentence(noteSigns(line))}</p>{/each}
  <div class="mt-3 overflow-x-auto">
    <table class="text-left">
      <thead class="quiet text-sm">
        <tr>
          {#each columns as name (name)}
            <th scope="col" class="py-1 pr-8 font-normal max-sm:pr-4">{name}</th>
          {/each}
        </tr>
      </thead>
      <tbody>
        {#each weeks as week (week.start)}
          <tr class="rule border-t">
            <th scope="row" class="whitespace-nowrap py-1 pr-8 font-normal max-sm:pr-4">{dayAndMonth(week.start)}</th>
            <td class="pr-8 max-sm:pr-4">{week.days}</td>
            <td class="pr-8 max-sm:pr-4">{Math.round(week.playing_min)}</td>
            <td class="pr-8 max-sm:pr-4">{week.takes}</td>
            <td class="pr-8 max-sm:pr-4">{week.clean}</td>
          </tr>
        {/each}
      </tbody>
    </table>
  </div>
{/if}
