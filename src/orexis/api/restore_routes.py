"""Copies of the record, and one in its place: also where the record itself cannot be opened."""

import asyncio
from typing import Annotated

from fastapi import APIRouter, Depends, Path, Request

from orexis.api.deps import REFUSALS, TheHouse
from orexis.api.open_record import OpenRecord
from orexis.services.archive import BackupCopy, Restored, back_up, copies, restore
from orexis.services.folder_lock import FolderLock

router = APIRouter(prefix="/api/copies", responses=REFUSALS)


def _opened(request: Request) -> OpenRecord:
    opened: OpenRecord = request.app.state.opened
    return opened


Opened = Annotated[OpenRecord, Depends(_opened)]


@router.get("")
def read_copies(opened: Opened) -> list[BackupCopy]:
    """The copies that there are, the newest first, with what is in them."""
    return list(copies(opened.folder))


@router.post("", status_code=201)
def make_copy(house: TheHouse) -> list[BackupCopy]:
    """Make a copy of the record now; return all of them."""
    back_up(house.record)
    return list(copies(house.record.folder))


@router.post("/{name}/restore")
async def restore_copy(name: Annotated[str, Path(max_length=80)], opened: Opened) -> Restored:
    """Put a copy in the place of the record; the present one is kept as a copy. Not while somebody plays."""

    def change() -> Restored:
        lock = FolderLock(opened.folder)
        try:
            return restore(opened.folder, name)
        finally:
            lock.release()

    return await asyncio.shield(opened.while_closed(change))
