/** What was read from free playing, in sentences. What could not be measured is left out. */
import type { Schemas } from '../api/client';
import { centsShort, counted, decimals, msAsSeconds, seconds } from './numbers';

const AT_ONCE_MS = 15;
type Reading = Schemas['FreeReading'];

/** “2 min 10 s of playing in 5 parts, from G3 to C5. The longest note lasted 8.2 s.” */
export function reachInWords(reading: Reading, nameOf: (midi: number) => string): string {
  if (!reading.notes) return 'Nothing was played.';
  const { low, high } = reading;
  const from = low != null && high != null ? `, from ${nameOf(low)} to ${nameOf(high)}` : '';
  const longest = `The longest note lasted ${decimals(reading.longest_s, 1)} s.`;
  return `${seconds(reading.playing_s)} of playing in ${counted(reading.parts, ['# part', '# parts'])}${from}. ${longest}`;
}

export function freeInSentences(reading: Reading): string[] {
  return [tuning(reading), attacks(reading), steadiness(reading), slurs(reading), loudness(reading)].filter(
    (line) => line !== '',
  );
}

function tuning(reading: Reading): string {
  if (reading.off_cents == null) return '';
  const registers = reading.registers.map((one) => `${one.register} ${Math.round(one.off_cents)}`);
  const by = registers.length > 1 ? ` By register: ${registers.join(', ')}.` : '';
  return `Tuning: held notes were usually ${counted(Math.round(reading.off_cents), ['# cent', '# cents'])} out.${by}`;
}

function attacks(reading: Reading): string {
  if (!reading.attacks || reading.attack_cents == null) return '';
  const off = Math.round(reading.attack_cents);
  const settle =
    (reading.attack_ms ?? 0) < AT_ONCE_MS ? '' : `, and settled after ${msAsSeconds(reading.attack_ms ?? 0)}`;
  const began = off <= 2 ? 'usually in tune at once' : `usually ${counted(off, ['# cent', '# cents'])} off${settle}`;
  const broke = reading.breaks
    ? ` ${counted(reading.breaks, ['# note', '# notes'])} cracked or started on another partial.`
    : '';
  return `Attacks: ${reading.attacks}, ${began}.${broke}`;
}

function steadiness(reading: Reading): string {
  if (reading.wobble_cents == null) return '';
  const drift = reading.drift_cents;
  const moved = drift == null || Math.abs(drift) < 3 ? '' : `, and drifted ${centsShort(drift)}`;
  return `Steadiness: long notes wobbled by ${counted(Math.round(reading.wobble_cents), ['# cent', '# cents'])}${moved}.`;
}

function slurs(reading: Reading): string {
  const { count, gaps, touched } = reading.slurs;
  if (!count) return '';
  const found = [
    gaps.length && counted(gaps.length, ['# silence', '# silences']),
    touched.length && `${counted(touched.length, ['# partial', '# partials'])} touched on the way`,
  ].filter(Boolean);
  return `Slurs: ${count}, ${found.length ? `with ${found.join(' and ')}` : 'all clean'}.`;
}

function loudness(reading: Reading): string {
  const { soft_db: soft, loud_db: loud } = reading;
  return soft == null || loud == null ? '' : `Volume: ${Math.round(loud - soft)} dB between soft and loud.`;
}

/** The take at the moment in question. */
export function placeHref(place: Schemas['Place']): string {
  return `/take/${place.take_id}?at=${Math.max(0, place.at_s - 1).toFixed(1)}`;
}
