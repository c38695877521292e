<script lang="ts">
  import { api } from '../api/client';
  import { ask, reads } from '../state/reads.svelte';
  import { noteSigns, sentence } from '../view/words';
  import { household } from '../state/household.svelte';

  /** The levels of an exercise: where the player is, what opens the next; another one by hand. */
  let { exerciseType, take }: { exerciseType: string; take: (params: Record<string, string>) => void } = $props();
  const player = $derived(household.player);
  const paths = reads(() => player && ask('paths', player.id));

  const path = $derived(paths.value?.find((item) => item.exercise_type === exerciseType) ?? null);
  const WHY: Record<string, string> = {
    on: 'You moved up last time.',
    back: 'One level back, after three days without a clean one.',
    pause: 'A little easier after the days away.',
    'by hand': 'You set this level.',
  };

  async function set(step: number) {
    if (!player) return;
    await api.setStep(player.id, exerciseType, step);
  }
</script>

{#if path}
  <section class="mt-6" aria-label="Level">
    <p>
      <b>Level {path.step + 1} of {path.steps.length}</b>: {noteSigns(path.steps[path.step] ?? '')}.
      <span class="quiet">
        {sentence(path.opens)}
        {path.change ? WHY[path.change.why] : ''}
        {path.comes_back ? 'It comes back next time, easier first.' : ''}
      </span>
    </p>
    <div class="path" aria-hidden="true">
      {#each path.steps as say, index (index)}
        <span class="step" class:done={index < path.step} class:here={index === path.step} title="{index + 1}: {say}"
        ></span>
      {/each}
    </div>
    <div class="mt-2 flex flex-wrap items-center gap-x-8 gap-y-2">
      <button class="line py-2" onclick={() => path && take(path.params)}>Show this level</button>
      <label class="inline-flex flex-wrap items-center gap-3">
        <span class="quiet">Set my level</span>
        <select
          class="plain"
          value={String(path.step)}
          onchange={(event) => void set(Number(event.currentTarget.value))}
        >
          {#each path.steps as say, index (index)}<option value={String(index)}>{index + 1}. {noteSigns(say)}</option
            >{/each}
        </select>
      </label>
    </div>
  </section>
{/if}

<style>
  .path {
    display: flex;
    align-items: flex-end;
    height: 26px;
    margin-top: 0.5rem;
    border-bottom: 1px solid var(--ink);
  }

  .step {
    flex: 1 1 0;
    min-width: 2px;
    max-width: 40px;
    height: 8px;
    margin-right: 1px;
    border: 1px solid var(--rule);
    border-bottom: 0;
  }

  .step.done {
    background: var(--brass);
    border-color: var(--brass);
  }

  .step.here {
    height: 24px;
    border: 1.5px solid var(--ink);
    border-bottom: 0;
  }
</style>
