"""Answers in the language of whoever asks: a catalogue for each, by what the player chose or the browser says; English where there is none.

Sentences with values are put together in that language (`core/messages.py`) while a page reads. What changes the record is said in
English, so that the record is; on their way out its words, and those of the live socket, are put into the language here. What players
wrote is left as it is.
"""

import io
import json
import re
from functools import cache
from gettext import GNUTranslations
from pathlib import Path
from typing import Any

from starlette.datastructures import Headers, MutableHeaders
from starlette.types import ASGIApp, Message, Receive, Scope, Send

from orexis.core.messages import ENGLISH, VALUE, Language, spoken
from orexis.core.phrases import phrase_of

CATALOGUES = Path(__file__).parent.parent / "locales"
# What players wrote, and ids.
_OWN = frozenset({"remark", "by", "to", "sender", "line", "id", "params", "approaches", "default"})
_IDS = frozenset({"choices", "reports", "serves", "places", "lips"})  # lists of ids, where they hold plain text
_SINGLE = frozenset({"words", "unit"})  # single words, that would be ids elsewhere
_MOST_WANTED = 8  # languages of one browser
_CHOSEN = re.compile(r"(?:^|;\s*)orexis-language=([a-z]{2,3})(?:;|$)")
_READING = ("GET", "HEAD")
_KEEPS_NOTHING = ("/sheet", "/exercises/view", "/exercises/line/view")  # asked for by POST
_LONGEST_TAG = 4  # letters of a language's name are two or three


def language_of(headers: Headers, folder: Path = CATALOGUES) -> Language:
    """What the player chose in this window, else what the browser wants."""
    chosen = _CHOSEN.search(headers.get("cookie", ""))
    return language_for(chosen.group(1) if chosen else headers.get("accept-language", ""), folder)


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
    """A catalogue as translators write it; the sign before decimals is one of its words."""
    from polib import pofile  # needed for other languages alone

    read = pofile(str(path), encoding="utf-8")
    read.metadata["Content-Type"] = "text/plain; charset=utf-8"
    keys = [(entry.msgid, entry.msgid_plural) for entry in read.translated_entries()]
    phrases = [phrase for key in keys for phrase in phrase_of(filter(None, key))]
    phrases.sort(key=lambda phrase: -phrase.letters)
    words = GNUTranslations(io.BytesIO(read.to_binary()))
    return Language(words, words.pgettext(VALUE, ENGLISH.decimal), tuple(phrases))


class InLanguage:
    """Middleware: everything inside is in the language that was asked for."""

    def __init__(self, app: ASGIApp, folder: Path = CATALOGUES) -> None:
        self._app, self._folder = app, folder

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        """Pass a request on, and its answer back in the language that was asked for."""
        if scope["type"] not in ("http", "websocket"):
            await self._app(scope, receive, send)
            return
        language = language_of(Headers(scope=scope), self._folder)
        if language is ENGLISH:
            await self._app(scope, receive, send)
        elif scope["type"] == "websocket":
            await self._app(scope, receive, _TranslatedSocket(send, language))
        elif scope["method"] in _READING or scope["path"].endswith(_KEEPS_NOTHING):
            with spoken(language):
                await self._app(scope, receive, _Translated(send, language))
        else:
            await self._app(scope, receive, _Translated(send, language))


class _TranslatedSocket:
    """Messages of the live socket in the other language; blocks of frames pass as they are."""

    def __init__(self, send: Send, language: Language) -> None:
        self._send, self._language = send, language

    async def __call__(self, message: Message) -> None:
        if message["type"] == "websocket.send" and message.get("text"):
            told = in_language(json.loads(message["text"]), self._language)
            message = {**message, "text": json.dumps(told, ensure_ascii=False)}
        await self._send(message)


class _Translated:
    """Holds JSON back until it is whole, and sends it on in the other language."""

    def __init__(self, send: Send, language: Language) -> None:
        self._send, self._language = send, language
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
            body = json.dumps(in_language(json.loads(self._body), self._language), ensure_ascii=False).encode()
            MutableHeaders(scope=self._start)["content-length"] = str(len(body))
            await self._send(self._start)
            self._start = None
            message = {"type": "http.response.body", "body": body}
        await self._send(message)


def in_language(value: Any, language: Language) -> Any:
    """JSON with its English texts in a language; keys, ids and what players wrote stay."""
    if isinstance(value, str):
        return language.said(value)
    if isinstance(value, list):
        return [in_language(item, language) for item in value]
    if isinstance(value, dict):
        return {key: _under(key, item, language) for key, item in value.items()}
    return value


def _under(key: str, item: Any, language: Language) -> Any:
    """What stands under a key: ids and own words stay; units and choices are single words."""
    if _is_own(key, item):
        return item
    if key in _SINGLE and isinstance(item, str):
        return language.value(item)
    if key in _SINGLE and isinstance(item, list):
        return [language.value(word) for word in item]
    return in_language(item, language)


def _is_own(key: str, value: Any) -> bool:
    ids = key in _IDS and isinstance(value, list) and all(isinstance(item, str) for item in value)
    return ids or (key in _OWN and not (key == "params" and isinstance(value, list)))
