import { describe, expect, it } from 'vitest';
import type { Exchange } from '../api/client';
import { daysAgo } from './dates';
import { headline, isOpen, partsOf, standingOf } from './exchanges';

const base: Exchange = {
  id: 'a',
  player_id: 'p',
  player_name: 'Piran Voss',
  kind: 'lesson',
  way: 'received',
  sender: 'Wenna Tull',
  made_at: '2026-03-02T18:00:00Z',
  lesson: {
    to: 'Piran',
    title: 'Until Easter',
    words: '',
    exercises: [
      {
        name: 'Low slurs',
        words: 'slowly',
        instrument: 'tuba-eb',
        exercise_type: 'two-partial-slur',
        params: {},
        exercise: null,
        tune: [],
      },
    ],
    goals: [{ target: { kind: 'own', value: 58, joined: false }, by: '2026-05-01', says: 'own Bb3', words: '' }],
    routines: [{ name: 'Short', words: '', blocks: [{ exercise_type: 'long-low-tones', minutes: 7.6, params: {} }] }],
    limits: { pitch_error_cents: 12 },
    recordings: [],
  },
  review_request: null,
  taken: ['exercise 0'],
  answer: null,
};
const review_request: Exchange = {
  ...base,
  kind: 'review_request',
  lesson: null,
  review_request: { to: 'Wenna', title: 'Low tones', words: '', takes: [], says: [], weeks: [] },
  taken: [],
};

describe('a lesson', () => {
  it('says whose it is and how much of it was taken over', () => {
    expect(headline(base)).toBe('Lesson from Wenna Tull');
    expect(headline({ ...base, way: 'sent' })).toBe('Lesson for Piran');
    expect(standingOf(base)).toBe('1 of 4 added');
  });

  it('has its parts under the keys that the server takes, in words', () => {
    expect(partsOf(base).map(({ key, name }) => [key, name])).toEqual([
      ['exercise 0', 'Low slurs'],
      ['routine 0', 'Short, 8 min'],
      ['goal 0', 'own B♭3, by 1 May 2026'],
      ['limits', '1 limit'],
    ]);
    expect(partsOf(review_request)).toEqual([]);
  });
});

describe('a review_request', () => {
  it('waits, and is answered', () => {
    const answer = { words: 'Good.', by: 'Wenna Tull', at: '2026-03-03T18:00:00Z' };
    expect(standingOf(review_request)).toBe('waiting for your answer');
    expect(standingOf({ ...review_request, way: 'sent' })).toBe('no answer yet');
    expect(standingOf({ ...review_request, way: 'sent', answer })).toBe('answered by Wenna Tull');
    expect(standingOf({ ...review_request, answer })).toBe('you answered');
  });
});

it('a lesson is open until all of it is added, for four weeks', () => {
  const lesson = { title: 'x', words: '', to: '', exercises: [], routines: [], recordings: [], limits: { centre: 5 } };
  const given = (days: number, taken: string[], told: object = lesson) =>
    ({ made_at: `${daysAgo(days)}T10:00:00Z`, taken, lesson: told }) as unknown as Exchange;
  expect(isOpen(given(3, []))).toBe(true);
  expect(isOpen(given(3, ['limits']))).toBe(false);
  expect(isOpen(given(40, []))).toBe(false);
  expect(isOpen(given(3, [], { ...lesson, limits: {} }))).toBe(true);
  expect(isOpen(given(9, [], { ...lesson, limits: {} }))).toBe(false);
});
