/** What the live socket says, and what a window may say of the session (docs/live-protocol.md). */
import type { Schemas, SessionState, Verdict } from '../api/client';
import type { FramesMessage } from '../api/frames';

export const PROTOCOL = 2;

/** What a window may say: every event but those that the server makes itself. */
export type EventName = Exclude<Schemas['EventName'], 'begin' | 'judged'>;

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
  | FramesMessage
  | { type: 'full'; received: number; message: string }
  | { type: 'verdict'; take: string; verdict: Verdict }
  | { type: 'demoted' }
  /** The window that led has gone: whoever says hello first leads. */
  | { type: 'free' }
  | { type: 'error'; kind: string; message: string };
