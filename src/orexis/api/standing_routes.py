"""Letting devices in from the network: a device asks here; everything else is for this machine alone."""

import io
from typing import Annotated

import segno
from fastapi import APIRouter, Depends, Request, Response
from fastapi.responses import FileResponse
from pydantic import Field

from orexis.api.deps import REFUSALS, Key
from orexis.api.lan_server import COOKIE, LanServer
from orexis.api.schemas import StrictModel, Text
from orexis.errors import InputError, MissingError
from orexis.services.standing import PairedDevice, Rights

router = APIRouter(responses=REFUSALS)
_YEAR_S = 365 * 86_400  # an allowed tablet stays allowed for a year


def standing_of(request: Request) -> LanServer:
    """Return the server for the home network."""
    server: LanServer = request.app.state.standing
    return server


TheStand = Annotated[LanServer, Depends(standing_of)]


class PairIn(StrictModel):
    """The passphrase or the code of the moment, and what the device is called."""

    secret: Annotated[str, Field(min_length=1, max_length=200)]
    name: Annotated[str, Field(max_length=60)] = ""


class StandIn(StrictModel):
    """The switch; a passphrase where there is to be another."""

    on: bool
    passphrase: Annotated[str, Field(max_length=200)] | None = None


class StandOut(StrictModel):
    """Whether devices may come in, where they find it, and which were let in."""

    on: bool
    has_passphrase: bool
    addresses: list[Text]
    devices: list[PairedDevice]


@router.post("/api/pair", status_code=204)
def pair(body: PairIn, stand: TheStand, request: Request, response: Response) -> None:
    """Let a device in: it keeps a token that no script can read."""
    if not stand.pairing.on:
        raise InputError("No device is let in: it is switched off in the settings of the machine that runs Orexis.")
    token = stand.pairing.let_in(body.secret, body.name, request.client.host if request.client else "")
    response.set_cookie(COOKIE, token, max_age=_YEAR_S, httponly=True, secure=True, samesite="strict")


@router.get("/authority.pem", response_class=FileResponse, include_in_schema=False)
def authority(stand: TheStand) -> FileResponse:
    """What a device is to trust. It holds no secret."""
    path = stand.certificates.authority
    if not path.exists():
        raise MissingError("There is no certificate yet: switch it on in the settings first.")
    return FileResponse(path, media_type="application/x-x509-ca-cert", filename="orexis-authority.pem")


@router.get("/api/stand")
def read_stand(stand: TheStand) -> StandOut:
    """Return whether a tablet may come in, and by which addresses."""
    return StandOut(
        on=stand.running,
        has_passphrase=stand.pairing.has_passphrase,
        addresses=list(stand.addresses) if stand.running else [],
        devices=list(stand.pairing.devices()),
    )


@router.put("/api/stand")
async def switch_stand(body: StandIn, stand: TheStand, request: Request) -> StandOut:
    """Let devices in, or not any more."""
    if body.passphrase is not None:
        stand.pairing.set_passphrase(body.passphrase)
    stand.pairing.switch(body.on)
    if body.on:
        await stand.start(request.app)
    else:
        await stand.stop()
    return read_stand(stand)


@router.post("/api/stand/code")
def make_code(stand: TheStand) -> dict[str, str]:
    """A code for one device within ten minutes."""
    if not stand.running:
        raise InputError("Switch it on first: until then no device can come in.")
    return {"code": stand.pairing.code()}


@router.get("/api/stand/address.svg", response_class=Response, responses={200: {"content": {"image/svg+xml": {}}}})
def address_as_picture(stand: TheStand) -> Response:
    """Return the address for a tablet or phone as a QR code, SVG."""
    if not stand.running:
        raise MissingError("There is no address yet: switch it on first.")
    out = io.BytesIO()
    segno.make(stand.addresses[0], error="m").save(out, kind="svg", scale=6, border=3, xmldecl=False, omitsize=True)
    return Response(out.getvalue(), media_type="image/svg+xml", headers={"Cache-Control": "no-store"})


class RightsIn(StrictModel):
    """What a device may do: play, read only, or all."""

    rights: Rights


@router.put("/api/stand/devices/{device_id}", status_code=204)
def give_rights(device_id: Key, body: RightsIn, stand: TheStand) -> None:
    """Say what a device may do."""
    stand.pairing.give(device_id, body.rights)


@router.delete("/api/stand/devices/{device_id}", status_code=204)
def remove_device(device_id: Key, stand: TheStand) -> None:
    """Take the right to come in from a device."""
    stand.pairing.remove(device_id)
