<script lang="ts">
  import { api, type Player } from '../api/client';
  import { household } from '../state/household.svelte';
  import { words } from '../state/loaded.svelte';

  /** A PIN keeps others at this computer out of a player's practice. */
  let { player }: { player: Player } = $props();
  let pin = $state('');
  let said = $state<string | null>(null);

  async function set(next: string | null) {
    try {
      await api.setPin(player.id, next);
      if (next) await api.openPlayer(player.id, next);
      await household.load();
      said = next ? 'Saved.' : 'Removed.';
    } catch (error) {
      said = words(error);
    }
    pin = '';
  }
</script>

<form
  class="mt-6 flex flex-wrap items-end gap-4"
  onsubmit={(event) => {
    event.preventDefault();
    void set(pin);
  }}
>
  <label class="field">
    <span>{household.hasPin(player.id) ? 'New PIN' : 'PIN'}, 4 to 8 digits</span>
    <input type="password" inputmode="numeric" autocomplete="off" maxlength="8" bind:value={pin} />
  </label>
  <button class="press small" disabled={!/^\d{4,8}$/.test(pin)}>Set</button>
  {#if household.hasPin(player.id)}
    <button type="button" class="press small" onclick={() => void set(null)}>Remove the PIN</button>
  {/if}
</form>
<p class="quiet mt-2">
  It keeps others at this computer out of your practice. Whoever can read the data folder does not need it.
</p>
{#if said}<p role="status" class="mt-2">{said}</p>{/if}
