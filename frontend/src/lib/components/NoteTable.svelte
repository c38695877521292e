<script lang="ts">
  import type { Measures } from '../api/client';
  import { COLUMNS } from '../api/judged';
  import { cellsOf } from '../view/notetable';
  import { exerciseInWords } from '../view/words';

  type Props = {
    measures: Measures;
    limits: Record<string, number>;
    nameOf: (id: string) => string;
    hearNote: (index: number) => void;
    /** Nothing was asked, so that no note is one too many. */
    free?: boolean;
  };
  let { measures, limits, nameOf, hearNote, free = false }: Props = $props();
  const called = (note: Measures['notes'][number]) =>
    note.target ? nameOf(note.target) : free && note.sounded ? nameOf(note.sounded) : 'extra';

  function gapInWords(ms: number | null | undefined): string {
    if (ms == null) return /* @wc-include */ 'gap not measured';
    return ms > 0 ? /* @wc-include */ `gap ${ms.toFixed(0)} ms` : /* @wc-include */ 'no gap';
  }
</script>

<p class="quiet mt-6 text-sm" id="about-notes">
  {#if free}Cents from the nearest note.{:else}Cents from the target; tone of 100 compared with today’s easiest note.
    Limits: pitch {limits['pitch_error_cents']}, wobble {limits['pitch_wobble_cents']}, drift {limits[
      'pitch_drift_cents'
    ]}.{/if}
</p>
<div class="mt-2 overflow-x-auto">
  <table class="w-full min-w-[980px] text-left" aria-label="Notes" aria-describedby="about-notes">
    <thead class="quiet text-sm">
      <tr
        ><th class="py-1 pr-4 font-normal">Note</th>
        {#each COLUMNS as column (column.label)}<th class="py-1 pr-4 font-normal">{column.label}</th>{/each}</tr
      >
    </thead>
    <tbody>
      {#each measures.notes as note (note.index)}
        <tr class="rule border-t">
          <th class="py-2 pr-4 font-semibold">
            {#if note.onset_s != null}
              <button class="note" title="Play this note" onclick={() => hearNote(note.index)}>{called(note)}</button>
            {:else}{called(note)}{/if}
          </th>
          {#each cellsOf(note) as { text, why }, i (i)}
            <td class="pr-4" title={text === null ? `not measured: ${why ?? 'not asked'}` : undefined}>{text ?? '–'}</td
            >
          {/each}
        </tr>
      {/each}
    </tbody>
  </table>
  {#if measures.moves.length}
    <p class="quiet mt-3 text-sm">
      Slurs and changes:
      {#each measures.moves as move, i (i)}
        {i ? '; ' : ''}{move.move_ms?.toFixed(0) ?? '–'} ms, {gapInWords(move.gap_ms)}{move.clipped_partials.length
          ? `, clipped ${move.clipped_partials.map((touch) => touch.partial).join(', ')}`
          : ''}
      {/each}
    </p>
  {/if}
  <p class="quiet mt-3 text-sm">Overall: {exerciseInWords(measures.exercise)}.</p>
</div>

<style>
  .note {
    text-decoration: underline;
    text-decoration-thickness: 1px;
    text-underline-offset: 0.25em;
    cursor: pointer;
    font-weight: 600;
  }
</style>
