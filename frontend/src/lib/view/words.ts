/** Numbers into words: short, plain, kind. */
import type { Device, Measures, Outcome, Schemas, Verdict } from '../api/client';
import { noteName } from './naming.svelte';
import { centsInWords, decimals, loadMinutes, signed } from './numbers';
import { filledIn, saysOf } from './reasons';
import { locale, tag } from '../../locales/locale.js';

export { noteName } from './naming.svelte';
export { centsInWords, centsShort, counted, loadMinutes, seconds } from './numbers';
export { labelOf } from './reasons';

/** A sentence with its notes as players write them: “own Bb3” as “own B♭3”. */
export function noteSigns(text: string): string {
  return text.replace(/\b[A-G](?:##?|bb?)?-?\d\b/g, noteName);
}

export function noteNames(text: string): string {
  return text.split(' ').map(noteName).join(' ');
}

export const PLACE_WORDS: Record<Schemas['DayPlace'], string> = {
  breath: 'Breathing',
  buzz: 'Buzzing',
  tones: 'Long tones',
  slurs: 'Lip slurs',
  centre: 'Tuning and intervals',
  register: 'High register',
  low: 'Low register',
  music: 'Tunes',
  check: 'Warm-down',
};

/* @wc-include */
export const LOAD_WORDS: Record<Schemas['Load'], string> = {
  easy: 'easy',
  medium: 'medium',
  high: 'heavy',
};

/** Load counts minutes of easy playing: higher and louder counts more. */
export function loadInWords(load: number): string {
  return `load ${loadMinutes(load)} min`;
}

/** A word within a sentence. German keeps it as it is: nouns are written large there. */
export const small = (word: string) => (locale === 'de' ? word : word.toLowerCase());

export const STANDARD_WORDS: Record<Schemas['Standard'], string> = {
  beginner: 'Beginner',
  developing: 'Developing',
  advanced: 'Advanced',
  professional: 'Professional',
};

export const GOAL_NAMES: Record<Schemas['GoalKind'], string> = {
  own: 'A note in my range',
  hold: 'A long low note',
  slur: 'Clean slurs over partials',
  trill: 'Lip trill speed',
  pedals: 'Pedal sets a day',
  centre: 'In tune within cents',
  minutes: 'Minutes before tiring',
};

/** “third slide 17 mm out”, “27 mm in”, “cannot be reached”. */
export function pullInWords(way: { slide: string | null; slide_mm: number | null; reachable: boolean }): string {
  if (!way.reachable) return way.slide ? 'cannot be reached' : '';
  if (way.slide === null || way.slide_mm === null || Math.abs(way.slide_mm) < 2) return '';
  const how = `${Math.round(Math.abs(way.slide_mm))} mm ${way.slide_mm > 0 ? 'out' : 'in'}`;
  return way.slide === 'hand slide' ? how : `${way.slide} ${how}`;
}

export const OUTCOME_WORDS: Record<Outcome, string> = {
  clean: 'Clean',
  close: /* @wc-context: result of a take */ 'Close',
  not_yet: 'Not yet',
  not_heard: 'Not heard',
  done: 'Done',
};

/** One line for the screen: what, where, how far. */
export function reasonInWords(verdict: Verdict, nameOf: (id: string) => string): string {
  if (!verdict.reason && verdict.outcome === 'clean' && verdict.value != null) {
    const where = Math.abs(verdict.value) < 2 ? 'on the target' : centsInWords(verdict.value);
    return `${verdict.note ? nameOf(verdict.note) : 'It'} rang best ${where}.`;
  }
  if (!verdict.reason) {
    if (verdict.outcome === 'done') return 'Nothing is judged here.';
    if (verdict.outcome !== 'clean') return '';
    return verdict.hidden ? 'Everything that can be heard here was clean.' : 'Everything was clean.';
  }
  const says = saysOf(verdict.reason);
  return sentence(says ? filledIn(says, verdict, verdict.note ? nameOf(verdict.note) : null) : (verdict.cause ?? ''));
}

export function sentence(text: string): string {
  if (!text) return '';
  const cased = text.charAt(0).toUpperCase() + text.slice(1);
  return /[.?!]$/.test(cased) ? cased : `${cased}.`;
}

export function day(moment: string, now = new Date()): string {
  const date = new Date(moment);
  const days = Math.round((new Date(now).setHours(0, 0, 0, 0) - new Date(date).setHours(0, 0, 0, 0)) / 86_400_000);
  const time = date.toLocaleTimeString(tag, { hour: '2-digit', minute: '2-digit' });
  if (days === 0) return `Today, ${time}`;
  if (days === 1) return `Yesterday, ${time}`;
  return `${date.toLocaleDateString(tag, { weekday: 'long', day: 'numeric', month: 'long' })}, ${time}`;
}

/** What a check found about a microphone, line by line. */
export function deviceInWords(device: Device): [string, string][] {
  const { found } = device;
  const lines: [string, string][] = [['Microphone', device.label || 'the browser’s choice']];
  if (found.delay_s === null) lines.push(['Delay', `not measured: ${found.reason ?? 'the clicks were not heard'}`]);
  else {
    const spread = Math.round(10000 * (found.spread_s ?? 0)) / 10;
    lines.push(['Delay', `${Math.round(1000 * found.delay_s)} ms, give or take ${spread} ms`]);
  }
  lines.push(['Clicks heard', `${found.heard} of ${found.played}`]);
  if (found.noise_db !== null)
    lines.push(['Room and device', `${Math.round(found.noise_db)} dB: ${noiseWord(found.noise_db)}`]);
  if (found.room) lines.push(['Room', found.room]);
  if (found.drift_ppm !== null) lines.push(['Clock', `${Math.round(found.drift_ppm)} millionths off`]);
  if (found.clipped_share > 0.001) lines.push(['Input level', 'too high: the peaks are cut off']);
  return lines;
}

function noiseWord(db: number): string {
  if (db < -60) return 'quiet';
  return db < -45 ? 'soft notes may be lost' : 'too loud for soft notes and breaths';
}

const ms = (value: number) => Math.round(value);

/** What was measured over the whole exercise; what was not is left out. */
export function exerciseInWords(exercise: Measures['exercise']): string {
  const said: string[] = [`${decimals(exercise.playing_s, 1)} s of playing`];
  const { timing_mean_ms: mean, timing_spread_ms: spread } = exercise;
  if (spread != null) said.push(`rhythm uneven by ${Math.round(spread)} ms`);
  if (mean != null)
    said.push(Math.abs(mean) < 5 ? 'on the beat' : mean > 0 ? `${ms(mean)} ms late` : `${ms(-mean)} ms early`);
  if (exercise.evenness_ms != null) said.push(`note lengths within ${Math.round(exercise.evenness_ms)} ms`);
  if (exercise.tone_match_across != null) said.push(`tone match ${Math.round(exercise.tone_match_across)} of 100`);
  if (exercise.loudness_by_height_db_octave != null) {
    said.push(`${signed(exercise.loudness_by_height_db_octave)} dB an octave going up`);
  }
  if (exercise.breaths_inside != null && exercise.breaths_inside > 0)
    said.push(`${exercise.breaths_inside} extra breaths`);
  if (exercise.trill_hz != null && exercise.trill_hz >= 1)
    said.push(`trill ${decimals(exercise.trill_hz, 1)} a second`);
  return said.join(', ');
}

const STEPS: Partial<Record<Schemas['NextStep'] | Schemas['EventName'], string>> = {
  next: 'the next one',
  again: 'a repeat',
  back: 'a step back',
  easier: 'an easier version',
  harder: 'a harder version',
  'as-written': 'as written',
  'from-the-top': 'from the start',
  'end-block': 'the next exercise',
  'end-register': 'an end of the high work',
  skip: 'the next exercise',
  rest: 'a rest',
  wait: 'a pause',
};

const FOLLOWED: Record<string, string> = {
  next: 'Continue',
  again: 'Repeat',
  back: 'Step back',
  easier: 'Easier',
  'as-written': 'As written',
  'from-the-top': 'From the start',
  'end-block': 'Next exercise',
  'end-register': 'Continue',
  rest: 'Rest',
  wait: 'Continue',
};

/** What the button that follows the advice says. `last`: it is the last block. */
export function followedInWords(step: string | null | undefined, last: boolean): string {
  if (step === 'end-block' && last) return 'End';
  return FOLLOWED[step ?? ''] ?? 'Continue';
}

/** “A step back was advised, once more was chosen (twice)”. */
export function overruledInWords(items: readonly Pick<Schemas['Overruling'], 'advised' | 'chosen'>[]): string[] {
  const counts = new Map<string, number>();
  for (const { advised, chosen } of items) {
    const line = `Suggested: ${STEPS[advised] ?? advised}; you chose ${STEPS[chosen] ?? chosen}`;
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

/* @wc-include */
const ORDINALS = ['', '1st', '2nd', '3rd', '4th', '5th', '6th', '7th'];
const SLIDE_VALVES: Record<string, string> = { V: ', valve 1', W: ', valve 2', VW: ', both valves' };

/** A fingering as players write it: “open”, “1-2”, “T 0” on a double horn, “4th position, valve 1” on a slide. */
export function fingeringInWords(label: string, slide = false): string {
  const [, valves = '', place = ''] = (slide ? /^(V|W|VW)? ?([1-7])$/.exec(label) : null) ?? [];
  if (place) return `${ORDINALS[Number(place)]} position${SLIDE_VALVES[valves] ?? ''}`;
  /* @wc-include */
  const open = 'open';
  return label === '0' ? open : label.replace(/^B♭ /, 'T ').replace(/^Bb /, 'T ');
}

/** How soon the next exercise begins while the click goes on. */
export function barsInWords(bars: number | null): string {
  return bars === null || bars <= 1 ? 'Next bar.' : `In ${bars} bars.`;
}

const CLEFS: Record<string, string> = {
  treble: 'treble clef',
  bass: 'bass clef',
  tenor: 'tenor clef',
  alto: 'alto clef',
};

/** A player's part: its clef, and whether it is written as it sounds. */
export function partInWords(part: { id: string; clef: string; semitones: number }): string {
  const clef = CLEFS[part.clef] ?? part.clef;
  if (part.id === 'bass-old') return `${clef}, old notation`;
  return part.semitones === 0 ? clef : `${clef}, transposing`;
}

/** What a player is told of what a teacher sees. */
export function seenBy(teachers: string[]): string {
  return `${teachers.join(', ')} sees how you practise: days, results, takes with their sound, goals, and what you report of your lips.`;
}
