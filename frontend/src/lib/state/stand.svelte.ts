/** The stand: one session as its window sees it. The server owns the state, this window owns the beats. */
import { api, type ExerciseView, type SessionOut, type SessionState, type TraceOut, type Verdict } from '../api/client';
import { asWav } from '../audio/asWav';
import { newKey } from '../audio/blocks';
import { grantedInWords, MicrophoneRefused, type Engine, type SourceKind } from '../audio/engine';
import { Disposed, Recorder, type TakeStart } from '../audio/recorder';
import { firstBeatOf } from '../view/take';
import { noteName, reasonInWords } from '../view/words';
import { emptyTrack, extend, type Track } from '../view/track';
import { beatsOf, clickBeats, LEAD_S } from './counting';
import { household } from './household.svelte';
import { InTime, countInAt } from './inTime.svelte';
import { Link } from './link';
import { Loaded, words } from './loaded.svelte';
import type { EventName, Incoming } from './messages';
import { InputMeter } from './meter.svelte';
import {
  clickGoesOn,
  exerciseKey,
  lost,
  OPEN_PHASES,
  runsInTime,
  reduced,
  takeIsOver,
  UNKNOWN,
  type SessionView,
} from './reducer';
import { hushSpeech } from './speech';
import { StandSounds } from './standSounds.svelte';

const FRAME_NEEDS_S = 0.11; // a final frame waits for so much sound after its centre

export class Stand {
  session = $state<SessionOut | null>(null);
  view = $state.raw<SessionView>(UNKNOWN);
  refused = $state(false);
  warnings = $state<string[]>([]);
  /** What was done at a touch, in words; gone with the next take. */
  said = $state<string | null>(null);
  /** What the browser really granted, in words; null until a microphone is open. */
  granted = $state<string | null>(null);
  beat = $state<number | null>(null);
  /** Whether the player has begun: from then on it goes on by itself. */
  running = $state(false);
  /** Where the first beat lies in the sound on screen. */
  shownFirstBeat = $state(0);
  /** What was said of the take before, while the click goes on and the next exercise is on the stand. */
  last = $state<{ outcome: Verdict['outcome']; said: string } | null>(null);
  readonly inTime = new InTime();
  readonly meter = new InputMeter();
  readonly sounds: StandSounds;
  /** Told of every block that is heard outside a take: seconds, and whether something sounded. */
  onHeard: ((seconds: number, sounding: boolean) => void) | null = null;
  track: Track = emptyTrack();
  latencies: number[] = [];

  readonly #exercise = new Loaded<ExerciseView>();
  #exerciseKey = '';
  #shownKey = $state('');
  #performed: { key: string; wav: Promise<ArrayBuffer> } | null = null;
  #begin: string | null = null;
  #closed = false;
  readonly #recorder: Recorder;
  readonly #link: Link;

  constructor(readonly id: string) {
    this.#link = new Link(id, {
      told: (message) => this.#told(message),
      lost: () => (this.view = lost(this.view)),
    });
    this.#recorder = new Recorder({
      started: (take) => this.#started(take),
      block: (bytes) => this.#link.send(bytes),
      samples: (samples) => {
        this.meter.add(samples);
        this.sounds.add(samples);
      },
      between: (seconds, sounding) => this.onHeard?.(seconds, sounding),
      gone: () => this.#trouble('The microphone was unplugged. Plug it in again, then continue.'),
    });
    this.sounds = new StandSounds(
      id,
      () => this.#recorder.ready(),
      () => this.exercise,
      (error) => this.#refusedBy(error),
    );
  }

  get state(): SessionState | null {
    return this.view.state;
  }
  get verdict(): Verdict | null {
    return this.view.verdict;
  }
  get takeId(): string | null {
    return this.view.takeId;
  }
  get owner(): boolean {
    return this.view.owner;
  }
  get connected(): boolean {
    return this.view.connected;
  }
  /** What is played is heard later than usual: the machine is slow, or the ear is still getting ready. */
  get late(): boolean {
    return this.view.late;
  }
  get trouble(): string | null {
    return this.view.trouble ?? this.#exercise.trouble;
  }
  get exercise(): ExerciseView | null {
    return this.#exercise.value;
  }
  get phase(): string {
    return this.state?.phase ?? 'preview';
  }
  get restedS(): number {
    return this.view.restedS;
  }
  set restedS(seconds: number) {
    this.view = { ...this.view, restedS: seconds };
  }
  /** Seconds into the sound of the take, by this window's clock. */
  get now(): number | null {
    return this.#recorder.now;
  }
  /** Whether the exercise that the state names is the one on the stand. */
  get ready(): boolean {
    return this.state !== null && this.#shownKey === exerciseKey(this.state);
  }
  /** Bars from the last exercise's first beat to the next one's, while the click goes on. */
  get bars(): number | null {
    const bars = this.state?.bars;
    return bars && this.inTime.running ? bars.played + bars.rest : null;
  }
  /** Whether the first note begins the take; breath has none, and what sounds with a line counts in. */
  get startsByNote(): boolean {
    const plays = this.exercise?.exercise;
    return household.player?.settings.start === 'first note' && !plays?.accompaniment && plays?.medium !== 'air';
  }

  async open(): Promise<void> {
    const session = await api.session(this.id);
    if (this.#closed) return;
    this.session = session;
    this.#told({ type: 'state', state: session.state });
    this.#link.connect();
  }

  close(): void {
    this.#closed = true;
    this.#link.close();
    this.#exercise.drop();
    this.inTime.stop();
    this.#recorder.dispose();
  }

  async listenIn(deviceId: string | null): Promise<void> {
    try {
      this.#opened(await this.#recorder.listen(deviceId));
    } catch (error) {
      this.#refusedBy(error);
    }
  }

  /** What has to be there when the next take begins: its reference note heard, its performance made. */
  async prepare(source: SourceKind): Promise<void> {
    if (household.tools.hearIt || this.exercise?.exercise.reference) void this.sounds.hearIt();
    if (source !== 'simulated') return;
    this.#performed = { key: this.#shownKey, wav: api.perform({ session_id: this.id, manner: 'person' }) };
    this.#performed.wav.catch(() => (this.#performed = null));
  }

  /** `bars`: where the click goes on, so many after the last exercise began. */
  async begin(source: SourceKind, deviceId: string | null, bars: number | null = null): Promise<void> {
    const exercise = this.exercise;
    if (!exercise || !['preview', 'verdict'].includes(this.phase) || this.#recorder.waiting) return;
    this.sounds.stopBlowing();
    this.#trouble(null);
    this.running = true;
    if (source === 'simulated' && household.speed > 1) return this.#simulate();
    const byNote = source === 'microphone' && this.startsByNote;
    this.#recorder.arm(newKey(), source, byNote ? (exercise.notes[0]?.start_s ?? 0) : null);
    try {
      await this.#recorder.ready();
      if (bars === null && (household.tools.hearIt || exercise.exercise.reference)) await this.sounds.hearIt();
      const wav = source === 'simulated' ? await this.#performance() : null;
      const engine = wav ? await this.#recorder.ready() : await this.#recorder.listen(deviceId);
      this.#opened(engine);
      if (byNote || !this.#recorder.waiting) return;
      const goesOn = bars !== null && this.inTime.running;
      const first = goesOn
        ? countInAt(exercise, this.inTime.musicAt(bars, exercise))
        : engine.context.currentTime + LEAD_S;
      this.#recorder.at(first);
      if (wav) await engine.playSimulated(wav, first);
      this.#count(engine, exercise, first);
    } catch (error) {
      this.#recorder.disarm();
      this.#refusedBy(error);
    }
  }

  /** Playing stops, and nothing goes on by itself until the player says so. */
  halt(): void {
    this.running = false;
    this.say(OPEN_PHASES.includes(this.phase) ? 'drop' : 'pause');
  }

  say(name: EventName, more: { seconds?: number; word?: string } = {}): void {
    if (name === 'drop' || name === 'stop' || name === 'report') this.#stopTake();
    if (name === 'pause') this.#recorder.disarm();
    if (name === 'resume') this.running = true;
    this.#link.send(JSON.stringify({ type: 'event', name, ...more }));
  }

  /** The take is over, because the player says so: it is judged as far as it went. */
  end(): void {
    if (this.phase === 'listening') this.say('ended');
  }

  /** The end of a take failed, on a full disk for instance; the sound is safe and is judged once more. */
  again(): void {
    this.#trouble(null);
    this.say('ended');
  }

  takeOver(): void {
    this.#link.takeOver();
  }

  async dropFile(file: File): Promise<void> {
    this.#trouble(null);
    try {
      const take = await api.dropSound(this.id, await asWav(file));
      await this.#recall(take.id);
    } catch (error) {
      this.#trouble(words(error));
    }
  }

  /** At many times life's speed a take is played, heard and judged in one go. */
  async #simulate(): Promise<void> {
    try {
      await api.simulateTake(this.id);
    } catch (error) {
      this.#trouble(words(error));
    }
  }

  #trouble(said: string | null): void {
    this.view = { ...this.view, trouble: said };
  }

  #opened(engine: Engine): void {
    this.warnings = engine.warnings;
    this.granted = grantedInWords(engine.facts);
    this.refused = false;
    this.#trouble(null);
  }

  #refusedBy(error: unknown): void {
    if (error instanceof Disposed || this.#closed) return;
    this.refused = error instanceof MicrophoneRefused;
    this.#trouble(words(error));
  }

  async #performance(): Promise<ArrayBuffer> {
    const made = this.#performed;
    this.#performed = null;
    return made?.key === this.#shownKey ? made.wav : api.perform({ session_id: this.id, manner: 'person' });
  }

  #count(engine: Engine, exercise: ExerciseView, first: number): void {
    const beats = beatsOf(exercise);
    if (runsInTime(this.state)) this.inTime.start(engine, exercise, first);
    else clickBeats(engine, exercise, first, (exercise.exercise.click ?? true) ? beats.all : Math.ceil(beats.countIn));
    if (exercise.exercise.drone && this.sounds.drone === null) void this.sounds.setDrone(exercise.drone_hz);
    engine.accompany(exercise.sounds, first);
    let told = false;
    const tick = () => {
      if (this.#recorder.first !== first) return;
      const place = (engine.context.currentTime - first) / exercise.beat_s;
      this.beat = place < 0 ? null : Math.floor(place);
      if (place >= beats.countIn && this.phase === 'count-in' && !told) {
        told = true;
        this.say('counted-in');
      }
      if (place < beats.countIn + 0.5 || this.phase === 'count-in' || exercise.exercise.medium === 'air')
        requestAnimationFrame(tick);
    };
    requestAnimationFrame(tick);
  }

  #started(take: TakeStart): void {
    this.track = emptyTrack();
    this.said = this.last = null;
    hushSpeech();
    this.view = { ...this.view, verdict: null, takeId: null };
    this.shownFirstBeat = take.firstBeat / take.rate;
    this.#begin = JSON.stringify({
      type: 'begin',
      take: take.key,
      rate: take.rate,
      first_beat_sample: take.firstBeat,
      clicked: take.clicked,
      source: take.source,
      device: take.facts,
    });
    this.#link.send(this.#begin);
    if (!take.clicked) this.say('counted-in');
  }

  #saidOf(verdict: Verdict): Stand['last'] {
    const nameOf = (id: string) => noteName(this.exercise?.notes.find((note) => note.id === id)?.written ?? id);
    return { outcome: verdict.outcome, said: `${reasonInWords(verdict, nameOf)} ${verdict.cue ?? ''}` };
  }

  #stopTake(): void {
    this.#begin = null;
    this.beat = null;
    this.#recorder.stop(this.inTime.running);
  }

  /** Every message changes the view at once; what follows from it outside is set going, and never waited for. */
  #told(message: Incoming): void {
    if (message.type === 'free') return this.#link.again();
    const { state: before, verdict } = this.view;
    this.view = reduced(this.view, message);
    // What was said of a take stays beside the next one while the click goes on.
    if (verdict && this.phase === 'preview') this.last = this.#saidOf(verdict);
    if (message.type === 'frames') this.#framed(message.final, message.provisional, message.received, message.hole);
    else if (message.type === 'full') this.#recorder.hold(message.received);
    else if (message.type === 'state') this.#stands(before, message.state);
    else if (message.type === 'welcome') {
      this.#link.welcome(message.token);
      this.#stands(before, message.state);
      if (message.owner) this.#goOnWith(message.take);
    }
  }

  #stands(before: SessionState | null, state: SessionState): void {
    if (takeIsOver(before, state) && (this.#recorder.recording || this.#begin)) this.#stopTake();
    if (!clickGoesOn(state)) {
      this.inTime.stop();
      this.last = null;
    }
    if (state.phase === 'preview' || state.phase === 'rest') {
      this.meter.clipped = false;
      if (before?.phase !== 'preview') this.track = emptyTrack();
    }
    void this.#showExercise(state);
    if (state.phase === 'verdict' && !this.verdict && state.take_key) void this.#recall(state.take_key);
  }

  /** The exercise by the state; one that could not be had is asked for again with the next state. */
  async #showExercise(state: SessionState): Promise<void> {
    const key = exerciseKey(state);
    if (key === this.#exerciseKey) return;
    this.#exerciseKey = key;
    this.sounds.forget();
    const shown = await this.#exercise.load(() => api.exercise(this.id));
    if (shown) this.#shownKey = key;
    else if (this.#exercise.trouble && this.#exerciseKey === key) this.#exerciseKey = '';
  }

  /** The take goes on after a lost connection; after a reload what was heard so far is judged, nothing is thrown away. */
  #goOnWith(take: { key: string; received: number } | null): void {
    if (this.#recorder.recording && this.#begin) {
      this.#link.send(this.#begin);
      this.#recorder.resume(take?.received ?? 0);
    } else if (take && OPEN_PHASES.includes(this.phase)) this.say('ended');
  }

  #framed(final: TraceOut, provisional: TraceOut, received: number, hole: boolean): void {
    extend(this.track, final, provisional);
    this.#recorder.acknowledge(received, hole);
    if (!hole && this.view.trouble !== null && this.#recorder.recording) this.#trouble(null);
    if (!final.f0_hz.length || !this.#begin) return;
    const rate = (JSON.parse(this.#begin) as { rate: number }).rate;
    const needed = final.first_s + (final.f0_hz.length - 1) * final.hop_s + FRAME_NEEDS_S;
    const left = this.#recorder.leftAt(Math.round(needed * rate) - 1);
    if (left !== null) this.latencies.push(performance.now() - left);
  }

  /** The verdict and the line of a take that this window did not hear, or hears of again after a reload. */
  async #recall(key: string): Promise<void> {
    const [take, trace] = await Promise.all([api.take(key), api.takeTrace(key)]);
    if (this.#closed || this.state?.take_key !== key || this.phase !== 'verdict') return; // it went on meanwhile
    this.view = { ...this.view, verdict: take.verdict, takeId: take.id };
    this.track = emptyTrack();
    extend(this.track, trace, null);
    this.shownFirstBeat = firstBeatOf(take, this.exercise);
  }
}
