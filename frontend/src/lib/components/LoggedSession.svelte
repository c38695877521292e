<script lang="ts">
  import { untrack } from 'svelte';
  import { type LogSession } from '../api/client';
  import { household } from '../state/household.svelte';
  import { ask, reads } from '../state/reads.svelte';
  import { barOf, endedInWords } from '../view/session';
  import { counted, day, overruledInWords } from '../view/words';
  import TakeList from './TakeList.svelte';
  import TakeShape from './TakeShape.svelte';

  /** A session in the list: its takes as shapes; as a list when it is opened. */
  let { session, open: openFirst = false }: { session: LogSession; open?: boolean } = $props();
  let open = $state(untrack(() => openFirst));
  const takes = reads(() => open && ask('sessionTakes', session.id));
  const summary = $derived(session.summary);
  const count = $derived(summary.take_ids.length);
</script>

<article class="rule mt-8 border-t pt-4">
  <div class="flex flex-wrap items-baseline gap-x-6">
    <h2><a class="line" href="/session/{session.id}">{session.title}</a></h2>
    <span class="grow"></span>
    <button class="line py-2" aria-expanded={open} onclick={() => (open = !open)}>
      {open ? 'Hide takes' : `Show ${counted(count, ['# take', '# takes'])}`}
    </button>
  </div>
  <p class="quiet">
    {day(session.started_at)} · {household.instrumentName(session.instrument)} · {barOf(session).words}{summary.checks
      .length
      ? ` · check notes: ${summary.checks.join(', ')}`
      : ''}{endedInWords(summary) ? ` · ${endedInWords(summary)}` : ''}
  </p>
  {#if session.remark}<p class="mt-1">“{session.remark}”</p>{/if}
  {#if summary.stopped}
    <p style="color: var(--oxblood)">Stopped: {summary.stopped}. Good decision.</p>
  {/if}
  {#if summary.against}<p class="quiet">Started anyway: {summary.against}</p>{/if}
  {#each overruledInWords(summary.overruled) as line (line)}<p class="quiet">{line}</p>{/each}
  {#if open && takes.value}
    <TakeList takes={takes.value} />
  {:else}
    <p class="mt-2 flex flex-wrap gap-1">
      {#each summary.take_ids as take, i (take)}
        <a href="/take/{take}" class="p-1"><TakeShape outcome={summary.outcomes[i] ?? 'not_heard'} size={16} /></a>
      {/each}
    </p>
  {/if}
  {#if takes.trouble}<p role="alert" class="mt-2">{takes.trouble}</p>{/if}
</article>
