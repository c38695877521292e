"""ZIPs of ours: written piece by piece with a manifest at the end, and read only when every byte is what the manifest says.

The same entries give the same bytes: fixed dates, fixed rights, no going back in the stream. `checksum` is one checksum over all of
them, short enough to be read out.
"""

import hashlib
import io
import json
import re
import zipfile
from collections.abc import Callable, Generator, Iterator
from dataclasses import dataclass
from pathlib import Path
from typing import Any

from orexis.core.messages import tell
from orexis.errors import InputError
from orexis.files.strict_json import strict_json

MANIFEST = "manifest.json"
PIECE = 1 << 20  # read at once, bounds memory
_EPOCH = (1980, 1, 1, 0, 0, 0)
_MOST_FILES = 5_000_000  # a lifetime of takes
_MOST_MANIFEST = 64 << 20  # names of half a million takes
_LONGEST_LINE = 8 << 20  # the measures of the longest take, ten times over
_MOST_PACKED = 300  # times smaller than it was: far more than lines of JSON that repeat
_MOST_PACKED_SOUND = 1.1  # sound is packed already
_SMALL = 1 << 16  # bytes, of which nothing is asked
_CHECKSUM_LETTERS = 12  # enough to find a slip, short enough to read aloud
_OTHERS = {
    "orexis-export": ": it is a full export. Import it under Settings.",
    "orexis-exchange": ": it is a lesson or recordings for a teacher. Open it under Lessons.",
    "orexis-parcel": ": it is a lesson or recordings for a teacher. Open it under Lessons.",
}
Report = Callable[[str], None]


def dumped(value: Any) -> str:
    """Return JSON text, always written in the same way."""
    return json.dumps(value, ensure_ascii=False, separators=(",", ":"), sort_keys=False)


def checksum_of(files: dict[str, dict[str, Any]]) -> str:
    """One checksum over the names and checksums of all files: its first letters."""
    text = "".join(f"{name} {files[name]['sha256']}\n" for name in sorted(files))
    return hashlib.sha256(text.encode()).hexdigest()[:_CHECKSUM_LETTERS]


def pieces_of(path: Path) -> Iterator[bytes]:
    """A file, a piece at a time."""
    with path.open("rb") as file:
        while piece := file.read(PIECE):
            yield piece


class _Stream(io.RawIOBase):
    """Where the ZIP is written to: what came since is handed on. It cannot be sought in, so that any reader gets the same bytes."""

    def __init__(self) -> None:
        self._parts: list[bytes] = []

    def writable(self) -> bool:
        """Return True: the archive is written to it."""
        return True

    def write(self, data: Any) -> int:
        """Keep bytes until they are taken."""
        self._parts.append(bytes(data))
        return len(data)

    def taken(self) -> bytes:
        """Return the bytes that were written since the last call, and forget them."""
        out, self._parts = b"".join(self._parts), []
        return out


class Wrapping:
    """A ZIP under way, for a `with` block: left half-way, nothing is kept open. Every method yields what is ready to go out."""

    def __init__(self) -> None:
        self._stream = _Stream()
        self._archive = zipfile.ZipFile(self._stream, "w", allowZip64=True)
        self._listed: dict[str, dict[str, Any]] = {}

    def __enter__(self) -> "Wrapping":
        return self

    def __exit__(self, *_: object) -> None:
        self._archive.close()

    @property
    def checksum(self) -> str:
        """One checksum over all entries but the manifest."""
        return checksum_of({name: told for name, told in self._listed.items() if name != MANIFEST})

    def packed(self, name: str, pieces: Iterator[bytes]) -> Iterator[bytes]:
        """An entry that is made smaller: text."""
        return self._entry(name, pieces, zipfile.ZIP_DEFLATED)

    def as_it_lies(self, name: str, pieces: Iterator[bytes]) -> Iterator[bytes]:
        """An entry that cannot be made smaller: sound."""
        return self._entry(name, pieces, zipfile.ZIP_STORED)

    def sealed(self, **head: Any) -> Iterator[bytes]:
        """Yield the manifest and the end of the archive."""
        manifest = {**head, "files": dict(self._listed)}
        yield from self._entry(MANIFEST, iter([dumped(manifest).encode()]), zipfile.ZIP_DEFLATED)
        self._archive.close()
        yield self._stream.taken()

    def _entry(self, name: str, pieces: Iterator[bytes], how: int) -> Iterator[bytes]:
        info = zipfile.ZipInfo(name, _EPOCH)
        info.compress_type, info.external_attr, info.create_system = how, 0o644 << 16, 3
        digest, size = hashlib.sha256(), 0
        with self._archive.open(info, "w", force_zip64=True) as out:
            for piece in pieces:
                digest.update(piece)
                size += len(piece)
                out.write(piece)
                yield self._stream.taken()
        self._listed[name] = {"size": size, "sha256": digest.hexdigest()}
        yield self._stream.taken()


@dataclass(frozen=True, slots=True)
class Shape:
    """What a kind of file must be: in words, its name in the manifest, the newest schema that is known, and its entries' names."""

    what: str
    format: str
    schema: int
    names: re.Pattern[str]
    most_files: int = _MOST_FILES
    most_bytes: int | None = None
    earlier_format: str | None = None


def manifest_of(archive: zipfile.ZipFile, shape: Shape) -> dict[str, Any]:
    """Its manifest; InputError where the file is none of this shape, or was cut off, or is of a later release."""
    infos = archive.infolist()
    names = [info.filename for info in infos]
    if len(names) > shape.most_files or len(set(names)) != len(names):
        raise InputError(
            tell("This file holds too many entries, or one of them twice: it is not {what}.", what=shape.what)
        )
    if shape.most_bytes is not None and sum(info.file_size for info in infos) > shape.most_bytes:
        raise InputError(
            tell(
                "This file holds more than {most_bytes} MB: send fewer takes at once.",
                most_bytes=shape.most_bytes >> 20,
            )
        )
    bomb = next((info.filename for info in infos if _is_bomb(info)), None)
    if bomb is not None:
        raise InputError(
            tell("“{bomb}” unpacks to far more than it should: this is not {what}.", bomb=bomb[:60], what=shape.what)
        )
    if MANIFEST not in names or archive.getinfo(MANIFEST).file_size > _MOST_MANIFEST:
        raise InputError(tell("This file has no manifest: it is not {what}, or it was cut off.", what=shape.what))
    try:
        manifest = strict_json(archive.read(MANIFEST))
        kind, schema = manifest["format"], int(manifest["schema"])
        told = {str(name): int(file["size"]) for name, file in manifest["files"].items()}
    except (ValueError, KeyError, TypeError, AttributeError) as error:
        raise InputError(
            tell("The manifest of this file cannot be read: it is not {what}.", what=shape.what)
        ) from error
    if kind not in (shape.format, shape.earlier_format):
        raise InputError(tell("This is not {what}{get}", what=shape.what, get=_OTHERS.get(str(kind), ".")))
    if schema > shape.schema:
        raise later_release()
    strange = next((name for name in names if name != MANIFEST and not shape.names.fullmatch(name)), None)
    if strange is not None:
        raise InputError(tell("“{strange}” has no place in {what}.", strange=strange[:60], what=shape.what))
    if set(told) | {MANIFEST} != set(names) or any(archive.getinfo(name).file_size != told[name] for name in told):
        raise InputError("What this file holds is not what its manifest says: it is damaged.")
    good: dict[str, Any] = manifest
    return good


def _is_bomb(info: zipfile.ZipInfo) -> bool:
    most = _MOST_PACKED_SOUND if info.filename.endswith(".flac") else _MOST_PACKED
    return info.file_size > _SMALL and info.file_size > most * info.compress_size


def later_release() -> InputError:
    """It knows more than we do."""
    return InputError("This file was made by a later release of Orexis: import it with that release or a newer one.")


def check_sums(archive: zipfile.ZipFile, files: dict[str, Any], report: Report) -> None:
    """Every byte against its sum, before anything is written."""
    for number, (name, said) in enumerate(files.items()):
        if number % 100 == 0:
            report(tell("checking {number} of {count} ...", number=number, count=len(files)))
        digest = hashlib.sha256()
        with archive.open(name) as file:
            while piece := file.read(PIECE):
                digest.update(piece)
        if digest.hexdigest() != said["sha256"]:
            raise InputError(
                tell(
                    "“{name}” is damaged: its checksum is not the one in the manifest. Nothing was imported.", name=name
                )
            )


def read_lines(archive: zipfile.ZipFile, name: str) -> Generator[dict[str, Any], None, None]:
    """Yield the JSON objects of an entry, one a line; InputError names the line that is none."""
    with archive.open(name) as file:
        number = 0
        while line := file.readline(_LONGEST_LINE + 1):
            number += 1
            try:
                if len(line) > _LONGEST_LINE:
                    raise ValueError("too long")
                row = strict_json(line)
                if not isinstance(row, dict):
                    raise ValueError("no object")
            except ValueError as error:
                raise InputError(
                    tell(
                        "Line {number} of {name} cannot be read: {error}. Nothing was imported.",
                        number=number,
                        name=name,
                        error=error,
                    )
                ) from error
            yield row
