"""Exercises as a standard MIDI file: one track of notes at sounding pitch, one of clicks; name, key, meter and instrument said."""

import io

import mido

from orexis.core.exercises import Exercise, Medium
from orexis.core.instruments import INSTRUMENTS

TICKS = 480  # a quarter in ticks, the usual of the format
_CLICK_CHANNEL, _CLICK_NOTE, _BAR_NOTE = 9, 77, 76
# Major keys by fifths, and General MIDI's numbers from 0.
_MAJOR = {
    -7: "Cb", -6: "Gb", -5: "Db", -4: "Ab", -3: "Eb", -2: "Bb", -1: "F", 0: "C", 1: "G", 2: "D", 3: "A", 4: "E", 5: "B", 6: "F#", 7: "C#",
}  # fmt: skip
_PROGRAMS, _BRASS = {"trumpet": 56, "trombone": 57, "tuba": 58, "instrument": 60}, 61
_VELOCITY = {"pp": 40, "p": 52, "mp": 64, "mf": 78, "f": 94, "ff": 110}


def exercise_to_midi(exercise: Exercise) -> bytes:
    """The exercise after one bar of count-in; clicks on every beat."""
    file = mido.MidiFile(ticks_per_beat=TICKS)
    file.tracks.append(_notes(exercise))
    if exercise.click:
        file.tracks.append(_clicks(exercise))
    out = io.BytesIO()
    file.save(file=out)
    return out.getvalue()


def _head(exercise: Exercise) -> list[mido.MetaMessage | mido.Message]:
    """What stands before the notes. The name in the letters that the format knows."""
    program = INSTRUMENTS[exercise.instrument].kind if exercise.instrument in INSTRUMENTS else "brass"
    title = exercise.title.encode("latin-1", "replace").decode("latin-1")
    beats, kind = exercise.meter.signature
    head = [
        mido.MetaMessage("track_name", name=title),
        mido.MetaMessage("set_tempo", tempo=mido.bpm2tempo(exercise.tempo_bpm * exercise.beat_quarters)),
        mido.MetaMessage("time_signature", numerator=beats, denominator=kind),
    ]
    if exercise.key is not None and exercise.key in _MAJOR:
        head.append(mido.MetaMessage("key_signature", key=_MAJOR[exercise.key]))
    return [*head, mido.Message("program_change", program=_PROGRAMS.get(program, _BRASS))]


def _notes(exercise: Exercise) -> mido.MidiTrack:
    track = mido.MidiTrack(_head(exercise))
    velocity = _VELOCITY[exercise.dynamic]
    events: list[tuple[float, int, mido.Message]] = []
    for note in exercise.notes if exercise.medium != Medium.AIR else ():
        velocity = _VELOCITY[note.dynamic] if note.dynamic else velocity
        start = exercise.count_in_beats + note.start_beat
        events.append((start, 1, mido.Message("note_on", note=note.pitch.midi, velocity=velocity)))
        events.append((start + note.sounding_beats, 0, mido.Message("note_off", note=note.pitch.midi)))
    return _timed(track, events, exercise.beat_quarters)


def _clicks(exercise: Exercise) -> mido.MidiTrack:
    events = []
    for beat in range(exercise.clicks):
        note = _BAR_NOTE if beat % exercise.beats_per_bar == 0 else _CLICK_NOTE
        events.append((float(beat), 1, mido.Message("note_on", channel=_CLICK_CHANNEL, note=note, velocity=90)))
        events.append((beat + 0.1, 0, mido.Message("note_off", channel=_CLICK_CHANNEL, note=note)))
    return _timed(mido.MidiTrack(), events, exercise.beat_quarters)


def _timed(
    track: mido.MidiTrack, events: list[tuple[float, int, mido.Message]], beat_quarters: float
) -> mido.MidiTrack:
    now = 0
    for beat, _, message in sorted(events, key=lambda event: event[:2]):
        tick = round(beat * beat_quarters * TICKS)
        track.append(message.copy(time=tick - now))
        now = tick
    return track
