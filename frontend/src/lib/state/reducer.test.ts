// @vitest-environment jsdom
import { describe, expect, it } from 'vitest';
import type { SessionState, TraceOut, Verdict } from '../api/client';
import type { Incoming } from './messages';
import { clickGoesOn, exerciseKey, lost, reduced, takeIsOver, UNKNOWN, type SessionView } from './reducer';

const at = (phase: SessionState['phase'], more: Partial<SessionState> = {}) =>
  ({
    phase,
    block: 0,
    exercise_index: 0,
    form: 'as written',
    checking: false,
    tempo_percent: 100,
    ...more,
  }) as SessionState;
const verdict = { outcome: 'clean' } as Verdict;
const nothing: TraceOut = { first_s: 0, hop_s: 0.005, f0_hz: [], level_db: [], tone_to_noise_db: [], confidence: [] };
const frames = (lateS: number): Incoming => ({
  type: 'frames',
  received: 1,
  hole: false,
  lateS,
  final: nothing,
  provisional: nothing,
});
const after = (...messages: Incoming[]): SessionView => messages.reduce(reduced, UNKNOWN);

describe('what a window knows', () => {
  it('leads when it is welcome, and watches when another took over', () => {
    const message = { type: 'welcome', token: 't', take: null, rested_s: 4, state: at('rest') } as const;
    const view = after({ ...message, owner: true });
    expect([view.connected, view.owner, view.restedS]).toEqual([true, true, 4]);
    expect(after({ ...message, owner: true }, { type: 'demoted' }).owner).toBe(false);
    expect(lost(view).connected).toBe(false);
  });

  it('keeps a verdict for as long as its phase lasts', () => {
    const told: Incoming[] = [
      { type: 'verdict', take: 'k', verdict },
      { type: 'state', state: at('verdict') },
    ];
    expect(after(...told).verdict).toBe(verdict);
    expect(after(...told, { type: 'state', state: at('preview') }).verdict).toBeNull();
    expect(after(...told, { type: 'state', state: at('count-in') }).takeId).toBeNull();
  });

  it('forgets what was refused as soon as it stands elsewhere', () => {
    const refused: Incoming = { type: 'error', kind: 'ConflictError', message: 'not possible' };
    const verdictState: Incoming = { type: 'state', state: at('verdict') };
    expect(after(verdictState, refused, verdictState).trouble).toBe('not possible');
    expect(after(verdictState, refused, { type: 'state', state: at('rest') }).trouble).toBeNull();
  });

  it('says that the server is late only while a take is heard', () => {
    const listening: Incoming = { type: 'state', state: at('listening') };
    expect(after(listening, frames(1.2)).late).toBe(true);
    expect(after(listening, frames(1.2), frames(0)).late).toBe(false);
    expect(after(listening, frames(1.2), { type: 'state', state: at('judging') }).late).toBe(false);
  });

  it('tells when the take in this window is over', () => {
    expect(takeIsOver(at('listening'), at('judging'))).toBe(true);
    expect(takeIsOver(at('count-in'), at('preview'))).toBe(true);
    expect(takeIsOver(at('preview'), at('preview'))).toBe(false);
    expect(takeIsOver(at('preview'), at('count-in'))).toBe(false);
  });

  it('knows when another exercise is to be shown', () => {
    const here = exerciseKey(at('preview'));
    expect(exerciseKey(at('listening'))).toBe(here);
    for (const change of [{ block: 1 }, { exercise_index: 1 }, { checking: true }, { tempo_percent: 104 }] as const) {
      expect(exerciseKey(at('preview', change))).not.toBe(here);
    }
  });
});

describe('the click in practice in time', () => {
  const plan = [{ in_time: true, exercises: 3 }] as unknown as SessionState['plan'];
  const bars = { played: 2, rest: 2, bar_s: 3 };
  const goesOn = (phase: SessionState['phase'], more: Partial<SessionState> = {}) =>
    clickGoesOn(at(phase, { plan, in_time: true, ...more }));

  it('goes on through takes, and through rests for as long as the session has bars', () => {
    for (const phase of ['count-in', 'listening', 'judging'] as const) expect(goesOn(phase)).toBe(true);
    for (const phase of ['verdict', 'preview'] as const) expect(goesOn(phase, { bars })).toBe(true);
  });
  it('stops without them, in a check note, and where the player wants single takes', () => {
    for (const phase of ['verdict', 'preview', 'rest', 'done'] as const) expect(goesOn(phase)).toBe(false);
    for (const more of [{ in_time: false }, { checking: true }])
      expect(goesOn('preview', { bars, ...more })).toBe(false);
  });
});
