<script lang="ts">
  import { household } from '../lib/state/household.svelte';
  import { GLOSSARY } from '../lib/view/glossary';
  import { FREE_KEYS, KEYS } from '../lib/view/keys';

  /** How to begin, the words, the keys, and how to stay healthy. */
  let word = $state('');
  const terms = $derived(GLOSSARY.filter((entry) => entry.join(' ').toLowerCase().includes(word.trim().toLowerCase())));
  const start = [
    ['Start', 'Today shows a plan for your time. Press Start and follow the stand.'],
    ['Play', 'A bar counts you in. Play what you see. Orexis hears when you finish.'],
    ['Read', 'You get one result and one thing to try. Then it continues by itself.'],
    ['Rest', 'Rest when it says so. Rest is part of practice.'],
  ];
</script>

<svelte:head><title>Help – Orexis</title></svelte:head>

<section class="mx-auto w-full max-w-5xl p-8 max-sm:p-4">
  <h1>Help</h1>
  <ol class="mt-4 grid gap-x-8 gap-y-3 sm:grid-cols-2 lg:grid-cols-4">
    {#each start as [title, text], i (title)}
      <li><b class="serif text-xl">{i + 1}. {title}</b><br />{text}</li>
    {/each}
  </ol>
  <div class="mt-8 flex flex-wrap items-end gap-x-8 gap-y-3">
    <h2 class="grow">Words</h2>
    <label class="field"><span>Search</span><input type="search" maxlength="30" bind:value={word} /></label>
  </div>
  <dl class="mt-2">
    {#each terms as [term, text] (term)}
      <div class="rule grid gap-x-8 border-b py-2 sm:grid-cols-[14rem_1fr]">
        <dt class="font-semibold">{term}</dt>
        <dd>{text}</dd>
      </div>
    {:else}<p class="mt-2">No word matches.</p>{/each}
  </dl>
  {#each [['Keys and page-turn pedal at the stand', KEYS], ['The same for Just play', FREE_KEYS]] as const as [title, keys] (title)}
    <h2 class="mt-8">{title}</h2>
    <dl class="mt-2">
      {#each keys as [key, what] (key)}
        <div class="rule grid gap-x-8 border-b py-2 sm:grid-cols-[14rem_1fr]">
          <dt class="font-semibold">{key}</dt>
          <dd>{what}</dd>
        </div>
      {/each}
    </dl>
  {/each}
  <h2 class="mt-8">Stay healthy</h2>
  <ul class="mt-2">
    {#each Object.values(household.catalogue?.cautions ?? {}) as text (text)}<li class="py-1">{text}</li>{/each}
    <li class="py-1">Orexis isn’t medical advice. A doctor’s or teacher’s word comes first.</li>
  </ul>
</section>
