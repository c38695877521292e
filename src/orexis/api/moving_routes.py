"""Moving house through the page: everything out as a download, in again as an upload, and whether all is well."""

import asyncio
import contextlib
import os
import tempfile
from collections.abc import AsyncIterator, Iterator
from pathlib import Path

from fastapi import APIRouter, Request
from fastapi.responses import StreamingResponse

from orexis.api.deps import REFUSALS, TheHouse
from orexis.core.messages import tell
from orexis.errors import InputError, StorageError
from orexis.services.archive import ImportSummary, JobProgress, RecordFault, bring_in, check, taken_out
from orexis.services.clock import now
from orexis.services.record import Record
from orexis.services.remeasuring import Remeasured

router = APIRouter(prefix="/api", responses=REFUSALS)
_LEAST_FREE = 1 << 28  # 256 MB stay free for playing


@router.get("/export", response_class=StreamingResponse, responses={200: {"content": {"application/zip": {}}}})
def export_all(house: TheHouse) -> StreamingResponse:
    """Everything, as it is at this moment."""
    name = f"orexis-{now().date().isoformat()}.zip"
    headers = {"Content-Disposition": f'attachment; filename="{name}"', "Cache-Control": "no-store"}
    return StreamingResponse(_out(house.record), media_type="application/zip", headers=headers)


def _out(record: Record) -> Iterator[bytes]:
    return (piece for piece in taken_out(record) if piece)


@router.post("/import", openapi_extra={"requestBody": {"content": {"application/zip": {}}, "required": True}})
async def import_all(request: Request, house: TheHouse) -> ImportSummary:
    """Everything from an export, beside what is here. The body is the file."""
    job = house.bringing
    with job.running():
        async with arrived(request, house.record.folder) as path:
            return await asyncio.to_thread(bring_in, house.record, path, report=job.report)


@router.get("/import")
def import_progress(house: TheHouse) -> JobProgress:
    """Return how far the import under way is."""
    return house.bringing.progress


@router.delete("/import", status_code=204)
def stop_import(house: TheHouse) -> None:
    """Stop an import and undo what it has written so far."""
    house.bringing.stop()


@contextlib.asynccontextmanager
async def arrived(request: Request, folder: Path, *, most: int | None = None) -> AsyncIterator[Path]:
    """The body as a file, for as long as it is looked at. StorageError when it would fill the disk."""
    handle, name = tempfile.mkstemp(suffix=".import", dir=folder)
    path, size = Path(name), 0
    try:
        with os.fdopen(handle, "wb") as file:
            async for piece in request.stream():
                size += len(piece)
                if most is not None and size > most:
                    raise InputError(tell("The file is larger than {most} MB.", most=most >> 20))
                _room(folder)
                await asyncio.to_thread(file.write, piece)
        if not size:
            raise InputError("The file is empty.")
        yield path
    finally:
        path.unlink(missing_ok=True)


def _room(folder: Path) -> None:
    """The disk must not be filled by an upload: takes go on being written."""
    free = os.statvfs(folder)
    if free.f_bavail * free.f_frsize < _LEAST_FREE:
        raise StorageError("The disk is almost full. Nothing was taken in.")


@router.post("/check")
async def check_all(house: TheHouse) -> list[RecordFault]:
    """What is wrong with the record, looked at and not touched."""
    return list(await asyncio.to_thread(check, house.record, mend=False))


@router.get("/remeasuring")
def read_remeasuring(house: TheHouse) -> Remeasured:
    """How many takes are measured by an earlier version of the ear, and whether they are being measured again."""
    return house.remeasuring.state


@router.post("/remeasuring")
def start_remeasuring(house: TheHouse) -> Remeasured:
    """Measure them again, in the background."""
    return house.remeasuring.start()


@router.delete("/remeasuring")
def stop_remeasuring(house: TheHouse) -> Remeasured:
    """Stop after the one under way."""
    return house.remeasuring.stop()
