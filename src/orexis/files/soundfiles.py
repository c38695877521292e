"""WAV and FLAC, read in bounded memory and written as they are kept.

Read: any rate from 8 to 192 kHz, any channel count (mixed down), at most `MAX_SECONDS`. Blocks are counted as they
come: a FLAC header may claim any length.
"""

import io
from collections.abc import Iterator
from pathlib import Path
from typing import BinaryIO

import numpy as np
import soundfile
import soxr

from orexis.core.messages import tell
from orexis.core.sound import Samples, Sound
from orexis.core.trace import RATE_RANGE
from orexis.errors import SoundError, StorageError

MAX_SECONDS = 600.0  # ten minutes: the longest take
MAX_STREAM_SECONDS = 4 * 3600.0  # four hours: a rehearsal
MAX_CHANNELS = 16  # what a field recorder gives at most
MAX_BYTES = 256 * 1024 * 1024  # ten minutes of the largest format that is read
_KINDS = {"WAV", "WAVEX", "FLAC", "RF64"}
_HEADS = (b"RIFF", b"RIFX", b"RF64", b"fLaC")
_MP3_RATES = (8_000, 11_025, 12_000, 16_000, 22_050, 24_000, 32_000, 44_100, 48_000)  # all that the format has
_MOST_SAMPLES = MAX_SECONDS * 96_000  # held in memory at once; at 192 kHz five minutes
_BLOCK = 1 << 16  # samples read at once, bounds memory
# Whatever the decoder says of a damaged file, and the codec library below it.
_UNREADABLE = (RuntimeError, OSError, TypeError, ValueError, OverflowError, MemoryError, AssertionError, AttributeError)


def read_sound(source: Path | BinaryIO, *, max_seconds: float = MAX_SECONDS) -> Sound:
    """Mono sound from a file; SoundError says what cannot be used."""
    if not isinstance(source, Path):
        head = source.read(4)
        source.seek(0)
        if head not in _HEADS:  # other kinds are not even tried: their decoders are more than is needed here
            raise SoundError("This is no WAV or FLAC file: use one of those.")
    try:
        with soundfile.SoundFile(str(source) if isinstance(source, Path) else source) as file:
            _check(file)
            return Sound(_blocks(file, min(max_seconds, _MOST_SAMPLES / file.samplerate)), file.samplerate)
    except _UNREADABLE as error:
        raise SoundError("This cannot be read as sound: use a complete WAV or FLAC file.") from error


def sound_blocks(path: Path, *, max_seconds: float = MAX_STREAM_SECONDS) -> Iterator[Sound]:
    """The same in blocks of about a second and a half, for what is too long to hold; SoundError as above."""
    try:
        with soundfile.SoundFile(str(path)) as file:
            _check(file)
            for samples in _mono_blocks(file, max_seconds):
                yield Sound(samples, file.samplerate)
    except _UNREADABLE as error:
        raise SoundError("This cannot be read as sound: use a complete WAV or FLAC file.") from error


def _check(file: soundfile.SoundFile) -> None:
    low, high = RATE_RANGE
    if file.format not in _KINDS:
        raise SoundError(tell("This is a {format} file: use WAV or FLAC.", format=file.format))
    if not low <= file.samplerate <= high:
        raise SoundError(
            tell(
                "The sound has {samplerate} samples a second: Orexis reads {low} to {high}.",
                samplerate=file.samplerate,
                low=low,
                high=high,
            )
        )
    if file.channels > MAX_CHANNELS:
        raise SoundError(
            tell(
                "The sound has {channels} channels: at most {max_channels}.",
                channels=file.channels,
                max_channels=MAX_CHANNELS,
            )
        )


def _blocks(file: soundfile.SoundFile, max_seconds: float) -> Samples:
    return np.concatenate(list(_mono_blocks(file, max_seconds)))


def _mono_blocks(file: soundfile.SoundFile, max_seconds: float) -> Iterator[Samples]:
    most = int(max_seconds * file.samplerate)
    count = 0
    while True:
        block = file.read(_BLOCK, dtype="float32", always_2d=True)
        if not len(block):
            break
        count += len(block)
        if count > most:
            raise SoundError(
                tell(
                    "The sound is longer than {minutes:g} minutes at {rate} samples a second: cut it into takes.",
                    minutes=max_seconds / 60,
                    rate=file.samplerate,
                )
            )
        yield np.nan_to_num(block, posinf=1.0, neginf=-1.0).mean(axis=1)
    if not count:
        raise SoundError("The sound is empty: record at least a note.")


def write_wav(path: Path, sound: Sound) -> None:
    """Write a sound as 16-bit WAV."""
    soundfile.write(str(path), sound.samples, sound.rate, format="WAV", subtype="PCM_16")


def wav_bytes(sound: Sound) -> bytes:
    """Return a sound as the bytes of a 16-bit WAV."""
    out = io.BytesIO()
    soundfile.write(out, sound.samples, sound.rate, format="WAV", subtype="PCM_16")
    return out.getvalue()


def write_flac(path: Path, sound: Sound) -> None:
    """24-bit FLAC, put in place whole or not at all."""
    part = path.with_suffix(".part")
    try:
        path.parent.mkdir(parents=True, exist_ok=True)
        soundfile.write(str(part), np.clip(sound.samples, -1.0, 1.0), sound.rate, format="FLAC", subtype="PCM_24")
        part.replace(path)
    except (OSError, soundfile.SoundFileError) as error:
        part.unlink(missing_ok=True)
        raise StorageError(
            "The take's sound could not be written: is the disk full? It stays in the journal meanwhile."
        ) from error


def sound_as(path: Path, form: str) -> bytes:
    """A sound file in another format: wav (16 bit) or mp3."""
    sound = read_sound(path)
    if form == "wav":
        return wav_bytes(sound)
    rate = next((rate for rate in _MP3_RATES if rate >= sound.rate), _MP3_RATES[-1])
    samples = sound.samples if rate == sound.rate else soxr.resample(sound.samples, sound.rate, rate)
    out = io.BytesIO()
    soundfile.write(out, np.clip(samples, -1.0, 1.0), rate, format="MP3")
    return out.getvalue()
