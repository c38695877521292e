/** An exercise: what is chosen, its parameters, what is shown and heard of it. */
import { saveBlob } from '../view/save';
import {
  api,
  type ExerciseType,
  type Material,
  type OwnExercise,
  type Param,
  type SeriesView,
  type Wish,
} from '../api/client';
import { words } from './loaded.svelte';

export class ExerciseBrowser {
  material = $state<Material | null>(null);
  own = $state<OwnExercise[]>([]);
  /** An exercise_type's id, or a kept exercise. */
  exerciseTypeId = $state<string>('long-low-tones');
  kept = $state<OwnExercise | null>(null);
  values = $state<Record<string, string>>({});
  index = $state(0);
  shown = $state<SeriesView | null>(null);
  /** Why nothing can be shown for these parameters; gone with the next answer. */
  #unshown = $state<string | null>(null);
  /** Why the last thing asked for was not done; stays until the next is asked for. */
  refused = $state<string | null>(null);
  said = $state<string | null>(null);
  playing = $state(false);
  /** The note that sounds now. */
  sounding = $state<string | null>(null);
  #audio: HTMLAudioElement | null = null;
  #asked = 0;

  constructor(readonly playerId: string) {}

  get trouble(): string | null {
    return this.refused ?? this.#unshown;
  }

  get exerciseType(): ExerciseType | null {
    const id = this.kept?.exercise_type ?? this.exerciseTypeId;
    return this.material?.exercise_types.find((item) => item.id === id) ?? null;
  }

  /** `id`: an exercise, or one of the player's own. */
  async load(id?: string): Promise<void> {
    [this.material, this.own] = await Promise.all([api.material(this.playerId), api.ownExercises(this.playerId)]);
    const own = this.own.find((item) => item.id === id);
    if (own) return this.chooseOwn(own);
    if (id) this.exerciseTypeId = id;
    await this.show();
  }

  async choose(exerciseTypeId: string): Promise<void> {
    this.#anew();
    [this.exerciseTypeId, this.kept, this.values, this.index, this.said] = [exerciseTypeId, null, {}, 0, null];
    await this.show();
  }

  async chooseOwn(item: OwnExercise): Promise<void> {
    this.#anew();
    [this.kept, this.values, this.index, this.said] = [item, { ...item.params }, 0, null];
    await this.show();
  }

  /** What may be changed of what is shown: nothing of an exercise that came as one. */
  get params(): Param[] {
    if (this.kept?.exercise) return [];
    return this.kept?.choices?.length ? this.kept.choices : (this.exerciseType?.params ?? []);
  }

  /** The parameter that names notes with their fingerings, while they are taken by hand. */
  get byHand(): Param | null {
    const way = this.params.find((item) => item.key === 'way');
    if (!way || this.valueOf(way) !== 'by hand') return null;
    return this.params.find((item) => item.kind === 'ways') ?? null;
  }

  valueOf(param: Param): string {
    return this.values[param.key] ?? param.default;
  }

  async set(key: string, value: string): Promise<void> {
    this.#anew();
    this.values = { ...this.values, [key]: value };
    if (key !== 'fingerings') this.index = 0;
    // Other notes have come: what was said of the old ones by hand says nothing of them.
    if (!['fingerings', 'way', 'tempo'].includes(key)) delete this.values.fingerings;
    // Once a parameter has changed it is the exercise type again, not the kept exercise.
    if (this.kept && !this.kept.exercise && !this.kept.choices?.length)
      [this.exerciseTypeId, this.kept] = [this.kept.exercise_type, null];
    await this.show();
  }

  /** Several parameters at once: a step of the exercise_type's path. */
  async take(params: Record<string, string>): Promise<void> {
    this.#anew();
    this.values = { ...this.values, ...params };
    delete this.values.fingerings;
    this.index = 0;
    await this.show();
  }

  async turnTo(index: number): Promise<void> {
    this.#anew();
    this.index = index;
    await this.show();
  }

  get wish(): Wish {
    return {
      player_id: this.playerId,
      exercise_type: this.exerciseTypeId,
      params: this.kept && !this.kept.choices?.length ? {} : this.values,
      own: this.kept?.id ?? null,
      index: this.index,
    };
  }

  /** The latest answer counts; an older one that comes late is dropped. */
  async show(): Promise<void> {
    const mine = ++this.#asked;
    try {
      const view = await api.viewExercise(this.wish);
      if (mine === this.#asked) [this.shown, this.#unshown] = [view, null];
    } catch (error) {
      if (mine === this.#asked) this.#unshown = words(error);
    }
  }

  async hear(): Promise<void> {
    if (this.playing) return this.stop();
    const view = this.shown?.exercise;
    if (!view) return;
    try {
      const wav = await api.hearExercise({ ...this.wish, click: true });
      const audio = new Audio(URL.createObjectURL(new Blob([wav], { type: 'audio/wav' })));
      this.#audio = audio;
      audio.onended = () => this.stop();
      this.playing = true;
      await audio.play();
      const follow = () => {
        if (this.#audio !== audio) return;
        const now = audio.currentTime;
        const note = view.notes.find((n) => now >= n.start_s && now < n.start_s + n.duration_s);
        this.sounding = note?.id ?? null;
        requestAnimationFrame(follow);
      };
      follow();
    } catch (error) {
      this.stop();
      this.refused = words(error);
    }
  }

  #anew(): void {
    this.stop();
    this.refused = null;
  }

  stop(): void {
    if (this.#audio) {
      this.#audio.pause();
      URL.revokeObjectURL(this.#audio.src);
    }
    this.#audio = null;
    this.playing = false;
    this.sounding = null;
  }

  async keep(name: string): Promise<void> {
    this.refused = null;
    try {
      await api.keepExercise({ ...this.wish, name });
      this.own = await api.ownExercises(this.playerId);
      this.said = `Saved as “${name}”.`;
    } catch (error) {
      this.refused = words(error);
    }
  }

  async forget(item: OwnExercise): Promise<void> {
    this.refused = null;
    try {
      await api.forgetExercise(this.playerId, item.id);
      this.own = await api.ownExercises(this.playerId);
      await this.choose(item.exercise_type);
      this.said = `“${item.name}” is deleted.`;
    } catch (error) {
      this.refused = words(error);
    }
  }

  async read(file: File): Promise<void> {
    [this.refused, this.said] = [null, null];
    try {
      const made = await api.importExercise(this.playerId, file, 0);
      this.own = await api.ownExercises(this.playerId);
      await this.chooseOwn(made);
      this.said = `“${made.name}” is saved under your own exercises.`;
    } catch (error) {
      this.refused = words(error);
    }
  }

  async save(format: 'json' | 'musicxml' | 'midi' | 'sheet' | 'series'): Promise<void> {
    this.refused = null;
    try {
      const paper = format === 'sheet' || format === 'series';
      const blob = paper
        ? await api.printExercise(this.wish, format === 'series')
        : await api.exportExercise({ ...this.wish, format });
      const name = (format === 'series' ? this.shown?.title : this.shown?.exercise.exercise.id) ?? 'exercise';
      const ending = paper ? 'pdf' : format === 'midi' ? 'mid' : format;
      saveBlob(blob, `${name.toLowerCase().replace(/[^a-z0-9]+/g, '-')}.${ending}`);
    } catch (error) {
      this.refused = words(error);
    }
  }
}
