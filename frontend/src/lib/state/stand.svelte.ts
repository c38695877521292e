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
import { Engine, grantedInWords, MicrophoneRefused, type Block, type SourceKind } from '../audio/engine';
import { firstBeatOf } from '../view/take';
import { emptyTrack, extend, type Track } from '../view/track';
import type { EventName, Incoming } from './messages';

const LEAD_S = 0.6; // from the touch to the first beat
const RETRY_MS = 700;
const FRAME_NEEDS_S = 0.1; // a final frame waits for so much sound after its centre
const QUIET_DB = -65;

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
  inputDb = $state<number | null>(null);
  clipped = $state(false);
  track: Track = emptyTrack();
  /** Where the first beat lies in the sound on screen. */
  shownFirstBeat = $state(0);
  latencies: number[] = [];

  #engine: Engine | null = null;
  #socket: WebSocket | null = null;
  #line: BlockLine | null = null;
  #first: number | null = null; // context time of the first beat
  #pending: { key: string; source: SourceKind } | null = null;
  #begin: string | null = null;
  #closed = false;
  #takingOver = false;
  #seenFigure = -1;

  constructor(readonly id: string) {}

  async open(): Promise<void> {
    this.session = await api.session(this.id);
    await this.#take(this.session.state);
    this.#connect();
  }

  close(): void {
    this.#closed = true;
    this.#socket?.close();
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
    this.trouble = null;
    this.#pending = { key: newKey(), source };
    try {
      const engine = await this.#ready();
      const wav = source === 'simulated' ? await api.perform({ session_id: this.id, manner: 'human' }) : null;
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

  say(name: EventName): void {
    if (name === 'drop' || name === 'stop') this.#stopTake();
    this.#send(JSON.stringify({ type: 'event', name }));
  }

  /** The end of a take failed, on a full disk for instance; the sound is safe and is judged once more. */
  again(): void {
    this.trouble = null;
    this.say('ended');
  }

  takeOver(): void {
    this.#takingOver = true;
    this.#socket?.close();
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
    const beats = Math.round(figure.duration_s / figure.beat_s);
    if (figure.figure.click ?? true) {
      for (let i = 0; i < beats; i++) {
        engine.click(first + i * figure.beat_s, i % figure.figure.beats_per_bar === 0);
      }
    }
    let told = false;
    const tick = () => {
      if (this.#first !== first) return;
      const place = (engine.context.currentTime - first) / figure.beat_s;
      const countIn = figure.count_in_s / figure.beat_s;
      this.beat = place < 0 ? null : Math.floor(place);
      if (place >= countIn && this.phase === 'count-in' && !told) {
        told = true;
        this.say('counted-in');
      }
      if (place < countIn + 0.5 || this.phase === 'count-in') requestAnimationFrame(tick);
    };
    requestAnimationFrame(tick);
  }

  #heard(block: Block): void {
    this.#meter(block.samples);
    if (this.#pending) this.#start(block.frame);
    if (!this.#line) return;
    const sent = this.#line.add(block.samples, performance.now());
    this.#send(this.#line.encode(sent));
  }

  #start(frame: number): void {
    const engine = this.#engine;
    if (!engine || !this.#pending || this.#first === null) return;
    const { key, source } = this.#pending;
    this.#pending = null;
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
      source,
      device: engine.facts,
    });
    this.#send(this.#begin);
  }

  #meter(samples: Float32Array): void {
    let sum = 0;
    let peak = 0;
    for (const value of samples) {
      sum += value * value;
      peak = Math.max(peak, Math.abs(value));
    }
    const db = 10 * Math.log10(Math.max(sum / samples.length, 1e-12));
    this.inputDb = this.inputDb === null ? db : Math.max(db, this.inputDb - 1.5);
    if (peak >= 0.985) this.clipped = true;
  }

  get inputWord(): string {
    if (this.clipped) return 'too loud: the peaks are cut off';
    if (this.inputDb === null) return '';
    const level = `${Math.round(this.inputDb)} dB`;
    return this.inputDb < QUIET_DB ? `silence, ${level}` : `sound arrives, ${level}`;
  }

  #stopTake(): void {
    this.#line = null;
    this.#pending = null;
    this.#begin = null;
    this.#first = null;
    this.beat = null;
    this.#engine?.hush();
  }

  #connect(): void {
    const socket = new WebSocket(`${location.protocol === 'https:' ? 'wss' : 'ws'}://${location.host}/api/live`);
    socket.binaryType = 'arraybuffer';
    this.#socket = socket;
    socket.onopen = () => this.#hello();
    socket.onmessage = (event) => void this.#told(JSON.parse(event.data as string) as Incoming);
    socket.onclose = () => {
      this.connected = false;
      if (!this.#closed) setTimeout(() => this.#connect(), RETRY_MS);
    };
  }

  #hello(): void {
    const token = sessionStorage.getItem(`orexis.owner.${this.id}`);
    this.#send(
      JSON.stringify({ type: 'hello', protocol: 1, session: this.id, token, take_over: this.#takingOver }),
      true,
    );
    this.#takingOver = false;
  }

  #send(data: string | ArrayBuffer, always = false): void {
    if (this.#socket?.readyState === WebSocket.OPEN && (this.connected || always)) this.#socket.send(data);
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
    this.connected = true;
    this.owner = message.owner;
    if (message.token) sessionStorage.setItem(`orexis.owner.${this.id}`, message.token);
    await this.#take(message.state);
    if (!message.owner) return;
    if (this.#line && this.#begin) {
      // The take goes on: say again what it is, then all that was not acknowledged.
      this.#send(this.#begin);
      for (const block of this.#line.from(message.take?.received ?? 0)) this.#send(this.#line.encode(block));
    } else if (message.take) {
      // A reload in the middle of a take: what was heard so far is judged, nothing is thrown away.
      this.say('ended');
    }
  }

  #acknowledged(message: { received: number; hole: boolean }): void {
    if (!this.#line) return;
    if (!message.hole) this.#line.acknowledge(message.received);
    else for (const block of this.#line.from(message.received)) this.#send(this.#line.encode(block));
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
    if (['judging', 'verdict', 'done'].includes(state.phase) || (state.phase === 'preview' && before !== 'preview')) {
      if (this.#line) this.#stopTake();
    }
    if (state.phase === 'preview') {
      this.verdict = null;
      this.clipped = false;
      if (before !== 'preview') this.track = emptyTrack();
    }
    if (state.figure_index !== this.#seenFigure) {
      this.#seenFigure = state.figure_index;
      this.figure = await api.figure(this.id, state.figure_index);
    }
    if (state.phase === 'verdict' && !this.verdict && state.take_key) await this.#recall(state.take_key);
  }

  /** After a reload: the verdict and the line of the take that was judged last. */
  async #recall(key: string): Promise<void> {
    const take = await api.take(key);
    const trace = await api.takeTrace(key);
    this.verdict = take.verdict;
    this.takeId = take.id;
    this.track = emptyTrack();
    extend(this.track, trace, null);
    this.shownFirstBeat = firstBeatOf(take, this.figure);
  }
}
