"""Answers in the language of whoever asks: a catalogue for each, by what the browser says; English where there is none.

Sentences with values are put together in that language (`core/messages.py`) while the request runs. Words without values stand in
declarations as they are in English, and are looked up here, in JSON that leaves the house. What players wrote is left as it is.
"""

import io
import json
from functools import cache
from gettext import GNUTranslations, NullTranslations
from pathlib import Path
from typing import Any

from starlette.datastructures import Headers, MutableHeaders
from starlette.types import ASGIApp, Message, Receive, Scope, Send

from orexis.core.messages import ENGLISH, Language, spoken

CATALOGUES = Path(__file__).parent.parent / "locales"
_OWN = frozenset({"remark", "by", "to", "sender", "line", "id", "params"})  # what players wrote, and ids
_IDS = frozenset({"choices", "reports", "serves", "places", "lips"})  # lists of ids, where they hold plain text
_MOST_WANTED = 8  # languages of one browser
_LONGEST_TAG = 4  # letters of a language's name are two or three


def language_for(accepted: str, folder: Path = CATALOGUES) -> Language:
    """The first language of an Accept-Language header that there is a catalogue for; English else."""
    for wanted in accepted.split(",")[:_MOST_WANTED]:
        tag = wanted.split(";")[0].split("-")[0].strip().lower()
        if tag == "en":
            break
        if tag.isalpha() and len(tag) < _LONGEST_TAG and (folder / f"{tag}.po").exists():
            return _read(folder / f"{tag}.po")
    return ENGLISH


@cache
def _read(path: Path) -> Language:
    """A catalogue as translators write it, with the numbers of its language."""
    from babel import Locale
    from babel.messages.mofile import write_mo  # needed for other languages alone
    from babel.messages.pofile import read_po
    from babel.numbers import get_decimal_symbol

    with path.open("rb") as file:
        catalogue = read_po(file, locale=path.stem)
    compiled = io.BytesIO()
    write_mo(compiled, catalogue)
    compiled.seek(0)
    return Language(GNUTranslations(compiled), get_decimal_symbol(Locale.parse(path.stem)))


class InLanguage:
    """Middleware: everything inside is in the language that was asked for."""

    def __init__(self, app: ASGIApp, folder: Path = CATALOGUES) -> None:
        self._app, self._folder = app, folder

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        """Pass a request on, and its answer back in the language that was asked for."""
        accepted = Headers(scope=scope).get("accept-language", "") if scope["type"] in ("http", "websocket") else ""
        language = language_for(accepted, self._folder)
        if language is ENGLISH:
            await self._app(scope, receive, send)
            return
        with spoken(language):
            await self._app(scope, receive, _Translated(send, language.catalogue))


class _Translated:
    """Holds JSON back until it is whole, and sends it on in the other language."""

    def __init__(self, send: Send, catalogue: NullTranslations) -> None:
        self._send, self._catalogue = send, catalogue
        self._start: Message | None = None
        self._body = b""

    async def __call__(self, message: Message) -> None:
        if message["type"] == "http.response.start":
            if Headers(raw=message["headers"]).get("content-type", "").startswith("application/json"):
                self._start = message
                return
        elif message["type"] == "http.response.body" and self._start is not None:
            self._body += message.get("body", b"")
            if message.get("more_body"):
                return
            body = json.dumps(self._in_language(json.loads(self._body)), ensure_ascii=False).encode()
            MutableHeaders(scope=self._start)["content-length"] = str(len(body))
            await self._send(self._start)
            self._start = None
            message = {"type": "http.response.body", "body": body}
        await self._send(message)

    def _in_language(self, value: Any) -> Any:
        if isinstance(value, str):
            return self._catalogue.gettext(value) if value else value
        if isinstance(value, list):
            return [self._in_language(item) for item in value]
        if isinstance(value, dict):
            return {key: item if _is_own(key, item) else self._in_language(item) for key, item in value.items()}
        return value


def _is_own(key: str, value: Any) -> bool:
    ids = key in _IDS and isinstance(value, list) and all(isinstance(item, str) for item in value)
    return ids or key in _OWN
