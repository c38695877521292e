<script lang="ts">
  import { api, type ListedTake, type LogPage } from '../api/client';
  import { Loaded } from '../state/loaded.svelte';
  import { day, labelOf, noteNames, OUTCOME_WORDS, small } from '../view/words';
  import Pages from './Pages.svelte';
  import TakeShape from './TakeShape.svelte';

  /** Takes, session by session; what is chosen stays chosen over pages. */
  type Props = { playerId: string; chosen: string[]; legend: string };
  let { playerId, chosen = $bindable(), legend }: Props = $props();
  const SIZE = 10;
  let page = $state(1);
  const log = new Loaded<LogPage>();
  const takes = $state<Record<string, ListedTake[]>>({});

  $effect(() => {
    const [id, offset] = [playerId, SIZE * (page - 1)];
    void log
      .load(() => api.log(id, offset))
      .then((found) => found?.sessions.slice(0, 1).forEach((one) => void open(one.id)));
  });
  async function open(session: string) {
    takes[session] ??= await api.sessionTakes(session).catch(() => []);
  }
  function turn(id: string, on: boolean) {
    chosen = on ? [...chosen, id] : chosen.filter((one) => one !== id);
  }
</script>

<fieldset>
  <legend class="quiet">{legend}: {chosen.length} chosen</legend>
  {#each log.value?.sessions ?? [] as session, i (session.id)}
    <details class="rule border-b py-2" open={i === 0} ontoggle={() => void open(session.id)}>
      <summary class="cursor-pointer py-1">
        {session.title} <span class="quiet">{day(session.started_at)}</span>
      </summary>
      {#each takes[session.id] ?? [] as take (take.id)}
        <label class="flex flex-wrap items-center gap-x-3 py-1">
          <input
            type="checkbox"
            class="size-5"
            checked={chosen.includes(take.id)}
            onchange={(event) => turn(take.id, event.currentTarget.checked)}
          />
          <TakeShape outcome={take.outcome} size={16} />
          <span>Take {take.number}: {take.exercise_title}</span>
          <span class="quiet min-w-0 truncate"
            >{noteNames(take.written)}, {small(OUTCOME_WORDS[take.outcome])}{take.reason
              ? `, ${labelOf(take.reason)}`
              : ''}</span
          >
        </label>
      {/each}
    </details>
  {:else}
    {#if log.value}<p class="mt-2">No takes yet.</p>{/if}
  {/each}
  {#if log.value}<Pages count={log.value.total} size={SIZE} {page} turn={(to) => (page = to)} />{/if}
</fieldset>

<style>
  input {
    accent-color: var(--ink);
  }
</style>
