/** The cells of the note table, by the columns that the core declares. */
import type { Measures } from '../api/client';
import { COLUMNS } from '../api/judged';
import { centsShort, decimals } from './numbers';

/* @wc-include */
const STILL = 'still';

export type NoteRow = Measures['notes'][number];
export type Cell = { text: string | null; why: string | undefined };
type Form = (typeof COLUMNS)[number]['form'];
type Maybe = number | null | undefined;

const fixed = (value: Maybe, digits: number, unit = '') => (value == null ? null : decimals(value, digits) + unit);

const WRITTEN: Record<Form, (note: NoteRow, values: Maybe[]) => string | null> = {
  hz: (_, [value]) => fixed(value, 1, ' Hz'),
  cents: (_, [value]) => (value == null ? null : centsShort(value)),
  whole: (_, [value]) => fixed(value, 0),
  one: (_, [value]) => fixed(value, 1),
  ms: (_, [value]) => fixed(value, 0, ' ms'),
  s: (_, [value]) => fixed(value, 1, ' s'),
  db: (_, [value]) => fixed(value, 0, ' dB'),
  entry: (_, [cents, ms]) => (cents == null ? null : `${centsShort(cents)}, ${fixed(ms, 0) ?? '–'} ms`),
  movement: (note) => movement(note),
};

export function cellsOf(note: NoteRow): Cell[] {
  return COLUMNS.map(({ fields, form }) => {
    const values = fields.map((field) => (note as unknown as Record<string, Maybe>)[field]);
    const why = fields.map((field) => note.unmeasured?.[field]).find((reason) => reason !== undefined);
    return {
      text: WRITTEN[form](note, values),
      why: why ?? (note.f0_hz == null ? 'the note was not heard' : undefined),
    };
  });
}

function movement(note: NoteRow): string | null {
  if (note.vibrato_hz != null)
    return `vibrato ${fixed(note.vibrato_cents, 0)} c, ${fixed(note.vibrato_hz, 1)} a second`;
  if (note.pitch_wobble_depth_cents != null) return `wobble ${fixed(note.pitch_wobble_depth_cents, 0)} c`;
  return note.unmeasured?.['pitch_wobble_depth_cents'] ? null : STILL;
}
