<script lang="ts">
  import { household } from '../lib/state/household.svelte';
</script>

<svelte:head><title>Who is playing? – Orexis</title></svelte:head>
<section class="mx-auto max-w-2xl p-8 max-sm:p-4">
  <h1>Who is playing?</h1>
  <ul class="mt-6 grid gap-3">
    {#each household.players as player (player.id)}
      <li>
        <button class="press w-full text-left" onclick={() => household.choose(player.id)}>
          {player.name}
          <span class="quiet ml-3 text-base">{household.hornName(player.horn)}</span>
        </button>
      </li>
    {/each}
    <li><a class="line inline-block py-2" href="/welcome" onclick={() => (household.asked = true)}>Somebody new</a></li>
  </ul>
</section>
