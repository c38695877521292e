<script lang="ts">
  import { playedOf, shortDate, topOf, weekday, type PlannedDay, type Week } from '../view/weeks';

  /** Weeks as rows, days as columns, load as bars to one scale: planned an outline, played brass; words under each. */
  type Props = {
    weeks: readonly Week[];
    today: number;
    chosen: number | null;
    choose: (day: number) => void;
    /** A day was drawn onto another of its week; by keys and touch it is moved below. */
    move: (from: PlannedDay, to: PlannedDay) => void;
  };
  let { weeks, today, chosen, choose, move }: Props = $props();
  let drawn: { day: PlannedDay; week: Week; x: number; y: number } | null = null;
  let dropped = false; // the click that ends it is no choice
  let over = $state<number | null>(null);
  const MOVED = 8; // pixels: less is a touch of the button

  /** With the mouse only: a finger scrolls. */
  function grasp(event: PointerEvent, week: Week, day: PlannedDay) {
    if (event.pointerType === 'touch' || event.button !== 0 || day.day < today || !day.minutes) return;
    drawn = { day, week, x: event.clientX, y: event.clientY };
    (event.currentTarget as Element).setPointerCapture(event.pointerId);
  }
  function draw(event: PointerEvent) {
    if (!drawn || Math.hypot(event.clientX - drawn.x, event.clientY - drawn.y) < MOVED) return;
    const under = document.elementFromPoint(event.clientX, event.clientY)?.closest<HTMLElement>('[data-day]');
    const there = Number(under?.dataset['day']);
    const free = drawn.week.days.find((day) => day.day === there && day.day >= today && day !== drawn?.day);
    over = free?.day ?? null;
  }
  function drop() {
    const to = drawn?.week.days.find((day) => day.day === over);
    dropped = drawn !== null && to !== undefined;
    if (drawn && to) move(drawn.day, to);
    [drawn, over] = [null, null];
  }
  const top = $derived(topOf(weeks));
  const names = $derived(weeks[0]?.days.map((day) => weekday(day.day)) ?? []);
  const share = (load: number) => `${Math.min(100, (100 * load) / top)}%`;
  const wordOf = (day: PlannedDay) => (day.day < today ? (day.played ? '' : '–') : day.kind === 'off' ? '–' : day.kind);
  const said = (day: PlannedDay) =>
    [
      `${weekday(day.day)} ${shortDate(day.day)}: ${day.kind}`,
      day.minutes ? `${day.minutes} minutes` : '',
      day.played != null ? `load ${Math.round(day.played)} played` : day.target ? `load ${Math.round(day.target)}` : '',
      day.why,
    ]
      .filter(Boolean)
      .join(', ');
</script>

<div class="scroll">
  <table class="weeks">
    <caption class="sr-only">Load by day: played, planned, and why</caption>
    <thead>
      <tr>
        <th class="week"><span class="sr-only">Week</span></th>
        {#each names as name (name)}<th scope="col"><abbr title={name}>{name.slice(0, 2)}</abbr></th>{/each}
        <th scope="col" class="sum">Load</th>
      </tr>
    </thead>
    <tbody>
      {#each weeks as week (week.start)}
        <tr class:now={week.start <= today && today < week.start + 7}>
          <th scope="row">{shortDate(week.start)}</th>
          {#each week.days as day (day.day)}
            <td class:today={day.day === today}>
              <button
                class="day"
                class:over={over === day.day}
                data-day={day.day}
                onpointerdown={(event) => grasp(event, week, day)}
                onpointermove={draw}
                onpointerup={drop}
                onpointercancel={() => ([drawn, over] = [null, null])}
                aria-pressed={chosen === day.day}
                aria-label={said(day)}
                title={said(day)}
                onclick={() => {
                  if (!dropped) choose(day.day);
                  dropped = false;
                }}
              >
                <span class="well">
                  {#if day.day >= today && day.target}
                    <span class="planned {day.kind}" style="height: {share(day.target)}"></span>
                  {/if}
                  {#if day.played}<span class="played" style="height: {share(day.played)}"></span>{/if}
                </span>
                <span class="kind"
                  ><span class="full">{wordOf(day)}</span><span class="short">{wordOf(day).charAt(0)}</span></span
                >
              </button>
            </td>
          {/each}
          <td class="sum">
            {#if week.start > today}
              <b>{Math.round(week.target)}</b> <span class="quiet">planned, at most {Math.round(week.bound)}</span>
            {:else}
              <b>{Math.round(playedOf(week))}</b> <span class="quiet">of at most {Math.round(week.bound)}</span>
            {/if}
            <span class="quiet why">{week.why}</span>
          </td>
        </tr>
      {/each}
    </tbody>
  </table>
</div>

<style>
  .scroll {
    overflow-x: auto;
  }

  .weeks {
    width: 100%;
    border-collapse: collapse;
    table-layout: fixed;
    margin-top: 1.5rem;
  }

  th {
    font-weight: 400;
    color: var(--ink-soft);
    text-align: left;
    padding: 0.25rem 0.5rem 0.25rem 0;
    vertical-align: bottom;
    white-space: nowrap;
  }

  th.week {
    width: 5.5rem;
  }

  th.sum {
    width: 17rem;
    padding-left: 1.25rem;
  }

  thead th:not(.sum) {
    text-align: center;
  }

  abbr {
    text-decoration: none;
  }

  tbody tr {
    border-top: 1px solid var(--rule);
  }

  tr.now {
    border-top: 1.5px solid var(--ink);
    border-bottom: 1.5px solid var(--ink);
  }

  tr.now > th {
    color: var(--ink);
    font-weight: 600;
  }

  td {
    padding: 0;
  }

  td.sum {
    padding: 0.5rem 0 0.5rem 1.25rem;
    vertical-align: middle;
  }

  .why {
    display: block;
    font-size: 0.85rem;
  }

  .day {
    display: grid;
    width: 100%;
    min-width: 44px;
    min-height: 64px;
    padding: 6px 4px 4px;
    cursor: pointer;
  }

  .day[aria-pressed='true'] {
    background: var(--paper-deep);
    box-shadow: inset 0 -2px 0 var(--ink);
  }

  .day.over {
    box-shadow: inset 0 0 0 1.5px var(--ink);
  }

  .today .kind {
    font-weight: 650;
    color: var(--ink);
  }

  .well {
    position: relative;
    height: 40px;
    border-bottom: 1px solid var(--ink);
  }

  .planned,
  .played {
    position: absolute;
    bottom: 0;
    left: 22%;
    right: 22%;
  }

  .planned {
    border: 1.5px solid var(--ink);
    border-bottom: 0;
  }

  .planned.heavy {
    background: repeating-linear-gradient(135deg, var(--ink) 0 2px, transparent 2px 6px);
  }

  .planned.light {
    border-style: dashed;
  }

  .played {
    background: var(--brass);
    left: 30%;
    right: 30%;
  }

  .short {
    display: none;
  }

  .kind {
    min-height: 1.3em;
    font-size: 0.85rem;
    color: var(--ink-soft);
    text-align: center;
  }

  @media (max-width: 48rem) {
    th.week {
      width: 4rem;
    }

    th.sum {
      width: 7rem;
    }

    .why,
    .full {
      display: none;
    }

    .short {
      display: inline;
    }
  }
</style>
