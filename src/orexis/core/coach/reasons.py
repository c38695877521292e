"""Why a take did not pass: likely cause and cue for each reason, in plain words.

Each reason has several pairs; after two misses for one reason the next pair is offered. They are cues, not diagnoses:
a teacher in the room goes before them.
"""

from dataclasses import dataclass


@dataclass(frozen=True, slots=True)
class Cue:
    """A likely cause and what to try."""

    cause: str
    cue: str


# Order of reasons when several fail: tone there at all, right partial, continuity, centre, entry, sag, steadiness, timing.
ORDER = (
    "missing",
    "wrong-partial",
    "gap",
    "caught",
    "extra",
    "centre",
    "entry",
    "sag",
    "spread",
    "fall-off",
    "hold",
    "timing",
)

CUES: dict[str, tuple[Cue, ...]] = {
    "missing": (
        Cue("the note did not speak", "Full breath first, then let the note start on it. Was the air moving?"),
        Cue("the note did not speak", "Sing the note, then play it softly by itself before the whole figure."),
    ),
    "wrong-partial": (
        Cue("another slot answered", "Hear the note in your head before you start; aim there and only there."),
        Cue("another slot answered", "Sing it first. Then a soft start with the breath, no push of the tongue."),
    ),
    "gap": (
        Cue(
            "the air stopped before the move",
            "Send a little more air just before the move and let it carry you across.",
        ),
        Cue(
            "the air stopped before the move", "Blow the rhythm as air alone, then play it with the same unbroken air."
        ),
    ),
    "caught": (
        Cue("the move hesitated on the way", "One gesture, not two. Tongue both notes first, then slur them."),
        Cue("the move hesitated on the way", "Take it downwards a few times, slowly, then up again."),
    ),
    "extra": (
        Cue("something sounded that was not written", "One start, one breath; leave the note alone once it is there."),
        Cue("something sounded that was not written", "Shorter, with the same calm from start to end, then longer."),
    ),
    "centre-high": (
        Cue("squeezed above the middle of its slot", "Lean the note down until it rings, and stay there."),
        Cue("squeezed above the middle of its slot", "Drop the jaw a hair, slower air; find the widest sound."),
    ),
    "centre-low": (
        Cue(
            "loose, under the middle of its slot",
            "A little more focus in the lips; let the air be quicker, not harder.",
        ),
        Cue("loose, under the middle of its slot", "Sing the pitch, then place the note inside what you sang."),
    ),
    "entry-below": (
        Cue("slid up: not heard beforehand, or the air came late", "Hear it, sing it, then start on the breath."),
        Cue(
            "slid up: not heard beforehand, or the air came late",
            "Start with the breath alone, no tongue, until it begins on pitch.",
        ),
    ),
    "entry-above": (
        Cue("fell in: started too tight", "A softer start, tongue low, lips ready but not pressed."),
        Cue("fell in: started too tight", "Breathe out a silent 'ho' first; let the note join that air."),
    ),
    "sag-down": (
        Cue("the air slowed", "Keep the air moving to the last moment. Play it shorter first, then longer."),
        Cue("the air slowed", "Grow very slightly to the end; feel the breath go past the note."),
    ),
    "sag-up": (
        Cue("tightened towards the end", "Let the corners hold and the middle stay easy; stop before you squeeze."),
        Cue("tightened towards the end", "Play it softer and shorter; leave some breath unused."),
    ),
    "spread": (
        Cue("the pitch wandered", "Even air, as if through a straw. Listen to the middle of the sound."),
        Cue("the pitch wandered", "Half as long, twice as calm. Then add a beat."),
    ),
    "fall-off": (
        Cue("the end was let go", "End the note with the breath, not with the lips: the last moment like the first."),
        Cue("the end was let go", "Stop while the sound is still good, then make it longer by a beat."),
    ),
    "hold": (
        Cue("the breath ended early", "A lower, quieter, fuller breath; start a shade softer."),
        Cue("the breath ended early", "Let the first beat be gentle, so that the air lasts."),
    ),
    "timing": (
        Cue("uneven against the pulse", "Say the rhythm aloud with the click, then move exactly on the beat."),
        Cue("uneven against the pulse", "Slower, counting the small beats; place the move, do not wait for it."),
    ),
}

NOT_HEARD: dict[str, Cue] = {
    "silence": Cue("no tone reached the microphone", "Check the microphone, come a step closer, and play again."),
    "too-quiet": Cue("the sound is too close to the noise of the room", "Come closer, or raise the input level."),
    "clipped": Cue("the input is overloaded", "Step back or lower the input level; the sound is cut off at its peaks."),
    "unmeasured": Cue("too little steady sound to judge", "Hold each note as long as it is written."),
}


def cue_for(key: str, misses_before: int) -> Cue:
    """The pair to offer; the second one after two misses for the same reason."""
    pairs = CUES[key]
    return pairs[min(misses_before // 2, len(pairs) - 1)]
