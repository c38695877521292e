/** Why a take was not held, in words: the sentences are the core's own (lib/api/judged.ts), only filled in here. */
import { REASONS, type Reason } from '../api/judged';
import { centsInWords, decimals, msAsSeconds, signed } from './numbers';
import { named } from './names';

type Values = { value?: number | null; limit?: number | null };

/** What stands before the note's name; nothing where there is none. */
/* @wc-include */
const WHERE: Record<string, string> = {
  at: ' at',
  before: ', before',
  most: ', most at',
  least: ', least at',
  slowest: ', slowest at',
};
/* @wc-include */
const IT = 'it';
const PLACE = /\{(note|at|before|most|least|slowest|value|limit)(?::(\w+))?(?:\?([^|}]*)\|([^}]*))?\}/g;

/** The sentence of a reason, with the note's name in its place. */
export function filledIn(says: string, { value = null, limit = null }: Values, note: string | null): string {
  return says.replace(PLACE, (_, what: string, form?: string, below?: string, above?: string) => {
    if (what === 'note') return note ?? IT;
    if (what in WHERE) return note === null ? '' : `${WHERE[what]} ${note}`;
    const number = what === 'value' ? value : limit;
    if (below !== undefined) return (number ?? 0) < 0 ? below : (above ?? '');
    return written(number, form);
  });
}

function written(value: number | null, form?: string): string {
  if (form === 'side') return centsInWords(value);
  if (value === null) return '–';
  if (form === 's') return msAsSeconds(value);
  if (form === 'signed') return signed(value);
  if (form === 'semitones') return String(Math.round(Math.abs(value) / 100));
  return form === '1' ? decimals(Math.abs(value), 1) : String(Math.round(Math.abs(value)));
}

export function saysOf(reason: string): string | null {
  return REASONS[reason as Reason]?.says ?? null;
}

/** A few words for lists: “silence in the slur”. */
export function labelOf(reason: string): string {
  return named(REASONS[reason as Reason]?.label ?? reason);
}
