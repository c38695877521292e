<script lang="ts">
  import { api, type Player } from '../api/client';
  import { household } from '../state/household.svelte';
  import { words } from '../state/loaded.svelte';
  import { ask, reads } from '../state/reads.svelte';
  import { noteName, noteSigns, sentence } from '../view/words';

  /** What the instrument does, what the player does, and what to do about each. */
  let { player }: { player: Player } = $props();
  const told = reads(() => ask('instrumentOrPlayer', player.id));
  let said = $state<string | null>(null);
  let open = $state(false);
  const found = $derived(told.value);
  const MOST = 45;

  async function learn(take: boolean) {
    try {
      await (take ? api.takeOver(player.id) : api.giveBack(player.id));
      await household.load();
      said = take ? 'Your instrument’s own tuning is used now.' : 'The standard tuning is used again.';
    } catch (error) {
      said = words(error);
    }
  }
  function cents(value: number): string {
    const whole = Math.round(value);
    return whole === 0 ? '0' : `${whole > 0 ? '+' : '−'}${Math.abs(whole)}`;
  }
  const place = (value: number) => `${50 + (50 * Math.max(-MOST, Math.min(MOST, value))) / MOST}%`;
  const width = (low: number, high: number) => `${(50 * (Math.min(MOST, high) - Math.max(-MOST, low))) / MOST}%`;
</script>

<section class="mt-6">
  <h2>Instrument or you?</h2>
  {#if told.trouble}<p role="alert" class="mt-2">{told.trouble}</p>{/if}
  {#if found?.missing}
    <p class="mt-2">{found.missing} Slurs, scales and long tones all count.</p>
  {:else if found}
    <p class="quiet mt-1">From {found.count} notes on {found.days} days.</p>
    <div class="mt-3 grid gap-x-10 gap-y-4 md:grid-cols-2">
      <div>
        <h3 class="you font-semibold">You</h3>
        <ul class="mt-1">
          {#each found.habits as line (line)}<li class="py-1">{sentence(line)}</li>{:else}<li class="quiet py-1">
              No clear habit.
            </li>{/each}
        </ul>
      </div>
      <div>
        <h3 class="instrument font-semibold">Your instrument</h3>
        <ul class="mt-1">
          {#each found.advice as line (line)}<li class="py-1">{sentence(noteSigns(line))}</li>{:else}<li
              class="quiet py-1"
            >
              Nothing to adjust.
            </li>{/each}
        </ul>
      </div>
    </div>
    <p class="quiet mt-2 text-sm">{sentence(found.day_says)}</p>
    <div class="mt-4 flex flex-wrap items-center gap-x-6 gap-y-2 print:hidden">
      <button class="press small" onclick={() => learn(true)}>
        {found.taken_over ? 'Update the tuning' : 'Use this tuning'}
      </button>
      {#if found.taken_over}<button class="press small" onclick={() => learn(false)}>Use the standard tuning</button
        >{/if}
      <button class="line py-2" aria-expanded={open} onclick={() => (open = !open)}>
        {open ? 'Hide notes' : 'Show notes'}
      </button>
    </div>
    {#if said}<p role="status" class="mt-2">{said}</p>{/if}
    {#if open}
      <div class="overflow-x-auto">
        <table class="mt-4 w-full text-left">
          <thead>
            <tr>
              <th scope="col">Written</th>
              <th scope="col">Played</th>
              <th scope="col" class="text-right">Instrument</th>
              <th scope="col" class="text-right">You</th>
              <th scope="col" class="text-right">Rest</th>
              <th scope="col" class="bars"><span class="sr-only">Instrument above, you below</span></th>
              <th scope="col" class="text-right">Notes</th>
            </tr>
          </thead>
          <tbody>
            {#each found.notes as note (note.written + note.fingering + note.partial)}
              {@const off = note.instrument - note.departs.value}
              <tr>
                <th scope="row" class="serif text-xl">{noteName(note.written)}</th>
                <td class="instrument">{note.fingering} <span class="quiet text-sm">partial {note.partial}</span></td>
                <td
                  class="instrument text-right"
                  title="{cents(off + note.departs.low)} to {cents(off + note.departs.high)}"
                >
                  {cents(note.instrument)}
                </td>
                <td class="you text-right" title="{cents(note.player.low)} to {cents(note.player.high)}">
                  {cents(note.player.value)}
                </td>
                <td class="text-right">{cents(note.left.value)}</td>
                <td class="bars" aria-hidden="true">
                  <i
                    class="of-instrument"
                    style="left: {place(off + note.departs.low)}; width: {width(
                      off + note.departs.low,
                      off + note.departs.high,
                    )}"
                  ></i>
                  <i
                    class="of-you"
                    style="left: {place(note.player.low)}; width: {width(note.player.low, note.player.high)}"
                  ></i>
                </td>
                <td class="quiet text-right">{note.notes}</td>
              </tr>
            {/each}
          </tbody>
        </table>
      </div>
      <p class="quiet mt-2 text-sm">Cents, sharp is positive. A longer bar is less certain. “Rest” is neither.</p>
    {/if}
  {/if}
</section>

<style>
  th,
  td {
    padding: 0.2rem 0.75rem 0.2rem 0;
    border-bottom: 1px solid var(--rule);
    vertical-align: baseline;
  }

  thead th {
    font-weight: 500;
    color: var(--ink-soft);
    font-size: 0.9rem;
  }

  .instrument {
    color: var(--verdigris);
  }

  .you {
    color: var(--brass);
  }

  .bars {
    width: 180px;
    min-width: 110px;
    position: relative;
    background: linear-gradient(var(--rule), var(--rule)) center / 1px 80% no-repeat;
  }

  .bars i {
    position: absolute;
    height: 5px;
    min-width: 3px;
  }

  .bars .of-instrument {
    top: 28%;
    background: var(--verdigris);
  }

  .bars .of-you {
    top: 58%;
    background: var(--brass);
  }
</style>
