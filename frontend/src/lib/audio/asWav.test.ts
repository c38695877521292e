import { describe, expect, it } from 'vitest';
import { asWav, mono, NotRead, wavOf } from './asWav';

describe('a recording as WAV', () => {
  it('has the head of a WAV file and its samples', () => {
    const view = new DataView(wavOf(new Float32Array([0, 1, -2]), 24_000));
    expect(String.fromCharCode(...new Uint8Array(view.buffer, 0, 16))).toBe('RIFF*\0\0\0WAVEfmt ');
    expect([view.getUint32(24, true), view.getUint16(34, true), view.getUint32(40, true)]).toEqual([24_000, 16, 6]);
    expect([0, 2, 4].map((at) => view.getInt16(44 + at, true))).toEqual([0, 32767, -32767]);
  });

  it('is the mean of its channels', () => {
    const channels = [new Float32Array([1, 0]), new Float32Array([0, 0.5])];
    const two = { numberOfChannels: 2, length: 2, getChannelData: (at: number) => channels[at]! };
    expect([...mono(two as unknown as AudioBuffer)]).toEqual([0.5, 0.25]);
  });

  it('is left alone where the server reads it, and refused where it is too long', async () => {
    const own = new File([new Uint8Array(3)], 'take.FLAC');
    expect(await asWav(own)).toBe(own);
    const long = new File([], 'long.m4a');
    Object.defineProperty(long, 'size', { value: 70_000_000 });
    await expect(asWav(long)).rejects.toBeInstanceOf(NotRead);
  });
});
