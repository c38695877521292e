<script lang="ts">
  import { api, type Fault, type Keeping, type Player } from '../api/client';
  import { household } from '../state/household.svelte';
  import { words } from '../state/loaded.svelte';
  import { ask, reads } from '../state/reads.svelte';
  import { sizeInWords } from '../view/sizes';
  import Ask from './Ask.svelte';
  import Copies from './Copies.svelte';
  import BringIn from './BringIn.svelte';
  import Remeasuring from './Remeasuring.svelte';

  /** The record as a whole: how long sound is kept, everything out and in again, whether all is well, and an end to it. */
  let { player }: { player: Player } = $props();
  let keeping = $state<Keeping>('all');
  let days = $state(90);
  const sizes = reads(() => days >= 7 && days <= 3650 && ask('sizes', player.id, keeping, days));
  let said = $state<string | null>(null);
  let busy = $state<string | null>(null);
  let faults = $state<Fault[] | null>(null);
  let asking = $state<'sound' | 'player' | null>(null);
  const changed = $derived(keeping !== player.settings.keeping || days !== player.settings.keeping_days);

  $effect(() => {
    [keeping, days] = [player.settings.keeping ?? 'all', player.settings.keeping_days ?? 90];
  });

  async function keep() {
    asking = null;
    try {
      await api.changeSettings(player.id, { keeping, keeping_days: days });
      await household.load();
      said = keeping === 'all' ? 'All sound stays.' : 'Saved. Old sound is deleted when Orexis starts next.';
    } catch (error) {
      said = words(error);
    }
  }
  async function look() {
    [busy, faults] = ['Checking …', null];
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
  <fieldset class="grid gap-3">
    <legend class="quiet">Keep sound</legend>
    {#each [['all', 'all of it'], ['days', 'of the last days'], ['milestones', 'of the last days, takes with notes, and first clean takes']] as const as [value, label] (value)}
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
        {sizes.value.takes} sounds, {sizeInWords(sizes.value.size)}; about {sizeInWords(sizes.value.a_year)} more a year.
        {#if keeping !== 'all'}This deletes {sizes.value.goes_takes} of them ({sizeInWords(
            sizes.value.goes_size,
          )}).{/if}
        Measurements and notes always stay.
      </p>
    {/if}
    {#if changed}
      <button
        class="press small justify-self-start"
        onclick={() => (sizes.value?.goes_takes ? (asking = 'sound') : keep())}>Save</button
      >
    {/if}
  </fieldset>
  <div class="grid gap-3">
    <h3 class="font-semibold">Export and import</h3>
    <p>Everything in one file, for another computer or to be safe.</p>
    <p class="flex flex-wrap items-center gap-x-6 gap-y-3">
      <a class="press small inline-flex items-center" href="/api/export" download>Export everything</a>
      <button class="line py-2" onclick={look}>Check the data</button>
    </p>
    <div class="flex flex-wrap items-center gap-x-6 gap-y-3"><BringIn /></div>
    <Remeasuring />
    {#if busy}<p role="status">{busy}</p>{/if}
    {#if faults}
      <ul role="status">
        {#each faults as fault (fault.says)}<li>{fault.says}</li>{:else}<li>Everything is fine.</li>{/each}
      </ul>
    {/if}
  </div>
  <Copies />
  <p>
    <button class="line py-2" onclick={() => (asking = 'player')}>Delete {player.name}</button>
  </p>
  {#if said}<p role="status">{said}</p>{/if}
</section>

<Ask
  open={asking === 'sound'}
  title="Delete old sound?"
  text="{sizes.value?.goes_takes ?? 0} sounds are deleted when Orexis starts next. Measurements stay."
  yes="Delete"
  done={(agreed) => (agreed ? keep() : (asking = null))}
/>
<Ask
  open={asking === 'player'}
  title="Delete {player.name}?"
  text="All sessions, takes and sounds of {player.name} are deleted for good. Export first if you may want them back."
  yes="Delete for good"
  done={(agreed) => (agreed ? forget() : (asking = null))}
/>

<style>
  input[type='radio'] {
    accent-color: var(--ink);
  }
</style>
