/** One AudioContext for everything that sounds or is heard: microphone, simulated player, click. */
import captureUrl from './capture.worklet.ts?worker&url';
import type { Block } from './gather';
import { click, HeldTone, inPhase, type ClickAt } from './tones';

export type { Block } from './gather';

export type SourceKind = 'microphone' | 'simulated';
export type Sounding = { hz: number; start_s: number; duration_s: number };
export type DeviceFacts = Record<string, string | number | boolean | null>;

export class MicrophoneRefused extends Error {}

const DRONE_LOUDNESS = 0.12;
const SOON_S = 0.02; // what is told to begin earlier than this may begin late
const ASK: MediaTrackConstraints = {
  echoCancellation: false,
  noiseSuppression: false,
  autoGainControl: false,
  channelCount: 1,
};

export class Engine {
  readonly context: AudioContext;
  onBlock: ((block: Block) => void) | null = null;
  /** The microphone was unplugged or taken away. */
  onGone: (() => void) | null = null;
  facts: DeviceFacts = {};
  warnings: string[] = [];
  #capture: AudioWorkletNode;
  #stream: MediaStream | null = null;
  #input: AudioNode | null = null;
  #playing: AudioBufferSourceNode | null = null;
  #clicks: OscillatorNode[] = [];
  #drone: HeldTone[] = [];
  #sounding: HeldTone[] = [];
  #deviceId: string | null = null;
  #closed = false;

  private constructor(context: AudioContext) {
    this.context = context;
    this.#capture = new AudioWorkletNode(context, 'orexis-capture', {
      channelCount: 1,
      channelCountMode: 'explicit',
      numberOfOutputs: 1,
    });
    this.#capture.port.onmessage = (event: MessageEvent<Block>) => this.onBlock?.(event.data);
    // A node that leads nowhere is not run; a silent way out keeps it running.
    const silent = new GainNode(context, { gain: 0 });
    this.#capture.connect(silent).connect(context.destination);
  }

  static async open(): Promise<Engine> {
    const context = new AudioContext({ latencyHint: 'interactive' });
    await context.audioWorklet.addModule(captureUrl);
    await context.resume();
    return new Engine(context);
  }

  /** Whether a microphone is open. */
  get listening(): boolean {
    return this.#stream?.active ?? false;
  }

  get rate(): number {
    return this.context.sampleRate;
  }

  async useMicrophone(deviceId: string | null): Promise<void> {
    if (this.#stream?.active && this.#deviceId === deviceId) return;
    this.release();
    if (!navigator.mediaDevices?.getUserMedia) {
      throw new MicrophoneRefused('This page can’t use the microphone. Open it at http://127.0.0.1 or over HTTPS.');
    }
    let stream: MediaStream;
    try {
      const audio = deviceId ? { ...ASK, deviceId: { exact: deviceId } } : ASK;
      stream = await navigator.mediaDevices.getUserMedia({ audio });
    } catch (error) {
      throw new MicrophoneRefused(refusal(error));
    }
    if (this.#closed) {
      // Left while it was being opened: it must not stay open.
      stream.getTracks().forEach((track) => track.stop());
      return;
    }
    this.#stream = stream;
    this.#deviceId = deviceId;
    for (const track of this.#stream.getAudioTracks()) track.addEventListener('ended', () => this.onGone?.());
    this.#read(this.#stream);
    this.#input = new MediaStreamAudioSourceNode(this.context, { mediaStream: this.#stream });
    this.#input.connect(this.#capture);
  }

  /** Plays a performance through the same entry as the microphone, and softly aloud. */
  async playSimulated(wav: ArrayBuffer, at: number): Promise<void> {
    this.release();
    this.facts = { label: 'simulated player' };
    this.warnings = [];
    const buffer = await this.context.decodeAudioData(wav);
    const player = new AudioBufferSourceNode(this.context, { buffer });
    const aloud = new GainNode(this.context, { gain: 0.5 });
    player.connect(this.#capture);
    player.connect(aloud).connect(this.context.destination);
    player.start(at, Math.max(0, this.context.currentTime - at)); // a take may begin within its count-in
    this.#playing = player;
    this.#input = player;
  }

  click(at: number, strength: ClickAt['strength']): void {
    const tone = click(this.context, at, strength);
    this.#clicks.push(tone);
    tone.onended = () => (this.#clicks = this.#clicks.filter((one) => one !== tone));
  }

  /** A drone that stays until it is stopped, of one note or several; another one takes its place. */
  drone(hz: number | readonly number[] | null): void {
    for (const tone of this.#drone) tone.stop();
    const notes = hz === null ? [] : typeof hz === 'number' ? [hz] : hz;
    this.#drone = notes.map((note) => new HeldTone(this.context, note, DRONE_LOUDNESS / Math.sqrt(notes.length)));
  }

  /** What sounds with an exercise whose count-in begins at `first`. */
  accompany(notes: readonly Sounding[], first: number): void {
    this.#silence();
    for (const { hz, start_s, duration_s } of notes) {
      const together = notes.filter((one) => one.start_s <= start_s && one.start_s + one.duration_s > start_s).length;
      const at = inPhase(first + start_s, this.context.currentTime + SOON_S, hz);
      const tone = new HeldTone(this.context, hz, DRONE_LOUDNESS / Math.sqrt(together), at);
      tone.stop(first + start_s + duration_s);
      this.#sounding.push(tone);
    }
  }

  #silence(): void {
    for (const tone of this.#sounding) tone.stop();
    this.#sounding = [];
  }

  /** A reference note for so many seconds. */
  async reference(hz: number, seconds: number): Promise<void> {
    const tone = new HeldTone(this.context, hz, 0.16);
    tone.stop(this.context.currentTime + seconds);
    await new Promise((resolve) => setTimeout(resolve, 1000 * (seconds + 0.3)));
  }

  hushClicks(): void {
    for (const tone of this.#clicks) tone.disconnect();
    this.#clicks = [];
  }

  hush(clicksOn = false): void {
    if (!clicksOn) this.hushClicks();
    this.#silence();
    this.#playing?.disconnect();
    this.#playing = null;
  }

  release(): void {
    this.#input?.disconnect();
    this.#stream?.getTracks().forEach((track) => track.stop());
    this.#input = null;
    this.#stream = null;
  }

  close(): void {
    this.#closed = true;
    this.drone(null);
    this.hush();
    this.release();
    void this.context.close();
  }

  /** What was really granted; processing that stays on ruins long tones, so it is said. */
  #read(stream: MediaStream): void {
    const track = stream.getAudioTracks()[0];
    const settings = track?.getSettings() ?? {};
    this.facts = {
      label: track?.label ?? '',
      echo_cancellation: Boolean(settings.echoCancellation),
      noise_suppression: Boolean(settings.noiseSuppression),
      auto_gain_control: Boolean(settings.autoGainControl),
      device_rate: settings.sampleRate ?? null,
      context_rate: this.rate,
    };
    this.warnings = warningsFor(this.facts);
  }
}

export function warningsFor(facts: DeviceFacts): string[] {
  const on = (
    [
      ['echo_cancellation', 'echo cancellation'],
      ['noise_suppression', 'noise suppression'],
      ['auto_gain_control', 'automatic level'],
    ] as const
  )
    .filter(([key]) => facts[key] === true)
    .map(([, name]) => name);
  const said = on.length
    ? [`The browser keeps ${on.join(', ')} on. Turn it off, or long tones are measured wrongly.`]
    : [];
  if (/bluetooth|airpods|hands-?free/i.test(String(facts.label ?? ''))) {
    said.push('Wireless microphones are late and narrow the sound. A wired or built-in one is better.');
  }
  return said;
}

/** “Desk microphone: echo cancellation off, noise suppression off, automatic level off”. */
export function grantedInWords(facts: DeviceFacts): string | null {
  if (facts.echo_cancellation === undefined) return null;
  const word = (key: string, name: string) => `${name} ${facts[key] ? 'on' : 'off'}`;
  const parts = [
    word('echo_cancellation', 'echo cancellation'),
    word('noise_suppression', 'noise suppression'),
    word('auto_gain_control', 'automatic level'),
  ];
  return `${facts.label || 'Microphone'}: ${parts.join(', ')}`;
}

function refusal(error: unknown): string {
  const name = error instanceof DOMException ? error.name : '';
  if (name === 'NotFoundError' || name === 'OverconstrainedError') {
    return 'No microphone found. Plug one in and try again, or use the demo player.';
  }
  if (name === 'NotReadableError') {
    return 'Another program uses the microphone. Close it and try again, or use the demo player.';
  }
  return 'The microphone is blocked. Allow it next to the address of this page, or use the demo player.';
}
