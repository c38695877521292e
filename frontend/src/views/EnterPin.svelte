<script lang="ts">
  import { api } from '../lib/api/client';
  import { household } from '../lib/state/household.svelte';
  import { words } from '../lib/state/loaded.svelte';
  import { forgetReads } from '../lib/state/reads.svelte';

  /** A player has a PIN: nothing of theirs is shown before it. */
  let pin = $state('');
  let trouble = $state<string | null>(null);

  async function open() {
    if (!household.player) return;
    try {
      await api.openPlayer(household.player.id, pin);
      forgetReads();
      await household.load();
    } catch (error) {
      [pin, trouble] = ['', words(error)];
    }
  }
</script>

<svelte:head><title>PIN – Orexis</title></svelte:head>
<section class="mx-auto w-full max-w-2xl p-8 max-sm:p-4">
  <h1>{household.player?.name}</h1>
  <form
    class="mt-6 flex flex-wrap items-end gap-4"
    onsubmit={(event) => {
      event.preventDefault();
      void open();
    }}
  >
    <!-- svelte-ignore a11y_autofocus -->
    <label class="field">
      <span>PIN</span>
      <input type="password" inputmode="numeric" autocomplete="off" maxlength="8" autofocus bind:value={pin} />
    </label>
    <button class="press first" disabled={pin.length < 4}>Open</button>
  </form>
  {#if trouble}<p role="alert" class="mt-3">{trouble}</p>{/if}
  <p class="mt-6"><a class="line py-2" href="/who">Someone else is playing</a></p>
  <p class="quiet mt-4">
    Forgotten? {household.teachers.some((one) => one.id !== household.player?.id)
      ? 'Your teacher can remove it.'
      : 'Whoever looks after this computer deletes pins.json in the data folder.'}
  </p>
</section>
