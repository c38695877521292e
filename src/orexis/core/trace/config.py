"""Every constant of the tracker in one place, each with where it comes from.

*Boersma 1993*, *Viterbi 1967*: the methods that docs/measures.md describes. *Fitted*: chosen on sampled brass of font-a
and font-b and on synthetic brass of seeds 1 to 9 (docs/ear.md), and checked on those that were kept back. *Physics*: what
the sound or the window itself dictates. Compiled code takes these as they are; change one, and ANALYSIS_VERSION grows.
"""

import math

# Windows (bank.py): three lengths, because a long one misses touches and a short one loses pedals (fitted).
LENGTHS_S = (0.025, 0.064, 0.150)  # the longest keeps three periods of 20 Hz
PER_WINDOW = 4  # candidates kept from each window (fitted: a fifth is never chosen)
OVER = 2  # interpolation of the lags, exact by zero padding (Boersma 1993)
WEAKEST = 0.3  # peaks under this are noise (fitted)
SILENCE_DB = -120.0  # what digital silence is called

# Which of equal peaks is right.
OCTAVE_COST = 0.03  # of peaks of equal height the shortest period: every multiple repeats too (Boersma 1993)
PIVOT = math.log2(300.0)  # where that costs nothing: the middle of what brass plays

# Holes in the spectrum: the common subharmonic of two sounds repeats as well as a note does, but has few harmonics.
RESOLVED = 1.45  # harmonics further apart than so many half main lobes can be told apart (physics: Hann window)
HARMONICS = 20  # looked at (fitted: more cost time and change nothing)
PRESENT = 0.002  # a harmonic of so much of the strongest one's power, -27 dB, is there (fitted)
HOLES_FROM, HOLES_FULL = 0.22, 0.45  # share of missing harmonics: from here it costs, here it costs most (fitted)
HOLES_COST = 0.45  # so that a common subharmonic loses to the notes it is made of (fitted)
BLUR_AND_MORE = 0.04  # more than what windows differ by in other ways (fitted)

# The path (Viterbi 1967): what a peak is worth, and what it costs to go elsewhere (all fitted).
UNVOICED = 0.42  # a peak must stand higher than this to be called tone
JUMP, JUMP_MOST = 0.4, 0.5  # per octave, and at the most
SWITCH = 0.12  # tone to no tone and back
GATE_DB = -75.0  # below this nothing is called tone
LOOKAHEAD = 4  # frames: 20 ms, so that a slur that lasts is seen and a slip of one frame is not

# Windows that agree are fused (fitted).
NEAR = 0.02  # candidates so near (35 cents) are one
LEEWAY, LEEWAY_NOISE = (
    0.004,
    0.2,
)  # relative error of a window of one period, clean and by noise; it falls with their number
BLURS_FROM_HZ = (2050.0, 900.0, 170.0)  # above this a window's length would flatten a vibrato (physics)
SMOOTH, SMOOTH_WITHIN = 2, 0.0087  # frames to either side, of those within 15 cents

# When nothing can begin to sound (fitted on clicks, talk, drones and rooms).
KNOCK, PAUSE, DRONE, FADING = 1, 2, 3, 4  # why a frame is quiet
GOES_ON = 0.035  # a pitch nearer than 60 cents to the last goes on, another begins
KNOCK_DB = 6.5  # so far above the mean of a tenth of a second is a knock
KNOCK_BEFORE, KNOCK_AFTER = 8, 4  # frames in which a knock is seen: it rings on, and a window sees it coming
KNOCKS_FROM_HZ = 70.0  # the lips' own pulses of a low note stand apart like knocks (physics)
MEAN_BEFORE, MEAN_AFTER, ABOUT = 12, 8, 2
FLOOR_DB, FAR_DB = 8.0, 24.0  # so little over the lowest level of the last seconds, and so far under the highest
FLOOR_BLOCKS, FLOOR_FRAMES = 20, 80  # the last 8 s in blocks of 0.4 s
FIRST_FRAMES = 16  # while the means still hold what was before the sound
DRONE_DB = 4.0  # a steady background may stand this much above its softest mean (fitted)
FADING_DB, STRAYS = 9.0, 0.012  # a sound dying away so fast keeps its pitch within 20 cents, or says no more of it
