<script lang="ts">
  import { api, type SessionReport } from '../lib/api/client';
  import FreeReading from '../lib/components/FreeReading.svelte';
  import Ask from '../lib/components/Ask.svelte';
  import TakeList from '../lib/components/TakeList.svelte';
  import TakeShape from '../lib/components/TakeShape.svelte';
  import { household } from '../lib/state/household.svelte';
  import { Loaded } from '../lib/state/loaded.svelte';
  import { navigate, route } from '../lib/router';
  import { minutesInWords } from '../lib/view/dayline';
  import { barOf, endedInWords } from '../lib/view/session';
  import { day, loadInWords, noteSigns, overruledInWords, seconds, sentence } from '../lib/view/words';

  const shown = new Loaded<SessionReport>();
  const found = $derived(shown.value);
  const id = $derived((route.params as { id?: string }).id ?? '');
  let open = $state<number | null>(null);
  let remark = $state('');

  $effect(() => {
    void shown.load(() => api.sessionReport(id)).then((value) => (remark = value?.remark ?? remark));
  });
  let asking = $state(false);
  async function forget(agreed: boolean) {
    asking = false;
    if (!agreed) return;
    await shown.load(async () => {
      await api.forgetSession(id);
      await navigate('/progress/sessions');
      return null as never;
    });
  }
  const free = $derived(found?.exercise_type === 'free_practice');
  const about = $derived(
    found
      ? [
          household.instrumentName(found.instrument),
          found.params['minutes'] && `${found.params['minutes']} minutes planned`,
          found.params['lips'] && `lips ${found.params['lips']}`,
          found.params['kind'] && `${found.params['kind']} day`,
          endedInWords(found.summary),
        ].filter(Boolean)
      : [],
  );
</script>

<svelte:head><title>Session – Orexis</title></svelte:head>

<section class="mx-auto w-full max-w-6xl p-8 max-sm:p-4">
  {#if shown.trouble}<p role="alert">
      {shown.trouble} <a class="line" href="/progress/sessions">Open sessions</a>
    </p>{/if}
  {#if found}
    <p class="quiet"><a class="line" href="/progress/sessions">Sessions</a> · {day(found.started_at)}</p>
    <h1 class="mt-1">{found.title}</h1>
    <p class="mt-2 flex flex-wrap items-center gap-x-4 gap-y-2">
      <span>{sentence(barOf(found).words)}</span>
    </p>
    <p class="quiet mt-1">{about.join(' · ')}</p>
    {#if found.summary.stopped}
      <p class="mt-3" style="color: var(--oxblood)">Stopped: {found.summary.stopped}. {found.caution ?? ''}</p>
    {:else if found.caution}<p class="mt-3">{found.caution}</p>{/if}
    {#if found.register_over}<p class="mt-2">No more heavy work: {noteSigns(found.register_over)}</p>{/if}
    {#if found.summary.against}<p class="quiet mt-2">Started anyway: {found.summary.against}</p>{/if}
    {#each overruledInWords(found.summary.overruled ?? []) as line (line)}<p class="quiet mt-1">{line}</p>{/each}
    {#if free}<FreeReading sessionId={id} />{/if}
    <label class="field mt-5">
      <span>Your note on this session</span>
      <input bind:value={remark} maxlength="2000" onchange={() => void api.remarkSession(id, remark)} />
    </label>
    {#if found.checks.length}
      <h2 class="mt-8">Check notes</h2>
      <ul class="mt-2">
        {#each found.checks as check (check.take_id)}
          <li class="rule flex flex-wrap gap-x-4 border-b py-2">
            <a class="line" href="/take/{check.take_id}">after {Math.round(check.playing_min)} min of playing</a>
            <span>{check.state ?? 'first one'}</span>
            <span class="quiet">{check.signs.join(', ')}</span>
          </li>
        {/each}
      </ul>
    {/if}
    {#if free}
      <h2 class="mt-8">Parts</h2>
      <p class="mt-1 flex flex-wrap gap-x-5">
        {#each found.blocks.flatMap((block) => block.takes) as take (take.id)}
          <a class="line py-2" href="/take/{take.id}">Part {take.number}, {seconds(take.duration_s)}</a>
        {/each}
      </p>
    {:else}<h2 class="mt-8">{found.blocks.length === 1 ? 'Exercise' : 'Exercises'}</h2>{/if}
    {#each free ? [] : found.blocks as block, i (i)}
      <article class="rule border-b py-3">
        <div class="flex flex-wrap items-baseline gap-x-4">
          <h3 class="font-semibold">{block.title}</h3>
          <span class="quiet">
            {[
              block.minutes ? minutesInWords(block.minutes) : '',
              loadInWords(block.load),
              block.load_class === 'high' ? 'heavy' : '',
              block.spare ? 'extra time' : noteSigns(block.why),
            ]
              .filter(Boolean)
              .join(' · ')}
          </span>
          <span class="grow"></span>
          {#if block.takes.length}
            <button class="line py-2" aria-expanded={open === i} onclick={() => (open = open === i ? null : i)}>
              {open === i ? 'Hide' : 'Show list'}
            </button>
          {/if}
        </div>
        {#if open === i}
          <TakeList takes={block.takes} />
        {:else}
          <p class="mt-1 flex flex-wrap gap-1">
            {#each block.takes as take (take.id)}
              <a href="/take/{take.id}" class="p-1"><TakeShape outcome={take.outcome} size={16} /></a>
            {:else}<span class="quiet">not reached</span>{/each}
          </p>
        {/if}
      </article>
    {/each}
    <p class="mt-10"><button class="line py-2" onclick={() => (asking = true)}>Delete session</button></p>
    <Ask
      open={asking}
      title="Delete this session?"
      text="Its {found.summary.take_ids?.length ?? 0} takes and their sound can’t be restored."
      yes="Delete for good"
      done={forget}
    />
  {:else if !shown.trouble}<p role="status">One moment …</p>{/if}
</section>
