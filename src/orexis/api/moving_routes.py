"""Moving house through the page: everything out as a download, in again as an upload, and whether all is well."""

import asyncio
import os
import tempfile
from collections.abc import Iterator
from pathlib import Path

from fastapi import APIRouter, Request
from fastapi.responses import StreamingResponse

from orexis.api.deps import REFUSALS, TheHouse
from orexis.errors import InputError, StorageError
from orexis.services.clock import now
from orexis.services.moving import Brought, Fault, bring_in, check, taken_out
from orexis.services.record import Record

router = APIRouter(prefix="/api", responses=REFUSALS)
_LEAST_FREE = 1 << 28


@router.get("/export", response_class=StreamingResponse, responses={200: {"content": {"application/zip": {}}}})
def export_all(house: TheHouse) -> StreamingResponse:
    """Everything, as it is at this moment."""
    name = f"orexis-{now().date().isoformat()}.zip"
    headers = {"Content-Disposition": f'attachment; filename="{name}"', "Cache-Control": "no-store"}
    return StreamingResponse(_out(house.record), media_type="application/zip", headers=headers)


def _out(record: Record) -> Iterator[bytes]:
    return (piece for piece in taken_out(record) if piece)


@router.post("/import", openapi_extra={"requestBody": {"content": {"application/zip": {}}, "required": True}})
async def import_all(request: Request, house: TheHouse) -> Brought:
    """Everything from an export, beside what is here. The body is the file."""
    handle, name = tempfile.mkstemp(suffix=".import", dir=house.record.folder)
    path = Path(name)
    try:
        with os.fdopen(handle, "wb") as file:
            async for piece in request.stream():
                _room(house.record.folder)
                await asyncio.to_thread(file.write, piece)
        if not path.stat().st_size:
            raise InputError("The file is empty: choose an export of Orexis.")
        return await asyncio.to_thread(bring_in, house.record, path)
    finally:
        path.unlink(missing_ok=True)


def _room(folder: Path) -> None:
    """The disk must not be filled by an upload: takes go on being written."""
    free = os.statvfs(folder)
    if free.f_bavail * free.f_frsize < _LEAST_FREE:
        raise StorageError("The disk is nearly full: nothing was brought in.")


@router.post("/check")
async def check_all(house: TheHouse) -> list[Fault]:
    """What is wrong with the record, looked at and not touched."""
    return list(await asyncio.to_thread(check, house.record, mend=False))
