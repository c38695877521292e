<script lang="ts">
  import { api, type Schemas } from '../api/client';
  import { words } from '../state/loaded.svelte';
  import { counted } from '../view/words';
  import { dateInWords } from '../view/weeks';
  import FilePick from './FilePick.svelte';

  /** Performances and rehearsals from a calendar file: what they are is guessed by name, and chosen by the player. */
  type Entry = Schemas['CalendarEntry'];
  type Props = {
    playerId: string;
    performances: readonly string[];
    elsewhere: readonly Schemas['PlayedElsewhere'][];
    add: (performances: string[], elsewhere: Schemas['PlayedElsewhere'][]) => Promise<void>;
  };
  let { playerId, performances, elsewhere, add }: Props = $props();
  let found = $state<Entry[]>([]);
  let said = $state<string | null>(null);
  const chosen = $derived(found.filter((entry) => entry.kind !== 'other'));

  async function open(file: File) {
    [found, said] = [[], null];
    try {
      const entries = await api.viewCalendar(playerId, file);
      const known = new Set([...performances, ...elsewhere.map((entry) => entry.day)]);
      found = entries.filter((entry) => !known.has(entry.day));
      if (!found.length) said = entries.length ? 'All of its dates are here already.' : 'No dates from today on.';
    } catch (error) {
      said = words(error);
    }
  }
  async function take() {
    const days = chosen.filter((entry) => entry.kind === 'performance').map((entry) => entry.day);
    const played = chosen
      .filter((entry) => entry.kind === 'rehearsal')
      .map(({ day, minutes, weekly }) => ({ day, minutes, weekly, effort: 'medium' as const }));
    await add([...performances, ...days], [...elsewhere, ...played]);
    said = `${counted(chosen.length, ['# date', '# dates'])} added.`;
    found = [];
  }
</script>

<FilePick label="Import from a calendar" accept=".ics,text/calendar" take={open} />
{#if said}<p role="status" class="w-full">{said}</p>{/if}
{#if found.length}
  <div class="w-full">
    <ul aria-label="Dates in the calendar" class="dates">
      {#each found as entry, index (index)}
        <li class="rule flex flex-wrap items-center gap-x-6 border-b py-1">
          <span class="grow">{entry.title}</span>
          <span class="quiet"
            >{dateInWords(entry.day)}{entry.weekly ? ', every week' : ''}{entry.kind === 'rehearsal'
              ? `, ${entry.minutes} min`
              : ''}</span
          >
          <select
            class="plain"
            aria-label="What {entry.title} on {dateInWords(entry.day)} is"
            value={entry.kind}
            onchange={(event) => (entry.kind = event.currentTarget.value as Entry['kind'])}
          >
            <option value="performance">performance</option>
            <option value="rehearsal">playing elsewhere</option>
            <option value="other">leave out</option>
          </select>
        </li>
      {/each}
    </ul>
    <button class="press small first mt-3" disabled={!chosen.length} onclick={take}
      >Add {counted(chosen.length, ['# date', '# dates'])}</button
    >
  </div>
{/if}

<style>
  .dates {
    max-height: 24rem;
    overflow-y: auto;
  }
</style>
