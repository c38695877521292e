import { describe, expect, it } from 'vitest';
import type { ChartRow, ExerciseView } from '../api/client';
import { choicesOf, otherwise, readOptions, writeOptions } from './fingeringOptions';

const note = (id: string, sounding: string) => ({ id, sounding, written: sounding, fingering: '0' });
const view = {
  notes: [note('n1', 'C4'), note('n2', 'E4'), note('n3', 'C4'), note('n4', 'G4')],
  exercise: { notes: [{ id: 'n1' }, { id: 'n2' }, { id: 'n3' }, { id: 'n4', keep_fingering: true }] },
} as unknown as ExerciseView;
const options = [
  { label: '0', cents: 0 },
  { label: '2-3', cents: -6.4 },
];
const chart = [
  { sounding: 'C4', options },
  { sounding: 'E4', options: options.slice(0, 1) },
  { sounding: 'G4', options },
] as unknown as ChartRow[];

describe('fingerings by hand', () => {
  it('are read and written alike; what is as usual is left out', () => {
    const named = readOptions('C4=2-3; 2/n5=T 1');
    expect(named).toEqual({ C4: '2-3', '2/n5': 'T 1' });
    expect(writeOptions({ ...named, C4: '' })).toBe('2/n5=T 1');
    expect(readOptions(' ; nonsense')).toEqual({});
  });
  it('are offered once a pitch, where there is more than one and the fingering is not the exercise', () => {
    const found = choicesOf(view, chart, null);
    expect(found.map((item) => item.key)).toEqual(['C4']);
    expect(found[0]!.options.map((option) => option.says)).toEqual(['0', '2-3, 6 cents flat']);
    expect(otherwise(found[0]!, { C4: '2-3' })).toBe('as usual');
  });
  it('or for every note by itself', () => {
    expect(choicesOf(view, chart, 2).map((item) => [item.key, item.name])).toEqual([
      ['2/n1', '1. C4'],
      ['2/n3', '3. C4'],
    ]);
    expect(otherwise(choicesOf(view, chart, 2)[1]!, { C4: '2-3' })).toBe('as every C4: 2-3');
  });
});
