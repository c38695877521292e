/** The stand: one session, its socket, the take under way. The server owns the state, this window owns the beats. */
import {
  api,
  type FigureView,
  type PracticeSession,
  type SessionState,
  type Verdict,
  type TraceOut,
} from '../api/client';
import { BlockLine, newKey } from '../audio/blocks';
import { Preroll } from '../audio/preroll';
import { beatsOf, clickBeats, LEAD_S } from './counting';
import { household } from './household.svelte';
import { Link } from './link';
import { InputMeter } from './meter.svelte';
import { StandSounds } from './standSounds.svelte';
import { Engine, grantedInWords, MicrophoneRefused, type Block, type SourceKind } from '../audio/engine';
import { firstBeatOf } from '../view/take';
import { emptyTrack, extend, type Track } from '../view/track';
import type { EventName, Incoming } from './messages';

const FRAME_NEEDS_S = 0.11; // a final frame waits for so much sound after its centre

export class Stand {
  session = $state<PracticeSession | null>(null);
  state = $state<SessionState | null>(null);
  figure = $state<FigureView | null>(null);
  verdict = $state<Verdict | null>(null);
  takeId = $state<string | null>(null);
  trouble = $state<string | null>(null);
  refused = $state(false);
  warnings = $state<string[]>([]);
  /** What the browser really granted, in words; null until a microphone is open. */
  granted = $state<string | null>(null);
  owner = $state(true);
  connected = $state(false);
  beat = $state<number | null>(null);
  readonly meter = new InputMeter();
  readonly sounds: StandSounds;
  /** Seconds of a rest that had passed when this window came (back). */
  restedS = 0;
  /** Whether the player has begun: from then on it goes on by itself. */
  running = $state(false);
  /** Told of every block that is heard outside a take: seconds, and whether something sounded. */
  onHeard: ((seconds: number, sounding: boolean) => void) | null = null;
  track: Track = emptyTrack();
  /** Where the first beat lies in the sound on screen. */
  shownFirstBeat = $state(0);
  latencies: number[] = [];

  #engine: Engine | null = null;
  #line: BlockLine | null = null;
  #first: number | null = null; // context time of the first beat
  #pending: { key: string; source: SourceKind } | null = null;
  #begin: string | null = null;
  #seen = '';
  #preroll: Preroll | null = null;

  readonly #link: Link;

  constructor(readonly id: string) {
    this.#link = new Link(id, { told: (message) => void this.#told(message), lost: () => (this.connected = false) });
    this.sounds = new StandSounds(
      id,
      () => this.#ready(),
      () => this.figure,
      (error) => this.#refusedBy(error),
    );
  }

  async open(): Promise<void> {
    this.session = await api.session(this.id);
    await this.#take(this.session.state);
    this.#link.connect();
  }

  close(): void {
    this.#link.close();
    this.#engine?.close();
  }

  get phase(): string {
    return this.state?.phase ?? 'preview';
  }

  /** Seconds into the sound of the take, by this window's clock. */
  get now(): number | null {
    if (!this.#engine || !this.#line) return null;
    return this.#engine.context.currentTime - this.#line.frame0 / this.#engine.rate;
  }

  async listenIn(deviceId: string | null): Promise<void> {
    try {
      const engine = await this.#ready();
      await engine.useMicrophone(deviceId);
      this.#opened(engine);
    } catch (error) {
      this.#refusedBy(error);
    }
  }

  async begin(source: SourceKind, deviceId: string | null): Promise<void> {
    if (!this.figure || !['preview', 'verdict'].includes(this.phase) || this.#pending) return;
    this.sounds.stopBlowing();
    this.trouble = null;
    this.running = true;
    if (source === 'simulated' && household.speed > 1) return this.#simulate();
    this.#pending = { key: newKey(), source };
    try {
      const engine = await this.#ready();
      if (household.tools.hearIt || this.figure.figure.reference) await this.sounds.hearIt();
      if (source === 'microphone' && this.startsByNote) {
        await engine.useMicrophone(deviceId);
        this.#opened(engine);
        this.#first = null; // the first note begins the take
        return;
      }
      const wav = source === 'simulated' ? await api.perform({ session_id: this.id, manner: 'person' }) : null;
      if (!wav) await engine.useMicrophone(deviceId);
      this.#opened(engine);
      this.#first = engine.context.currentTime + LEAD_S;
      if (wav) await engine.playSimulated(wav, this.#first);
      this.#count(engine, this.figure);
    } catch (error) {
      this.#pending = null;
      this.#refusedBy(error);
    }
  }

  say(name: EventName, more: { seconds?: number; word?: string } = {}): void {
    if (name === 'drop' || name === 'stop' || name === 'report') this.#stopTake();
    if (name === 'pause' || name === 'stop' || name === 'report') this.#pending = null;
    if (name === 'resume') this.running = true;
    this.#link.send(JSON.stringify({ type: 'event', name, ...more }));
  }

  /** At many times life's speed a take is played, heard and judged in one go. */
  async #simulate(): Promise<void> {
    try {
      await api.simulateTake(this.id);
    } catch (error) {
      this.trouble = error instanceof Error ? error.message : String(error);
    }
  }

  /** Whether the first note begins the take; breath has none. */
  get startsByNote(): boolean {
    return household.player?.settings.start === 'first note' && this.figure?.figure.medium !== 'air';
  }

  /** The end of a take failed, on a full disk for instance; the sound is safe and is judged once more. */
  again(): void {
    this.trouble = null;
    this.say('ended');
  }

  takeOver(): void {
    this.#link.takeOver();
  }

  async dropFile(file: File): Promise<void> {
    this.trouble = null;
    try {
      const take = await api.dropSound(this.id, file);
      this.verdict = take.verdict;
      this.takeId = take.id;
      this.track = emptyTrack();
      extend(this.track, await api.takeTrace(take.id), null);
      this.shownFirstBeat = firstBeatOf(take, this.figure);
    } catch (error) {
      this.trouble = error instanceof Error ? error.message : String(error);
    }
  }

  async #ready(): Promise<Engine> {
    this.#engine ??= await Engine.open();
    this.#engine.onBlock = (block) => this.#heard(block);
    this.#engine.onGone = () => (this.trouble = 'The microphone went away. Plug it in again, then go on.');
    await this.#engine.context.resume();
    return this.#engine;
  }

  #opened(engine: Engine): void {
    this.warnings = engine.warnings;
    this.granted = grantedInWords(engine.facts);
    this.refused = false;
    this.trouble = null;
  }

  #refusedBy(error: unknown): void {
    this.refused = error instanceof MicrophoneRefused;
    this.trouble = error instanceof Error ? error.message : String(error);
  }

  #count(engine: Engine, figure: FigureView): void {
    const first = this.#first ?? 0;
    const beats = beatsOf(figure);
    clickBeats(engine, figure, first, (figure.figure.click ?? true) ? beats.all : beats.countIn);
    if (figure.figure.drone && this.sounds.drone === null) void this.sounds.setDrone(figure.drone_hz);
    let told = false;
    const tick = () => {
      if (this.#first !== first) return;
      const place = (engine.context.currentTime - first) / figure.beat_s;
      this.beat = place < 0 ? null : Math.floor(place);
      if (place >= beats.countIn && this.phase === 'count-in' && !told) {
        told = true;
        this.say('counted-in');
      }
      if (place < beats.countIn + 0.5 || this.phase === 'count-in' || figure.figure.medium === 'air')
        requestAnimationFrame(tick);
    };
    requestAnimationFrame(tick);
  }

  #heard(block: Block): void {
    this.meter.add(block.samples);
    this.sounds.add(block.samples);
    if (this.#pending && this.#first !== null) this.#start(block.frame);
    if (!this.#line) this.#between(block);
    if (!this.#line) return;
    this.#post(block.samples);
  }

  /** Outside a take: the last second is kept; a first note begins a take that waits for one. */
  #between(block: Block): void {
    const engine = this.#engine;
    if (!engine?.listening) return;
    this.#preroll ??= new Preroll(engine.rate);
    const begun = this.#preroll.add(block);
    this.onHeard?.(block.samples.length / engine.rate, this.#preroll.sounding);
    if (!begun || !this.#pending || this.#first !== null || !this.figure) return;
    const onset = block.frame + block.samples.length - this.#preroll.soundedS * engine.rate;
    const kept = this.#preroll.take();
    const written = this.figure.notes[0]?.start_s ?? 0;
    this.#first = onset / engine.rate - written;
    this.#start(kept[0]?.frame ?? block.frame, true);
    this.say('counted-in');
    // The block at hand is the last of those kept; it goes its usual way.
    for (const item of kept.slice(0, -1)) this.#post(item.samples);
  }

  #post(samples: Float32Array): void {
    if (this.#line) this.#link.send(this.#line.encode(this.#line.add(samples, performance.now())));
  }

  #start(frame: number, byNote = false): void {
    const engine = this.#engine;
    if (!engine || !this.#pending || this.#first === null) return;
    const { key, source } = this.#pending;
    this.#pending = null;
    this.#preroll = null;
    this.#line = new BlockLine(key, frame);
    this.track = emptyTrack();
    this.verdict = null;
    this.takeId = null;
    const firstBeat = Math.round(this.#first * engine.rate) - frame;
    this.shownFirstBeat = firstBeat / engine.rate;
    this.#begin = JSON.stringify({
      type: 'begin',
      take: key,
      rate: engine.rate,
      first_beat_sample: firstBeat,
      clicked: !byNote,
      source,
      device: engine.facts,
    });
    this.#link.send(this.#begin);
  }

  #stopTake(): void {
    this.#line = null;
    this.#pending = null;
    this.#begin = null;
    this.#first = null;
    this.beat = null;
    this.#engine?.hush();
  }

  async #told(message: Incoming): Promise<void> {
    if (message.type === 'welcome') await this.#welcomed(message);
    else if (message.type === 'state') await this.#take(message.state);
    else if (message.type === 'ack') this.#acknowledged(message);
    else if (message.type === 'frames') this.#framed(message.final, message.provisional);
    else if (message.type === 'verdict') {
      this.verdict = message.verdict;
      this.takeId = message.take;
    } else if (message.type === 'demoted') this.owner = false;
    else if (message.type === 'error') this.trouble = message.message;
  }

  async #welcomed(message: Extract<Incoming, { type: 'welcome' }>): Promise<void> {
    this.#link.welcomed = true;
    this.connected = true;
    this.owner = message.owner;
    this.restedS = message.rested_s;
    if (message.token) this.#link.keepToken(message.token);
    await this.#take(message.state);
    if (!message.owner) return;
    if (this.#line && this.#begin) {
      // The take goes on: say again what it is, then all that was not acknowledged.
      this.#link.send(this.#begin);
      for (const block of this.#line.from(message.take?.received ?? 0)) this.#link.send(this.#line.encode(block));
    } else if (message.take) {
      // A reload in the middle of a take: what was heard so far is judged, nothing is thrown away.
      this.say('ended');
    }
  }

  #acknowledged(message: { received: number; hole: boolean }): void {
    if (!this.#line) return;
    if (!message.hole) this.#line.acknowledge(message.received);
    else for (const block of this.#line.from(message.received)) this.#link.send(this.#line.encode(block));
  }

  #framed(final: TraceOut, provisional: TraceOut | null): void {
    extend(this.track, final, provisional);
    if (!this.#line || !final.f0_hz.length || !this.#engine) return;
    const needed = final.first_s + (final.f0_hz.length - 1) * final.hop_s + FRAME_NEEDS_S;
    const left = this.#line.leftAt(Math.round(needed * this.#engine.rate) - 1);
    if (left !== null) this.latencies.push(performance.now() - left);
  }

  async #take(state: SessionState): Promise<void> {
    const before = this.phase;
    this.state = state;
    if (
      ['judging', 'verdict', 'rest', 'done'].includes(state.phase) ||
      (state.phase === 'preview' && before !== 'preview')
    ) {
      if (this.#line) this.#stopTake();
    }
    if (state.phase === 'preview' || state.phase === 'rest') {
      this.verdict = null;
      this.meter.clipped = false;
      if (before !== 'preview') this.track = emptyTrack();
    }
    const key = [state.block, state.figure_index, state.form, state.checking, state.tempo_percent].join();
    if (key !== this.#seen) {
      this.#seen = key;
      this.sounds.forget();
      this.figure = await api.figure(this.id);
    }
    if (state.phase === 'verdict' && !this.verdict && state.take_key) await this.#recall(state.take_key);
  }

  /** After a reload: the verdict and the line of the take that was judged last. */
  async #recall(key: string): Promise<void> {
    const take = await api.take(key);
    const trace = await api.takeTrace(key);
    if (this.state?.take_key !== key || this.phase !== 'verdict') return; // it went on meanwhile
    this.verdict = take.verdict;
    this.takeId = take.id;
    this.track = emptyTrack();
    extend(this.track, trace, null);
    this.shownFirstBeat = firstBeatOf(take, this.figure);
  }
}
