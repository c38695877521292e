<script lang="ts">
  import type { LogSession } from '../api/client';
  import { barOf } from '../view/sitting';

  /** A sitting as one line: as long as it lasted, filled as far as was played, the heavy part hatched. */
  let { session }: { session: Pick<LogSession, 'summary'> } = $props();
  const bar = $derived(barOf(session));
</script>

<span class="line" style="width: {Math.max(4, bar.minutes * 4)}px" role="img" aria-label={bar.words} title={bar.words}>
  <i style="width: {bar.played}%"><b style="width: {bar.high}%"></b></i>
</span>

<style>
  .line {
    display: inline-block;
    height: 14px;
    max-width: 100%;
    border: 1px solid var(--ink);
    vertical-align: middle;
  }

  i {
    display: block;
    height: 100%;
    background: var(--ink);
  }

  b {
    display: block;
    height: 100%;
    background: repeating-linear-gradient(135deg, var(--paper) 0 2px, transparent 2px 5px);
  }
</style>
