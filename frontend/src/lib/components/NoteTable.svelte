<script lang="ts">
  import type { Measures, Schemas } from '../api/client';
  import { centsInWords, figureInWords } from '../view/words';

  type Props = {
    measures: Measures;
    limits: Schemas['Limits'];
    nameOf: (id: string) => string;
    hearNote: (index: number) => void;
  };
  let { measures, limits, nameOf, hearNote }: Props = $props();

  type Row = Measures['notes'][number];
  type Maybe = number | null | undefined;

  const number = (value: Maybe, digits = 0) => (value == null ? null : value.toFixed(digits));
  const cents = (value: Maybe) => (value == null ? null : centsInWords(value));
  const columns = [
    'Note',
    'Heard',
    'Centre',
    'Horn’s share',
    'Spread',
    'Sag',
    'Start',
    'End',
    'Moves to and fro',
    'Breath first',
    'Hold',
    'Level',
    'Sound',
  ];

  function cells(note: Row): [string | null, string | undefined][] {
    const why = (key: string) => note.unmeasured?.[key];
    return [
      [note.f0_hz == null ? null : `${note.f0_hz.toFixed(1)} Hz`, 'the note was not heard'],
      [cents(note.centre_cents), why('centre_cents')],
      [cents(note.horn_cents), 'no figure'],
      [number(note.spread_cents, 1), why('spread_cents')],
      [number(note.sag_cents), why('sag_cents')],
      [
        note.entry_cents == null ? null : `${centsInWords(note.entry_cents)}, ${number(note.entry_ms)} ms`,
        why('entry_cents'),
      ],
      [number(note.fall_off_cents), why('fall_off_cents')],
      [movement(note), why('vibrato_hz') ?? why('wobble_cents')],
      [note.response_ms == null ? null : `${number(note.response_ms)} ms`, why('response_ms')],
      [note.hold_s == null ? null : `${number(note.hold_s, 1)} s`, why('hold_s')],
      [note.level_db == null ? null : `${number(note.level_db)} dB`, why('level_db')],
      [number(note.sound_match), why('sound_match')],
    ];
  }

  function movement(note: Row): string | null {
    if (note.vibrato_hz != null)
      return `vibrato ${number(note.vibrato_cents)} c, ${number(note.vibrato_hz, 1)} a second`;
    if (note.wobble_cents != null) return `wobble ${number(note.wobble_cents)} c`;
    return note.unmeasured?.['wobble_cents'] ? null : 'still';
  }
</script>

<div class="mt-6 overflow-x-auto">
  <table class="w-full min-w-[980px] text-left">
    <caption class="quiet pb-2 text-left text-sm">
      Cents against the target; sound is its likeness to today’s easiest note (or the take you named), of 100. This
      stage allows {limits.centre_cents}
      for the centre, {limits.spread_cents} of spread,
      {limits.sag_cents} of sag.
    </caption>
    <thead class="quiet text-sm">
      <tr
        >{#each columns as column (column)}<th class="py-1 pr-4 font-normal">{column}</th>{/each}</tr
      >
    </thead>
    <tbody>
      {#each measures.notes as note (note.index)}
        <tr class="rule border-t">
          <th class="py-2 pr-4 font-semibold">
            {#if note.onset_s != null}
              <button class="note" title="Hear this note" onclick={() => hearNote(note.index)}
                >{note.target ? nameOf(note.target) : 'extra'}</button
              >
            {:else}{note.target ? nameOf(note.target) : 'extra'}{/if}
          </th>
          {#each cells(note) as [text, why], i (i)}
            <td class="pr-4" title={text === null ? `not measured: ${why ?? 'not asked'}` : undefined}>{text ?? '–'}</td
            >
          {/each}
        </tr>
      {/each}
    </tbody>
  </table>
  {#if measures.moves.length}
    <p class="quiet mt-3 text-sm">
      Moves:
      {#each measures.moves as move, i (i)}
        {i ? '; ' : ''}{move.move_ms?.toFixed(0) ?? '–'} ms, silence {move.gap_ms == null
          ? 'not measured'
          : move.gap_ms > 0
            ? `${move.gap_ms.toFixed(0)} ms`
            : 'none'}{move.caught.length ? `, touched ${move.caught.map((touch) => touch.partial).join(', ')}` : ''}
      {/each}
    </p>
  {/if}
  <p class="quiet mt-3 text-sm">Over the figure: {figureInWords(measures.figure)}.</p>
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
