"""Tunes from MIDI files: each track with notes is a part, one note at a time, on a grid of 1/12 of a quarter.

Drums are passed over. Where notes overlap the later one cuts the earlier. Nothing in the file decides how much memory is
used: bytes are capped before reading, messages while reading.
"""

import io

import mido

from orexis.core.exercises import MOST_PARTS, Melody, MelodyNote, Meter, TunePart, meter_of
from orexis.core.messages import tell
from orexis.errors import ExerciseError
from orexis.files import left_out
from orexis.files.musicxml_read import melody_in_beats, own_name

MAX_MIDI_BYTES = 300_000  # ten times a full score of an hour
MAX_MESSAGES = 60_000  # bounds the work of one file
MAX_TUNE_NOTES = 512  # the most that an exercise may hold
_DRUMS = 9  # channel 10, counted from 0
_GRID = 12  # a quarter in twelve: sixteenths and triplets
_MAJOR = ("Cb", "Gb", "Db", "Ab", "Eb", "Bb", "F", "C", "G", "D", "A", "E", "B", "F#", "C#")
_MINOR = ("Abm", "Ebm", "Bbm", "Fm", "Cm", "Gm", "Dm", "Am", "Em", "Bm", "F#m", "C#m", "G#m", "D#m", "A#m")
_FIFTHS = {name: place - 7 for names in (_MAJOR, _MINOR) for place, name in enumerate(names)}


def tune_from_midi(data: bytes) -> tuple[TunePart, ...]:
    """Its parts; ExerciseError says what cannot be used."""
    if len(data) > MAX_MIDI_BYTES:
        raise ExerciseError(
            tell(
                "The MIDI file has {count:.1f} MB: at most {max_midi_bytes:g}.",
                count=len(data) / 1e6,
                max_midi_bytes=MAX_MIDI_BYTES / 1e6,
            )
        )
    try:
        file = mido.MidiFile(file=io.BytesIO(data))
    # The library raises what its parsing happens to meet; none of it says anything to a player.
    except Exception as error:
        raise ExerciseError("This MIDI file is broken or of a kind that is not read: export it again.") from error
    if file.ticks_per_beat <= 0 or file.type == 2:
        raise ExerciseError("This MIDI file counts time in a way that is not read: export it with ticks per quarter.")
    if sum(len(track) for track in file.tracks) > MAX_MESSAGES:
        raise ExerciseError(
            tell(
                "The MIDI file holds more than {max_messages} messages: cut it down to the tune.",
                max_messages=MAX_MESSAGES,
            )
        )
    tracks = [(track, notes) for track in file.tracks[:MOST_PARTS] if (notes := _notes(track, file.ticks_per_beat))]
    if not tracks:
        raise ExerciseError("The MIDI file has no notes.")
    short = [(track, notes) for track, notes in tracks if len(notes) <= MAX_TUNE_NOTES]
    if not short:
        raise ExerciseError(
            tell(
                "The MIDI file has {count} notes: a tune holds at most {max_tune_notes}.",
                count=len(tracks[0][1]),
                max_tune_notes=MAX_TUNE_NOTES,
            )
        )
    tempo, meter, fifths, says = _pulse(file)
    parts: list[TunePart] = []
    for number, (track, notes) in enumerate(short, start=1):
        melody = melody_in_beats(Melody(_title(file), tuple(notes), meter, fifths, tempo))
        parts.append(
            TunePart(
                own_name(_printable(track.name) or tell("track {number}", number=number), [p.name for p in parts]),
                melody,
                says,
            )
        )
    return tuple(parts)


def _notes(track: mido.MidiTrack, ticks_per_beat: int) -> list[MelodyNote]:
    """One line out of a track: what overlaps is cut where the next note begins, the upper of a chord is kept."""
    now = 0
    open_notes: dict[int, int] = {}
    spans: list[tuple[int, int, int]] = []
    for message in track:
        now += message.time
        if message.type not in ("note_on", "note_off") or message.channel == _DRUMS:
            continue
        began = open_notes.pop(message.note, None)
        if began is not None and now > began:
            spans.append((began, now, message.note))
        if message.type == "note_on" and message.velocity > 0:
            open_notes[message.note] = now
    spans.sort(key=lambda span: (span[0], -span[2]))
    line: list[tuple[int, int, int]] = []
    for start, end, key in spans:
        if line and start == line[-1][0]:
            continue
        if line and line[-1][1] > start:
            line[-1] = (line[-1][0], start, line[-1][2])
        line.append((start, end, key))
    return _on_grid(line, ticks_per_beat)


def _on_grid(line: list[tuple[int, int, int]], ticks_per_beat: int) -> list[MelodyNote]:
    notes: list[MelodyNote] = []
    for start, end, key in line:
        first = round(start / ticks_per_beat * _GRID)
        last = max(first + 1, round(end / ticks_per_beat * _GRID))
        if notes and first * 1.0 / _GRID < notes[-1].start_beat + notes[-1].beats - 1e-6:
            first = round((notes[-1].start_beat + notes[-1].beats) * _GRID)
            last = max(first + 1, last)
        notes.append(MelodyNote(key, round(first / _GRID, 6), round((last - first) / _GRID, 6)))
    return notes


def _pulse(file: mido.MidiFile) -> tuple[float, Meter, int, tuple[str, ...]]:
    """Tempo (quarters a minute), meter and key (fifths) as the file says them first, and which of them change.

    A minor key is that of its signature.
    """
    tempos: list[float] = []
    meters: list[Meter] = []
    keys: list[int] = []
    for message in (item for track in file.tracks for item in track):
        if message.type == "set_tempo" and message.tempo > 0:
            tempos.append(min(300.0, max(20.0, 60_000_000 / message.tempo)))
        elif message.type == "time_signature":
            meters.append(meter_of(message.numerator, message.denominator))
        elif message.type == "key_signature" and message.key in _FIFTHS:
            keys.append(_FIFTHS[message.key])
    changes = ((left_out.METER, meters), (left_out.KEY, keys), (left_out.TEMPO, tempos))
    says = tuple(words for words, values in changes if any(value != values[0] for value in values))
    return (tempos or [88.0])[0], (meters or [Meter()])[0], (keys or [0])[0], says


def _title(file: mido.MidiFile) -> str:
    for track in file.tracks:
        name = _printable(track.name)
        if name:
            return name
    return "Tune"


def _printable(name: str) -> str:
    return "".join(c for c in name if c.isprintable()).strip()[:60]
