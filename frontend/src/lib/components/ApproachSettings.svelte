<script lang="ts">
  import { api, type Player, type Schemas, type SettingsChange } from '../api/client';
  import { words } from '../state/loaded.svelte';
  import { household } from '../state/household.svelte';
  import { LIMIT_LABELS } from '../api/judged';
  import { small, STANDARD_WORDS } from '../view/words';
  import Toggle from './Toggle.svelte';
  import { counted } from '../view/numbers';

  /** How a session goes, what to be careful about, where players disagree, and the player's own limits. */
  let { player }: { player: Player } = $props();
  let said = $state<string | null>(null);
  const settings = $derived(player.settings);
  const limits = $derived(household.catalogue?.limits[player.standard]);

  async function change(part: Partial<SettingsChange>) {
    try {
      // Only what changes is sent: two changes at once do not undo each other.
      await api.changeSettings(player.id, part);
      await household.load();
      said = 'Saved.';
    } catch (error) {
      said = words(error);
    }
  }

  function answer(question: Schemas['Ask'], choice: string) {
    void change({ approaches: { ...settings.approaches, [question]: choice as Schemas['Choice'] } });
  }

  function setLimit(name: string, text: string) {
    const rest = Object.fromEntries(Object.entries(settings.limits ?? {}).filter(([key]) => key !== name));
    void change({ limits: text === '' ? rest : { ...rest, [name]: Number(text) } });
  }
</script>

{#snippet tick(label: string, value: boolean, part: (on: boolean) => Partial<SettingsChange>)}
  <div><Toggle {label} checked={value} set={(on) => void change(part(on))} /></div>
{/snippet}

<section class="grid gap-x-12 gap-y-8 md:grid-cols-2">
  <div>
    <h2>Sessions</h2>
    <div class="mt-3">
      {@render tick('Continue by itself after a result', settings.goes_on, (on) => ({ goes_on: on }))}
      {@render tick('Practice in time: the metronome keeps going between takes', settings.in_time, (on) => ({
        in_time: on,
      }))}
      {@render tick('Start with the first note, no count-in', settings.start === 'first note', (on) => ({
        start: on ? 'first note' : 'count-in',
      }))}
      {@render tick('Raise the tempo after two clean takes, lower it after two misses', settings.tempo_steps, (on) => ({
        tempo_steps: on,
      }))}
      <Toggle
        label="Sound the first note before each take"
        checked={household.tools.hearIt}
        set={(on) => household.setTools({ hearIt: on })}
      />
      {@render tick('Speak the results', settings.spoken, (on) => ({ spoken: on }))}
      {@render tick('Check note before, every ten minutes and after', settings.checks, (on) => ({
        checks: on,
      }))}
    </div>
    {#if settings.in_time}
      <label class="mt-2 flex flex-wrap items-center gap-3">
        <span>Rest after each take</span>
        <select
          class="plain"
          value={String(settings.rest_bars)}
          onchange={(event) => change({ rest_bars: Number(event.currentTarget.value) })}
        >
          <option value="0">as long as you played</option>
          {#each [1, 2, 3, 4, 6, 8] as bars (bars)}<option value={String(bars)}
              >{counted(bars, ['# bar', '# bars'])}</option
            >{/each}
        </select>
      </label>
    {/if}
    <label class="mt-2 flex flex-wrap items-center gap-3">
      <span>Quiet hours</span>
      <select
        class="plain"
        value={String(settings.quiet_from ?? '')}
        onchange={(event) =>
          change({ quiet_from: event.currentTarget.value === '' ? null : Number(event.currentTarget.value) })}
      >
        <option value="">none</option>
        {#each [17, 18, 19, 20, 21, 22, 23] as hour (hour)}<option value={String(hour)}>from {hour}:00 to 7:00</option
          >{/each}
      </select>
    </label>
    <h2 class="mt-8">Care</h2>
    <div class="mt-3" style="color: var(--oxblood)">
      {@render tick('I wear braces: short blocks, long rests', settings.braces, (on) => ({ braces: on }))}
      {@render tick('I’m returning after an injury: half the load, nothing heavy', settings.returning, (on) => ({
        returning: on,
      }))}
    </div>
    <p class="quiet mt-2 text-sm">Your orthodontist, doctor and teacher come first.</p>
    <details class="mt-8">
      <summary class="cursor-pointer py-2"><h2 class="inline">Advanced: limits</h2></summary>
      <p class="quiet mt-1 text-sm">
        Empty: the limits of your level ({small(STANDARD_WORDS[player.standard])}).
      </p>
      <div class="mt-3 grid grid-cols-3 gap-4">
        {#each Object.entries(limits ?? {}) as [name, value] (name)}
          <label class="field">
            <span>{LIMIT_LABELS[name] ?? name}</span>
            <input
              type="number"
              step="0.5"
              placeholder={String(value)}
              value={settings.limits?.[name] ?? ''}
              onchange={(event) => setLimit(name, event.currentTarget.value)}
            />
          </label>
        {/each}
      </div>
    </details>
  </div>
  <div>
    <h2>Approach</h2>
    <p class="quiet mt-1">Teachers differ here. Choose what suits you.</p>
    <div class="mt-3 grid gap-4">
      {#each household.catalogue?.questions ?? [] as question (question.id)}
        <label class="field">
          <span>{question.asks}</span>
          <select
            value={settings.approaches?.[question.id] ?? question.choices[0]?.id}
            onchange={(event) => answer(question.id, event.currentTarget.value)}
          >
            {#each question.choices as choice, i (choice.id)}
              <option value={choice.id}>{choice.words}{i === 0 ? ' (by default)' : ''}</option>
            {/each}
          </select>
          <span>{question.why} {question.others}</span>
        </label>
      {/each}
    </div>
    {#if said}<p role="status" class="mt-3">{said}</p>{/if}
  </div>
</section>
