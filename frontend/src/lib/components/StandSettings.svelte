<script lang="ts">
  import { api, type Schemas, type StandOut } from '../api/client';
  import { Loaded, words } from '../state/loaded.svelte';
  import { day } from '../view/words';
  import Toggle from './Toggle.svelte';

  /** Devices on the network that may come in; only on the machine that runs Orexis. */
  const stand = new Loaded<StandOut>();
  let passphrase = $state('');
  let wanted = $state(false);
  let code = $state<string | null>(null);
  let said = $state<string | null>(null);
  const found = $derived(stand.value);
  void stand.load(api.stand);

  async function turn(on: boolean, text: string | null = null) {
    said = null;
    if (on && !found?.has_passphrase && !text) {
      wanted = true;
      return;
    }
    try {
      stand.value = await api.switchStand({ on, passphrase: text });
      [wanted, passphrase, code] = [false, '', null];
    } catch (error) {
      said = words(error);
    }
  }
  async function makeCode() {
    try {
      code = (await api.standCode()).code ?? null;
    } catch (error) {
      said = words(error);
    }
  }
  async function give(id: string, rights: Schemas['RightsIn']['rights']) {
    try {
      await api.giveRights(id, rights);
      await stand.load(api.stand);
    } catch (error) {
      said = words(error);
    }
  }
  async function remove(id: string) {
    try {
      await api.removeDevice(id);
      await stand.load(api.stand);
    } catch (error) {
      said = words(error);
    }
  }
</script>

{#if found}
  <section class="grid gap-4">
    <h2>Tablet on the music stand</h2>
    <p>Use Orexis on a tablet or phone at home. Only devices that you allow can connect.</p>
    <Toggle label="Allow devices" checked={found.on} set={(on) => void turn(on)} />
    {#if wanted || (found.on && found.has_passphrase)}
      <form
        class="flex flex-wrap items-end gap-3"
        onsubmit={(event) => {
          event.preventDefault();
          void turn(true, passphrase);
        }}
      >
        <label class="field">
          <span>{found.has_passphrase ? 'New passphrase' : 'Passphrase, at least 8 letters'}</span>
          <input type="password" bind:value={passphrase} minlength="8" maxlength="200" autocomplete="new-password" />
        </label>
        <button class="press small" disabled={passphrase.length < 8}>Save</button>
      </form>
    {/if}
    {#if found.on}
      <div class="flex flex-wrap items-start gap-8">
        <img src="/api/stand/address.svg" alt="The address {found.addresses[0]} for a camera" class="code" />
        <div class="grid gap-2">
          <p>Point the tablet’s camera here, or open</p>
          <ul>
            {#each found.addresses as address (address)}<li><b>{address}</b></li>{/each}
          </ul>
          <p>
            {#if code}<span class="serif text-4xl tracking-widest">{code}</span>
              <span class="quiet">allows one device, for ten minutes</span>
            {:else}<button class="press small" onclick={makeCode}>Show a code</button>{/if}
          </p>
        </div>
      </div>
    {/if}
    {#if found.devices.length}
      <ul aria-label="Allowed devices">
        {#each found.devices as device (device.id)}
          <li class="rule flex flex-wrap items-center gap-4 border-b py-2">
            <span>{device.name}</span>
            <span class="quiet">allowed {day(device.paired_at)}</span>
            <span class="grow"></span>
            <select
              class="plain"
              aria-label="What {device.name} may do"
              value={device.rights}
              onchange={(event) => give(device.id, event.currentTarget.value as Schemas['RightsIn']['rights'])}
            >
              <option value="play">may practise</option>
              <option value="read">may only look</option>
              <option value="all">may do everything</option>
            </select>
            <button class="line py-2" onclick={() => remove(device.id)}>Remove</button>
          </li>
        {/each}
      </ul>
    {/if}
    {#if said}<p role="alert">{said}</p>{/if}
  </section>
{/if}

<style>
  .code {
    width: 180px;
    height: 180px;
    background: white;
  }
</style>
