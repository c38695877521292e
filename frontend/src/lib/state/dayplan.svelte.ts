/** The day as it is planned, with what the player changes in it before it begins. Nothing of it is kept until it is opened. */
import { api, type DayBlock, type DayIn, type DayShown, type Lips, type OwnRoutine } from '../api/client';
import { Loaded } from './loaded.svelte';

type Kept = NonNullable<DayIn['kept']>[number];

export class DayPlanner {
  minutes = $state(30);
  lips = $state<Lips>('fresh');
  kept = $state<Kept[]>([]);
  without = $state<string[]>([]);
  /** Exactly the kept blocks, in their order. */
  arranged = $state(false);
  routine = $state<string | null>(null);
  readonly shown = new Loaded<DayShown>();

  get blocks(): DayBlock[] {
    return this.shown.value?.plan.blocks ?? [];
  }

  get changed(): boolean {
    return this.kept.length > 0 || this.without.length > 0;
  }

  nameOf = (family: string): string => this.shown.value?.names[family] ?? family;

  /** What is asked of the server. */
  wish(quiet: boolean, anyway = false): DayIn {
    const { minutes, lips, arranged } = this;
    return { minutes, lips, quiet, kept: [...this.kept], without: [...this.without], arranged, anyway };
  }

  async load(playerId: string, quiet: boolean): Promise<void> {
    const asked = this.wish(quiet);
    await this.shown.load(() => api.planDay(playerId, asked));
  }

  /** A block stays whatever else is composed; a second touch lets it go. */
  hold(block: DayBlock): void {
    if (this.#isKept(block.family)) this.kept = this.kept.filter((item) => item.family !== block.family);
    else this.kept = [...this.kept, this.#as(block)];
  }

  swap(block: DayBlock, family: string): void {
    const next: Kept = { family, minutes: block.minutes, params: {} };
    if (this.arranged) this.kept = this.kept.map((item) => (item.family === block.family ? next : item));
    else {
      this.without = [...this.without, block.family];
      this.kept = [...this.kept.filter((item) => item.family !== block.family), next];
    }
  }

  drop(block: DayBlock): void {
    this.kept = this.kept.filter((item) => item.family !== block.family);
    if (!this.arranged) this.without = [...this.without, block.family];
  }

  add(family: string): void {
    this.without = this.without.filter((item) => item !== family);
    this.kept = [...this.kept, { family, minutes: 5, params: {} }];
  }

  last(block: DayBlock, minutes: number): void {
    const item = { ...this.#as(block), minutes };
    this.kept = this.#isKept(block.family)
      ? this.kept.map((known) => (known.family === block.family ? item : known))
      : [...this.kept, item];
  }

  /** Move a block to another place; from here on the order is the player's. */
  moveTo(index: number, to: number): void {
    const all = this.blocks.map((block) => this.#as(block));
    if (to < 0 || to >= all.length || to === index) return;
    const [one] = all.splice(index, 1);
    if (!one) return;
    all.splice(to, 0, one);
    [this.kept, this.without, this.arranged] = [all, [], true];
  }

  take(routine: OwnRoutine): void {
    this.kept = routine.blocks.map(({ family, minutes, params }) => ({ family, minutes, params }));
    [this.without, this.arranged, this.routine] = [[], true, routine.id];
  }

  asComposed(): void {
    [this.kept, this.without, this.arranged, this.routine] = [[], [], false, null];
  }

  #isKept(family: string): boolean {
    return this.kept.some((item) => item.family === family);
  }

  #as(block: DayBlock): Kept {
    const known = this.kept.find((item) => item.family === block.family);
    // What was set a moment ago counts, though the answer may not have come yet.
    return { family: block.family, minutes: known?.minutes ?? block.minutes, params: known?.params ?? {} };
  }
}
