<script lang="ts">
  import type { ExerciseBrowser } from '../state/exercises.svelte';

  /** Save under a name, delete what is saved, export. */
  let { browser }: { browser: ExerciseBrowser } = $props();
  let name = $state('');
  const formats = [
    ['sheet', 'PDF'],
    ['series', 'PDF of all'],
    ['musicxml', 'MusicXML'],
    ['midi', 'MIDI'],
    ['json', 'JSON'],
  ] as const;
</script>

<div class="rule mt-5 flex flex-wrap items-end gap-x-8 gap-y-4 border-t pt-4">
  {#if browser.kept}
    {@const kept = browser.kept}
    <button class="press small" onclick={() => browser.forget(kept)}>Delete “{kept.name}”</button>
  {/if}
  {#if !browser.kept || browser.kept.choices?.length}
    <form
      class="flex items-end gap-3"
      onsubmit={(event) => {
        event.preventDefault();
        if (name.trim()) void browser.keep(name.trim()).then(() => (name = ''));
      }}
    >
      <label class="field"><span>Save as my own, named</span><input bind:value={name} maxlength="80" /></label>
      <button class="press small" type="submit" disabled={!name.trim()}>Save</button>
    </form>
  {/if}
  <span class="grow"></span>
  <div class="flex flex-wrap items-center gap-x-4" role="group" aria-label="Export">
    <span class="quiet">Export</span>
    {#each formats as [format, label] (format)}
      <button class="line py-2" onclick={() => browser.save(format)}>{label}</button>
    {/each}
  </div>
</div>
