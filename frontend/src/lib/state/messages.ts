/** What the live socket says, and what a window may say of the session (docs/live-protocol.md). */
import type { SessionState, TraceOut, Verdict } from '../api/client';

export type EventName =
  | 'counted-in'
  | 'ended'
  | 'drop'
  | 'go-on'
  | 'again'
  | 'next'
  | 'back'
  | 'easier'
  | 'harder'
  | 'skip'
  | 'pause'
  | 'resume'
  | 'rest-over'
  | 'played'
  | 'report'
  | 'stop';

export type Incoming =
  | {
      type: 'welcome';
      owner: boolean;
      token: string | null;
      state: SessionState;
      /** Seconds of the rest under way that have passed. */
      rested_s: number;
      take: { key: string; received: number } | null;
    }
  | { type: 'state'; state: SessionState }
  | { type: 'ack'; received: number; hole: boolean }
  | { type: 'frames'; final: TraceOut; provisional: TraceOut | null }
  | { type: 'verdict'; take: string; verdict: Verdict }
  | { type: 'demoted' }
  | { type: 'error'; kind: string; message: string };
