/** Made by `make api` from the core's declarations (core/coach/judging). Do not edit. */
export const REASONS = {
  "missing": {
    "label": "a note missing",
    "says": "{note} was not there"
  },
  "count": {
    "label": "notes of the set",
    "says": "{value} of {limit} notes were there"
  },
  "wrong-partial": {
    "label": "another slot",
    "says": "another slot sounded for {note}"
  },
  "wrong-note": {
    "label": "another note",
    "says": "another note was buzzed for {note}"
  },
  "split": {
    "label": "broke to another slot",
    "says": "{note} broke to another slot"
  },
  "gap": {
    "label": "silence in the slur",
    "says": "a silence of {value} ms before {note} (limit {limit})"
  },
  "caught": {
    "label": "a slot touched",
    "says": "another slot was touched for {value} ms before {note} (limit {limit})"
  },
  "overshoot": {
    "label": "beyond the note",
    "says": "{note} was reached from {value} cents beyond it (limit {limit})"
  },
  "siren-break": {
    "label": "the buzz stopped",
    "says": "the buzz stopped on the way"
  },
  "siren-jump": {
    "label": "a step in the glide",
    "says": "it stepped by {value} cents instead of gliding"
  },
  "siren-range": {
    "label": "the range",
    "says": "it went {value:semitones} semitones, {limit:semitones} were asked"
  },
  "breath-inside": {
    "label": "a breath inside",
    "says": "a breath was taken inside the figure{before}"
  },
  "extra": {
    "label": "something extra",
    "says": "something sounded that was not written"
  },
  "glide-break": {
    "label": "a hole in the glide",
    "says": "a silence of {value} ms on the way to {note} (limit {limit})"
  },
  "glide-jump": {
    "label": "a jump in the glide",
    "says": "the glide to {note} jumped by {value} cents"
  },
  "glide-short": {
    "label": "the glide did not arrive",
    "says": "the glide did not come to rest at {note}"
  },
  "glide-past": {
    "label": "beyond the end of the glide",
    "says": "the glide went {value} cents beyond {note}"
  },
  "centre": {
    "label": "centre",
    "says": "{note} lay {value:side} (limit {limit})"
  },
  "buzz-off": {
    "label": "where the buzz lies",
    "says": "the buzz as a whole lay {value:side} (limit {limit})"
  },
  "bend": {
    "label": "the bend",
    "says": "the bend to {note} went {value} cents deep (at least {limit})"
  },
  "dip": {
    "label": "sank before the bend",
    "says": "{note} sank by {value} cents before the bend was asked (limit {limit})"
  },
  "bend-back": {
    "label": "the way back",
    "says": "{note} came back {value:side} (limit {limit})"
  },
  "two-ways": {
    "label": "the two ways",
    "says": "the two ways lie {value} cents apart (limit {limit})"
  },
  "entry": {
    "label": "the start",
    "says": "{note} began {value:side} (limit {limit})"
  },
  "response": {
    "label": "air before the tone",
    "says": "air for {value} ms before {note} spoke (limit {limit})"
  },
  "sag": {
    "label": "sag",
    "says": "{note} {value?sagged|rose} by {value} cents (limit {limit})"
  },
  "spread": {
    "label": "spread",
    "says": "{note} wandered by {value} cents (limit {limit})"
  },
  "fall-off": {
    "label": "the end",
    "says": "the end of {note} fell away by {value} cents (limit {limit})"
  },
  "hold": {
    "label": "length",
    "says": "{note} lasted {value:1} s of {limit:1} s"
  },
  "sound-match": {
    "label": "the sound",
    "says": "{note} was {value} of 100 like the easy note (at least {limit})"
  },
  "sound-across": {
    "label": "the sound along the line",
    "says": "the sound changed{at}: {value} of 100 alike (at least {limit})"
  },
  "breathy": {
    "label": "breath in the tone",
    "says": "breath was in the tone of {note}: {value} dB of tone over noise (at least {limit})"
  },
  "trill": {
    "label": "the trill",
    "says": "{value:1} a second of {limit:1}{slowest}"
  },
  "lock": {
    "label": "notes that do not lock",
    "says": "{value} of 100 notes never locked, from {note} on (limit {limit})"
  },
  "pulse": {
    "label": "the pulse of the air",
    "says": "the air pulsed by {value:1} dB on the beats (at least {limit:1}){least}"
  },
  "timing": {
    "label": "the pulse",
    "says": "the rhythm was uneven by {value} ms (limit {limit}){most}"
  },
  "late": {
    "label": "behind or ahead of the click",
    "says": "everything came {value?early|late} by {value} ms (limit {limit})"
  },
  "bump": {
    "label": "a pushed move",
    "says": "a dip of {value} dB before {note} (limit {limit})"
  },
  "shape": {
    "label": "the shape",
    "says": "the loudness of {note} was {value:1} dB off what was asked"
  },
  "level": {
    "label": "loudness",
    "says": "the loudness of {note} wandered by {value:1} dB (limit {limit:1})"
  },
  "loudness": {
    "label": "loudness with the height",
    "says": "{value:signed} dB for each octave up"
  },
  "dynamics": {
    "label": "loud and soft",
    "says": "{note}: {value:1} dB of difference to the loudness before (at least {limit:1})"
  },
  "rise": {
    "label": "each a little louder",
    "says": "the set ended {value:1} dB louder than its first half (at least {limit:1})"
  },
  "silence": {
    "label": "no tone",
    "says": "no tone reached the microphone"
  },
  "talking": {
    "label": "a voice",
    "says": "a voice was heard and no horn"
  },
  "too-quiet": {
    "label": "too quiet",
    "says": "the sound is too close to the noise of the room"
  },
  "clipped": {
    "label": "overloaded",
    "says": "the input is overloaded"
  },
  "lost": {
    "label": "sound lost by the computer",
    "says": "this computer was too busy and lost some of the sound"
  },
  "unmeasured": {
    "label": "too little tone",
    "says": "too little steady sound to judge"
  },
  "no-lean": {
    "label": "no lean",
    "says": "the pitch hardly moved"
  }
} as const;

export type Reason = keyof typeof REASONS;

export const COLUMNS = [
  {
    "label": "Heard",
    "fields": [
      "f0_hz"
    ],
    "form": "hz"
  },
  {
    "label": "Centre",
    "fields": [
      "centre_cents"
    ],
    "form": "cents"
  },
  {
    "label": "Horn’s share",
    "fields": [
      "horn_cents"
    ],
    "form": "cents"
  },
  {
    "label": "Spread",
    "fields": [
      "spread_cents"
    ],
    "form": "one"
  },
  {
    "label": "Sag",
    "fields": [
      "sag_cents"
    ],
    "form": "whole"
  },
  {
    "label": "Start",
    "fields": [
      "entry_cents",
      "entry_ms"
    ],
    "form": "entry"
  },
  {
    "label": "End",
    "fields": [
      "fall_off_cents"
    ],
    "form": "whole"
  },
  {
    "label": "Moves to and fro",
    "fields": [
      "wobble_cents"
    ],
    "form": "movement"
  },
  {
    "label": "Breath first",
    "fields": [
      "response_ms"
    ],
    "form": "ms"
  },
  {
    "label": "Hold",
    "fields": [
      "hold_s"
    ],
    "form": "s"
  },
  {
    "label": "Level",
    "fields": [
      "level_db"
    ],
    "form": "db"
  },
  {
    "label": "Sound",
    "fields": [
      "sound_match"
    ],
    "form": "whole"
  }
] as const;

export const LIMIT_LABELS: Record<string, string> = {
  "gap_ms": "Silence in a slur, ms",
  "caught_ms": "Slot touched, ms",
  "overshoot_cents": "Reached from beyond, cents",
  "centre_cents": "Centre, cents",
  "buzz_off_cents": "A buzz as a whole, cents",
  "entry_cents": "Start off by, cents",
  "entry_ms": "Start settled in, ms",
  "response_ms": "Air before tone, ms",
  "sag_cents": "Sag, cents",
  "spread_cents": "Spread, cents",
  "fall_off_cents": "End, cents",
  "sound_match": "Likeness, of 100",
  "tone_db": "Tone over breath, dB",
  "unlocked_percent": "Trill notes that do not lock, %",
  "timing_spread_ms": "Timing spread, ms",
  "late_ms": "Behind or ahead of the click, ms",
  "bump_db": "Bump, dB",
  "level_wander_db": "Loudness wander, dB",
  "dynamic_step_db": "Between two dynamics, dB a step"
};
