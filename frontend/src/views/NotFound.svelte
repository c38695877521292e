<script lang="ts">
  import { route } from '../lib/router';
</script>

<svelte:head><title>Nothing here – Orexis</title></svelte:head>
<section class="mx-auto max-w-2xl p-8">
  <h1>Nothing here</h1>
  <p class="my-4">There is no page “{route.pathname.slice(0, 60)}”.</p>
  <a class="line" href="/">To today</a>
</section>
