"""A tune or an exercise from a file of any kind that we read, told by its first bytes."""

from orexis.core.exercises import Exercise, TunePart
from orexis.core.messages import tell
from orexis.errors import ExerciseError
from orexis.files.exercise_json import exercise_from_json
from orexis.files.midi_read import tune_from_midi
from orexis.files.musicxml_read import MAX_FILE_BYTES, MAX_XML_BYTES, tune_from_musicxml, tune_from_mxl


def read_tune(data: bytes) -> tuple[TunePart, ...] | Exercise:
    """What the file holds, a tune by its parts; ExerciseError when it is none of MusicXML, MXL, MIDI or our own JSON."""
    head = data[:64].lstrip(b"\xef\xbb\xbf \t\r\n")
    if data[:4] == b"MThd":
        return tune_from_midi(data)
    if data[:4] == b"PK\x03\x04":
        if len(data) > MAX_FILE_BYTES:
            raise ExerciseError(
                tell(
                    "The compressed score has {count:.1f} MB: at most {max_file_bytes:g}.",
                    count=len(data) / 1e6,
                    max_file_bytes=MAX_FILE_BYTES / 1e6,
                )
            )
        return tune_from_mxl(data)
    if head[:1] == b"{":
        return exercise_from_json(data)
    if head[:1] == b"<" or data[:2] in (b"\xff\xfe", b"\xfe\xff"):
        if len(data) > MAX_XML_BYTES:
            raise ExerciseError(
                tell(
                    "The score has {count:.1f} MB: at most {max_xml_bytes:g}.",
                    count=len(data) / 1e6,
                    max_xml_bytes=MAX_XML_BYTES / 1e6,
                )
            )
        return tune_from_musicxml(data)
    raise ExerciseError(
        "This file is none of those that are read: MusicXML, MXL, MIDI, or an exercise of Orexis (JSON)."
    )
