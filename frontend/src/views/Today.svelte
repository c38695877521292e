<script lang="ts">
  import { api, type BlockPlan, type PracticeSession } from '../lib/api/client';
  import DayLine from '../lib/components/DayLine.svelte';
  import SourceChoice from '../lib/components/SourceChoice.svelte';
  import { navigate } from '../lib/router';
  import { words } from '../lib/state/figures.svelte';
  import { household } from '../lib/state/household.svelte';
  import { isQuiet } from '../lib/view/words';

  let open = $state<PracticeSession | null>(null);
  let plan = $state<BlockPlan[]>([]);
  let minutes = $state(30);
  let lips = $state('fresh');
  /** Quiet by the clock, unless the player says otherwise. */
  let quietChosen = $state<boolean | null>(null);
  const quiet = $derived(quietChosen ?? isQuiet(household.player?.settings.quiet_from));
  let trouble = $state<string | null>(null);
  const player = $derived(household.player);
  const routines = $derived(household.catalogue?.routines ?? []);
  const CARE: Record<string, string> = {
    tired: 'Nothing heavy today, then. Stop as soon as it stops feeling better.',
    sore: 'Sore lips heal by resting. If you play at all, only what is easy; if it lasts, see a doctor.',
  };

  $effect(() => {
    if (!player) return;
    void api.latestSession(player.id).then((found) => (open = found));
  });
  $effect(() => {
    if (!player) return;
    api.routine(player.id, minutes, lips, quiet).then(
      (found) => ((plan = found), (trouble = null)),
      (error: unknown) => (trouble = words(error)),
    );
  });

  async function start() {
    if (!player) return;
    try {
      const session = await api.openRoutine(player.id, minutes, lips, quiet);
      await navigate('/stand/:id', { params: { id: session.id } });
    } catch (error) {
      trouble = words(error);
    }
  }
</script>

<svelte:head><title>Today – Orexis</title></svelte:head>

{#if player}
  <section class="mx-auto max-w-5xl p-8 max-sm:p-4">
    <p class="quiet">{player.name}, {household.hornName(player.horn)}, {player.stage}</p>
    <h1 class="mt-1">How long have you got?</h1>
    {#if trouble}<p role="alert" class="mt-4">{trouble}</p>{/if}
    {#if open}
      <p class="rule mt-5 flex flex-wrap items-center gap-4 border-y py-3">
        <span class="grow">
          <b>{open.state.plan[open.state.block]?.title}</b> is still open: figure {open.state.figure_index + 1} of {open
            .state.plan[open.state.block]?.figures}, {open.state.takes.length}
          {open.state.takes.length === 1 ? 'take' : 'takes'} so far.
        </span>
        <a class="press small inline-flex items-center" href="/stand/{open.id}">Go on with it</a>
      </p>
    {/if}
    <div class="mt-6 flex flex-wrap gap-x-12 gap-y-5">
      <div role="radiogroup" aria-label="Minutes" class="flex flex-wrap">
        {#each routines as option (option)}
          <button role="radio" class="tap" aria-checked={minutes === option} onclick={() => (minutes = option)}
            ><b class="serif text-2xl">{option}</b> min</button
          >
        {/each}
      </div>
      <div role="radiogroup" aria-label="Lips" class="flex flex-wrap">
        <span class="quiet self-center pr-3">Lips</span>
        {#each household.catalogue?.lips ?? [] as option (option)}
          <button role="radio" class="tap" aria-checked={lips === option} onclick={() => (lips = option)}
            >{option}</button
          >
        {/each}
      </div>
      <button class="tap" role="switch" aria-checked={quiet} onclick={() => (quietChosen = !quiet)}>quiet</button>
    </div>
    {#if quiet}
      <p class="mt-4">Buzzing and soft work only: your ears and the neighbours rest as well.</p>
    {/if}
    {#if CARE[lips]}<p class="mt-4" style="color: var(--oxblood)">{CARE[lips]}</p>{/if}
    <DayLine {plan} />
    <div class="mt-6 flex flex-wrap items-center gap-4">
      <button class="press first" onclick={start}>To the stand</button>
      <SourceChoice />
      {#if household.source === 'simulated'}
        <label class="flex items-center gap-3">
          <span class="quiet">How fast</span>
          <select
            class="plain"
            value={String(household.speed)}
            onchange={(event) => (household.speed = Number(event.currentTarget.value))}
          >
            <option value="1">as in life</option>
            <option value="5">5 times</option>
            <option value="20">20 times</option>
          </select>
        </label>
      {/if}
      <span class="grow"></span>
      <a class="line py-2" href="/figures">Or choose a single figure</a>
    </div>
  </section>
{/if}
