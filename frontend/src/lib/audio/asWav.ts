/** Recordings of a phone (M4A, MP3, Ogg ...) as WAV, decoded by the browser: the server reads WAV and FLAC and no more.
 *  See docs/decisions/0018. */
const RATE = 24_000; // holds what is measured of a brass instrument, and an hour in 170 MB
const MOST_BYTES = 60_000_000; // about an hour of a phone's recording: all of it is held in memory at once
const OWN = /\.(wav|flac)$/i;

export class NotRead extends Error {}

/** The file itself where the server reads it, else the same sound as WAV; NotRead says why not. */
export async function asWav(file: File): Promise<File> {
  if (OWN.test(file.name)) return file;
  if (file.size > MOST_BYTES)
    throw new NotRead('This recording is too long to convert. Cut it to an hour, or save it as FLAC.');
  let sound: AudioBuffer;
  try {
    sound = await new OfflineAudioContext(1, 1, RATE).decodeAudioData(await file.arrayBuffer());
  } catch {
    throw new NotRead('This browser can’t read the recording. Save it as WAV or FLAC and try again.');
  }
  return new File([wavOf(mono(sound), sound.sampleRate)], file.name.replace(/\.[^.]*$/, '.wav'), { type: 'audio/wav' });
}

/** All channels as one. */
export function mono(sound: Pick<AudioBuffer, 'numberOfChannels' | 'length' | 'getChannelData'>): Float32Array {
  const channels = Array.from({ length: sound.numberOfChannels }, (_, at) => sound.getChannelData(at));
  const first = channels[0] ?? new Float32Array(0);
  if (channels.length === 1) return first;
  const out = new Float32Array(sound.length);
  for (const channel of channels) for (let at = 0; at < out.length; at++) out[at]! += channel[at]! / channels.length;
  return out;
}

/** 16-bit WAV of one channel. */
export function wavOf(samples: Float32Array, rate: number): ArrayBuffer {
  const bytes = 2 * samples.length;
  const view = new DataView(new ArrayBuffer(44 + bytes));
  const text = (at: number, word: string) =>
    [...word].forEach((letter, i) => view.setUint8(at + i, letter.charCodeAt(0)));
  text(0, 'RIFF');
  view.setUint32(4, 36 + bytes, true);
  text(8, 'WAVEfmt ');
  view.setUint32(16, 16, true);
  view.setUint16(20, 1, true); // whole numbers
  view.setUint16(22, 1, true); // one channel
  view.setUint32(24, rate, true);
  view.setUint32(28, 2 * rate, true);
  view.setUint16(32, 2, true);
  view.setUint16(34, 16, true);
  text(36, 'data');
  view.setUint32(40, bytes, true);
  const whole = new Int16Array(view.buffer, 44);
  for (let at = 0; at < samples.length; at++) whole[at] = Math.round(32767 * Math.max(-1, Math.min(1, samples[at]!)));
  return view.buffer;
}
