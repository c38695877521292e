/** Made by `make api` from the core's declarations (core/coach/judging). Do not edit. */
export const REASONS = {
  "missing": {
    "label": "missing note",
    "says": "{note} didn’t sound"
  },
  "stuck": {
    "label": "slur that didn’t move",
    "says": "the slur never moved to {note}"
  },
  "count": {
    "label": "notes in the set",
    "says": "{value} of {limit} notes spoke"
  },
  "wrong-partial": {
    "label": "wrong partial",
    "says": "{note} came out on another partial"
  },
  "wrong-fingering": {
    "label": "wrong note",
    "says": "{note} came out as another note"
  },
  "wrong-note": {
    "label": "wrong note",
    "says": "{note} was buzzed as another note"
  },
  "split": {
    "label": "split note",
    "says": "{note} split"
  },
  "gap": {
    "label": "gap in a slur",
    "says": "there was a gap of {value:s} before {note}"
  },
  "clipped-partial": {
    "label": "clipped partial",
    "says": "you clipped another partial before {note}"
  },
  "overshoot": {
    "label": "overshoot",
    "says": "you overshot {note} by {value} cents"
  },
  "siren-break": {
    "label": "buzz stopped",
    "says": "the buzz stopped on the way"
  },
  "siren-jump": {
    "label": "jump in the siren",
    "says": "the siren jumped by {value} cents"
  },
  "siren-range": {
    "label": "siren too short",
    "says": "the siren covered {value:semitones} of {limit:semitones} semitones"
  },
  "breath-inside": {
    "label": "extra breath",
    "says": "you took a breath{before}"
  },
  "extra": {
    "label": "extra note",
    "says": "an extra note sounded"
  },
  "length": {
    "label": "note length",
    "says": "{note} lasted {value:1} of {limit:1} seconds"
  },
  "not-short": {
    "label": "notes too long",
    "says": "{note} was not short: it lasted {value:1} seconds"
  },
  "not-apart": {
    "label": "no space between notes",
    "says": "there was no space after {note}"
  },
  "glide-break": {
    "label": "gap in the glissando",
    "says": "there was a gap of {value:s} on the way to {note}"
  },
  "glide-jump": {
    "label": "jump in the glissando",
    "says": "the glissando to {note} jumped by {value} cents"
  },
  "glide-short": {
    "label": "glissando stopped short",
    "says": "the glissando stopped short of {note}"
  },
  "glide-past": {
    "label": "glissando too far",
    "says": "the glissando went {value} cents past {note}"
  },
  "off-the-ring": {
    "label": "beside the middle",
    "says": "you settled {value:side} of where the note rings"
  },
  "pitch": {
    "label": "pitch",
    "says": "{note} was {value:side}"
  },
  "buzz-off": {
    "label": "buzz as a whole",
    "says": "the whole buzz was {value:side}"
  },
  "two-ways": {
    "label": "two fingerings",
    "says": "the two fingerings were {value} cents apart"
  },
  "bend": {
    "label": "bend",
    "says": "the bend to {note} went down {value} of {limit} cents"
  },
  "dip": {
    "label": "dropped under moving fingers",
    "says": "{note} dropped {value} cents under moving fingers"
  },
  "bend-back": {
    "label": "return from the bend",
    "says": "{note} came back {value:side}"
  },
  "attack": {
    "label": "attack",
    "says": "{note} started {value?flat and slid up|sharp and slid down}"
  },
  "response": {
    "label": "air before the note",
    "says": "air came {value:s} before {note} spoke"
  },
  "pitch-drift": {
    "label": "drop or rise",
    "says": "{note} {value?dropped|rose} by {value} cents"
  },
  "pitch-wobble": {
    "label": "wobble",
    "says": "{note} wobbled by {value} cents"
  },
  "fall-off": {
    "label": "end of the note",
    "says": "{note} {value?dropped|rose} {value} cents at the end"
  },
  "hold": {
    "label": "length",
    "says": "{note} lasted {value:1} of {limit:1} seconds"
  },
  "tone-match": {
    "label": "tone match",
    "says": "{note} didn’t sound like your easy note"
  },
  "tone-match-across": {
    "label": "tone change in the line",
    "says": "the tone changed{at}"
  },
  "airy": {
    "label": "airy tone",
    "says": "{note} was airy"
  },
  "trill": {
    "label": "trill speed",
    "says": "the trill was {value:1} a second; the goal is {limit:1}"
  },
  "trill-slides": {
    "label": "a trill that slides",
    "says": "the trill slid between its notes and stayed on neither"
  },
  "lock": {
    "label": "trill notes that don’t settle",
    "says": "{value} of 100 trill notes never settled"
  },
  "pulse": {
    "label": "air pulse",
    "says": "the air pulse on the beats was too small{least}"
  },
  "timing": {
    "label": "rhythm",
    "says": "the rhythm was uneven{most}"
  },
  "late": {
    "label": "early or late",
    "says": "you were {value?ahead of|behind} the click by {value:s}"
  },
  "bump": {
    "label": "a pushed move",
    "says": "a dip of {value} dB before {note} (limit {limit})"
  },
  "shape": {
    "label": "the shape",
    "says": "the loudness of {note} was {value:1} dB off what was asked"
  },
  "level-wobble": {
    "label": "volume",
    "says": "the volume of {note} was unsteady"
  },
  "line-level": {
    "label": "one note softer or louder",
    "says": "{note} was much {value?softer|louder} than the notes beside it"
  },
  "loudness": {
    "label": "volume with height",
    "says": "the volume changed by {value:signed} dB for each octave up"
  },
  "dynamics": {
    "label": "loud and soft",
    "says": "loud and soft were hardly different{at}"
  },
  "rise": {
    "label": "each a little louder",
    "says": "the second half of the set was hardly louder"
  },
  "noisy-breath": {
    "label": "loud breath",
    "says": "the breath before {note} was loud"
  },
  "silence": {
    "label": "no sound",
    "says": "no sound reached the microphone"
  },
  "talking": {
    "label": "talking",
    "says": "someone was talking"
  },
  "too-quiet": {
    "label": "too quiet",
    "says": "the sound is hard to tell from the room’s noise"
  },
  "clipped": {
    "label": "overloaded",
    "says": "the microphone is overloaded"
  },
  "lost": {
    "label": "sound lost by the computer",
    "says": "this computer was too busy and lost some of the sound"
  },
  "unmeasured": {
    "label": "too short",
    "says": "there was too little steady sound to judge"
  },
  "no-lean": {
    "label": "no bend",
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
    "label": "Pitch",
    "fields": [
      "pitch_error_cents"
    ],
    "form": "cents"
  },
  {
    "label": "Instrument’s share",
    "fields": [
      "instrument_cents"
    ],
    "form": "cents"
  },
  {
    "label": "Wobble",
    "fields": [
      "pitch_wobble_cents"
    ],
    "form": "one"
  },
  {
    "label": "Drift",
    "fields": [
      "pitch_drift_cents"
    ],
    "form": "whole"
  },
  {
    "label": "Attack",
    "fields": [
      "attack_error_cents",
      "attack_settle_ms"
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
    "label": "Vibrato or wave",
    "fields": [
      "pitch_wobble_depth_cents"
    ],
    "form": "movement"
  },
  {
    "label": "Air first",
    "fields": [
      "response_ms"
    ],
    "form": "ms"
  },
  {
    "label": "Length",
    "fields": [
      "hold_s"
    ],
    "form": "s"
  },
  {
    "label": "Volume",
    "fields": [
      "level_db"
    ],
    "form": "db"
  },
  {
    "label": "Tone",
    "fields": [
      "tone_match"
    ],
    "form": "whole"
  }
] as const;

export const LIMIT_LABELS: Record<string, string> = {
  "gap_ms": "Gap in a slur, ms",
  "clipped_partial_ms": "Clipped partial, ms",
  "overshoot_cents": "Reached from beyond, cents",
  "length_share": "Least length of a note, share of what is written",
  "ring_missed_cents": "Rest beside the middle of a note, cents",
  "pitch_error_cents": "Pitch, cents",
  "buzz_off_cents": "A buzz as a whole, cents",
  "attack_error_cents": "Attack off by, cents",
  "attack_settle_ms": "Attack settles within, ms",
  "response_ms": "Air before the note, ms",
  "pitch_drift_cents": "Drop or rise in a note, cents",
  "pitch_wobble_cents": "Wobble, cents",
  "fall_off_cents": "End of a note, cents",
  "tone_match": "Tone match, of 100",
  "tone_to_noise_db": "Tone clarity, dB",
  "unlocked_percent": "Trill notes that don’t settle, %",
  "timing_spread_ms": "Uneven rhythm, ms",
  "late_ms": "Early or late, ms",
  "bump_db": "Bump, dB",
  "level_wobble_db": "Unsteady volume, dB",
  "line_level_db": "Step in volume between neighbours, dB",
  "dynamic_step_db": "Between two dynamics, dB a step",
  "breath_noise_db": "Breath in against the tone, dB"
};
