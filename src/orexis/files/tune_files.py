"""A tune or an exercise from a file of any kind that we read, told by its first bytes."""

from dataclasses import replace

from orexis.core.exercises import OCTAVES, Exercise, TunePart, score_series
from orexis.core.instruments import Instrument
from orexis.core.messages import tell
from orexis.errors import ExerciseError
from orexis.files.engraving import exercise_to_svg
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
        from orexis.files.exercise_json_read import exercise_from_json  # alone needs Pydantic

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


def read_on(data: bytes, instrument: Instrument) -> tuple[TunePart, ...] | Exercise:
    """What a file holds; engraved once on the instrument, so that what cannot be engraved or does not fit is refused now."""
    read = read_tune(data)
    if isinstance(read, Exercise):
        if read.instrument != instrument.id:
            raise ExerciseError(
                tell(
                    "The exercise was made for another instrument ({instrument}): choose that instrument to use it.",
                    instrument=read.instrument,
                )
            )
        read = replace(read, from_file=True)
        exercise_to_svg(read, instrument, instrument.parts[0])
        return read
    exercise_to_svg(score_series(instrument, read, {}).exercises[0], instrument, instrument.parts[0])
    return read


def exercise_from_file(
    data: bytes, instrument: Instrument, *, octave: int, semitones: int, part: str | None
) -> Exercise:
    """A file's tune or exercise as one exercise; ExerciseError for a part or an octave that there is not."""
    read = read_on(data, instrument)
    if isinstance(read, Exercise):
        return read
    if octave not in OCTAVES:
        raise ExerciseError(tell("{octave} octaves: choose {map}.", octave=octave, map=", ".join(map(str, OCTAVES))))
    given = {"octave": OCTAVES[octave], "semitones": str(semitones)}
    given |= {"part": part} if part is not None else {}
    return score_series(instrument, read, given).exercises[-1]
