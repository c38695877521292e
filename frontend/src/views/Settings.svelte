<script lang="ts">
  import type { Snippet } from 'svelte';
  import { api, type Player, type Schemas } from '../lib/api/client';
  import { naming, type Naming } from '../lib/view/naming.svelte';
  import PinSettings from '../lib/components/PinSettings.svelte';
  import RecordSettings from '../lib/components/RecordSettings.svelte';
  import StandSettings from '../lib/components/StandSettings.svelte';
  import ApproachSettings from '../lib/components/ApproachSettings.svelte';
  import DeviceCheckPanel from '../lib/components/DeviceCheckPanel.svelte';
  import Toggle from '../lib/components/Toggle.svelte';
  import SourceChoice from '../lib/components/SourceChoice.svelte';
  import { STANDARD_WORDS, partInWords, seenBy } from '../lib/view/words';
  import { household } from '../lib/state/household.svelte';
  import { LANGUAGES } from '../locales/locale.js';

  let word = $state('');
  const matches = (...texts: string[]) => texts.join(' ').toLowerCase().includes(word.trim().toLowerCase());
  let draft = $state<Player | null>(null);
  let said = $state<string | null>(null);
  let devices = $state<MediaDeviceInfo[]>([]);

  $effect(() => {
    if (household.player) draft = { ...household.player };
  });

  const instrument = $derived(household.catalogue?.instruments.find((item) => item.id === draft?.instrument));

  async function keep(event?: Event, then: (id: string) => Promise<unknown> = async () => {}) {
    event?.preventDefault();
    if (!draft) return;
    try {
      await api.changePlayer(draft.id, {
        name: draft.name,
        standard: draft.standard,
        instrument: draft.instrument,
        part: instrument?.parts.some((part) => part.id === draft?.part) ? draft.part : null,
        a4_hz: draft.a4_hz,
      });
      await then(draft.id);
      await household.load();
      said = 'Saved.';
    } catch (error) {
      said = error instanceof Error ? error.message : String(error);
    }
  }

  /** Another language loads the page again: what was written is saved with it. */
  const chooseLanguage = (language: string) =>
    keep(undefined, (id) => api.changeSettings(id, { language: (language as Schemas['PageLanguage']) || null }));

  async function teach(teaches: boolean) {
    if (!household.player) return;
    await api.changeSettings(household.player.id, { teaches });
    await household.load();
  }

  async function findDevices() {
    try {
      const stream = await navigator.mediaDevices.getUserMedia({ audio: true });
      stream.getTracks().forEach((track) => track.stop());
      devices = (await navigator.mediaDevices.enumerateDevices()).filter((device) => device.kind === 'audioinput');
    } catch {
      said = 'The microphone is blocked. Allow it next to the address of this page, then try again.';
    }
  }
</script>

<svelte:head><title>Settings – Orexis</title></svelte:head>

<section class="mx-auto w-full max-w-5xl p-8 max-sm:p-4">
  <div class="flex flex-wrap items-end gap-x-8 gap-y-3">
    <h1 class="grow">Settings</h1>
    <label class="field"><span>Search</span><input type="search" maxlength="30" bind:value={word} /></label>
  </div>
  <p class="quiet mt-2">Open a section. Changes apply to new takes.</p>

  {#snippet part(title: string, about: string, body: Snippet)}
    <details class="rule border-b py-2" hidden={!matches(title, about)} open={word.trim().length > 1}>
      <summary class="cursor-pointer py-2">
        <h2 class="inline">{title}</h2>
        <span class="quiet ml-3">{about}</span>
      </summary>
      <div class="pt-3 pb-6">{@render body()}</div>
    </details>
  {/snippet}

  {#snippet me()}
    {#if draft}
      <form class="grid gap-5 md:grid-cols-2" onsubmit={keep}>
        <label class="field"><span>Name</span><input bind:value={draft.name} maxlength="60" /></label>
        <label class="field">
          <span>Instrument</span>
          <select bind:value={draft.instrument}>
            {#each household.catalogue?.instruments ?? [] as item (item.id)}<option value={item.id}>{item.name}</option
              >{/each}
          </select>
        </label>
        <label class="field">
          <span>Part</span>
          <select bind:value={draft.part}>
            {#each instrument?.parts ?? [] as item (item.id)}<option value={item.id}>{partInWords(item)}</option>{/each}
          </select>
        </label>
        <label class="field">
          <span>Level: how exact a clean take must be</span>
          <select bind:value={draft.standard}>
            {#each household.catalogue?.standards ?? [] as standard (standard)}<option value={standard}
                >{STANDARD_WORDS[standard]}</option
              >{/each}
          </select>
        </label>
        <label class="field">
          <span>A4, Hz</span><input type="number" min="392" max="466" step="0.5" bind:value={draft.a4_hz} />
        </label>
        <label class="field">
          <span>Note names</span>
          <select value={naming.is} onchange={(event) => naming.set(event.currentTarget.value as Naming)}>
            <option value="letters">C D E F G A B, B♭</option>
            <option value="h-and-b">C D E F G A H, B</option>
            <option value="syllables">Do Re Mi Fa Sol La Si, Si♭</option>
          </select>
        </label>
        <label class="field">
          <span>Language</span>
          <select
            value={household.player?.settings.language ?? ''}
            onchange={(event) => void chooseLanguage(event.currentTarget.value)}
          >
            <option value="">The browser’s choice</option>
            {#each Object.entries(LANGUAGES) as [id, name] (id)}<option value={id} lang={id}>{name}</option>{/each}
          </select>
        </label>
        <button class="press first justify-self-start" type="submit">Save</button>
        {#if said}<p role="status">{said}</p>{/if}
      </form>
      {#if household.own.length > 1}<PinSettings player={draft} />{/if}
    {/if}
  {/snippet}
  {@render part('Player', 'Name, instrument, level, tuning note, language, PIN', me)}

  {#snippet teaching()}
    <Toggle
      label="I teach the others here"
      checked={household.player?.settings.teaches ?? false}
      set={(on) => void teach(on)}
    />
    <p class="quiet mt-2 max-w-2xl">
      {#if household.player?.settings.teaches}
        <a class="line" href="/class">Class</a> shows how everybody here practises. They are told that you see it.
      {:else if household.teachers.length}
        {seenBy(household.teachers.map((one) => one.name))}
      {:else}
        A teacher sees how everybody here practises, and gives them lessons and goals.
      {/if}
    </p>
  {/snippet}
  {#if household.own.length > 1}{@render part('Class', 'Teach the others here', teaching)}{/if}

  {#snippet sound()}
    <SourceChoice />
    <div class="mt-4 grid gap-3">
      {#if devices.length}
        <label class="field max-w-md">
          <span>Microphone</span>
          <select value={household.deviceId ?? ''} onchange={(e) => household.setDevice(e.currentTarget.value || null)}>
            <option value="">The browser’s choice</option>
            {#each devices as device (device.deviceId)}<option value={device.deviceId}>{device.label}</option>{/each}
          </select>
        </label>
      {:else}
        <button class="press small justify-self-start" onclick={findDevices}>Choose a microphone</button>
      {/if}
    </div>
    <div class="mt-6"><DeviceCheckPanel /></div>
  {/snippet}
  {@render part('Sound', 'Microphone, demo player, delay check', sound)}

  {#snippet practice()}{#if household.player}<ApproachSettings player={household.player} />{/if}{/snippet}
  {@render part('Practice', 'Sessions, care, approach, limits', practice)}

  {#snippet stand()}<StandSettings />{/snippet}
  {@render part('Tablet', 'Use a tablet or phone on the music stand', stand)}

  {#snippet data()}{#if household.player}<RecordSettings player={household.player} />{/if}{/snippet}
  {@render part('Data', 'Keep, export, import, check, delete', data)}
</section>
