"""One take being heard: journal, tracker and the ear for its end, fed by whatever source there is."""

import threading

from orexis.core.exercises import Exercise
from orexis.core.messages import tell
from orexis.core.practice import Ending
from orexis.core.sound import Samples, Sound, finite
from orexis.core.trace import LoudspeakerFilter, Trace, joined
from orexis.errors import InputError
from orexis.services.ear import Ear, PatientTracker
from orexis.services.journal import JournalFile

MAX_BLOCK_SAMPLES = 192_000  # one second at the highest rate
MAX_TAKE_S = 600.0  # ten minutes, the longest sound that is judged


class OpenTake:
    """Accepts blocks in order, tolerates repeats, and says how many samples it has. Its lock keeps an end from
    crossing a block that is being heard. Its frames are those of the player: what the page plays with a line is left out of them.
    """

    def __init__(self, file: JournalFile, exercise: Exercise, ear: Ear, *, a4: float, in_time: bool = False) -> None:
        self.file, self.exercise = file, exercise
        head = file.head
        self._tracker = PatientTracker(head.rate, ear)
        self._parts: list[Trace] = []  # as the microphone has it
        self._shown: list[Trace] = []
        self._lock = threading.Lock()
        self._closed = False
        first_s = head.first_beat_s or 0.0
        self.ending = Ending(exercise, first_s, in_time)
        tones = [tone.later(first_s) for tone in exercise.sounding(a4=a4)]
        lowest_hz = min(exercise.target_hz(note, a4=a4) for note in exercise.notes)
        self._loudspeaker = LoudspeakerFilter(tones, first_s + exercise.alone_until_s, lowest_hz) if tones else None
        before = file.read()
        if len(before):  # going on after a restart: hear again what the journal kept
            self._hear(before)

    @property
    def received(self) -> int:
        """Samples that are safe in the journal."""
        return self.file.received

    @property
    def unheard_s(self) -> float:
        """Seconds of it that wait until the ear is ready."""
        return self._tracker.kept_s

    def accept(self, start: int, samples: Samples) -> Trace:
        """Take a block that begins at sample `start`; final frames that became ready.

        What was there already is passed over. A hole means that a block is missing: nothing is taken, and the sender
        sees from `received` where to go on.
        """
        if len(samples) > MAX_BLOCK_SAMPLES:
            raise InputError(
                tell(
                    "A block has {count} samples: at most {max_block_samples}.",
                    count=len(samples),
                    max_block_samples=MAX_BLOCK_SAMPLES,
                )
            )
        with self._lock:
            if self._closed or start > self.received or start + len(samples) <= self.received:
                return joined([])
            fresh = finite(samples[self.received - start :])
            if self.received + len(fresh) > MAX_TAKE_S * self.file.head.rate:
                raise InputError(
                    tell(
                        "A take lasts at most {max_take_s:g} minutes: end it and start another.",
                        max_take_s=MAX_TAKE_S / 60,
                    )
                )
            self.file.append(fresh)
            return self._hear(fresh)

    def provisional(self) -> Trace:
        """Guesses after the last final frame."""
        with self._lock:
            guesses = joined([]) if self._closed else self._tracker.provisional()
            return self._loudspeaker.guesses(guesses) if self._loudspeaker else guesses

    def finish(self) -> tuple[Sound, Trace]:
        """The whole sound and its trace."""
        with self._lock:
            self._closed = True
            sound = Sound(self.file.read(), self.file.head.rate)
            self._parts.append(self._tracker.finish())
            self.file.close()
            return sound, joined(self._parts)

    def close(self) -> None:
        """Let go of the file, what was heard being of no more use."""
        with self._lock:
            self._closed = True
            self.file.close()

    def frames_so_far(self) -> Trace:
        """Final frames from the start, for a page that comes back."""
        with self._lock:
            return joined(self._shown)

    def _hear(self, samples: Samples) -> Trace:
        frames = self._tracker.push(samples)
        self._parts.append(frames)
        frames = self._loudspeaker.without(frames) if self._loudspeaker else frames
        self._shown.append(frames)
        self.ending.hear(frames)
        return frames
