"""Tunes from MIDI files: the first track (or channel) with notes, one note at a time, on a grid of 1/12 of a quarter.

Drums are passed over. Where notes overlap the later one cuts the earlier. Nothing in the file decides how much memory is
used: bytes are capped before reading, messages while reading.
"""

import io

import mido

from orexis.core.figures import Melody, MelodyNote
from orexis.errors import FigureError

MAX_MIDI_BYTES = 300_000
MAX_MESSAGES = 60_000
MAX_TUNE_NOTES = 512
_DRUMS = 9
_GRID = 12


def melody_from_midi(data: bytes) -> Melody:
    """A tune; FigureError says what cannot be used."""
    if len(data) > MAX_MIDI_BYTES:
        raise FigureError(f"The MIDI file has {len(data) / 1e6:.1f} MB: at most {MAX_MIDI_BYTES / 1e6:g}.")
    try:
        file = mido.MidiFile(file=io.BytesIO(data))
    # The library raises what its parsing happens to meet; none of it says anything to a player.
    except Exception as error:
        raise FigureError("This MIDI file is broken or of a kind that is not read: export it anew.") from error
    if file.ticks_per_beat <= 0 or file.type == 2:
        raise FigureError("This MIDI file counts time in a way that is not read: export it with ticks per quarter.")
    if sum(len(track) for track in file.tracks) > MAX_MESSAGES:
        raise FigureError(f"The MIDI file holds more than {MAX_MESSAGES} messages: cut it down to the tune.")
    notes = next((found for track in file.tracks if (found := _notes(track, file.ticks_per_beat))), None)
    if notes is None:
        raise FigureError("The MIDI file has no notes.")
    if len(notes) > MAX_TUNE_NOTES:
        raise FigureError(f"The MIDI file has {len(notes)} notes: a tune holds at most {MAX_TUNE_NOTES}.")
    tempo, per_bar = _pulse(file)
    return Melody(_title(file), tuple(notes), per_bar, 0, tempo)


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


def _pulse(file: mido.MidiFile) -> tuple[float, int]:
    tempo, per_bar = 88.0, 4
    for message in file.tracks[0]:
        if message.type == "set_tempo" and message.tempo > 0:
            tempo = min(300.0, max(20.0, 60_000_000 / message.tempo))
        elif message.type == "time_signature":
            quarters = message.numerator * 4 / message.denominator
            per_bar = round(quarters) if quarters == round(quarters) and 1 <= quarters <= 16 else per_bar
    return tempo, per_bar


def _title(file: mido.MidiFile) -> str:
    for track in file.tracks:
        name = "".join(c for c in track.name if c.isprintable()).strip()[:60]
        if name:
            return name
    return "Tune"
