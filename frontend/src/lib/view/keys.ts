/** What keys and a page-turn pedal do at the stand. */
export const KEYS = [
  ['→ or Page Down, also Enter', 'start, then continue; while you play: end the take'],
  ['← or Page Up', 'repeat, or the exercise before'],
  ['Space', 'pause or continue'],
  ['R', 'hear the first note'],
  ['S', 'sing it first'],
  ['B', 'blow it first, air only'],
  ['E', 'easier version'],
  ['N', 'skip this exercise'],
  ['Delete', 'delete the take'],
  ['Escape', 'stop the take'],
  ['M', 'microphone or demo player'],
  ['?', 'this list'],
] as const;

/** And on the page Just play. */
export const FREE_KEYS = [
  ['Enter or Page Up', 'listen or stop'],
  ['Space, → or Page Down', 'metronome on or off'],
  ['↑ ↓', 'faster, slower'],
  ['T', 'tap the tempo'],
  ['D or ←', 'drone on or off'],
] as const;
