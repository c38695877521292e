/** Frames as they come over the live socket (docs/live-protocol.md): one binary message with its acknowledgement. */
import type { TraceOut } from './client';

export type FramesMessage = {
  type: 'frames';
  received: number;
  hole: boolean;
  /** How many seconds the server is behind the sound; 0 while it keeps up. */
  lateS: number;
  final: TraceOut;
  provisional: TraceOut;
};

const KIND = 1;
const HOLE = 1;
const HEAD = 44;
const HOP_S = 0.005;

export function readFrames(data: ArrayBuffer): FramesMessage {
  const view = new DataView(data);
  if (view.getUint32(0, true) !== KIND) throw new Error('This page and the server differ: reload it.');
  const finals = view.getUint32(20, true);
  const guesses = view.getUint32(32, true);
  return {
    type: 'frames',
    hole: (view.getUint32(4, true) & HOLE) !== 0,
    received: Number(view.getBigUint64(8, true)),
    lateS: view.getFloat32(16, true),
    final: columns(data, HEAD, finals, view.getFloat64(24, true)),
    provisional: columns(data, HEAD + 16 * finals, guesses, view.getFloat64(36, true)),
  };
}

function columns(data: ArrayBuffer, offset: number, count: number, first_s: number): TraceOut {
  const column = (place: number) => Array.from(new Float32Array(data, offset + 4 * place * count, count));
  return {
    first_s,
    hop_s: HOP_S,
    f0_hz: column(0).map((hz) => (Number.isNaN(hz) ? null : hz)),
    level_db: column(1),
    tone_to_noise_db: column(2),
    confidence: column(3),
  };
}
