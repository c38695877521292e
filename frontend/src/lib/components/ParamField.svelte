<script lang="ts">
  import type { Material, Param } from '../api/client';
  import { noteName } from '../view/words';

  /** One parameter of an exercise: notes as the player writes them, fingerings of the instrument. */
  type Props = { param: Param; value: string; material: Material; set: (value: string) => void };
  let { param, value, material, set }: Props = $props();
  const known = $derived(material.notes.some((note) => note.sounding === value));
</script>

<label class="field">
  <span>{param.label}</span>
  {#if param.kind === 'int'}
    <input
      type="number"
      min={param.low}
      max={param.high}
      {value}
      oninput={(event) => event.currentTarget.value !== '' && set(event.currentTarget.value)}
    />
  {:else}
    <select {value} onchange={(event) => set(event.currentTarget.value)}>
      {#if param.kind === 'choice'}
        {#each param.choices as choice, at (choice)}<option value={choice}>{param.words?.[at] ?? choice}</option>{/each}
      {:else if param.kind === 'pitch'}
        {#if !known}<option {value}>{noteName(value)} (sounding)</option>{/if}
        {#each material.notes as note (note.sounding)}
          <option value={note.sounding}>{noteName(note.written)}</option>
        {/each}
      {:else}
        <option value="all">all in turn</option>
        <option value="few">the three shortest</option>
        {#each material.fingerings as fingering (fingering)}<option>{fingering}</option>{/each}
      {/if}
    </select>
  {/if}
</label>
