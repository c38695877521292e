"""Lessons and review requests through the page; words at moments of takes."""

import asyncio
from typing import Annotated

from fastapi import APIRouter, Request
from fastapi.responses import StreamingResponse
from pydantic import Field

from orexis.api.deps import REFUSALS, Key, TheHouse
from orexis.api.moving_routes import arrived
from orexis.api.paper_routes import named
from orexis.api.schemas import StrictModel, Text
from orexis.services.lessons.use import ChosenItem, LessonWish
from orexis.services.takes.marks import Mark
from orexis.services.values.lessons import MOST_BYTES, MOST_ITEMS, MOST_TAKES, Exchange, OpeningReport

router = APIRouter(prefix="/api", responses=REFUSALS)
Words = Annotated[str, Field(max_length=2000)]


class ChosenIn(StrictModel):
    """Something that is kept, by its id, with words."""

    id: Text
    words: Words = ""

    @property
    def chosen(self) -> ChosenItem:
        """Return the choices as the service takes them."""
        return ChosenItem(self.id, self.words)


Some = Annotated[list[ChosenIn], Field(max_length=MOST_ITEMS)]


class LessonIn(StrictModel):
    """What a lesson is to hold."""

    to: Text
    title: Text
    words: Words = ""
    exercises: Some = Field(default_factory=list)
    routines: Some = Field(default_factory=list)
    goals: Some = Field(default_factory=list)
    recordings: Some = Field(default_factory=list)
    limits: bool = False


class ReviewRequestIn(StrictModel):
    """Request: takes to be heard by a teacher, with words."""

    to: Text
    title: Text
    words: Words = ""
    takes: Annotated[list[Text], Field(min_length=1, max_length=MOST_TAKES)]
    weeks: bool = True


class AnswerIn(StrictModel):
    """What is said of a review request."""

    words: Words
    by: Text


class TakeOverIn(StrictModel):
    """Which parts of a lesson: `exercise 0`, `limits`."""

    parts: Annotated[list[Text], Field(min_length=1, max_length=200)]


class GivenIn(StrictModel):
    """To whom a lesson is given, and whether all of it becomes theirs at once."""

    players: Annotated[list[Text], Field(min_length=1, max_length=200)]
    added: bool = False


class LessonPartsOut(StrictModel):
    """What came of it, and a sentence for each part that could not be."""

    exchange: Exchange
    refused: list[str]


class MarkIn(StrictModel):
    """Words at a moment, or about all of a take."""

    at_s: Annotated[float | None, Field(ge=0.0, le=3600.0)] = None
    nearer: bool = False
    words: Annotated[str, Field(max_length=1000)] = ""
    by: Text


@router.get("/players/{player_id}/exchanges")
def read_exchanges(player_id: Key, house: TheHouse) -> list[Exchange]:
    """Lessons and review requests, sent and received."""
    return list(house.lessons.all(player_id))


@router.post(
    "/players/{player_id}/exchanges",
    openapi_extra={"requestBody": {"content": {"application/zip": {}}, "required": True}},
)
async def open_exchange(player_id: Key, request: Request, house: TheHouse) -> OpeningReport:
    """Open a lesson, a review request or an answer. The body is the file."""
    async with arrived(request, house.record.folder, most=MOST_BYTES) as path:
        return await asyncio.to_thread(house.lessons.open, player_id, path)


@router.post("/players/{player_id}/review-requests", status_code=201)
def make_review_request(player_id: Key, body: ReviewRequestIn, house: TheHouse) -> Exchange:
    """Put takes together for somebody who hears them."""
    return house.lessons.review_request(
        player_id, tuple(body.takes), to=body.to, title=body.title, words=body.words, weeks=body.weeks
    )


@router.post("/players/{player_id}/lessons", status_code=201)
def make_lesson(player_id: Key, body: LessonIn, house: TheHouse) -> Exchange:
    """Put a lesson together of what the player keeps."""
    wish = LessonWish(
        body.to,
        body.title,
        body.words,
        tuple(item.chosen for item in body.exercises),
        tuple(item.chosen for item in body.routines),
        tuple(item.chosen for item in body.goals),
        tuple(item.chosen for item in body.recordings),
        body.limits,
    )
    return house.lessons.lesson(player_id, wish)


@router.get("/exchanges/{exchange_id}")
def read_exchange(exchange_id: Key, house: TheHouse) -> Exchange:
    """Return one lesson or review request."""
    return house.lessons.get(exchange_id)


@router.delete("/exchanges/{exchange_id}", status_code=204)
def drop_exchange(exchange_id: Key, house: TheHouse) -> None:
    """Forget it; takes that came with it stay with their guest."""
    house.lessons.drop(exchange_id)


@router.get(
    "/exchanges/{exchange_id}/file",
    response_class=StreamingResponse,
    responses={200: {"content": {"application/zip": {}}}},
)
def exchange_file(exchange_id: Key, house: TheHouse) -> StreamingResponse:
    """As a file: what was made here, or the answer to what was received."""
    exchange, pieces = house.lessons.get(exchange_id), house.lessons.file(exchange_id)
    what = "answer" if exchange.way == "received" else exchange.kind
    told = exchange.lesson or exchange.review_request
    headers = named(what, told.title if told else "", ending="zip") | {"Cache-Control": "no-store"}
    return StreamingResponse((piece for piece in pieces if piece), media_type="application/zip", headers=headers)


@router.get("/exchanges/{exchange_id}/checksum")
def exchange_checksum(exchange_id: Key, house: TheHouse) -> str:
    """The checksum of that file, to be read out to whoever opened it."""
    return house.lessons.checksum(exchange_id)


@router.post("/exchanges/{exchange_id}/given")
def give_lesson(exchange_id: Key, body: GivenIn, house: TheHouse) -> list[str]:
    """A lesson to players who play here; return a sentence for each part that could not be added."""
    return list(house.lessons.give(exchange_id, body.players, added=body.added))


@router.put("/exchanges/{exchange_id}/answer")
def answer_exchange(exchange_id: Key, body: AnswerIn, house: TheHouse) -> Exchange:
    """What is said of a review request as a whole."""
    return house.lessons.answer(exchange_id, words=body.words, by=body.by)


@router.post("/players/{player_id}/exchanges/{exchange_id}/taken")
def take_over(player_id: Key, exchange_id: Key, body: TakeOverIn, house: TheHouse) -> LessonPartsOut:
    """Parts of a lesson become the player's own."""
    exchange, refused = house.lessons.take_over(player_id, exchange_id, tuple(body.parts))
    return LessonPartsOut(exchange=exchange, refused=list(refused))


@router.get("/takes/{take_id}/marks")
def read_marks(take_id: Key, house: TheHouse) -> list[Mark]:
    """Return the remarks on a take."""
    return list(house.marks.of(take_id))


@router.post("/takes/{take_id}/marks", status_code=201)
def add_mark(take_id: Key, body: MarkIn, house: TheHouse) -> list[Mark]:
    """Add a remark to a take; return all of them."""
    return list(house.marks.add(take_id, at_s=body.at_s, nearer=body.nearer, words=body.words, by=body.by))


@router.delete("/takes/{take_id}/marks/{mark_id}")
def take_mark_away(take_id: Key, mark_id: Key, house: TheHouse) -> list[Mark]:
    """Delete a remark of a take; return those that are left."""
    return list(house.marks.take_away(take_id, mark_id))
