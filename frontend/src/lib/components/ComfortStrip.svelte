<script lang="ts">
  import { midiOf, naturalsBetween, type Pitch } from '../view/pitch';
  import { roving } from '../view/roving';
  import { noteName } from '../view/words';

  /** Two taps say what is comfortable today: one end, then the other. A third begins anew. Notes are written ones. */
  type Props = {
    low: number;
    high: number;
    from: Pitch | null;
    to: Pitch | null;
    onchange: (from: Pitch | null, to: Pitch | null) => void;
  };
  let { low, high, from, to, onchange }: Props = $props();

  const notes = $derived(naturalsBetween(low, high));
  const [first, last] = $derived([midiOf(from), midiOf(to ?? from)]);

  function tapped(note: Pitch) {
    if (!from || to) onchange(note, null);
    else if (midiOf(note) < midiOf(from)) onchange(note, from);
    else onchange(from, note);
  }

  function name(note: Pitch): string {
    return noteName(`${note.step}${note.octave}`);
  }
</script>

<div
  class="strip"
  role="group"
  aria-label="The lowest and the highest note that are comfortable today"
  {@attach roving}
>
  {#each notes as note (midiOf(note))}
    {@const midi = midiOf(note)}
    <button
      type="button"
      class:within={midi >= first && midi <= last}
      aria-pressed={midi === first || midi === last}
      onclick={() => tapped(note)}>{name(note)}</button
    >
  {/each}
</div>

<style>
  .strip {
    display: flex;
    flex-wrap: wrap;
    gap: 0.25rem;
  }
  button {
    min-width: 2.9rem;
    min-height: 2.2rem;
    border: 1px solid var(--rule);
    color: var(--ink);
  }
  .within {
    background: var(--ink);
    border-color: var(--ink);
    color: var(--paper);
  }
</style>
