"""File formats: sound, exercises, tunes, MIDI, MusicXML, engraving and printed sheets."""
