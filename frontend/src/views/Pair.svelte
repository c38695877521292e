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

<svelte:head><title>Let this device in – Orexis</title></svelte:head>
<section class="mx-auto max-w-2xl p-8 max-sm:p-4">
  <h1>Let this device in</h1>
  <p class="my-4">
    The machine that runs Orexis shows a code under Settings, <b>A tablet at the stand</b>. The passphrase does as well.
  </p>
  <form class="grid gap-4" onsubmit={letIn}>
    <label class="field">
      <span>Code or passphrase</span>
      <input bind:value={secret} maxlength="200" required autocomplete="off" autocapitalize="off" spellcheck="false" />
    </label>
    <label class="field"><span>What this device is called</span><input bind:value={name} maxlength="60" /></label>
    <button class="press first justify-self-start" disabled={busy || !secret}>Let it in</button>
    {#if said}<p role="alert">{said}</p>{/if}
  </form>
  <h2 class="mt-10">If the browser warns you</h2>
  <p class="mt-2">
    It does not know this machine yet. Trust it once: <a class="line" href="/authority.pem" download
      >take its certificate</a
    >, then
  </p>
  <ul class="mt-2 grid list-disc gap-2 pl-6">
    <li>on most tablets and phones: the settings, search for “CA certificate”, install the file;</li>
    <li>
      on those that call it a profile: open the file, install the profile in the settings, and switch it on there under
      General, About, Certificate Trust;
    </li>
    <li>on a computer: the browser’s settings, search for “certificates”, Authorities, Import.</li>
  </ul>
  <p class="quiet mt-2">Without that the microphone may stay closed. Afterwards open this page again.</p>
</section>
