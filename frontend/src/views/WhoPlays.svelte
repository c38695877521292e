<script lang="ts">
  import { type Glance } from '../lib/api/client';
  import { tick } from 'svelte';
  import { navigate, route } from '../lib/router';
  import { household } from '../lib/state/household.svelte';
  import { ask, reads } from '../lib/state/reads.svelte';
  import { sentence, small, STANDARD_WORDS } from '../lib/view/words';
  import { counted } from '../lib/view/numbers';

  /** Who is playing, and how everybody stands: whoever looks after several sees it here. */
  const seen = reads(() => ask('household'));
  const of = (id: string) => seen.value?.find((one) => one.player_id === id) ?? null;

  function when(glance: Glance): string {
    if (glance.days_ago == null) return 'No practice yet';
    /* @wc-include */
    const [today, yesterday] = ['today', 'yesterday'];
    const last = glance.days_ago === 0 ? today : glance.days_ago === 1 ? yesterday : `${glance.days_ago} days ago`;
    const days = counted(glance.days_this_week, ['# day this week', '# days this week']);
    const minutes = `${Math.round(glance.minutes_this_week)} min of playing, ${Math.round(glance.minutes_last_week)} the week before`;
    return `played ${last}; ${days}, ${minutes}`;
  }
  async function choose(id: string, to: '/' | '/progress/sessions' = '/') {
    household.choose(id);
    await tick(); // the router comes in with the player, and goes first
    if (route.pathname !== to) await navigate(to);
  }
</script>

<svelte:head><title>Who is playing? – Orexis</title></svelte:head>
<section class="mx-auto w-full max-w-3xl p-8 max-sm:p-4">
  <h1>Who is playing?</h1>
  {#if household.teachers.length}
    <p class="quiet mt-2">How everybody practises is seen by {household.teachers.map((one) => one.name).join(', ')}.</p>
  {/if}
  <ul class="mt-6 grid gap-4">
    {#each household.own as player (player.id)}
      {@const glance = of(player.id)}
      <li class="rule border-b pb-4">
        <button class="press w-full text-left" onclick={() => choose(player.id)}>
          {player.name}
          <span class="quiet ml-3 text-base"
            >{household.instrumentName(player.instrument)}, {small(STANDARD_WORDS[player.standard])}</span
          >
        </button>
        {#if glance}
          <p class="mt-2">{sentence(when(glance))}</p>
          {#if glance.stuck}<p class="quiet">Stuck: {glance.stuck}</p>{/if}
        {/if}
      </li>
    {/each}
    {#if household.guests.length}
      <li>
        <h2>Guests</h2>
        <p class="quiet mt-1">They came with a file. You can listen to their takes.</p>
      </li>
      {#each household.guests as guest (guest.id)}
        {@const glance = of(guest.id)}
        <li class="rule border-b pb-4">
          <button class="line py-2 text-left" onclick={() => choose(guest.id, '/progress/sessions')}
            >{guest.name}</button
          >
          <span class="quiet ml-3"
            >{household.instrumentName(guest.instrument)}, {small(STANDARD_WORDS[guest.standard])}</span
          >
          {#if glance?.stuck}<p class="quiet">Stuck: {glance.stuck}</p>{/if}
        </li>
      {/each}
    {/if}
    <li><a class="line inline-block py-2" href="/welcome" onclick={() => (household.asked = true)}>Add a player</a></li>
  </ul>
</section>
