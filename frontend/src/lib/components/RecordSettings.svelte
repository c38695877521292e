<script lang="ts">
  import { api, type Fault, type Keeping, type Player, type Sizes } from '../api/client';
  import { household } from '../state/household.svelte';
  import { Loaded, words } from '../state/loaded.svelte';
  import { sizeInWords } from '../view/sizes';
  import Ask from './Ask.svelte';
  import BringIn from './BringIn.svelte';
  import Remeasuring from './Remeasuring.svelte';

  /** The record as a whole: how long sound is kept, everything out and in again, whether all is well, and an end to it. */
  let { player }: { player: Player } = $props();
  const sizes = new Loaded<Sizes>();
  let keeping = $state<Keeping>('all');
  let days = $state(90);
  let said = $state<string | null>(null);
  let busy = $state<string | null>(null);
  let faults = $state<Fault[] | null>(null);
  let asking = $state<'sound' | 'player' | null>(null);
  const changed = $derived(keeping !== player.settings.keeping || days !== player.settings.keeping_days);

  $effect(() => {
    [keeping, days] = [player.settings.keeping ?? 'all', player.settings.keeping_days ?? 90];
  });
  $effect(() => {
    const [id, wanted, count] = [player.id, keeping, days];
    if (count >= 7 && count <= 3650) void sizes.load(() => api.sizes(id, wanted, count));
  });

  async function keep() {
    asking = null;
    try {
      await api.changeSettings(player.id, { keeping, keeping_days: days });
      await household.load();
      said = keeping === 'all' ? 'All sound is kept.' : 'Kept. What is too old goes when Orexis starts next.';
    } catch (error) {
      said = words(error);
    }
  }
  async function look() {
    [busy, faults] = ['Reading everything …', null];
    try {
      faults = await api.checkRecord();
    } catch (error) {
      said = words(error);
    }
    busy = null;
  }
  async function forget() {
    asking = null;
    try {
      await api.forgetPlayer(player.id);
      await household.load();
      said = null;
    } catch (error) {
      said = words(error);
    }
  }
</script>

<section class="grid gap-6">
  <h2>The record</h2>
  <fieldset class="grid gap-3">
    <legend class="quiet">Sound is kept</legend>
    {#each [['all', 'all of it'], ['days', 'of the last days'], ['milestones', 'of the last days, of takes with words, and of each figure’s first held take']] as const as [value, label] (value)}
      <label class="flex items-center gap-3">
        <input type="radio" class="size-5" name="keeping" {value} bind:group={keeping} />
        {label}
      </label>
    {/each}
    {#if keeping !== 'all'}
      <label class="field max-w-56"><span>Days</span><input type="number" min="7" max="3650" bind:value={days} /></label
      >
    {/if}
    {#if sizes.value}
      <p class="quiet">
        {sizes.value.takes} sounds, {sizeInWords(sizes.value.size)}; at the rate of the last four weeks a year adds {sizeInWords(
          sizes.value.a_year,
        )}.
        {#if keeping !== 'all'}By this choice {sizes.value.goes_takes} of them ({sizeInWords(sizes.value.goes_size)})
          go.{/if}
        Measures and words always stay.
      </p>
    {/if}
    {#if changed}
      <button
        class="press small justify-self-start"
        onclick={() => (sizes.value?.goes_takes ? (asking = 'sound') : keep())}>Keep it so</button
      >
    {/if}
  </fieldset>
  <div class="grid gap-3">
    <h3 class="font-semibold">Everything in one file</h3>
    <p>
      Players, horns, sittings, takes with their sound: to another machine, or to be safe. Open formats, described in
      the documents.
    </p>
    <p class="flex flex-wrap items-center gap-x-6 gap-y-3">
      <a class="press small inline-flex items-center" href="/api/export" download>Take everything out</a>
      <button class="line py-2" onclick={look}>Is all well?</button>
    </p>
    <div class="flex flex-wrap items-center gap-x-6 gap-y-3"><BringIn /></div>
    <Remeasuring />
    {#if busy}<p role="status">{busy}</p>{/if}
    {#if faults}
      <ul role="status">
        {#each faults as fault (fault.says)}<li>{fault.says}</li>{:else}<li>All is well.</li>{/each}
      </ul>
    {/if}
  </div>
  <p>
    <button class="line py-2" onclick={() => (asking = 'player')}>Delete {player.name} and all of it</button>
  </p>
  {#if said}<p role="status">{said}</p>{/if}
</section>

<Ask
  open={asking === 'sound'}
  title="Let the sound go?"
  text="{sizes.value?.goes_takes ?? 0} sounds go for good when Orexis starts next. Their measures stay."
  yes="Let it go"
  done={(agreed) => (agreed ? keep() : (asking = null))}
/>
<Ask
  open={asking === 'player'}
  title="Delete {player.name}?"
  text="Every sitting, take and sound of {player.name} goes for good. Take everything out first if you may want it back."
  yes="Delete for good"
  done={(agreed) => (agreed ? forget() : (asking = null))}
/>

<style>
  input[type='radio'] {
    accent-color: var(--ink);
  }
</style>
