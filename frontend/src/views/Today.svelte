<script lang="ts">
  import { api, type PracticeSession, type Schemas } from '../lib/api/client';
  import { navigate } from '../lib/router';
  import { household } from '../lib/state/household.svelte';
  import { noteName } from '../lib/view/words';

  let open = $state<PracticeSession | null>(null);
  let trouble = $state<string | null>(null);
  let values = $state<Record<string, Record<string, string>>>({});

  const player = $derived(household.player);
  const families = $derived(player ? (household.catalogue?.families[player.horn] ?? []) : []);

  $effect(() => {
    if (!player) return;
    void api.latestSession(player.id).then((found) => (open = found));
  });

  function valueOf(family: string, param: Schemas['Param']): string {
    return values[family]?.[param.key] ?? param.default;
  }

  function set(family: string, key: string, value: string) {
    values = { ...values, [family]: { ...values[family], [key]: value } };
  }

  async function start(family: string) {
    if (!player) return;
    trouble = null;
    try {
      const session = await api.openSession({ player_id: player.id, family, params: values[family] ?? {} });
      await navigate('/stand/:id', { params: { id: session.id } });
    } catch (error) {
      trouble = error instanceof Error ? error.message : String(error);
    }
  }
</script>

<svelte:head><title>Today – Orexis</title></svelte:head>

{#if player}
  <section class="mx-auto max-w-5xl p-8 max-sm:p-4">
    <p class="quiet">{player.name}, {household.hornName(player.horn)}, {player.stage}</p>
    <h1 class="mt-1">What would you like to work on?</h1>
    {#if trouble}<p role="alert" class="mt-4">{trouble}</p>{/if}
    {#if open}
      <p class="rule mt-6 flex flex-wrap items-center gap-4 border-y py-4">
        <span class="grow">
          <b>{open.series.title}</b> is still open: figure {open.state.figure_index + 1} of {open.series.figures
            .length},
          {open.state.takes.length}
          {open.state.takes.length === 1 ? 'take' : 'takes'} so far.
        </span>
        <a class="press small inline-flex items-center" href="/stand/{open.id}">Go on with it</a>
      </p>
    {/if}
    <div class="mt-8 grid gap-x-12 gap-y-10 md:grid-cols-2">
      {#each families as family (family.id)}
        <form
          class="rule grid content-start gap-5 border-t pt-5"
          onsubmit={(event) => {
            event.preventDefault();
            void start(family.id);
          }}
        >
          <div>
            <h2>{family.name}</h2>
            <p class="mt-1">{family.purpose}</p>
            <p class="quiet mt-1">{family.asks}</p>
          </div>
          <div class="grid grid-cols-2 gap-4">
            {#each family.params as param (param.key)}
              <label class="field">
                <span>{param.label}{param.kind === 'pitch' ? ', concert' : ''}</span>
                {#if param.kind === 'choice'}
                  <select
                    value={valueOf(family.id, param)}
                    onchange={(e) => set(family.id, param.key, e.currentTarget.value)}
                  >
                    {#each param.choices as choice (choice)}<option>{choice}</option>{/each}
                  </select>
                {:else if param.kind === 'int'}
                  <input
                    type="number"
                    min={param.low}
                    max={param.high}
                    value={valueOf(family.id, param)}
                    oninput={(e) => set(family.id, param.key, e.currentTarget.value)}
                  />
                {:else}
                  <input
                    value={valueOf(family.id, param)}
                    title={noteName(valueOf(family.id, param))}
                    oninput={(e) => set(family.id, param.key, e.currentTarget.value)}
                  />
                {/if}
              </label>
            {/each}
          </div>
          <button class="press first justify-self-start" type="submit">To the stand</button>
        </form>
      {/each}
    </div>
  </section>
{/if}
