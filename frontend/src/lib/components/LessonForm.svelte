<script lang="ts">
  import { api, type OwnExercise, type OwnRoutine, type Exchange, type Player, type Goal } from '../api/client';
  import { Loaded, words } from '../state/loaded.svelte';
  import { dateInWords } from '../view/weeks';
  import { noteSigns } from '../view/words';
  import TakePicker from './TakePicker.svelte';
  import Toggle from './Toggle.svelte';

  /** A lesson made of own exercises, routines, goals, limits and takes to match. */
  let { player, made }: { player: Player; made: (exchange: Exchange) => void } = $props();
  type Item = { id: string; name: string };
  type Part = 'exercises' | 'routines' | 'goals';
  const PARTS: [Part, string, string][] = [
    ['exercises', 'Your own exercises', 'Save an exercise under Exercises to choose it here.'],
    ['routines', 'Routines', 'Save a routine on Today to choose it here.'],
    ['goals', 'Goals', 'Add a goal under Plan to choose it here.'],
  ];
  const kept = new Loaded<Record<Part, Item[]>>();
  let to = $state('');
  let title = $state('');
  let text = $state('');
  let limits = $state(false);
  let recordings = $state<string[]>([]);
  let wanted = $state<Record<string, string>>({}); // words by id: what is chosen has an entry
  let trouble = $state<string | null>(null);
  const wants = $derived(!to.trim() ? 'Who is it for?' : !title.trim() ? 'It needs a title.' : null);
  const ownLimits = $derived(Object.keys(player.settings.limits ?? {}).length);

  $effect(() => {
    const id = player.id;
    void kept.load(async () => {
      const [exercises, routines, goals]: [OwnExercise[], OwnRoutine[], Goal[]] = await Promise.all([
        api.ownExercises(id),
        api.routines(id),
        api.goals(id),
      ]);
      return {
        exercises,
        routines,
        goals: goals
          .filter((target) => target.state === 'on' || target.state === 'paused')
          .map((target) => ({ id: target.id, name: `${noteSigns(target.says)}, by ${dateInWords(target.date)}` })),
      };
    });
  });

  function turn(id: string, on: boolean) {
    if (on) wanted[id] = '';
    else delete wanted[id];
  }
  const chosen = (part: Part) =>
    (kept.value?.[part] ?? []).filter((item) => item.id in wanted).map(({ id }) => ({ id, words: wanted[id] ?? '' }));

  async function make() {
    try {
      const parts = { exercises: chosen('exercises'), routines: chosen('routines'), goals: chosen('goals') };
      const match = recordings.map((id) => ({ id, words: '' }));
      made(await api.makeLesson(player.id, { to, title, words: text, limits, recordings: match, ...parts }));
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
    <label class="field"><span>Title</span><input bind:value={title} maxlength="80" required /></label>
  </div>
  <label class="field"><span>Message</span><textarea rows="3" bind:value={text} maxlength="2000"></textarea></label>
  {#each PARTS as [part, legend, empty] (part)}
    <fieldset>
      <legend class="quiet">{legend}</legend>
      {#each kept.value?.[part] ?? [] as item (item.id)}
        <div class="flex flex-wrap items-center gap-x-4 py-1">
          <label class="flex items-center gap-3">
            <input
              type="checkbox"
              class="size-5"
              checked={item.id in wanted}
              onchange={(event) => turn(item.id, event.currentTarget.checked)}
            />
            {item.name}
          </label>
          {#if item.id in wanted}
            <input
              class="named grow"
              maxlength="2000"
              aria-label="Note on {item.name}"
              placeholder="how to play it"
              bind:value={wanted[item.id]}
            />
          {/if}
        </div>
      {:else}<p class="quiet">{empty}</p>{/each}
    </fieldset>
  {/each}
  {#if ownLimits}
    <Toggle label="Include your own limits ({ownLimits})" checked={limits} set={(on) => (limits = on)} />
  {/if}
  <TakePicker playerId={player.id} bind:chosen={recordings} legend="Takes to match, with their sound" />
  <div class="flex flex-wrap items-center gap-4">
    <button class="press first" disabled={wants !== null}>Create file</button>
    {#if wants}<span class="quiet">{wants}</span>{/if}
  </div>
  {#if trouble}<p role="alert">{trouble}</p>{/if}
</form>

<style>
  input[type='checkbox'] {
    accent-color: var(--ink);
  }
</style>
