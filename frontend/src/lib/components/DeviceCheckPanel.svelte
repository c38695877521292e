<script lang="ts">
  import { DeviceCheck } from '../state/deviceCheck.svelte';
  import { household } from '../state/household.svelte';
  import { deviceInWords } from '../view/words';

  const check = new DeviceCheck();
  void check.load();
</script>

<div class="grid gap-3">
  <p class="quiet text-sm">
    Orexis plays eight clicks and listens. Then it knows whether you’re early or late. Stay quiet for six seconds.
  </p>
  <button
    class="press small justify-self-start"
    disabled={check.running}
    onclick={() => check.run(household.deviceId ?? null)}
  >
    {check.running ? 'Listening …' : 'Check this microphone'}
  </button>
  {#if check.trouble}<p role="alert">{check.trouble}</p>{/if}
  {#if check.found}
    <dl class="grid grid-cols-[auto_1fr] gap-x-6 gap-y-1">
      {#each deviceInWords(check.found) as [name, value] (name)}
        <dt class="quiet">{name}</dt>
        <dd>{value}</dd>
      {/each}
    </dl>
  {/if}
</div>
