/** Ids of the interface as words. In English the id is the word; each language has its own. Keys have no spaces, or they were words. */

/* @wc-include */
const NAMES: Record<string, string> = {
  // lips
  fresh: 'fresh',
  worked: 'worked',
  tired: 'tired',
  sore: 'sore',
  lips_hurt: 'lips hurt',
  numb: 'numb',
  swollen_or_cut: 'swollen or cut',
  tooth_or_jaw: 'tooth or jaw',
  dizzy: 'dizzy',
  // days, and playing elsewhere
  off: 'off',
  light: 'light',
  medium: 'medium',
  heavy: 'heavy',
  // what an exercise is good for
  range_up: 'range up',
  range_down: 'range down',
  flexibility: 'flexibility',
  intonation: 'intonation',
  sound: 'sound',
  endurance: 'endurance',
  breath: 'breath',
  music: 'music',
  // mutes
  none: 'none',
  practice_mute: 'practice mute',
  straight_mute: 'straight mute',
  cup_mute: 'cup mute',
  another_mute: 'another mute',
  // temperaments, chords, speeds of listening
  equal: 'equal',
  just: 'just',
  meantone: 'meantone',
  octave: 'octave',
  fifth: 'fifth',
  normal: 'normal',
  slower: 'slower',
  model: 'model',
  // reasons of one word
  attack: 'attack',
  length: 'length',
  volume: 'volume',
  rhythm: 'rhythm',
  pitch: 'pitch',
  bend: 'bend',
  bump: 'bump',
  response: 'response',
  overshoot: 'overshoot',
  wobble: 'wobble',
  talking: 'talking',
  overloaded: 'overloaded',
  // light and dark pages
  dark: 'dark',
};

/** An id as the player reads it; one without a word stands as it is. */
export function named(id: string): string {
  return NAMES[id.replaceAll(' ', '_')] ?? id;
}
