/** How notes are called: what a window remembers. Letters, letters with H and B, or syllables; octaves are numbered alike. */
import { locale } from '../../locales/locale.js';

export const NAMINGS = ['letters', 'h-and-b', 'syllables'] as const;
export type Naming = (typeof NAMINGS)[number];
/** What is usual where a language is spoken. */
const USUAL: Record<string, Naming> = { de: 'h-and-b', fr: 'syllables', es: 'syllables' };

const KEY = 'orexis.naming';
const SIGN = /^([A-G])(##|#|bb|b)?(-?\d+)$/;
const SIGNS: Record<string, string> = { '#': '♯', '##': '𝄪', b: '♭', bb: '𝄫' };
const SYLLABLES: Record<string, string> = { C: 'Do', D: 'Re', E: 'Mi', F: 'Fa', G: 'Sol', A: 'La', B: 'Si' };

function remembered(): Naming {
  const kept = globalThis.localStorage?.getItem(KEY);
  return NAMINGS.find((one) => one === kept) ?? USUAL[locale] ?? 'letters';
}

let present = $state<Naming>(remembered());

export const naming = {
  get is(): Naming {
    return present;
  },
  set(to: Naming): void {
    present = to;
    globalThis.localStorage?.setItem(KEY, to);
  },
};

/** B flat 3 as players write it: B♭3; what is no note stays as it is. */
export function noteName(name: string): string {
  const found = SIGN.exec(name);
  if (!found) return name;
  const [, step = '', sign = '', octave = ''] = found;
  if (present === 'h-and-b') return `${withH(step, sign)}${octave}`;
  const letter = present === 'syllables' ? (SYLLABLES[step] ?? step) : step;
  return `${letter}${SIGNS[sign] ?? ''}${octave}`;
}

/** B is H, B flat is B; sharps end in -is, flats in -es or -s. */
function withH(step: string, sign: string): string {
  if (step === 'B' && sign === 'b') return 'B';
  const letter = step === 'B' ? 'H' : step;
  if (sign.startsWith('#')) return letter + 'is'.repeat(sign.length);
  if (!sign) return letter;
  const first = letter === 'E' || letter === 'A' ? 's' : 'es';
  return letter + first + 'es'.repeat(sign.length - 1);
}
