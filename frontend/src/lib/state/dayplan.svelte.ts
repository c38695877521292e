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

  nameOf = (exercise_type: string): string => this.shown.value?.names[exercise_type] ?? exercise_type;

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
    if (this.#isKept(block.exercise_type))
      this.kept = this.kept.filter((item) => item.exercise_type !== block.exercise_type);
    else this.kept = [...this.kept, this.#as(block)];
  }

  swap(block: DayBlock, exercise_type: string): void {
    const next: Kept = { exercise_type, minutes: block.minutes, params: {} };
    if (this.arranged) this.kept = this.kept.map((item) => (item.exercise_type === block.exercise_type ? next : item));
    else {
      this.without = [...this.without, block.exercise_type];
      this.kept = [...this.kept.filter((item) => item.exercise_type !== block.exercise_type), next];
    }
  }

  drop(block: DayBlock): void {
    this.kept = this.kept.filter((item) => item.exercise_type !== block.exercise_type);
    if (!this.arranged) this.without = [...this.without, block.exercise_type];
  }

  add(exercise_type: string): void {
    this.without = this.without.filter((item) => item !== exercise_type);
    this.kept = [...this.kept, { exercise_type, minutes: 5, params: {} }];
  }

  last(block: DayBlock, minutes: number): void {
    const item = { ...this.#as(block), minutes };
    this.kept = this.#isKept(block.exercise_type)
      ? this.kept.map((known) => (known.exercise_type === block.exercise_type ? item : known))
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
    this.kept = routine.blocks.map(({ exercise_type, minutes, params }) => ({ exercise_type, minutes, params }));
    [this.without, this.arranged, this.routine] = [[], true, routine.id];
  }

  asComposed(): void {
    [this.kept, this.without, this.arranged, this.routine] = [[], [], false, null];
  }

  #isKept(exercise_type: string): boolean {
    return this.kept.some((item) => item.exercise_type === exercise_type);
  }

  #as(block: DayBlock): Kept {
    const known = this.kept.find((item) => item.exercise_type === block.exercise_type);
    // What was set a moment ago counts, though the answer may not have come yet.
    return {
      exercise_type: block.exercise_type,
      minutes: known?.minutes ?? block.minutes,
      params: known?.params ?? {},
    };
  }
}
