<script lang="ts">
  /** A file from this machine, by touch or keys. */
  type Props = { label: string; take: (file: File) => unknown; accept?: string };
  let { label, take, accept = '.zip,application/zip' }: Props = $props();
</script>

<label class="file cursor-pointer py-2">
  {label}
  <input
    type="file"
    {accept}
    class="sr-only"
    onchange={(event) => {
      const file = event.currentTarget.files?.[0];
      if (file) void take(file);
      event.currentTarget.value = '';
    }}
  />
</label>

<style>
  .file {
    border-bottom: 1px solid var(--ink);
  }

  .file:focus-within {
    outline: 2px solid var(--ink);
    outline-offset: 3px;
  }
</style>
