<script lang="ts">
  import { api } from '../lib/api/client';
  import FilePick from '../lib/components/FilePick.svelte';
  import ReviewRequestForm from '../lib/components/ReviewRequestForm.svelte';
  import LessonForm from '../lib/components/LessonForm.svelte';
  import { navigate } from '../lib/router';
  import { household } from '../lib/state/household.svelte';
  import { words } from '../lib/state/loaded.svelte';
  import { ask, reads } from '../lib/state/reads.svelte';
  import { arrival } from '../lib/state/arrival.svelte';
  import { headline, standingOf } from '../lib/view/exchanges';
  import { day, sentence } from '../lib/view/words';

  /** Between a player and a teacher, as files: lessons, recordings, answers. */
  const hear = new URLSearchParams(location.search).get('hear');
  let making = $state<'review_request' | 'lesson' | null>(hear ? 'review_request' : null);
  let trouble = $state<string | null>(null);
  let busy = $state<string | null>(null);
  const player = $derived(household.player);
  const found = reads(() => player && ask('exchanges', player.id));

  const show = (id: string) => navigate('/lessons/:id', { params: { id } });

  async function open(file: File) {
    if (!player) return;
    [busy, trouble] = [`Reading ${file.name} …`, null];
    try {
      arrival.came = await api.openExchange(player.id, file);
      await household.load();
      void show(arrival.came.exchange.id);
    } catch (error) {
      trouble = words(error);
    }
    busy = null;
  }
</script>

<svelte:head><title>Lessons – Orexis</title></svelte:head>

<section class="mx-auto w-full max-w-5xl p-8 max-sm:p-4">
  <h1>Lessons</h1>
  <p class="mt-3 max-w-2xl">
    A teacher sends a lesson: what to play, and how. You send recordings back for remarks. Both are files.
  </p>
  {#if player}
    <p class="mt-6 flex flex-wrap items-center gap-4">
      {#if !player.guest}
        <button
          class="press small"
          aria-expanded={making === 'review_request'}
          onclick={() => (making = making === 'review_request' ? null : 'review_request')}>Send recordings</button
        >
        <button
          class="press small"
          aria-expanded={making === 'lesson'}
          onclick={() => (making = making === 'lesson' ? null : 'lesson')}>Write a lesson</button
        >
      {/if}
      <FilePick label="Open a file" take={open} />
    </p>
    {#if busy}<p role="status" class="mt-3">{busy}</p>{/if}
    {#if trouble}<p role="alert" class="mt-3">{trouble}</p>{/if}
    {#if making}
      <div class="rule mt-6 border-y py-6">
        {#if making === 'review_request'}
          <ReviewRequestForm {player} first={hear ? [hear] : []} made={(exchange) => void show(exchange.id)} />
        {:else}
          <LessonForm {player} made={(exchange) => void show(exchange.id)} />
        {/if}
      </div>
    {/if}
  {/if}
  {#if found.trouble}<p role="alert" class="mt-4">{found.trouble}</p>{/if}
  <ul class="mt-6">
    {#each found.value ?? [] as exchange (exchange.id)}
      <li class="rule flex flex-wrap items-baseline gap-x-4 border-t py-3">
        <a class="line text-lg" href="/lessons/{exchange.id}">{(exchange.lesson ?? exchange.review_request)?.title}</a>
        <span>{headline(exchange)}</span>
        <span class="grow max-sm:hidden"></span>
        <span class="quiet">{sentence(standingOf(exchange))} {day(exchange.made_at)}</span>
      </li>
    {:else}
      {#if found.value && !making}
        <li class="text-lg">Nothing sent or received yet. Open a file from your teacher, or send recordings.</li>
      {/if}
    {/each}
  </ul>
</section>
