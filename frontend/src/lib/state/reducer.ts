/** What a window knows of its session, and how each message changes it: one after another, without waiting for anything. */
import type { SessionState, Verdict } from '../api/client';
import type { Incoming } from './messages';

export type SessionView = {
  state: SessionState | null;
  verdict: Verdict | null;
  takeId: string | null;
  owner: boolean;
  connected: boolean;
  trouble: string | null;
  /** Seconds of a rest that had passed when this window came (back). */
  restedS: number;
  /** The server cannot keep up with the sound: said until it can again. */
  late: boolean;
};

export const UNKNOWN: SessionView = {
  state: null,
  verdict: null,
  takeId: null,
  owner: true,
  connected: false,
  trouble: null,
  restedS: 0,
  late: false,
};

export const OPEN_PHASES: readonly string[] = ['count-in', 'listening'];

export function reduced(view: SessionView, message: Incoming): SessionView {
  switch (message.type) {
    case 'welcome':
      return {
        ...standing(view, message.state),
        connected: true,
        owner: message.owner,
        restedS: message.rested_s,
        trouble: null,
      };
    case 'state':
      return standing(view, message.state);
    case 'frames': {
      const late = message.lateS > 0;
      return late === view.late ? view : { ...view, late };
    }
    case 'full':
      return { ...view, trouble: message.message };
    case 'verdict':
      return { ...view, verdict: message.verdict, takeId: message.take };
    case 'demoted':
      return { ...view, owner: false };
    case 'free':
      return view;
    case 'error':
      return { ...view, trouble: message.message };
  }
}

export function lost(view: SessionView): SessionView {
  return { ...view, connected: false };
}

/** Another state of the session: a verdict lasts as long as its phase. */
function standing(view: SessionView, state: SessionState): SessionView {
  const over = state.phase === 'preview' || state.phase === 'rest' || OPEN_PHASES.includes(state.phase);
  const late = OPEN_PHASES.includes(state.phase) && view.late;
  // What was refused in one phase is no trouble any more in another.
  const trouble = view.state === null || view.state.phase === state.phase ? view.trouble : null;
  return over ? { ...view, state, verdict: null, takeId: null, late, trouble } : { ...view, state, late, trouble };
}

/** Whether the click goes on from take to take where the session stands. */
export function runsInTime(state: SessionState | null): boolean {
  return Boolean(state?.in_time && !state.checking && state.plan[state.block]?.in_time);
}

/** Whether the click goes on at this moment: through a take, and in a rest that another take of the exercise follows. */
export function clickGoesOn(state: SessionState): boolean {
  return runsInTime(state) && (Boolean(state.bars) || [...OPEN_PHASES, 'judging'].includes(state.phase));
}

/** Whether the take under way in this window is over by what the server says. */
export function takeIsOver(before: SessionState | null, now: SessionState): boolean {
  if (['judging', 'verdict', 'rest', 'done'].includes(now.phase)) return true;
  return now.phase === 'preview' && before !== null && before.phase !== 'preview';
}

/** What the exercise on the stand depends on. */
export function exerciseKey(state: SessionState): string {
  return [state.block, state.exercise_index, state.form, state.checking, state.tempo_percent].join();
}
