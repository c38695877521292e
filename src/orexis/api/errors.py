"""The one place where errors get their HTTP status and their sentence."""

import errno

from fastapi import FastAPI, Request
from fastapi.exceptions import RequestValidationError
from fastapi.responses import JSONResponse
from starlette.exceptions import HTTPException

from orexis.core.messages import tell
from orexis.errors import (
    BusyError,
    ConflictError,
    DamagedError,
    InputError,
    LockedError,
    MissingError,
    NewerDatabaseError,
    OrexisError,
    StorageError,
    TooManyError,
)

_STATUS: tuple[tuple[type[OrexisError], int], ...] = (
    (MissingError, 404),
    (ConflictError, 409),
    (InputError, 422),
    (LockedError, 403),
    (TooManyError, 429),
    (BusyError, 503),
    (StorageError, 507),
    (DamagedError, 503),
    (NewerDatabaseError, 503),
    (OrexisError, 500),
)


# The disk is full, over its quota, or cannot be written.
_REFUSED_BY_DISK = {errno.ENOSPC, errno.EDQUOT, errno.EROFS, errno.EACCES, errno.EPERM}
_SAID = {400: "What was sent cannot be read: nothing was changed.", 405: "This request isn’t possible."}


def status_of(error: OrexisError) -> int:
    """The HTTP status of an error."""
    return next(status for kind, status in _STATUS if isinstance(error, kind))


def install(app: FastAPI) -> None:
    """Answer every deliberate error with its sentence."""

    @app.exception_handler(OrexisError)
    async def _known(_: Request, error: OrexisError) -> JSONResponse:
        return JSONResponse({"message": str(error), "kind": type(error).__name__}, status_of(error))

    @app.exception_handler(HTTPException)
    async def _unread(_: Request, error: HTTPException) -> JSONResponse:
        said = _SAID.get(error.status_code, str(error.detail))
        return JSONResponse({"message": said, "kind": "InputError"}, error.status_code, error.headers)

    @app.exception_handler(UnicodeEncodeError)
    async def _half(_: Request, error: UnicodeEncodeError) -> JSONResponse:
        return JSONResponse({"message": "A text holds half a sign: write it again.", "kind": "InputError"}, 422)

    @app.exception_handler(OSError)
    async def _disk(_: Request, error: OSError) -> JSONResponse:
        if error.errno not in _REFUSED_BY_DISK:
            raise error
        return JSONResponse(
            {"message": tell("This could not be saved: {strerror}.", strerror=error.strerror), "kind": "StorageError"},
            507,
        )

    @app.exception_handler(RequestValidationError)
    async def _invalid(_: Request, error: RequestValidationError) -> JSONResponse:
        first = error.errors()[0]
        place = ".".join(str(part) for part in first["loc"] if part != "body")
        return JSONResponse({"message": f"{place}: {first['msg']}.", "kind": "InputError"}, 422)
