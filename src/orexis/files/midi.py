"""Figures as a standard MIDI file: one track of notes at sounding pitch, one of clicks."""

import io

import mido

from orexis.core.figures import Figure, Medium

TICKS = 480
_CLICK_CHANNEL, _CLICK_NOTE, _BAR_NOTE = 9, 77, 76
_VELOCITY = {"pp": 40, "p": 52, "mp": 64, "mf": 78, "f": 94, "ff": 110}


def figure_to_midi(figure: Figure) -> bytes:
    """The figure after one bar of count-in; clicks on every beat."""
    file = mido.MidiFile(ticks_per_beat=TICKS)
    file.tracks.append(_notes(figure))
    if figure.click:
        file.tracks.append(_clicks(figure))
    out = io.BytesIO()
    file.save(file=out)
    return out.getvalue()


def _notes(figure: Figure) -> mido.MidiTrack:
    track = mido.MidiTrack([mido.MetaMessage("set_tempo", tempo=mido.bpm2tempo(figure.tempo_bpm))])
    velocity = _VELOCITY[figure.dynamic]
    events: list[tuple[float, int, mido.Message]] = []
    for note in figure.notes if figure.medium != Medium.AIR else ():
        velocity = _VELOCITY[note.dynamic] if note.dynamic else velocity
        start = figure.count_in_beats + note.start_beat
        events.append((start, 1, mido.Message("note_on", note=note.pitch.midi, velocity=velocity)))
        events.append((start + note.beats, 0, mido.Message("note_off", note=note.pitch.midi)))
    return _timed(track, events)


def _clicks(figure: Figure) -> mido.MidiTrack:
    events = []
    for beat in range(figure.count_in_beats + int(figure.beats)):
        note = _BAR_NOTE if beat % figure.beats_per_bar == 0 else _CLICK_NOTE
        events.append((float(beat), 1, mido.Message("note_on", channel=_CLICK_CHANNEL, note=note, velocity=90)))
        events.append((beat + 0.1, 0, mido.Message("note_off", channel=_CLICK_CHANNEL, note=note)))
    return _timed(mido.MidiTrack(), events)


def _timed(track: mido.MidiTrack, events: list[tuple[float, int, mido.Message]]) -> mido.MidiTrack:
    now = 0
    for beat, _, message in sorted(events, key=lambda event: event[:2]):
        tick = round(beat * TICKS)
        track.append(message.copy(time=tick - now))
        now = tick
    return track
