"""Why a take did not pass: likely cause and cue for each reason, in plain words.

Each reason has several pairs; after two misses for one reason the next pair is offered. A pair may belong to one school
(`when`), or speak of the body (`body`), which players who asked for sound only are spared. They are cues, not
diagnoses: a teacher in the room goes before them.
"""

from collections.abc import Mapping
from dataclasses import dataclass

from orexis.core.coach.schools import DEFAULTS


@dataclass(frozen=True, slots=True)
class Cue:
    """A likely cause and what to try."""

    cause: str
    cue: str
    body: bool = False
    when: tuple[str, str] | None = None  # question and choice of the school it belongs to


# Order of reasons when several fail: tone there at all, right partial, continuity, centre, entry, sag, sound, timing, loudness.
ORDER = (
    "missing",
    "count",
    "wrong-partial",
    "split",
    "gap",
    "caught",
    "siren-break",
    "siren-jump",
    "siren-range",
    "breath-inside",
    "extra",
    "centre",
    "bend",
    "bend-back",
    "two-ways",
    "entry",
    "response",
    "sag",
    "spread",
    "fall-off",
    "hold",
    "sound-match",
    "sound-across",
    "trill",
    "timing",
    "bump",
    "shape",
    "level",
    "loudness",
)

_JAW = ("slurs-led-by", "jaw and lower lip")
_FIRM_AIR = ("low-air", "fast and firm")
_NO_PRESSURE = ("pressure", "none, on the open palm")
_FIRM_SEAL = ("pressure", "a firm seal")
_FLAT = ("lips", "firm and flat throughout")
_DRAWN = ("corners", "drawn back a little")

CUES: dict[str, tuple[Cue, ...]] = {
    "missing": (
        Cue("the note did not speak", "Full breath first, then let the note start on it. Was the air moving?"),
        Cue("the note did not speak", "Sing the note, then play it softly by itself before the whole figure."),
        Cue("the note did not speak", "Lips flat and firm from side to side, then the breath.", True, _FLAT),
    ),
    "count": (
        Cue("some of the set did not speak", "Fewer notes, each on a full breath; the number grows by itself."),
        Cue("some of the set did not speak", "Leave two beats more between them, and start each with air alone."),
    ),
    "wrong-partial": (
        Cue("another slot answered", "Hear the note in your head before you start; aim there and only there."),
        Cue(
            "another slot answered",
            "Sing it first. Then a soft start with the breath, no push of the tongue.",
            body=True,
        ),
    ),
    "split": (
        Cue("it broke to another slot", "A softer start, with the sound already in your ear."),
        Cue(
            "it broke to another slot",
            "Tongue low, jaw a little forward, the usual setting, a shade louder.",
            body=True,
        ),
    ),
    "gap": (
        Cue(
            "the air stopped before the move",
            "Send a little more air just before the move and let it carry you across.",
        ),
        Cue(
            "the air stopped before the move", "Blow the rhythm as air alone, then play it with the same unbroken air."
        ),
        Cue("the air stopped before the move", "Let the jaw go along with the move, early and small.", True, _JAW),
    ),
    "caught": (
        Cue("the move hesitated on the way", "One gesture, not two. Tongue both notes first, then slur them."),
        Cue("the move hesitated on the way", "Take it downwards a few times, slowly, then up again."),
        Cue("the move hesitated on the way", "Move jaw and lower lip together, in one go.", True, _JAW),
    ),
    "siren-break": (
        Cue("the buzz stopped on the way", "Half as far, twice as slow, the air never waiting."),
        Cue("the buzz stopped on the way", "A little louder through the place where it stops.", body=True),
    ),
    "siren-jump": (
        Cue("it stepped instead of gliding", "Slower through that place; listen for every pitch between."),
        Cue("it stepped instead of gliding", "Begin just under the step and cross it several times."),
    ),
    "siren-range": (
        Cue("it did not reach as far as was asked", "As far as it stays easy; a little more tomorrow."),
        Cue("it did not reach as far as was asked", "Start lower, and let the air rise with the pitch."),
    ),
    "breath-inside": (
        Cue("a breath was taken inside", "Take the figure shorter, until it fits in one breath."),
        Cue("a breath was taken inside", "A fuller breath first; a shade softer at the start."),
    ),
    "extra": (
        Cue("something sounded that was not written", "One start, one breath; leave the note alone once it is there."),
        Cue("something sounded that was not written", "Shorter, with the same calm from start to end, then longer."),
    ),
    "centre-high": (
        Cue("squeezed above the middle of its slot", "Lean the note down until it rings, and stay there."),
        Cue(
            "squeezed above the middle of its slot",
            "Let the horn rest on an open palm and play it so: what is gone was pressure.",
            True,
            _NO_PRESSURE,
        ),
        Cue(
            "squeezed above the middle of its slot",
            "Drop the jaw a hair, slower air; find the widest sound.",
            body=True,
        ),
    ),
    "centre-low": (
        Cue("loose, under the middle of its slot", "Sing the pitch, then place the note inside what you sang."),
        Cue("loose, under the middle of its slot", "Corners back by a hair, the air as before.", True, _DRAWN),
        Cue(
            "loose, under the middle of its slot",
            "A little more focus in the lips; let the air be quicker, not harder.",
            body=True,
        ),
    ),
    "bend": (
        Cue("the bend did not go far enough", "Sing the lower note first; then take the sound there, not the lips."),
        Cue("the bend did not go far enough", "More room in the mouth, the corners where they are.", body=True),
    ),
    "bend-back": (
        Cue("it did not come back to where it was", "Let go, rather than push up; the slot takes it back."),
        Cue("it did not come back to where it was", "Half as deep, and hear the first note all the way through."),
    ),
    "two-ways": (
        Cue("the two ways lie apart", "Move the slide while you hold the note, until they agree."),
        Cue("the two ways lie apart", "Sing the pitch between them and bring both to it."),
    ),
    "entry-below": (
        Cue("slid up: not heard beforehand, or the air came late", "Hear it, sing it, then start on the breath."),
        Cue(
            "slid up: not heard beforehand, or the air came late",
            "Start with the breath alone, no tongue, until it begins on pitch.",
            body=True,
        ),
    ),
    "entry-above": (
        Cue("fell in: started too tight", "A softer start, with the pitch already in your ear."),
        Cue("fell in: started too tight", "Breathe out a silent 'ho' first; let the note join that air.", body=True),
    ),
    "response": (
        Cue("air came before the tone: lips apart or stiff", "A breath start on an easy low note, then back to this."),
        Cue(
            "air came before the tone: no seal yet",
            "Seal before the breath comes; no firmer than keeps the air in.",
            True,
            _FIRM_SEAL,
        ),
        Cue("air came before the tone: lips apart or stiff", "Lips just touching before the air comes.", body=True),
    ),
    "sag-down": (
        Cue("the air slowed", "Keep the air moving to the last moment. Play it shorter first, then longer."),
        Cue("the air slowed", "Grow very slightly to the end; feel the breath go past the note."),
        Cue("the air slowed", "Firmer air from the start, and keep it there.", True, _FIRM_AIR),
    ),
    "sag-up": (
        Cue("tightened towards the end", "Stop before you squeeze; leave some breath unused."),
        Cue("tightened towards the end", "Let the corners hold and the middle stay easy.", body=True),
    ),
    "spread": (
        Cue("the pitch wandered", "Half as long, twice as calm. Then add a beat."),
        Cue("the pitch wandered", "Even air, as if through a straw. Listen to the middle of the sound."),
    ),
    "fall-off": (
        Cue("the end was let go", "Stop while the sound is still good, then make it longer by a beat."),
        Cue("the end was let go", "End the note with the breath, not with the lips.", body=True),
    ),
    "hold": (
        Cue("the breath ended early", "A lower, quieter, fuller breath; start a shade softer."),
        Cue("the breath ended early", "Let the first beat be gentle, so that the air lasts."),
    ),
    "sound-match": (
        Cue(
            "the sound was another than on the easy note",
            "Play the easy note, then this one, with that sound in your ear.",
        ),
        Cue(
            "the sound was another: thin, squeezed or spread",
            "Breath in two stages, and grow into the note.",
            body=True,
        ),
    ),
    "sound-across": (
        Cue(
            "the sound changed along the line",
            "Play the two notes where it changes, slowly, until one sound covers both.",
        ),
        Cue("the sound changed along the line", "Same lips from end to end; only air and tongue move.", body=True),
    ),
    "trill": (
        Cue("slower than was asked", "Halve the tempo, clean; then one notch up at a time."),
        Cue("slower than was asked", "Say 'ee-oo' with the tongue, the lips quiet.", body=True),
        Cue("slower than was asked", "Let the jaw shake lightly with the trill.", True, _JAW),
    ),
    "timing": (
        Cue("uneven against the pulse", "Say the rhythm aloud with the click, then move exactly on the beat."),
        Cue("uneven against the pulse", "Slower, counting the small beats; place the move, do not wait for it."),
    ),
    "bump": (
        Cue("the move was pushed", "No help from the tongue: breath only, like one long note."),
        Cue("the move was pushed", "Softer, and let the upper note be the softer one."),
    ),
    "shape": (
        Cue(
            "the loudness went another way",
            "Exaggerate it: start softer, arrive louder, and count the beats to the top.",
        ),
        Cue("the loudness went another way", "Play it on air alone first, and hear the shape."),
    ),
    "level": (
        Cue("the loudness wandered", "One even stream; imagine the same note on a bow."),
        Cue("the loudness wandered", "Shorter, softer, then as long as it stays even."),
    ),
    "loudness-grow": (
        Cue("it thinned on the way up: less air, not more", "Grow into the top: the last note is the loudest."),
        Cue(
            "it thinned on the way up: less air, not more",
            "Breathe in two stages, and blow past the top note.",
            body=True,
        ),
    ),
    "loudness-even": (
        Cue("the loudness changed with the height", "Same loudness on both ends: record it in your ear, then play."),
        Cue("the loudness changed with the height", "Play only the lowest and the highest note in turn."),
    ),
    "loudness-ease": (
        Cue("it got louder on the way up", "Strong below, light on top: let each step weigh less."),
        Cue("it got louder on the way up", "Start a shade louder, so that there is room to ease."),
    ),
}

NOT_HEARD: dict[str, Cue] = {
    "silence": Cue("no tone reached the microphone", "Check the microphone, come a step closer, and play again."),
    "talking": Cue("a voice was heard and no horn", "Play when the talk has ended; this take does not count."),
    "too-quiet": Cue("the sound is too close to the noise of the room", "Come closer, or raise the input level."),
    "clipped": Cue("the input is overloaded", "Step back or lower the input level; the sound is cut off at its peaks."),
    "lost": Cue(
        "this computer was too busy and lost some of the sound",
        "That was not you. Close what else is running; this take does not count.",
    ),
    "unmeasured": Cue("too little steady sound to judge", "Hold each note as long as it is written."),
    "no-lean": Cue("the pitch hardly moved", "Lean further above and let it sink further below, then settle."),
}

# When attempts keep failing and nothing says why.
THREE_QUESTIONS = "Was the breath full? Did the air keep moving? Was the tongue where it should be?"


def cue_for(key: str, misses_before: int, schools: Mapping[str, str] | None = None) -> Cue:
    """The pair to offer; the next one after two misses for the same reason. A school's own pair comes first."""
    chosen = schools or DEFAULTS
    pairs = CUES[key]
    if chosen.get("body") == "sound only":
        pairs = tuple(pair for pair in pairs if not pair.body) or pairs
    own = [pair for pair in pairs if pair.when and chosen.get(pair.when[0]) == pair.when[1]]
    common = [pair for pair in pairs if pair.when is None]
    ordered = [*own, *common]
    return ordered[min(misses_before // 2, len(ordered) - 1)]
