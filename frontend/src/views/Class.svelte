<script lang="ts">
  import { tick } from 'svelte';
  import { api, type ClassMember, type Player, type Schemas } from '../lib/api/client';
  import ClassGoalForm from '../lib/components/ClassGoalForm.svelte';
  import GiveLesson from '../lib/components/GiveLesson.svelte';
  import WeekStrip from '../lib/components/WeekStrip.svelte';
  import { navigate } from '../lib/router';
  import { household } from '../lib/state/household.svelte';
  import { words } from '../lib/state/loaded.svelte';
  import { ask, reads } from '../lib/state/reads.svelte';
  import { counted } from '../lib/view/numbers';
  import { dateInWords } from '../lib/view/weeks';
  import { noteSigns, sentence, STANDARD_WORDS } from '../lib/view/words';

  /** A teacher's class: how everybody practises this week, and what is given to them. */
  const found = reads(() => ask('classOfTheWeek'));
  const members = $derived(found.value?.members ?? []);
  const practised = $derived(members.filter((one) => one.minutes.some((minutes) => minutes > 0)).length);
  const most = $derived(Math.max(10, ...members.flatMap((one) => one.minutes)));
  let chosen = $state<string[]>([]);
  let giving = $state<'lesson' | 'goal' | null>(null);
  let said = $state<string[]>([]);
  const playerOf = (id: string) => household.own.find((player) => player.id === id);
  const nameOf = (id: string) => playerOf(id)?.name ?? '';
  const all = $derived(members.length > 0 && chosen.length === members.length);

  async function open(id: string, to: '/progress/sessions' | '/progress' | '/plan') {
    household.visit(id);
    await tick(); // the router comes in with the player, and goes first
    await navigate(to);
  }
  async function setLevel(player: Player, standard: string) {
    try {
      const { name, instrument, part, a4_hz } = player;
      await api.changePlayer(player.id, { name, instrument, part, a4_hz, standard: standard as Schemas['Standard'] });
      await household.load();
      said = [];
    } catch (error) {
      said = [words(error)];
    }
  }
  function given(refused: string[]) {
    said = refused.length ? refused : ['Done.'];
    giving = null;
    chosen = [];
  }
  const heading = (says: string) => noteSigns(says).replace(/^./, (first) => first.toUpperCase());
  const lines = (one: ClassMember) =>
    [
      ['Better', one.better],
      ['Slipped', one.slipped],
      ['Stuck', one.stuck],
      ['Lips', one.lips && one.lips_day ? `${one.lips}, ${dateInWords(one.lips_day)}` : null],
    ].filter((line): line is [string, string] => Boolean(line[1]));
</script>

<svelte:head><title>Class – Orexis</title></svelte:head>

<section class="mx-auto w-full max-w-6xl p-8 max-sm:p-4">
  <h1>Class</h1>
  {#if found.trouble}<p role="alert" class="mt-3">{found.trouble}</p>{/if}
  {#if found.value && !found.value.teachers.length}
    <p class="mt-3 text-lg">
      Nobody teaches here yet. Whoever does turns it on in <a class="line" href="/settings">Settings</a>.
    </p>
  {:else if found.value && !members.length}
    <p class="mt-3 text-lg">There is nobody to teach yet. <a class="line" href="/welcome">Add a player</a></p>
  {:else if found.value}
    <p class="mt-2 text-lg">
      {practised} of {counted(members.length, ['# player', '# players'])} practised this week.
    </p>
    <div class="mt-5 flex flex-wrap items-center gap-x-6 gap-y-2">
      <label class="flex min-h-11 items-center gap-3">
        <input
          type="checkbox"
          checked={all}
          onchange={(event) => (chosen = event.currentTarget.checked ? members.map((one) => one.player_id) : [])}
        />Everybody
      </label>
      <button
        class="press small"
        disabled={!chosen.length}
        aria-expanded={giving === 'lesson'}
        onclick={() => (giving = giving === 'lesson' ? null : 'lesson')}>Give a lesson</button
      >
      <button
        class="press small"
        disabled={!chosen.length}
        aria-expanded={giving === 'goal'}
        onclick={() => (giving = giving === 'goal' ? null : 'goal')}>Give a goal</button
      >
      <span class="quiet">
        {chosen.length ? counted(chosen.length, ['# player chosen', '# players chosen']) : 'Choose who gets it.'}
      </span>
    </div>
    {#if giving && chosen.length}
      <div class="rule mt-4 border-y py-5">
        {#if giving === 'lesson'}<GiveLesson players={chosen} {given} />{:else}<ClassGoalForm
            players={chosen}
            {given}
          />{/if}
      </div>
    {/if}
    {#each said as line (line)}<p role="status" class="mt-3">{line}</p>{/each}

    <ul class="mt-4" aria-label="Players">
      {#each members as one (one.player_id)}
        {@const player = playerOf(one.player_id)}
        {#if player}
          <li class="row rule border-t py-3">
            <input type="checkbox" value={one.player_id} bind:group={chosen} aria-label="Choose {player.name}" />
            <div class="who">
              <p><b class="serif text-xl">{player.name}</b></p>
              <p class="quiet">{household.instrumentName(player.instrument)}</p>
              <label>
                <span class="sr-only">Level of {player.name}</span>
                <select
                  class="plain"
                  value={player.standard}
                  onchange={(event) => void setLevel(player, event.currentTarget.value)}
                >
                  {#each household.catalogue?.standards ?? [] as standard (standard)}
                    <option value={standard}>{STANDARD_WORDS[standard]}</option>
                  {/each}
                </select>
              </label>
            </div>
            <WeekStrip minutes={one.minutes} before={one.last_week_minutes} {most} last={one.last_day ?? null} />
            <div class="told">
              {#each lines(one) as [name, line] (name)}
                <p class:lips={name === 'Lips'}><span class="quiet">{name}</span> {noteSigns(sentence(line))}</p>
              {:else}<p class="quiet">Nothing to tell yet.</p>{/each}
              {#if one.open_lessons}
                <p class="quiet">{counted(one.open_lessons, ['# lesson not added yet', '# lessons not added yet'])}</p>
              {/if}
            </div>
            <p class="doors">
              <button class="line py-2" onclick={() => void open(one.player_id, '/progress/sessions')}>Sessions</button>
              <button class="line py-2" onclick={() => void open(one.player_id, '/progress')}>Progress</button>
              <button class="line py-2" onclick={() => void open(one.player_id, '/plan')}>Plan</button>
              <a class="line py-2" href={api.sheetUrl(one.player_id, 'week.pdf')} download>Print week</a>
            </p>
          </li>
        {/if}
      {/each}
    </ul>

    {#each found.value.goals as goal (goal.says)}
      <h2 class="mt-10">{heading(goal.says)} <span class="quiet">by {dateInWords(goal.by)}</span></h2>
      <ul class="mt-3 grid gap-x-10 gap-y-1 lg:grid-cols-2">
        {#each goal.players as way (way.player_id)}
          <li class="way">
            <span>{nameOf(way.player_id)}</span>
            <span class="bar" role="img" aria-label="{Math.round(100 * way.share)}% done">
              <span style="width: {100 * way.share}%"></span>
            </span>
            <span class="quiet">
              {#if way.state === 'reached' && way.ended}reached {dateInWords(way.ended)}
              {:else if way.state === 'paused'}paused
              {:else if way.median}likely {dateInWords(way.median)}
              {:else}{noteSigns(way.now)}{/if}
            </span>
          </li>
        {/each}
      </ul>
    {/each}
  {/if}
</section>

<style>
  .row {
    display: grid;
    grid-template-columns: auto 12rem 11rem 1fr auto;
    gap: 0.5rem 1.5rem;
    align-items: start;
  }

  .row > input {
    margin-top: 0.5rem;
  }

  .lips {
    color: var(--oxblood);
  }

  .doors {
    display: grid;
    grid-template-columns: auto auto;
    gap: 0 1.5rem;
    justify-items: start;
  }

  input {
    accent-color: var(--ink);
  }

  .way {
    display: grid;
    grid-template-columns: 8rem 1fr 11rem;
    gap: 1rem;
    align-items: center;
  }

  .bar {
    height: 10px;
    border: 1px solid var(--ink);
    border-width: 0 1.5px 1.5px;
  }

  .bar span {
    display: block;
    height: 100%;
    background: var(--brass);
  }

  @media (max-width: 64rem) {
    .row {
      grid-template-columns: auto 1fr 12rem;
    }

    .told,
    .doors {
      grid-column: 2 / -1;
    }

    .doors {
      display: flex;
      flex-wrap: wrap;
      gap: 0 1.5rem;
    }
  }

  @media (max-width: 40rem) {
    .row {
      grid-template-columns: auto 1fr;
    }

    .row > :global(.strip) {
      grid-column: 2;
    }

    .way {
      grid-template-columns: 1fr 1fr;
    }

    .way .bar {
      grid-column: 1 / -1;
      order: 3;
    }
  }
</style>
