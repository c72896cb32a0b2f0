"""Classic blogs: the Atom Publishing Protocol (RFC 5023). See docs/wire.md.

It knows no idempotency keys. An entry bears an id of our own making, by its key; a try whose answer was lost is looked for by
that id in the collection. Where a stranger's entry stands since, the blog may have given ours another id, and nobody can tell:
a person decides.
"""

import time
from collections.abc import Iterator, Mapping
from datetime import datetime, timedelta
from itertools import islice
from typing import Any, ClassVar
from urllib.parse import urlsplit
from xml.etree.ElementTree import Element

import httpx2
from django.conf import settings

from menudo.base.web_addresses import absolute_address
from menudo.networks import atom
from menudo.networks.atom import APP, ATOM, ENTRY_TYPE, Member
from menudo.networks.client import created_response, request_outcome
from menudo.networks.protocol import (
    Destination,
    KeyLookup,
    OutgoingPost,
    PostResults,
    RemotePost,
    UnreachableError,
    Upload,
)
from menudo_core.sending.decision import NetworkResponse, Outcome

# Members of a collection, and its pages. Where there are more, nobody can tell what isn't found.
MAX_LOOKED_AT, MAX_PAGES = 2000, 200
# So many of the newest are told as what stands there.
_SUPPORTED = 50
# Clocks of networks are not ours.
GRACE = timedelta(minutes=10)
_NO_COMMENTS = NetworkResponse(Outcome.REFUSED, "it takes no comments from another program")
_NOT_FOUND = NetworkResponse(Outcome.REFUSED, "the post isn't in its collection any more")
_FOREIGN_HOST = NetworkResponse(Outcome.REFUSED, "it leads to another host than the one that was signed in to")
_ENDLESS = NetworkResponse(Outcome.REFUSED, "its collection has no end")
_TOO_SLOW = NetworkResponse(Outcome.DOWN, "it takes too long to tell what stands there")
_UNREADABLE = NetworkResponse(Outcome.DOWN, "it answered in a form that can't be read")


class AtomPub:
    """One sign-in at one blog, or at a house of blogs. A place is a collection of entries, known by its address."""

    ENDPOINTS: ClassVar[Mapping[str, str]] = {"service": "atompub_service_document"}

    def __init__(self, client: httpx2.Client, endpoints: dict[str, str], token: str) -> None:
        self._client = client
        self._service = endpoints["service"]
        self.auth = {"Authorization": f"Bearer {token}"}

    def destinations(self) -> list[Destination]:
        """The collections that take entries (RFC 5023, 8). Raises UnreachableError."""
        found = []
        for workspace, collection in self._collections():
            address = self._address(collection)
            if not atom.accepts_type(collection, ENTRY_TYPE) or not 0 < len(address) <= 200:
                continue
            titles = (atom.element_text(one.find(f"{ATOM}title")) for one in (workspace, collection))
            name = next((title for title in titles if title), address)
            url = atom.link_address(collection, "alternate") or atom.link_address(workspace, "alternate")
            found.append(
                Destination(address, name[:120], name[:200], "blog", (absolute_address(address, url) or address)[:500])
            )
        return found

    def upload(self, destination: str, file: Upload, name: str, content_type: str) -> NetworkResponse:
        """A media resource, in the collection of the same workspace that takes its type (RFC 5023, 9.6)."""
        try:
            target = self._media_collection(destination, content_type)
        except UnreachableError as error:
            return error.response
        if not target:
            return NetworkResponse(Outcome.REFUSED, f"it takes no {content_type}")
        headers = {"Content-Type": content_type, "Slug": name}
        response, whole = self._ask("POST", target, headers, content=_Body(file))
        if whole is None or response.outcome is not Outcome.DONE:
            return response
        entry = atom.parse_document(whole.content)
        content = entry.find(f"{ATOM}content") if entry is not None else None
        source = absolute_address(target, content.get("src", "")) if content is not None else ""
        return NetworkResponse(Outcome.DONE, url=source) if source else _UNREADABLE

    def publish(self, destination: str, key: str, post: OutgoingPost) -> NetworkResponse:
        """A new member (RFC 5023, 9.2), with our own id. `url` is where people read it."""
        response, whole = self._ask(
            "POST", destination, {"Content-Type": ENTRY_TYPE}, content=atom.build_entry(key, post)
        )
        if whole is None or response.outcome is not Outcome.DONE:
            return response
        shown = atom.link_address(atom.parse_document(whole.content), "alternate")
        return created_response(response, destination, shown)

    def find_by_key(self, destination: str, key: str, since: datetime) -> KeyLookup:
        """Look for the entry's id among those edited since then. Blogs should tell the one edited last first (RFC 5023, 10);
        only one that is seen to do so is believed that nothing newer follows."""
        wanted, times = atom.entry_id(key), set[datetime]()
        ordered, last, strangers = True, None, False
        try:
            for number, member in enumerate(self._members(destination)):
                if member.id == wanted:
                    return KeyLookup(True, member.url or member.edit or destination)
                if member.edited is None or number >= MAX_LOOKED_AT:
                    return KeyLookup(False)
                ordered = ordered and (last is None or member.edited <= last)
                last = member.edited
                times.add(last)
                if last >= since - GRACE:
                    # Perhaps ours, under an id of the blog's own.
                    strangers = strangers or not member.id.startswith("urn:uuid:")
                elif ordered and len(times) > 1:
                    break
        except UnreachableError as error:
            return KeyLookup(False, response=error.response)
        return KeyLookup(not strangers)

    def comment(self, destination: str, key: str, on: str, text: str) -> NetworkResponse:
        """The protocol has none."""
        return _NO_COMMENTS

    def edit(self, destination: str, url: str, text: str) -> NetworkResponse:
        """Another text for a member (RFC 5023, 9.3), by its entity tag: what was changed there meanwhile stays."""
        try:
            member = self._find(destination, url)
            if member is None:
                return _NOT_FOUND
            entry, tag = self._get(member.edit)
        except UnreachableError as error:
            return error.response
        headers = {"Content-Type": ENTRY_TYPE, **({"If-Match": tag} if tag else {})}
        response, whole = self._ask("PUT", member.edit, headers, content=atom.replace_text(entry, text))
        if whole is not None and whole.status_code == httpx2.codes.PRECONDITION_FAILED:
            return NetworkResponse(Outcome.REFUSED, "somebody changed it there meanwhile")
        return response

    def take_down(self, destination: str, url: str) -> NetworkResponse:
        """Delete a member (RFC 5023, 9.4)."""
        try:
            member = self._find(destination, url)
        except UnreachableError as error:
            return error.response
        if member is None:
            return NetworkResponse(Outcome.DONE)
        response, whole = self._ask("DELETE", member.edit)
        gone = whole is not None and whole.status_code in (httpx2.codes.NOT_FOUND, httpx2.codes.GONE)
        return NetworkResponse(Outcome.DONE) if gone else response

    def posts(self, destination: str) -> list[RemotePost]:
        """The members that are no drafts, as they come: the newest first."""
        found: list[RemotePost] = []
        try:
            for member in islice(self._members(destination), _SUPPORTED):
                if not member.draft and member.published and member.url.startswith("http"):
                    text, media = atom.member_content(member)
                    found.append(RemotePost(member.url[:500], member.published, text, media=media))
        except UnreachableError:
            return []
        return found

    def results(self, destination: str) -> list[PostResults]:
        """The protocol tells none."""
        return []

    def trending_hashtags(self) -> dict[str, int]:
        """The protocol tells none."""
        return {}

    def _ask(
        self, method: str, address: str, headers: Mapping[str, str] | None = None, **more: Any
    ) -> tuple[NetworkResponse, httpx2.Response | None]:
        """Ask, with the sign-in's token: which is shown to its own host only, whatever address a document names."""
        if _origin_of(address) != _origin_of(self._service):
            return _FOREIGN_HOST, None
        return request_outcome(self._client, method, address, headers={**self.auth, **(headers or {})}, **more)

    def _get(self, address: str) -> tuple[Element, str]:
        """A document, and its entity tag (may be empty). Raises UnreachableError."""
        response, whole = self._ask("GET", address)
        if whole is None or response.outcome is not Outcome.DONE:
            raise UnreachableError(response)
        found = atom.parse_document(whole.content)
        if found is None:
            raise UnreachableError(_UNREADABLE)
        return found, str(whole.headers.get("ETag", ""))

    def _collections(self) -> Iterator[tuple[Element, Element]]:
        """Each collection of the service document with its workspace. Raises UnreachableError."""
        for workspace in self._get(self._service)[0].iter(f"{APP}workspace"):
            for collection in workspace.iter(f"{APP}collection"):
                yield workspace, collection

    def _address(self, collection: Element) -> str:
        return absolute_address(self._service, collection.get("href", ""))

    def _media_collection(self, destination: str, content_type: str) -> str:
        """The collection for files in the workspace of a place; empty where none takes the type. Raises UnreachableError."""
        found = list(self._collections())
        mine = [workspace for workspace, collection in found if self._address(collection) == destination]
        good = (c for workspace, c in found if workspace in mine and atom.accepts_type(c, content_type))
        return next((self._address(collection) for collection in good), "")

    def _members(self, destination: str) -> Iterator[Member]:
        """A collection's members, page by page (RFC 5023, 10.1). Raises UnreachableError, also where there is no end to them."""
        address, seen = destination, set[str]()
        until = time.monotonic() + settings.LEASE.total_seconds() / 2
        while address and address not in seen:
            if len(seen) >= MAX_PAGES:
                raise UnreachableError(_ENDLESS)
            if time.monotonic() > until:
                raise UnreachableError(_TOO_SLOW)
            seen.add(address)
            feed, _ = self._get(address)
            for entry in feed.iter(f"{ATOM}entry"):
                yield atom.member_of(entry, address)
            address = absolute_address(address, atom.link_address(feed, "next"))

    def _find(self, destination: str, url: str) -> Member | None:
        """The member that people read at an address. Raises UnreachableError."""
        return next((member for member in islice(self._members(destination), MAX_LOOKED_AT) if member.url == url), None)


class _Body:
    """A file on its way, as the client takes it: in pieces, its length known."""

    def __init__(self, file: Upload) -> None:
        self.read, self.seek, self.tell = file.read, file.seek, file.tell

    def __iter__(self) -> Iterator[bytes]:
        while piece := self.read(65_536):
            yield piece


def _origin_of(address: str) -> tuple[str, str, int | None] | None:
    """Scheme, host and port of an address; None where it is none."""
    try:
        parts = urlsplit(address)
        return parts.scheme, parts.hostname or "", parts.port
    except ValueError:
        return None
