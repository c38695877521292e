/** Ids of the interface as words. In English the id is the word; each language has its own. */

/* @wc-include */
const NAMES: Record<string, string> = {
  // lips
  fresh: 'fresh',
  worked: 'worked',
  tired: 'tired',
  sore: 'sore',
  'lips hurt': 'lips hurt',
  numb: 'numb',
  'swollen or cut': 'swollen or cut',
  'tooth or jaw': 'tooth or jaw',
  dizzy: 'dizzy',
  // days, and playing elsewhere
  off: 'off',
  light: 'light',
  medium: 'medium',
  heavy: 'heavy',
  // what an exercise is good for
  'range up': 'range up',
  'range down': 'range down',
  flexibility: 'flexibility',
  intonation: 'intonation',
  sound: 'sound',
  endurance: 'endurance',
  breath: 'breath',
  music: 'music',
  // mutes
  none: 'none',
  'practice mute': 'practice mute',
  'straight mute': 'straight mute',
  'cup mute': 'cup mute',
  'another mute': 'another mute',
  // temperaments, chords, speeds of listening
  equal: 'equal',
  just: 'just',
  meantone: 'meantone',
  octave: 'octave',
  fifth: 'fifth',
  normal: 'normal',
  slower: 'slower',
  model: 'model',
  // light and dark pages
  dark: 'dark',
};

/** An id as the player reads it; one without a word stands as it is. */
export function named(id: string): string {
  return NAMES[id] ?? id;
}
