/** Numbers into words: short, plain, kind. */
import type { Verdict } from '../api/client';

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
  timing: (v) => `uneven against the click by ${round(v.value)} ms (limit ${round(v.limit)})`,
};

/** One line for the screen: what, where, how far. */
export function reasonInWords(verdict: Verdict, nameOf: (id: string) => string): string {
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
