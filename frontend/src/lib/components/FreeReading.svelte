<script lang="ts">
  import { api, type Schemas } from '../api/client';
  import { navigate } from '../router';
  import { words } from '../state/loaded.svelte';
  import { ask, reads } from '../state/reads.svelte';
  import { freeInSentences, placeHref, reachInWords } from '../view/freeReading';
  import { centsShort, noteName } from '../view/words';
  import { decimals } from '../view/numbers';

  /** What was read from playing without an exercise: sentences first, then each note's tuning and the places to listen to. */
  let { sessionId }: { sessionId: string } = $props();
  const shown = reads(() => ask('freeReading', sessionId));
  const played = reads(() => ask('exercisesPlayed', sessionId));
  const found = $derived(shown.value);
  const reading = $derived(found?.reading);
  const MOST = 30; // cents that a bar shows

  let trouble = $state<string | null>(null);
  async function judge(one: Schemas['FoundExercise']) {
    try {
      const take = await api.judgeAs(one.take_id, { exercise_type: one.exercise_type, index: one.index });
      await navigate('/take/:id', { params: { id: take.id } });
    } catch (error) {
      trouble = words(error);
    }
  }
  const nameOf = (midi: number) => noteName(found?.written[midi] ?? '');
  const bar = (cents: number) => `${(50 * Math.min(MOST, Math.abs(cents))) / MOST}%`;
</script>

{#if shown.trouble}<p role="alert" class="mt-3">{shown.trouble}</p>{/if}
{#if reading}
  <p class="mt-3 text-lg">{reachInWords(reading, nameOf)}</p>
  <ul class="mt-4 grid gap-2">
    {#each freeInSentences(reading) as line (line)}<li>{line}</li>{/each}
  </ul>
  {#each played.value ?? [] as one (one.take_id + one.start_s)}
    <p class="mt-3 flex flex-wrap items-center gap-x-4 gap-y-1">
      <span>This sounds like <b>{one.title}</b>.</span>
      <a class="line py-2" href="/take/{one.take_id}?at={one.start_s.toFixed(1)}">Listen</a>
      <button class="press small" onclick={() => void judge(one)}>Judge it</button>
    </p>
  {/each}
  {#if trouble}<p role="alert" class="mt-3">{trouble}</p>{/if}
  {#if reading.tuning.length}
    <h2 class="mt-8">Tuning by note</h2>
    <div class="mt-2 overflow-x-auto">
      <table class="tuning text-left">
        <thead class="quiet text-sm">
          <tr>
            <th class="py-1 pr-6 font-normal">Note</th>
            <th class="pr-6 text-right font-normal">Times</th>
            <th class="pr-6 text-right font-normal">Cents</th>
            <th class="pr-6 text-right font-normal whitespace-nowrap">Varies by</th>
            <th class="w-full font-normal">Flat, sharp</th>
          </tr>
        </thead>
        <tbody>
          {#each [...reading.tuning].reverse() as note (note.midi)}
            <tr class="rule border-t">
              <th scope="row" class="py-1 pr-6 font-semibold">{nameOf(note.midi)}</th>
              <td class="pr-6 text-right">{note.count}</td>
              <td class="pr-6 text-right whitespace-nowrap">{centsShort(note.cents)}</td>
              <td class="pr-6 text-right">{Math.round(note.spread)}</td>
              <td>
                <span class="axis" aria-hidden="true">
                  <span class="bar" class:flat={note.cents < 0} style="width: {bar(note.cents)}"></span>
                </span>
              </td>
            </tr>
          {/each}
        </tbody>
      </table>
    </div>
  {/if}
  {#each [['Silences in slurs', reading.slurs.gaps], ['Partials touched on the way', reading.slurs.touched]] as const as [title, places] (title)}
    {#if places.length}
      <h2 class="mt-8">{title}</h2>
      <p class="mt-1 flex flex-wrap gap-x-5">
        {#each places as place (place.take_id + place.at_s)}
          <a class="line py-2" href={placeHref(place)}>{decimals(place.ms / 1000, 2)} s</a>
        {/each}
      </p>
    {/if}
  {/each}
{/if}

<style>
  .tuning {
    width: 100%;
    max-width: 46rem;
  }

  .axis {
    position: relative;
    display: block;
    height: 14px;
    background: linear-gradient(var(--rule), var(--rule)) center / 1px 100% no-repeat;
  }

  .bar {
    position: absolute;
    top: 2px;
    bottom: 2px;
    left: 50%;
    background: var(--brass);
  }

  .bar.flat {
    left: auto;
    right: 50%;
  }
</style>
