"""A shared store over WebDAV (RFC 4918): list a collection, read a file. Through the guarded client only."""

import io
import time
from contextlib import ExitStack
from dataclasses import dataclass
from pathlib import Path
from typing import BinaryIO
from urllib.parse import quote, unquote, urlsplit
from xml.etree.ElementTree import Element

import httpx2
from defusedxml.common import DefusedXmlException
from defusedxml.ElementTree import ParseError, fromstring
from django.conf import settings

from menudo.base.deadline import deadline
from menudo.base.fetch import FetchError, guarded_client
from menudo.base.numbers import parse_whole_number
from menudo.base.web_addresses import absolute_address

_DAV = "{DAV:}"
_PROPFIND_BODY = (
    b'<?xml version="1.0" encoding="utf-8"?><propfind xmlns="DAV:"><prop><resourcetype/><getcontentlength/>'
    b"<getcontenttype/><displayname/></prop></propfind>"
)
_MAX_LISTING_BYTES = 5_000_000
# What comes slower than this, beyond the time that a page has, is given up: ten minutes for a film of 60 MB.
_LEAST_BYTES_A_SECOND = 100_000


class StoreError(Exception):
    """The store can't be read; the text says why, for people."""


@dataclass(frozen=True, slots=True)
class StoreEntry:
    """One thing in a collection: its path under the store's address, without a slash in front."""

    path: str
    name: str
    folder: bool
    size: int | None


class WebDav:
    """One store. `address` is its root collection's."""

    def __init__(self, address: str, user: str, password: str) -> None:
        self._root = address.rstrip("/") + "/"
        self._auth = httpx2.BasicAuth(user, password) if user else None

    def list(self, path: str) -> list[StoreEntry]:
        """What lies in the collection at `path` ("" is the root), folders first. Raises StoreError."""
        address = self._address(path, collection=True)
        headers = {"Depth": "1", "Content-Type": "application/xml; charset=utf-8"}
        body = io.BytesIO()
        self._read("PROPFIND", address, _MAX_LISTING_BYTES, body, headers, _PROPFIND_BODY)
        try:
            tree = fromstring(body.getvalue(), forbid_dtd=True)
        except (ParseError, DefusedXmlException, ValueError) as error:
            raise StoreError("The store answered in a form that can't be read.") from error
        found = [entry for one in tree.iter(f"{_DAV}response") if (entry := self._entry(one, address))]
        return sorted(found, key=lambda e: (not e.folder, e.name.casefold()))

    def get(self, path: str, target: Path) -> Path:
        """A file, written to `target` as it arrives. Raises StoreError."""
        with target.open("wb") as out:
            self._read("GET", self._address(path), settings.UPLOAD_MOST_VIDEO_BYTES, out)
        return target

    def _address(self, path: str, collection: bool = False) -> str:
        parts = [part for part in path.split("/") if part]
        if any(part in (".", "..") for part in parts):
            raise StoreError("There is nothing at that place in the store.")
        return self._root + "/".join(quote(part) for part in parts) + ("/" if collection and parts else "")

    def _entry(self, response: Element, asked: str) -> StoreEntry | None:
        href = response.findtext(f"{_DAV}href") or ""
        full = absolute_address(asked, href)
        # What lies elsewhere is not this store's, whatever it says.
        if urlsplit(full).netloc != urlsplit(self._root).netloc or full.rstrip("/") == asked.rstrip("/"):
            return None
        inside = unquote(urlsplit(full).path)
        root = unquote(urlsplit(self._root).path)
        if not inside.startswith(root) or ".." in inside.split("/"):
            return None
        path = inside[len(root) :].strip("/")
        size = response.findtext(f".//{_DAV}getcontentlength") or ""
        folder = response.find(f".//{_DAV}collection") is not None
        return StoreEntry(path, path.rsplit("/", 1)[-1], folder, parse_whole_number(size, 2**63 - 1)) if path else None

    def _read(
        self,
        method: str,
        address: str,
        most: int,
        out: BinaryIO,
        headers: dict[str, str] | None = None,
        content: bytes = b"",
    ) -> None:
        """Write what the store answers to `out`, `most` bytes of it. It begins in time, and goes on no slower than is allowed."""
        sent = {"Accept-Encoding": "identity", **(headers or {})}
        ends = time.monotonic() + settings.FETCH_SECONDS
        try:
            with ExitStack() as stack:
                asked = guarded_client().stream(method, address, auth=self._auth, headers=sent, content=content)
                with deadline(settings.FETCH_SECONDS):
                    answer = stack.enter_context(asked)
                if answer.status_code == 401:
                    raise StoreError("The store doesn't know this user and password.")
                if answer.status_code in (404, 409):
                    raise StoreError("There is nothing at that place in the store.")
                if answer.status_code not in (200, 207):
                    raise StoreError(f"The store answered {answer.status_code}. Is the address that of a WebDAV store?")
                for chunk in answer.iter_raw():
                    out.write(chunk)
                    if out.tell() > most:
                        raise StoreError("That is too large to be brought in.")
                    if time.monotonic() > ends + out.tell() / _LEAST_BYTES_A_SECOND:
                        raise StoreError("The store is too slow to be read.")
        except FetchError as error:
            raise StoreError(str(error)) from error
        except (httpx2.HTTPError, httpx2.InvalidURL, UnicodeError, ValueError) as error:
            raise StoreError("There is no way through to the store.") from error
