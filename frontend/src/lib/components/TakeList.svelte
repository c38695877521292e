<script lang="ts">
  import type { ListedTake } from '../api/client';
  import { centsShort, fingeringInWords, labelOf, noteNames, OUTCOME_WORDS } from '../view/words';
  import TakeShape from './TakeShape.svelte';
  import { decimals } from '../view/numbers';

  let { takes }: { takes: ListedTake[] } = $props();
</script>

<div class="mt-3 overflow-x-auto">
  <table class="w-full min-w-[880px] table-fixed text-left">
    <thead class="quiet text-sm">
      <tr>
        <th class="w-24 py-1 pr-4 font-normal">Take</th>
        <th class="w-44 pr-4 font-normal">Written</th>
        <th class="w-20 pr-4 font-normal">Fingering</th>
        <th class="w-64 pr-4 font-normal">Result</th>
        <th class="pr-4 text-right font-normal">Pitch, cents</th>
        <th class="pr-4 text-right font-normal">Wobble</th>
        <th class="pr-4 text-right font-normal">Drift</th>
        <th class="text-right font-normal">Length, s</th>
      </tr>
    </thead>
    <tbody>
      {#each takes as take (take.id)}
        <tr class="rule border-t">
          <td class="py-2 pr-4"><a class="line inline-block py-1" href="/take/{take.id}">Take {take.number}</a></td>
          <td class="truncate pr-4" title={noteNames(take.written)}>{noteNames(take.written)}</td>
          <td class="pr-4">{fingeringInWords(take.fingering)}</td>
          <td class="pr-4">
            <span class="inline-flex items-center gap-2">
              <TakeShape outcome={take.outcome} size={16} />
              {OUTCOME_WORDS[take.outcome]}{take.reason ? `: ${labelOf(take.reason)}` : ''}
              {take.recovered ? '(saved after a break)' : ''}
            </span>
          </td>
          <td class="pr-4 text-right">{centsShort(take.pitch_error_cents)}</td>
          <td class="pr-4 text-right">{take.pitch_wobble_cents == null ? '–' : decimals(take.pitch_wobble_cents, 1)}</td
          >
          <td class="pr-4 text-right"
            >{take.pitch_drift_cents == null ? '–' : Math.round(take.pitch_drift_cents) || 0}</td
          >
          <td class="text-right">{take.hold_s == null ? '–' : decimals(take.hold_s, 1)}</td>
        </tr>
      {/each}
    </tbody>
  </table>
</div>
