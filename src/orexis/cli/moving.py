"""Export, import, backup and check on the command line. Progress goes to stderr, one line; the outcome is JSON on stdout."""

import json
import sys
from collections.abc import Iterator
from contextlib import contextmanager
from dataclasses import asdict
from pathlib import Path

from orexis.cli.own_language import own
from orexis.cli.server import data_folder
from orexis.core.messages import tell
from orexis.errors import InputError, MissingError
from orexis.services.archive import back_up, bring_in, check, copies, restore, write_export
from orexis.services.folder_lock import FolderLock
from orexis.services.record import Record


@contextmanager
def _record(folder: Path | None, *, fresh: bool = False, alone: bool = True) -> Iterator[Record]:
    """`alone`: nobody else may have it open; otherwise it is read beside a server that runs."""
    where = folder or data_folder()
    if not fresh and not (where / "orexis.db").exists():
        raise MissingError(tell("There is no record in {where}: say where it is with --data.", where=where))
    record = Record(where, locked=alone)
    try:
        yield record
    finally:
        record.close()


def _report(said: str) -> None:
    end = "" if sys.stderr.isatty() else "\n"
    start = "\r\033[K" if sys.stderr.isatty() else ""
    print(f"{start}{own(said)}", end=end, file=sys.stderr, flush=True)


def export(file: Path, folder: Path | None) -> None:
    """Write the whole record into one file, with progress on stderr."""
    if file.is_dir() or not file.resolve().parent.is_dir():
        raise InputError(tell("{file} cannot be written: name a file in a folder that there is.", file=file))
    with _record(folder, alone=False) as record:
        made = write_export(record, file, report=_report)
    _report("done\n" if sys.stderr.isatty() else "done")
    print(json.dumps({"file": str(file), **asdict(made)}))


def bring(file: Path, folder: Path | None) -> None:
    """Read an export into the data folder."""
    if not file.is_file():
        raise MissingError(tell("There is no file {file}.", file=file))
    with _record(folder, fresh=True) as record:
        brought = bring_in(record, file, report=_report)
    _report("done\n" if sys.stderr.isatty() else "done")
    print(json.dumps(asdict(brought)))


def copy(folder: Path | None) -> None:
    """Copy the database beside it and print where the copy is."""
    with _record(folder, alone=False) as record:
        print(json.dumps({"file": str(back_up(record))}))


def back_to(name: str | None, folder: Path | None) -> None:
    """List the copies of the record, or put one in its place."""
    where = folder or data_folder()
    if name is None:
        print(json.dumps([asdict(copy) for copy in copies(where)], indent=2, default=str))
        return
    lock = FolderLock(where)
    try:
        print(json.dumps(asdict(restore(where, Path(name).name)), indent=2, default=str))
    finally:
        lock.release()


def look(folder: Path | None, *, mend: bool) -> None:
    """What is wrong; exit code 1 when something is that was not mended."""
    with _record(folder, alone=mend) as record:
        faults = check(record, mend=mend, report=_report)
    print(json.dumps([asdict(fault) for fault in faults], indent=2))
    if any(not fault.mended for fault in faults):
        sys.exit(1)
