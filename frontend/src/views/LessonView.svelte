<script lang="ts">
  import { api, type Exchange } from '../lib/api/client';
  import Ask from '../lib/components/Ask.svelte';
  import ReviewRequestTakes from '../lib/components/ReviewRequestTakes.svelte';
  import LessonParts from '../lib/components/LessonParts.svelte';
  import { navigate, route } from '../lib/router';
  import { arrival } from '../lib/state/arrival.svelte';
  import { household } from '../lib/state/household.svelte';
  import { Loaded, words } from '../lib/state/loaded.svelte';
  import { headline } from '../lib/view/exchanges';
  import { day, sentence } from '../lib/view/words';
  import { counted } from '../lib/view/numbers';

  /** One lesson or review_request: what is in it, what is said of it, and the file that goes out. */
  const id = $derived((route.params as { id?: string }).id ?? '');
  const found = new Loaded<Exchange>();
  const exchange = $derived(found.value);
  const told = $derived(exchange?.lesson ?? exchange?.review_request ?? null);
  const came = $derived(arrival.came?.exchange.id === id ? arrival.came : null);
  const checksum = new Loaded<string>();
  let answer = $state('');
  let trouble = $state<string | null>(null);
  let asking = $state(false);
  const writer = $derived(household.writer);

  $effect(() => {
    const wanted = id;
    checksum.drop();
    void found.load(() => api.exchange(wanted)).then((value) => (answer = value?.answer?.words ?? ''));
  });

  async function reply() {
    try {
      await found.load(() => api.answerExchange(id, { words: answer, by: writer }));
      trouble = null;
      if (found.value?.answer) location.assign(api.exchangeFile(id));
    } catch (error) {
      trouble = words(error);
    }
  }
  async function forget(agreed: boolean) {
    asking = false;
    if (!agreed) return;
    await api.dropExchange(id);
    void navigate('/lessons');
  }
</script>

<svelte:head><title>{told?.title ?? 'Lessons'} – Orexis</title></svelte:head>

<section class="mx-auto w-full max-w-5xl p-8 max-sm:p-4">
  {#if found.trouble}<p role="alert">{found.trouble} <a class="line" href="/lessons">All lessons</a></p>{/if}
  {#if exchange && told}
    <p class="quiet"><a class="line" href="/lessons">Lessons</a> · {headline(exchange)} · {day(exchange.made_at)}</p>
    <h1 class="mt-1">{told.title}</h1>
    {#if told.words}<p class="serif mt-3 max-w-3xl text-xl">“{told.words}”</p>{/if}
    {#if came}
      <p role="status" class="mt-3">
        Opened and complete. Checksum <strong>{came.checksum}</strong>; compare it with the sender’s.
        {#if came.marks}{counted(came.marks, ['# remark', '# remarks'])} came with it.{/if}
        {#each came.skipped ?? [] as line (line)}{sentence(line)}{/each}
      </p>
    {/if}
    {#if exchange.answer && exchange.way === 'sent'}
      <h2 class="mt-8">Answer from {exchange.answer.by}</h2>
      <p class="mt-2 text-lg">{exchange.answer.words || 'See the remarks in the takes.'}</p>
    {/if}
    {#if exchange.lesson}
      <LessonParts {exchange} changed={(next) => void found.load(() => Promise.resolve(next))} />
    {:else}
      <ReviewRequestTakes {exchange} />
    {/if}
    {#if exchange.way === 'sent'}
      <p class="mt-8 flex flex-wrap items-center gap-x-6 gap-y-3">
        <a class="press first inline-flex items-center" href={api.exchangeFile(exchange.id)} download>Save file</a>
        <span class="quiet">
          Send it to {told.to} by mail or message.
          {#if checksum.value}Checksum <strong class="text-[var(--ink)]">{checksum.value}</strong>.{:else}
            <button class="line py-2" onclick={() => checksum.load(() => api.exchangeChecksum(id))}
              >Show checksum</button
            >{/if}
        </span>
      </p>
    {:else if exchange.review_request}
      <form
        class="mt-8 grid gap-3"
        onsubmit={(event) => {
          event.preventDefault();
          void reply();
        }}
      >
        <label class="field"
          ><span>Answer from {writer}</span><textarea rows="3" bind:value={answer} maxlength="2000"></textarea></label
        >
        <p class="flex flex-wrap items-center gap-x-6 gap-y-3">
          <button class="press first">Save answer</button>
          <span class="quiet">Your remarks go with it. Send the file to {exchange.sender}.</span>
        </p>
      </form>
    {/if}
    {#if trouble}<p role="alert" class="mt-3">{trouble}</p>{/if}
    <p class="mt-8"><button class="line py-2" onclick={() => (asking = true)}>Delete</button></p>
  {/if}
</section>
<Ask
  open={asking}
  title="Delete this?"
  text="What you added from it stays, and so do takes and remarks."
  yes="Delete"
  done={forget}
/>
