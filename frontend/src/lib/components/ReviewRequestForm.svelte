<script lang="ts">
  import { api, type Exchange, type Player } from '../api/client';
  import { words } from '../state/loaded.svelte';
  import TakePicker from './TakePicker.svelte';
  import Toggle from './Toggle.svelte';

  /** Takes put together for somebody who hears them. */
  type Props = { player: Player; first: string[]; made: (exchange: Exchange) => void };
  let { player, first, made }: Props = $props();
  let to = $state('');
  let title = $state('');
  let text = $state('');
  let weeks = $state(true);
  // svelte-ignore state_referenced_locally
  let chosen = $state<string[]>([...first]);
  let trouble = $state<string | null>(null);
  const wants = $derived(
    !to.trim() ? 'Who is it for?' : !title.trim() ? 'What is it about?' : !chosen.length ? 'Choose a take.' : null,
  );

  async function make() {
    try {
      made(await api.makeReviewRequest(player.id, { to, title, words: text, takes: chosen, weeks }));
    } catch (error) {
      trouble = words(error);
    }
  }
</script>

<form
  class="grid gap-4"
  onsubmit={(event) => {
    event.preventDefault();
    void make();
  }}
>
  <div class="grid gap-4 sm:grid-cols-2">
    <label class="field"><span>For</span><input bind:value={to} maxlength="80" required /></label>
    <label class="field"><span>Subject</span><input bind:value={title} maxlength="80" required /></label>
  </div>
  <label class="field"><span>Your message</span><textarea rows="3" bind:value={text} maxlength="2000"></textarea></label
  >
  <TakePicker playerId={player.id} bind:chosen legend="Takes with their sound" />
  <Toggle label="Include the last twelve weeks" checked={weeks} set={(on) => (weeks = on)} />
  <p class="quiet">Your name, level and instrument go with it. Nothing else does.</p>
  <div class="flex flex-wrap items-center gap-4">
    <button class="press first" disabled={wants !== null}>Create file</button>
    {#if wants}<span class="quiet">{wants}</span>{/if}
  </div>
  {#if trouble}<p role="alert">{trouble}</p>{/if}
</form>
