<script lang="ts">
  /** On or off. */
  type Props = { label: string; checked: boolean; set: (on: boolean) => void };
  let { label, checked, set }: Props = $props();
</script>

<label class="toggle">
  <input
    type="checkbox"
    role="switch"
    class="sr-only"
    {checked}
    onchange={(event) => set(event.currentTarget.checked)}
  />
  <span class="toggle-track" aria-hidden="true"><span class="toggle-thumb"></span></span>
  {label}
</label>
