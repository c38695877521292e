<script lang="ts">
  import { api, type Weeks } from '../lib/api/client';
  import DayChange from '../lib/components/DayChange.svelte';
  import Programmes from '../lib/components/Programmes.svelte';
  import WeekTable from '../lib/components/WeekTable.svelte';
  import { household } from '../lib/state/household.svelte';
  import { Loaded, words } from '../lib/state/loaded.svelte';
  import { isoOf, weekday } from '../lib/view/weeks';

  const shown = new Loaded<Weeks>();
  const found = $derived(shown.value);
  const player = $derived(household.player);
  let chosen = $state<number | null>(null);
  let said = $state<string | null>(null);

  $effect(() => {
    const id = player?.id;
    void [player?.standard];
    if (id) void shown.load(() => api.weeks(id));
  });
  const at = $derived(chosen ?? found?.today ?? null);
  const week = $derived(found?.weeks.find((item) => at !== null && item.start <= at && at < item.start + 7) ?? null);
  const day = $derived(week?.days.find((item) => item.day === at) ?? null);
  const now = $derived(found?.weeks.find((item) => item.start <= found.today && found.today < item.start + 7) ?? null);
  const left = $derived(now ? Math.max(0, now.bound - now.days.reduce((sum, item) => sum + (item.played ?? 0), 0)) : 0);

  async function change(settings: { minutes?: number[]; performances?: string[]; moved?: Record<string, number> }) {
    if (!player) return;
    said = null;
    try {
      await api.changeSettings(player.id, settings);
      household.players = household.players.map((item) =>
        item.id === player.id ? { ...item, settings: { ...item.settings, ...settings } as typeof item.settings } : item,
      );
      await shown.load(() => api.weeks(player.id));
    } catch (error) {
      said = words(error);
    }
  }
  const setWeekday = (index: number, minutes: number) =>
    change({ minutes: (found?.minutes ?? []).map((own, i) => (i === index ? minutes : own)) });
  const setMinutes = (days: Record<string, number>) => void change({ moved: { ...found?.moved, ...days } });
  const setPerformance = (iso: string, on: boolean) =>
    void change({
      performances: [...(found?.performances ?? []).filter((item) => item !== iso), ...(on ? [iso] : [])],
    });
</script>

<svelte:head><title>Weeks – Orexis</title></svelte:head>

{#if player && found}
  <section class="mx-auto max-w-6xl p-8 max-sm:p-4">
    <h1>{now ? `This week has room for a load of ${Math.round(left)}` : 'Weeks'}</h1>
    <p class="quiet mt-1">
      Load counts seconds of tone, more for what is high and loud. It grows by a tenth a week at the most; the plan is
      made anew each night from what was really played.
    </p>
    {#each found.warnings as line (line)}<p class="mt-3"><b>{line}</b></p>{/each}
    {#if shown.trouble || said}<p role="alert" class="mt-3">{shown.trouble ?? said}</p>{/if}
    <WeekTable
      weeks={found.weeks}
      today={found.today}
      chosen={at}
      choose={(item) => (chosen = item)}
      move={(from, to) => {
        setMinutes({ [isoOf(from.day)]: 0, [isoOf(to.day)]: from.minutes });
        chosen = to.day;
      }}
    />
    <p class="quiet mt-2 text-sm">
      <span class="key planned"></span> planned <span class="key heavy"></span> heavy <span class="key light"></span>
      light
      <span class="key played"></span> played
    </p>
    {#if day && week}
      <DayChange {day} {week} today={found.today} performances={found.performances} {setMinutes} {setPerformance} />
    {/if}
    <fieldset class="mt-6">
      <legend class="quiet">Minutes you can give, week by week</legend>
      <div class="mt-2 flex flex-wrap gap-4">
        {#each found.minutes as minutes, index (index)}
          <label class="grid gap-1">
            <span class="quiet text-sm">{weekday(1 + index)}</span>
            <input
              class="number"
              type="number"
              min="0"
              max="120"
              step="5"
              value={minutes}
              onchange={(event) => void setWeekday(index, Number(event.currentTarget.value))}
            />
          </label>
        {/each}
      </div>
    </fieldset>
    <p class="mt-6">
      <a class="line inline-block py-2" href={api.paperUrl(player.id, 'weeks.ics')} download
        >The weeks for your calendar</a
      >
    </p>
    <Programmes playerId={player.id} />
  </section>
{:else if shown.trouble}
  <p role="alert" class="p-8">{shown.trouble}</p>
{:else}
  <p role="status" class="p-8">One moment …</p>
{/if}

<style>
  .key {
    display: inline-block;
    width: 12px;
    height: 12px;
    margin-left: 0.8rem;
    vertical-align: -1px;
    border: 1.5px solid var(--ink);
  }

  .key.heavy {
    background: repeating-linear-gradient(135deg, var(--ink) 0 2px, transparent 2px 5px);
  }

  .key.light {
    border-style: dashed;
  }

  .key.played {
    background: var(--brass);
    border-color: var(--brass);
  }
</style>
