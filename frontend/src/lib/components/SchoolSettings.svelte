<script lang="ts">
  import { api, type Player, type Schemas, type SettingsChange } from '../api/client';
  import { words } from '../state/loaded.svelte';
  import { household } from '../state/household.svelte';
  import { LIMIT_LABELS } from '../api/judged';
  import Toggle from './Toggle.svelte';

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
      said = 'Kept.';
    } catch (error) {
      said = words(error);
    }
  }

  function answer(question: Schemas['Ask'], choice: string) {
    void change({ schools: { ...settings.schools, [question]: choice as Schemas['Choice'] } });
  }

  function setLimit(name: string, text: string) {
    const rest = Object.fromEntries(Object.entries(settings.limits ?? {}).filter(([key]) => key !== name));
    void change({ limits: text === '' ? rest : { ...rest, [name]: Number(text) } });
  }
</script>

{#snippet tick(label: string, value: boolean, part: (on: boolean) => Partial<SettingsChange>)}
  <div><Toggle {label} checked={value} set={(on) => void change(part(on))} /></div>
{/snippet}

<section class="rule mt-10 grid gap-x-12 gap-y-8 border-t pt-8 md:grid-cols-2">
  <div>
    <h2>How a session goes</h2>
    <div class="mt-3">
      {@render tick('It goes on by itself after a verdict', settings.goes_on, (on) => ({ goes_on: on }))}
      {@render tick('The first note begins a take, without a count-in', settings.start === 'first note', (on) => ({
        start: on ? 'first note' : 'count-in',
      }))}
      {@render tick('The tempo rises after two clean takes and falls after two misses', settings.tempo_steps, (on) => ({
        tempo_steps: on,
      }))}
      <Toggle
        label="The first note is sounded before each take"
        checked={household.tools.hearIt}
        set={(on) => household.setTools({ hearIt: on })}
      />
      {@render tick('Verdicts are spoken', settings.spoken, (on) => ({ spoken: on }))}
      {@render tick('A check note before, every ten minutes of playing, and after', settings.checks, (on) => ({
        checks: on,
      }))}
    </div>
    <label class="mt-2 flex flex-wrap items-center gap-3">
      <span>Only buzzing and soft work</span>
      <select
        class="plain"
        value={String(settings.quiet_from ?? '')}
        onchange={(event) =>
          change({ quiet_from: event.currentTarget.value === '' ? null : Number(event.currentTarget.value) })}
      >
        <option value="">at no hour</option>
        {#each [17, 18, 19, 20, 21, 22, 23] as hour (hour)}<option value={String(hour)}>from {hour}:00 to 7:00</option
          >{/each}
      </select>
    </label>
    <h2 class="mt-8">To be careful about</h2>
    <div class="mt-3" style="color: var(--oxblood)">
      {@render tick('I wear braces: shorter blocks, longer rests', settings.braces, (on) => ({ braces: on }))}
      {@render tick('I am coming back after an injury: half the load, nothing heavy', settings.returning, (on) => ({
        returning: on,
      }))}
    </div>
    <p class="quiet mt-2 text-sm">
      What your orthodontist, doctor and teacher say goes before anything that is set here.
    </p>
    <h2 class="mt-8">Your own limits</h2>
    <p class="quiet mt-1 text-sm">Empty: those of the standard ({player.standard}).</p>
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
  </div>
  <div>
    <h2>Where players disagree</h2>
    <div class="mt-3 grid gap-4">
      {#each household.catalogue?.questions ?? [] as question (question.id)}
        <label class="field">
          <span>{question.asks}</span>
          <select
            value={settings.schools?.[question.id] ?? question.choices[0]?.id}
            onchange={(event) => answer(question.id, event.currentTarget.value)}
          >
            {#each question.choices as choice, i (choice.id)}
              <option value={choice.id}>{choice.words}{i === 0 ? ' (default)' : ''}</option>
            {/each}
          </select>
          <span>{question.why} {question.others}</span>
        </label>
      {/each}
    </div>
    {#if said}<p role="status" class="mt-3">{said}</p>{/if}
  </div>
</section>
