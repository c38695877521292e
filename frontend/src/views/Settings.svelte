<script lang="ts">
  import { api, type Player } from '../lib/api/client';
  import { naming, type Naming } from '../lib/view/naming.svelte';
  import RecordSettings from '../lib/components/RecordSettings.svelte';
  import StandSettings from '../lib/components/StandSettings.svelte';
  import SchoolSettings from '../lib/components/SchoolSettings.svelte';
  import DeviceCheckPanel from '../lib/components/DeviceCheckPanel.svelte';
  import SourceChoice from '../lib/components/SourceChoice.svelte';
  import { household } from '../lib/state/household.svelte';

  let draft = $state<Player | null>(null);
  let said = $state<string | null>(null);
  let devices = $state<MediaDeviceInfo[]>([]);

  $effect(() => {
    if (household.player) draft = { ...household.player };
  });

  const horn = $derived(household.catalogue?.horns.find((item) => item.id === draft?.horn));

  async function keep(event: Event) {
    event.preventDefault();
    if (!draft) return;
    try {
      await api.changePlayer(draft.id, {
        name: draft.name,
        standard: draft.standard,
        horn: draft.horn,
        part: horn?.parts.some((part) => part.id === draft?.part) ? draft.part : null,
        a4_hz: draft.a4_hz,
      });
      await household.load();
      said = 'Kept. Takes already made keep the settings they were made with.';
    } catch (error) {
      said = error instanceof Error ? error.message : String(error);
    }
  }

  async function findDevices() {
    try {
      const stream = await navigator.mediaDevices.getUserMedia({ audio: true });
      stream.getTracks().forEach((track) => track.stop());
      devices = (await navigator.mediaDevices.enumerateDevices()).filter((device) => device.kind === 'audioinput');
    } catch {
      said = 'The microphone was refused. Allow it beside the address of this page, then look again.';
    }
  }
</script>

<svelte:head><title>Settings – Orexis</title></svelte:head>

<section class="mx-auto grid max-w-5xl gap-12 p-8 max-sm:p-4 md:grid-cols-2">
  <div>
    <h1>Settings</h1>
    {#if draft}
      <form class="mt-6 grid gap-5" onsubmit={keep}>
        <label class="field"><span>Name</span><input bind:value={draft.name} maxlength="60" /></label>
        <label class="field">
          <span>Horn</span>
          <select bind:value={draft.horn}>
            {#each household.catalogue?.horns ?? [] as item (item.id)}<option value={item.id}>{item.name}</option
              >{/each}
          </select>
        </label>
        <label class="field">
          <span>Part</span>
          <select bind:value={draft.part}>
            {#each horn?.parts ?? [] as part (part.id)}<option value={part.id}>{part.clef} clef ({part.id})</option
              >{/each}
          </select>
        </label>
        <label class="field">
          <span>Standard: how exact a pass must be</span>
          <select bind:value={draft.standard}>
            {#each household.catalogue?.standards ?? [] as standard (standard)}<option>{standard}</option>{/each}
          </select>
        </label>
        <label class="field">
          <span>A4 in Hz</span><input type="number" min="392" max="466" step="0.5" bind:value={draft.a4_hz} />
        </label>
        <label class="field">
          <span>Notes are called (in this window)</span>
          <select value={naming.is} onchange={(event) => naming.set(event.currentTarget.value as Naming)}>
            <option value="letters">C D E F G A B, B♭</option>
            <option value="h-and-b">C D E F G A H, B</option>
            <option value="syllables">Do Re Mi Fa Sol La Si, Si♭</option>
          </select>
        </label>
        <button class="press first justify-self-start" type="submit">Keep</button>
        {#if said}<p role="status">{said}</p>{/if}
      </form>
    {/if}
  </div>
  <div class="grid content-start gap-8">
    <div>
      <h2>Who is playing</h2>
      <ul class="mt-3 grid gap-2">
        {#each household.own as item (item.id)}
          <li>
            <button
              class="press small w-full text-left"
              aria-pressed={item.id === household.player?.id}
              onclick={() => household.choose(item.id)}
            >
              {item.name}{item.id === household.player?.id ? ' – now' : ''}
            </button>
          </li>
        {/each}
        <li class="flex gap-6">
          <a class="line inline-block py-2" href="/welcome">Somebody new</a>
          <a class="line inline-block py-2" href="/who">Everybody at a glance</a>
        </li>
      </ul>
    </div>
    <div>
      <h2>Sound in</h2>
      <div class="mt-3"><SourceChoice /></div>
      <div class="mt-4 grid gap-3">
        {#if devices.length}
          <label class="field">
            <span>Microphone</span>
            <select
              value={household.deviceId ?? ''}
              onchange={(e) => household.setDevice(e.currentTarget.value || null)}
            >
              <option value="">The one the browser picks</option>
              {#each devices as device (device.deviceId)}<option value={device.deviceId}>{device.label}</option>{/each}
            </select>
          </label>
        {:else}
          <button class="press small justify-self-start" onclick={findDevices}>Look for microphones</button>
        {/if}
      </div>
      <div class="mt-6"><DeviceCheckPanel /></div>
    </div>
    <div>
      <h2>Take care</h2>
      <p class="mt-2">
        Lips, teeth and jaws can be hurt by pressing, by long high work and by going on tired. Stop when something is
        sore, numb or swollen, or when you feel dizzy; if it lasts, see a doctor or dentist. This is not medical advice.
      </p>
    </div>
  </div>
</section>
{#if household.player}
  <div class="mx-auto max-w-5xl px-8 pb-12 max-sm:px-4">
    <SchoolSettings player={household.player} />
    <div class="rule mt-10 border-t pt-6"><StandSettings /></div>
    <div class="rule mt-10 border-t pt-6"><RecordSettings player={household.player} /></div>
  </div>
{/if}
