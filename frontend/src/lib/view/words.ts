/** Numbers into words: short, plain, kind. */
import type { Device, Measures, Verdict } from '../api/client';

const SIGN = /^([A-G])(##|#|bb|b)?(-?\d+)$/;

/** B flat 3 as players write it: B♭3. */
export function noteName(name: string): string {
  const found = SIGN.exec(name);
  if (!found) return name;
  const sign = { '#': '♯', '##': '𝄪', b: '♭', bb: '𝄫' }[found[2] ?? ''] ?? '';
  return `${found[1]}${sign}${found[3]}`;
}

export function noteNames(text: string): string {
  return text.split(' ').map(noteName).join(' ');
}

/** “9 low”, “on it”, “4 high”. */
export function centsInWords(cents: number | null | undefined): string {
  if (cents === null || cents === undefined) return '–';
  const whole = Math.round(Math.abs(cents));
  if (whole === 0) return 'on it';
  return `${whole} ${cents < 0 ? 'low' : 'high'}`;
}

export const PLACE_WORDS: Record<string, string> = {
  breath: 'Breath',
  buzz: 'Mouthpiece',
  tones: 'Long tones',
  slurs: 'Slurs',
  centre: 'Centre',
  register: 'Register',
  low: 'Low register',
  music: 'Music',
  check: 'Before and after',
};

export const LIMIT_WORDS: Record<string, string> = {
  centre_cents: 'Centre, cents',
  spread_cents: 'Spread, cents',
  sag_cents: 'Sag, cents',
  entry_cents: 'Start off by, cents',
  entry_ms: 'Start settled in, ms',
  gap_ms: 'Silence in a slur, ms',
  caught_ms: 'Slot touched, ms',
  timing_spread_ms: 'Timing spread, ms',
  fall_off_cents: 'End, cents',
  bump_db: 'Bump, dB',
  level_wander_db: 'Loudness wander, dB',
  response_ms: 'Air before tone, ms',
  sound_match: 'Likeness, of 100',
};

export const LOAD_WORDS: Record<string, string> = {
  easy: 'easy on the lips',
  medium: 'medium load',
  high: 'heavy: rest after it',
};

/** “third slide 17 mm out”, “27 mm in”, “cannot be reached”. */
export function pullInWords(way: { slide: string | null; slide_mm: number | null; reachable: boolean }): string {
  if (!way.reachable) return way.slide ? 'cannot be reached' : '';
  if (way.slide === null || way.slide_mm === null || Math.abs(way.slide_mm) < 2) return '';
  const how = `${Math.round(Math.abs(way.slide_mm))} mm ${way.slide_mm > 0 ? 'out' : 'in'}`;
  return way.slide === 'hand slide' ? how : `${way.slide} ${how}`;
}

export const OUTCOME_WORDS: Record<string, string> = {
  held: 'Held',
  nearly: 'Nearly',
  'not yet': 'Not yet',
  'not heard': 'Not heard',
};

const REASONS: Record<string, (v: Verdict, note: string) => string> = {
  missing: (_, note) => `${note} was not there`,
  'wrong-partial': (_, note) => `another slot sounded for ${note}`,
  gap: (v, note) => `a silence of ${round(v.value)} ms before ${note} (limit ${round(v.limit)})`,
  caught: (v, note) => `another slot was touched for ${round(v.value)} ms before ${note} (limit ${round(v.limit)})`,
  extra: () => 'something sounded that was not written',
  centre: (v, note) => `${note} lay ${centsInWords(v.value)} (limit ${round(v.limit)})`,
  entry: (v, note) => `${note} began ${centsInWords(v.value)} (limit ${round(v.limit)})`,
  sag: (v, note) =>
    `${note} ${(v.value ?? 0) < 0 ? 'sagged' : 'rose'} by ${round(v.value)} cents (limit ${round(v.limit)})`,
  spread: (v, note) => `${note} wandered by ${round(v.value)} cents (limit ${round(v.limit)})`,
  'fall-off': (v, note) => `the end of ${note} fell away by ${round(v.value)} cents (limit ${round(v.limit)})`,
  hold: (v, note) => `${note} lasted ${(v.value ?? 0).toFixed(1)} s of ${(v.limit ?? 0).toFixed(1)} s`,
  count: (v) => `${round(v.value)} of ${round(v.limit)} notes were there`,
  split: (v, note) => `${note} broke to another slot`,
  'siren-break': () => 'the buzz stopped on the way',
  'siren-jump': (v) => `it stepped by ${round(v.value)} cents instead of gliding`,
  'siren-range': (v) =>
    `it went ${Math.round((v.value ?? 0) / 100)} semitones, ${round((v.limit ?? 0) / 100)} were asked`,
  'breath-inside': () => 'a breath was taken inside the figure',
  bend: (v, note) => `the bend to ${note} went ${round(v.value)} cents deep (at least ${round(v.limit)})`,
  'bend-back': (v, note) => `${note} came back ${centsInWords(v.value)} (limit ${round(v.limit)})`,
  'two-ways': (v) => `the two ways lie ${round(v.value)} cents apart (limit ${round(v.limit)})`,
  response: (v, note) => `air for ${round(v.value)} ms before ${note} spoke (limit ${round(v.limit)})`,
  'sound-match': (v, note) => `${note} was ${round(v.value)} of 100 like the easy note (at least ${round(v.limit)})`,
  'sound-across': (v, note) =>
    `the sound changed${v.note ? ` at ${note}` : ''}: ${round(v.value)} of 100 alike (at least ${round(v.limit)})`,
  trill: (v) => `${(v.value ?? 0).toFixed(1)} a second of ${(v.limit ?? 0).toFixed(1)}`,
  bump: (v, note) => `a dip of ${round(v.value)} dB before ${note} (limit ${round(v.limit)})`,
  shape: (v, note) => `the loudness of ${note} was ${(v.value ?? 0).toFixed(1)} dB off what was asked`,
  level: (v, note) =>
    `the loudness of ${note} wandered by ${(v.value ?? 0).toFixed(1)} dB (limit ${(v.limit ?? 0).toFixed(1)})`,
  loudness: (v) => `${signed(v.value ?? 0)} dB for each octave up`,
  timing: (v) => `the rhythm was uneven by ${round(v.value)} ms (limit ${round(v.limit)})`,
};

/** One line for the screen: what, where, how far. */
export function reasonInWords(verdict: Verdict, nameOf: (id: string) => string): string {
  if (!verdict.reason && verdict.outcome === 'held' && verdict.value != null) {
    const where =
      Math.abs(verdict.value) < 2 ? 'right where it is asked' : `${centsInWords(verdict.value)} of where it is asked`;
    return `${verdict.note ? nameOf(verdict.note) : 'It'} rang best ${where}.`;
  }
  if (!verdict.reason) return verdict.outcome === 'held' ? 'Everything asked for was there.' : '';
  const say = REASONS[verdict.reason];
  if (!say) return sentence(verdict.cause ?? '');
  return sentence(say(verdict, verdict.note ? nameOf(verdict.note) : 'it'));
}

export function sentence(text: string): string {
  if (!text) return '';
  const cased = text.charAt(0).toUpperCase() + text.slice(1);
  return /[.?!]$/.test(cased) ? cased : `${cased}.`;
}

function round(value: number | null): string {
  return value === null ? '–' : String(Math.round(Math.abs(value)));
}

export function seconds(total: number): string {
  const whole = Math.round(total);
  return whole < 60 ? `${whole} s` : `${Math.floor(whole / 60)} min ${String(whole % 60).padStart(2, '0')} s`;
}

export function day(moment: string, now = new Date()): string {
  const date = new Date(moment);
  const days = Math.round((new Date(now).setHours(0, 0, 0, 0) - new Date(date).setHours(0, 0, 0, 0)) / 86_400_000);
  const time = date.toLocaleTimeString('en-GB', { hour: '2-digit', minute: '2-digit' });
  if (days === 0) return `Today, ${time}`;
  if (days === 1) return `Yesterday, ${time}`;
  return `${date.toLocaleDateString('en-GB', { weekday: 'long', day: 'numeric', month: 'long' })}, ${time}`;
}

/** What a check found about a microphone, line by line. */
export function deviceInWords(device: Device): [string, string][] {
  const { found } = device;
  const lines: [string, string][] = [['Microphone', device.label || 'the one the browser picks']];
  if (found.delay_s === null) lines.push(['Delay', `not measured: ${found.reason ?? 'the clicks were not heard'}`]);
  else {
    const spread = Math.round(10000 * (found.spread_s ?? 0)) / 10;
    lines.push(['Delay', `${Math.round(1000 * found.delay_s)} ms, give or take ${spread} ms`]);
  }
  lines.push(['Clicks heard', `${found.heard} of ${found.played}`]);
  if (found.noise_db !== null)
    lines.push(['Room and device', `${Math.round(found.noise_db)} dB: ${noiseWord(found.noise_db)}`]);
  if (found.drift_ppm !== null) lines.push(['Clock', `${Math.round(found.drift_ppm)} millionths off`]);
  if (found.clipped_share > 0.001) lines.push(['Level', 'too high: the peaks are cut off']);
  return lines;
}

function noiseWord(db: number): string {
  if (db < -60) return 'quiet';
  return db < -45 ? 'soft notes may drown' : 'too loud to hear a breath or a soft note';
}

/** What was measured over the whole figure; what was not is left out. */
export function figureInWords(figure: Measures['figure']): string {
  const said: string[] = [`${figure.playing_s.toFixed(1)} s of tone`];
  const { timing_mean_ms: mean, timing_spread_ms: spread } = figure;
  if (spread != null) said.push(`timing spread ${Math.round(spread)} ms`);
  if (mean != null)
    said.push(Math.abs(mean) < 5 ? 'on the beat' : `${Math.round(Math.abs(mean))} ms ${mean > 0 ? 'behind' : 'ahead'}`);
  if (figure.evenness_ms != null) said.push(`lengths even within ${Math.round(figure.evenness_ms)} ms`);
  if (figure.sound_across != null) said.push(`sound across ${Math.round(figure.sound_across)} of 100`);
  if (figure.loudness_by_height_db_octave != null) {
    said.push(`${signed(figure.loudness_by_height_db_octave)} dB an octave going up`);
  }
  if (figure.breaths_inside != null && figure.breaths_inside > 0) said.push(`${figure.breaths_inside} breaths inside`);
  if (figure.trill_hz != null) said.push(`trill ${figure.trill_hz.toFixed(1)} a second`);
  return said.join(', ');
}

function signed(value: number): string {
  return `${value > 0 ? '+' : value < 0 ? '−' : ''}${Math.abs(value).toFixed(1)}`;
}

const STEPS: Record<string, string> = {
  next: 'going on',
  again: 'once more',
  back: 'a step back',
  easier: 'an easier form',
  harder: 'a harder form',
  'as-written': 'as it is written',
  'from-the-top': 'from the top again',
  'end-block': 'the next block',
  'end-register': 'an end of the high work',
  skip: 'the next block',
  rest: 'a rest',
  wait: 'a pause',
};

/** “A step back was advised, once more was chosen (twice)”. */
export function overruledInWords(items: readonly { advised: string; chosen: string }[]): string[] {
  const counts = new Map<string, number>();
  for (const { advised, chosen } of items) {
    const line = `${STEPS[advised] ?? advised} was advised, you chose ${STEPS[chosen] ?? chosen}`;
    counts.set(line, (counts.get(line) ?? 0) + 1);
  }
  return [...counts].map(([line, count]) => sentence(count > 1 ? `${line} (${count} times)` : line));
}

/** Whether it is quiet hours: from the hour that the player set until seven in the morning. */
export function isQuiet(from: number | null | undefined, now = new Date()): boolean {
  if (from == null) return false;
  const hour = now.getHours();
  return from >= 7 ? hour >= from || hour < 7 : hour >= from && hour < 7;
}
