<script lang="ts">
  import { TEMPO } from '../audio/pulse';
  import type { FreePlay } from '../state/freePlay.svelte';
  import { counted } from '../view/words';
  import Choice from './Choice.svelte';
  import Toggle from './Toggle.svelte';

  let { play }: { play: FreePlay } = $props();
  const pulse = $derived(play.pulse);
  const PARTS = ['1', '2', '3', '4'].map((value) => ({ value, label: value }));
  const number = (event: Event) => Number((event.currentTarget as HTMLInputElement | HTMLSelectElement).value);
  /* @wc-include */
  const never = 'nothing';
  /* @wc-include */
  const none = 'none';
</script>

<section aria-labelledby="metronome" class="panel">
  <header class="flex flex-wrap items-center gap-x-4 gap-y-2">
    <h2 id="metronome" class="grow">Metronome</h2>
    <button class="press small" aria-pressed={play.clicking} onclick={() => void play.toggleClick()}
      >{play.clicking ? 'Stop' : 'Start'}</button
    >
  </header>
  <div class="mt-2 flex items-center gap-2">
    <button class="step" aria-label="Slower" onclick={() => play.setPulse({ tempo: pulse.tempo - 1 })}>−</button>
    <input
      class="tempo serif"
      type="number"
      min={TEMPO.low}
      max={TEMPO.high}
      value={pulse.tempo}
      aria-label="Beats a minute, {TEMPO.low} to {TEMPO.high}"
      onchange={(event) => play.setPulse({ tempo: number(event) || pulse.tempo })}
    />
    <button class="step" aria-label="Faster" onclick={() => play.setPulse({ tempo: pulse.tempo + 1 })}>+</button>
    <button class="press small" onclick={() => play.tap()}>Tap</button>
    <span class="grow"></span>
    <span class="now serif" class:silent={play.beat?.silent} aria-hidden="true"
      >{play.beat ? play.beat.beat + 1 : ''}</span
    >
  </div>
  <div class="mt-2 flex flex-wrap items-center gap-x-6 gap-y-2">
    <label class="flex items-center gap-2">
      <span class="quiet">Beats in a bar</span>
      <select class="plain" value={String(pulse.beats)} onchange={(e) => play.setPulse({ beats: number(e) })}>
        {#each Array.from({ length: 12 }, (_, i) => i + 1) as beats (beats)}<option value={String(beats)}
            >{beats}</option
          >{/each}
      </select>
    </label>
    <Choice
      label="Clicks a beat"
      said
      bare
      value={String(pulse.parts)}
      options={PARTS}
      choose={(value) => play.setPulse({ parts: Number(value) })}
    />
  </div>
  <details class="mt-1">
    <summary class="py-2">
      More{play.beat && pulse.riseBy ? `: now ${play.beat.tempo}` : ''}
    </summary>
    <div class="mt-1 flex flex-wrap items-center gap-x-6 gap-y-3">
      <Toggle label="accent on one" checked={pulse.accents} set={(accents) => play.setPulse({ accents })} />
      <label class="flex items-center gap-2">
        <span class="quiet">Silent bars</span>
        <select
          class="plain"
          value={String(pulse.silentBars)}
          onchange={(e) => play.setPulse({ silentBars: number(e), soundBars: Math.max(1, number(e)) })}
        >
          {#each [0, 1, 2, 4] as bars (bars)}
            <option value={String(bars)}>{bars ? `${bars} of ${2 * bars}` : none}</option>
          {/each}
        </select>
      </label>
      <label class="flex items-center gap-2">
        <span class="quiet">Tempo rises by</span>
        <select class="plain" value={String(pulse.riseBy)} onchange={(e) => play.setPulse({ riseBy: number(e) })}>
          {#each [0, 1, 2, 4, 8] as by (by)}<option value={String(by)}>{by || never}</option>{/each}
        </select>
      </label>
      {#if pulse.riseBy}
        <label class="flex items-center gap-2">
          <span class="quiet">every</span>
          <select class="plain" value={String(pulse.riseBars)} onchange={(e) => play.setPulse({ riseBars: number(e) })}>
            {#each [1, 2, 4, 8] as bars (bars)}<option value={String(bars)}>{counted(bars, ['# bar', '# bars'])}</option
              >{/each}
          </select>
        </label>
        <label class="flex items-center gap-2">
          <span class="quiet">up to</span>
          <input
            class="number"
            type="number"
            min={pulse.tempo}
            max={TEMPO.high}
            value={pulse.riseTo}
            onchange={(e) => play.setPulse({ riseTo: number(e) || pulse.riseTo })}
          />
        </label>
      {/if}
    </div>
  </details>
</section>

<style>
  .step {
    min-width: 48px;
    min-height: 48px;
    font-size: 1.6rem;
    cursor: pointer;
  }

  .tempo {
    width: 5.5rem;
    min-height: 56px;
    text-align: center;
    font-size: 2.2rem;
    background: transparent;
    border: 0;
    border-bottom: 1.5px solid var(--ink);
    appearance: textfield;
  }

  .now {
    min-width: 4.5rem;
    text-align: center;
    font-size: 4rem;
    line-height: 1;
  }

  .now.silent {
    opacity: 0.35;
  }
</style>
