/** Another take laid over this one, note by note: its time is stretched so that both begin each note together. */
import type { Measures } from '../api/client';
import { emptyTrack, HOP_S, type Track } from './track';

type Anchor = { from: number; to: number };

/** Moments of the other take and of this one that belong together: starts and ends of the notes both have. */
export function anchorsOf(other: Measures, here: Measures): Anchor[] {
  const out: Anchor[] = [];
  for (const note of here.notes) {
    const match = other.notes.find((item) => item.target && item.target === note.target);
    if (note.onset_s == null || match?.onset_s == null) continue;
    out.push({ from: match.onset_s, to: note.onset_s });
    if (note.release_s != null && match.release_s != null) out.push({ from: match.release_s, to: note.release_s });
  }
  out.sort((a, b) => a.to - b.to || a.from - b.from);
  // Only what moves forward in both can be followed.
  return out.filter((item, i) => i === 0 || (item.to > out[i - 1]!.to && item.from > out[i - 1]!.from));
}

/** The moment of the other take that is laid at `time` of this one. */
export function timeIn(anchors: Anchor[], time: number): number {
  const first = anchors[0];
  const last = anchors.at(-1);
  if (!first || !last) return time;
  if (time <= first.to) return first.from + (time - first.to);
  if (time >= last.to) return last.from + (time - last.to);
  const after = anchors.findIndex((item) => item.to >= time);
  const [a, b] = [anchors[after - 1] ?? first, anchors[after] ?? last];
  return a.from + ((time - a.to) * (b.from - a.from)) / (b.to - a.to);
}

export function laidOver(track: Track, other: Measures, here: Measures, length: number): Track {
  const anchors = anchorsOf(other, here);
  const out = emptyTrack();
  for (let i = 0; i < length; i++) {
    const at = Math.round(timeIn(anchors, i * HOP_S) / HOP_S);
    out.f0[i] = track.f0[at] ?? null;
    out.level[i] = track.level[at] ?? -120;
    out.tone[i] = track.tone[at] ?? 0;
  }
  out.finals = length;
  return out;
}
