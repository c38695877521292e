<script lang="ts">
  import { api } from '../lib/api/client';
  import { words } from '../lib/state/loaded.svelte';

  /** A device on the network that is not let in yet. */
  let { done }: { done: () => void } = $props();
  let secret = $state('');
  let name = $state('Tablet');
  let said = $state<string | null>(null);
  let busy = $state(false);

  async function letIn(event: Event) {
    event.preventDefault();
    [busy, said] = [true, null];
    try {
      await api.pair({ secret, name });
      done();
    } catch (error) {
      said = words(error);
    }
    busy = false;
  }
</script>

<svelte:head><title>Connect this device – Orexis</title></svelte:head>
<section class="mx-auto max-w-2xl p-8 max-sm:p-4">
  <h1>Connect this device</h1>
  <p class="my-4">
    The computer that runs Orexis shows a code under Settings, <b>Tablet</b>. The passphrase works too.
  </p>
  <form class="grid gap-4" onsubmit={letIn}>
    <label class="field">
      <span>Code or passphrase</span>
      <input bind:value={secret} maxlength="200" required autocomplete="off" autocapitalize="off" spellcheck="false" />
    </label>
    <label class="field"><span>Name of this device</span><input bind:value={name} maxlength="60" /></label>
    <button class="press first justify-self-start" disabled={busy || !secret}>Connect</button>
    {#if said}<p role="alert">{said}</p>{/if}
  </form>
  <h2 class="mt-10">If the browser warns you</h2>
  <p class="mt-2">
    It doesn’t know this computer yet. <a class="line" href="/authority.pem" download>Download its certificate</a>, then
  </p>
  <ul class="mt-2 grid list-disc gap-2 pl-6">
    <li>on most tablets and phones: the settings, search for “CA certificate”, install the file;</li>
    <li>
      on those that call it a profile: open the file, install the profile in the settings, and switch it on there under
      General, About, Certificate Trust;
    </li>
    <li>on a computer: the browser’s settings, search for “certificates”, Authorities, Import.</li>
  </ul>
  <p class="quiet mt-2">The microphone needs this. Then open this page again.</p>
</section>
