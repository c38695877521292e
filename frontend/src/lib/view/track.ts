/** The pitch line as it grows: final frames in place, guesses after them until they are final. */
import type { TraceOut } from '../api/client';

export const HOP_S = 0.005;
/** A tone that dies away into the room is still heard, but its last moments say nothing worth drawing. */
const CLEAR = 0.55;
const FADED_DB = 24;

export type Track = { f0: (number | null)[]; level: number[]; tone: number[]; finals: number };

export function emptyTrack(): Track {
  return { f0: [], level: [], tone: [], finals: 0 };
}

export function trackOf(trace: TraceOut): Track {
  const track = emptyTrack();
  put(track, 0, trace);
  track.finals = trace.f0_hz.length;
  return track;
}

/** Frames are placed by their time, so a repeat or an overlap changes nothing that was final. */
export function extend(track: Track, final: TraceOut, provisional: TraceOut | null): void {
  if (final.f0_hz.length) {
    const first = Math.round(final.first_s / HOP_S);
    put(track, first, final);
    track.finals = Math.max(track.finals, first + final.f0_hz.length);
  }
  cut(track, track.finals);
  if (provisional?.f0_hz.length) put(track, Math.round(provisional.first_s / HOP_S), provisional);
}

function put(track: Track, first: number, part: TraceOut): void {
  for (let i = 0; i < part.f0_hz.length; i++) {
    track.level[first + i] = part.level_db[i] ?? -120;
    const clear = (part.confidence[i] ?? 1) >= CLEAR && !fading(track.level, first + i);
    track.f0[first + i] = clear ? (part.f0_hz[i] ?? null) : null;
    track.tone[first + i] = part.tone_to_noise_db[i] ?? 0;
  }
}

/** Far under the loudest of the last third of a second: the note has ended. */
function fading(level: number[], at: number): boolean {
  let loud = -120;
  for (let i = Math.max(0, at - 60); i < at; i++) loud = Math.max(loud, level[i] ?? -120);
  return (level[at] ?? -120) < loud - FADED_DB;
}

function cut(track: Track, length: number): void {
  track.f0.length = Math.min(track.f0.length, length);
  track.level.length = Math.min(track.level.length, length);
  track.tone.length = Math.min(track.tone.length, length);
}

export function cents(high: number, low: number): number {
  return 1200 * Math.log2(high / low);
}

/** Median of the pitch in the last `seconds`, in cents from a target; null when there is too little tone. */
export function recentCents(track: Track, target: number, seconds: number): number | null {
  const from = Math.max(0, track.f0.length - Math.round(seconds / HOP_S));
  const values = track.f0.slice(from).filter((f): f is number => typeof f === 'number' && f > 0);
  if (values.length < 10) return null;
  values.sort((a, b) => a - b);
  return cents(values[values.length >> 1] ?? target, target);
}
