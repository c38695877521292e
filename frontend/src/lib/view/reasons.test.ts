import { describe, expect, it } from 'vitest';
import { COLUMNS, LIMIT_LABELS, REASONS } from '../api/judged';
import { cellsOf, type NoteRow } from './notetable';
import { filledIn, labelOf, saysOf } from './reasons';

describe('reasons in words', () => {
  it('fills in the note, and how a number is written', () => {
    expect(filledIn('{note} lay {value:side} (limit {limit})', { value: -9.4, limit: 15 }, 'B♭2')).toBe(
      'B♭2 lay 9 cents flat (limit 15)',
    );
    expect(filledIn('{value:1} a second of {limit:1}', { value: 2.04, limit: 1.8 }, null)).toBe('2.0 a second of 1.8');
    expect(filledIn('{value:signed} dB', { value: -1.26 }, null)).toBe('−1.3 dB');
    expect(filledIn('{value:semitones} semitones', { value: 712 }, null)).toBe('7 semitones');
  });

  it('leaves out the place where there is none', () => {
    expect(filledIn('it changed{at}: {value}', { value: 61.2 }, null)).toBe('it changed: 61');
    expect(filledIn('it changed{at}: {value}', { value: 61.2 }, 'D3')).toBe('it changed at D3: 61');
  });

  it('chooses by the sign', () => {
    const says = '{note} {value?sagged|rose} by {value} cents';
    expect(filledIn(says, { value: -18 }, 'C3')).toBe('C3 sagged by 18 cents');
    expect(filledIn(says, { value: 18 }, 'C3')).toBe('C3 rose by 18 cents');
  });

  it('has words for every reason, and leaves nothing unfilled', () => {
    for (const reason of Object.keys(REASONS)) {
      expect(labelOf(reason)).toMatch(/^[a-z][a-z’ ]+$/);
      const said = filledIn(saysOf(reason) ?? '', { value: 12.3, limit: 10 }, 'F3');
      expect(said, reason).not.toMatch(/[{}]/);
      expect(said.length).toBeGreaterThan(6);
      expect(filledIn(saysOf(reason) ?? '', { value: 12.3, limit: 10 }, null), reason).not.toMatch(
        /[{}]|(at|before) *$/,
      );
    }
    expect(Object.keys(LIMIT_LABELS).length).toBeGreaterThan(10);
  });

  it('says where a measure of the whole shows most, where that is known', () => {
    const says = saysOf('timing') ?? '';
    expect(filledIn(says, { value: 95, limit: 50 }, 'F3')).toBe('the rhythm was uneven, most at F3');
    expect(filledIn(says, { value: 95, limit: 50 }, null)).toBe('the rhythm was uneven');
  });

  it('shows a note by the declared columns, with why where there is nothing', () => {
    const note = {
      f0_hz: 155.56,
      pitch_error_cents: -8.6,
      attack_error_cents: -31,
      attack_settle_ms: 140,
      pitch_wobble_depth_cents: null,
      unmeasured: { pitch_drift_cents: 'settled less than 0.3 s' },
    } as unknown as NoteRow;
    const cells = new Map(COLUMNS.map((column, i) => [column.label as string, cellsOf(note)[i]]));
    expect(cells.get('Heard')?.text).toBe('155.6 Hz');
    expect(cells.get('Pitch')?.text).toBe('9 flat');
    expect(cells.get('Attack')?.text).toBe('31 flat, 140 ms');
    expect(cells.get('Vibrato or wave')?.text).toBe('still');
    expect(cells.get('Drift')).toEqual({ text: null, why: 'settled less than 0.3 s' });
  });
});
