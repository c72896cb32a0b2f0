"""Classic blogs: the Atom Publishing Protocol (RFC 5023) with Atom entries (RFC 4287). See docs/wire.md.

It knows no idempotency keys. An entry bears an id of our own making, by its key; a try whose answer was lost is looked for by
that id in the collection, as far back as it can have been made. Where a stranger's entry stands in between, the blog may have
given ours another id, and nobody can tell: a person decides.
"""

import html
from collections.abc import Iterator, Mapping
from dataclasses import dataclass
from datetime import UTC, datetime, timedelta
from itertools import islice
from typing import ClassVar
from urllib.parse import urljoin
from xml.etree.ElementTree import Element, ParseError, SubElement, register_namespace, tostring

import httpx
from bs4 import BeautifulSoup
from defusedxml import DefusedXmlException
from defusedxml.ElementTree import fromstring

from menudo.base import clock
from menudo.networks.client import ask
from menudo.networks.protocol import (
    KeyLookup,
    OutgoingPost,
    Place,
    PostResults,
    RemotePost,
    Unreachable,
    Upload,
)
from menudo_core.sending.decide import NetworkResponse, Outcome

ATOM, APP = "{http://www.w3.org/2005/Atom}", "{http://www.w3.org/2007/app}"
ENTRY_TYPE = "application/atom+xml;type=entry"
# Members of a collection. Whoever asks for more can't be told.
MAX_LOOKED_AT = 2000
# So many of the newest are told as what stands there.
_TOLD = 50
# Clocks of networks are not ours.
_GRACE = timedelta(minutes=10)
_NO_COMMENTS = NetworkResponse(Outcome.REFUSED, "it takes no comments from another program")
_NOT_THERE = NetworkResponse(Outcome.REFUSED, "the post isn't in its collection any more")
_UNREADABLE = NetworkResponse(Outcome.DOWN, "it answered in a form that can't be read")
register_namespace("", ATOM[1:-1])
register_namespace("app", APP[1:-1])


@dataclass(frozen=True, slots=True)
class _Member:
    """An entry of a collection. `edited` in UTC; None: the blog doesn't say. `url` is where people read it."""

    id: str
    url: str
    edit: str
    published: datetime | None
    edited: datetime | None
    draft: bool
    entry: Element


class AtomPub:
    """One sign-in at one blog, or at a house of blogs. A place is a collection of entries, known by its address."""

    ENDPOINTS: ClassVar[Mapping[str, str]] = {"service": "atompub_service_document"}

    def __init__(self, client: httpx.Client, endpoints: dict[str, str], token: str) -> None:
        self._client = client
        self._endpoints = endpoints
        self._auth = {"Authorization": f"Bearer {token}"}

    def places(self) -> list[Place]:
        """The collections that take entries (RFC 5023, 8). Raises Unreachable."""
        found = []
        for workspace, collection in self._collections():
            if not _accepts(collection, ENTRY_TYPE):
                continue
            address = self._address(collection)
            name = _text(workspace.find(f"{ATOM}title")) or _text(collection.find(f"{ATOM}title")) or address
            url = next((a for a in (_link(collection, "alternate"), _link(workspace, "alternate")) if a), address)
            found.append(Place(address[:200], name[:120], name[:200], "blog", urljoin(address, url)[:500]))
        return found

    def upload(self, place: str, file: Upload, name: str, content_type: str) -> NetworkResponse:
        """A media resource, in the collection of the same workspace that takes its type (RFC 5023, 9.6)."""
        try:
            target = self._media_collection(place, content_type)
        except Unreachable as error:
            return error.response
        if not target:
            return NetworkResponse(Outcome.REFUSED, f"it takes no {content_type}")
        headers = {**self._auth, "Content-Type": content_type, "Slug": name}
        response, whole = ask(self._client, "POST", target, headers=headers, content=_Body(file))
        if whole is None or response.outcome is not Outcome.DONE:
            return response
        entry = _parse(whole)
        content = entry.find(f"{ATOM}content") if entry is not None else None
        source = content.get("src", "") if content is not None else ""
        return NetworkResponse(Outcome.DONE, url=urljoin(target, source)) if source else _UNREADABLE

    def publish(self, place: str, key: str, post: OutgoingPost) -> NetworkResponse:
        """A new member (RFC 5023, 9.2), with our own id. `url` is where people read it."""
        headers = {**self._auth, "Content-Type": ENTRY_TYPE}
        response, whole = ask(self._client, "POST", place, headers=headers, content=_entry(key, post))
        if whole is None or response.outcome is not Outcome.DONE:
            return response
        entry = _parse(whole)
        url = urljoin(place, _link(entry, "alternate")) if entry is not None else ""
        return NetworkResponse(Outcome.DONE, url=url or response.url)

    def find_by_key(self, place: str, key: str, since: datetime) -> KeyLookup:
        """Look for the entry's id among those edited since then, the newest first (RFC 5023, 10)."""
        try:
            for number, member in enumerate(self._members(place)):
                if member.id == _id(key):
                    return KeyLookup(True, member.url)
                if number >= MAX_LOOKED_AT:
                    return KeyLookup(False)
                if member.edited is None:
                    return KeyLookup(False)
                if member.edited < since - _GRACE:
                    return KeyLookup(True)
                if not member.id.startswith("urn:uuid:"):
                    # Perhaps ours, under an id of the blog's own.
                    return KeyLookup(False)
        except Unreachable as error:
            return KeyLookup(False, response=error.response)
        return KeyLookup(True)

    def comment(self, place: str, key: str, on: str, text: str) -> NetworkResponse:
        """The protocol has none."""
        return _NO_COMMENTS

    def edit(self, place: str, url: str, text: str) -> NetworkResponse:
        """Another text for a member (RFC 5023, 9.3), by its entity tag: what was changed there meanwhile stays."""
        try:
            member = self._find(place, url)
        except Unreachable as error:
            return error.response
        if member is None:
            return _NOT_THERE
        response, whole = ask(self._client, "GET", member.edit, headers=self._auth)
        entry = _parse(whole) if whole is not None and response.outcome is Outcome.DONE else None
        if whole is None or entry is None:
            return response if response.outcome is not Outcome.DONE else _UNREADABLE
        _set_text(entry, text)
        tag = {"If-Match": whole.headers["ETag"]} if "ETag" in whole.headers else {}
        headers = {**self._auth, **tag, "Content-Type": ENTRY_TYPE}
        response, whole = ask(self._client, "PUT", member.edit, headers=headers, content=tostring(entry, "utf-8"))
        if whole is not None and whole.status_code == httpx.codes.PRECONDITION_FAILED:
            return NetworkResponse(Outcome.REFUSED, "somebody changed it there meanwhile")
        return response

    def take_down(self, place: str, url: str) -> NetworkResponse:
        """Delete a member (RFC 5023, 9.4)."""
        try:
            member = self._find(place, url)
        except Unreachable as error:
            return error.response
        if member is None:
            return NetworkResponse(Outcome.DONE)
        response, whole = ask(self._client, "DELETE", member.edit, headers=self._auth)
        gone = whole is not None and whole.status_code in (httpx.codes.NOT_FOUND, httpx.codes.GONE)
        return NetworkResponse(Outcome.DONE) if gone else response

    def posts(self, place: str) -> list[RemotePost]:
        """The members that are no drafts, the newest first."""
        found: list[RemotePost] = []
        try:
            for member in islice(self._members(place), _TOLD):
                if not member.draft and member.published and member.url.startswith("http"):
                    text, media = _read_content(member)
                    found.append(RemotePost(member.url[:500], member.published, text, media=media))
        except Unreachable:
            return []
        return found

    def results(self, place: str) -> list[PostResults]:
        """The protocol tells none."""
        return []

    def trending_hashtags(self) -> dict[str, int]:
        """The protocol tells none."""
        return {}

    def _get(self, address: str) -> Element:
        response, whole = ask(self._client, "GET", address, headers=self._auth)
        if whole is None or response.outcome is not Outcome.DONE:
            raise Unreachable(response)
        found = _parse(whole)
        if found is None:
            raise Unreachable(_UNREADABLE)
        return found

    def _collections(self) -> Iterator[tuple[Element, Element]]:
        """Each collection of the service document with its workspace. Raises Unreachable."""
        for workspace in self._get(self._endpoints["service"]).iter(f"{APP}workspace"):
            for collection in workspace.iter(f"{APP}collection"):
                yield workspace, collection

    def _address(self, collection: Element) -> str:
        return urljoin(self._endpoints["service"], collection.get("href", ""))

    def _media_collection(self, place: str, content_type: str) -> str:
        """The collection for files in the workspace of a place; empty where none takes the type. Raises Unreachable."""
        workspaces: dict[int, list[Element]] = {}
        mine = None
        for workspace, collection in self._collections():
            workspaces.setdefault(id(workspace), []).append(collection)
            if self._address(collection) == place:
                mine = id(workspace)
        good = (c for c in workspaces.get(mine or 0, []) if _accepts(c, content_type))
        return next((self._address(c) for c in good), "")

    def _members(self, place: str) -> Iterator[_Member]:
        """A collection's members, the one edited last first, page by page (RFC 5023, 10.1). Raises Unreachable."""
        address, seen = place, set[str]()
        while address and address not in seen:
            seen.add(address)
            feed = self._get(address)
            for entry in feed.iter(f"{ATOM}entry"):
                yield _member(entry, address)
            following = _link(feed, "next")
            address = urljoin(address, following) if following else ""

    def _find(self, place: str, url: str) -> _Member | None:
        """The member that people read at an address. Raises Unreachable."""
        return next((member for member in islice(self._members(place), MAX_LOOKED_AT) if member.url == url), None)


class _Body:
    """A file on its way, as the client takes it: in pieces, its length known."""

    def __init__(self, file: Upload) -> None:
        self.read, self.seek, self.tell = file.read, file.seek, file.tell

    def __iter__(self) -> Iterator[bytes]:
        while piece := self.read(65_536):
            yield piece


def _id(key: str) -> str:
    return f"urn:uuid:{key}"


def _parse(response: httpx.Response) -> Element | None:
    """The root of an XML answer; None where it can't be read, or declares entities."""
    try:
        root: Element = fromstring(response.content)
    except (ParseError, DefusedXmlException, ValueError, LookupError):
        return None
    return root


def _text(element: Element | None) -> str:
    return " ".join("".join(element.itertext()).split()) if element is not None else ""


def _link(element: Element | None, rel: str) -> str:
    """The address of a link; one that says no relation is an alternate (RFC 4287, 4.2.7.2)."""
    links = element.findall(f"{ATOM}link") if element is not None else []
    return next((link.get("href", "") for link in links if link.get("rel", "alternate") == rel), "")


def _accepts(collection: Element, content_type: str) -> bool:
    """Whether a collection takes a media type; one that says nothing takes entries (RFC 5023, 8.3.4)."""
    told = [_text(one) for one in collection.findall(f"{APP}accept")]
    ranges = {part.strip().replace(" ", "").lower() for one in (told or [ENTRY_TYPE]) for part in one.split(",")}
    kind = content_type.split("/")[0]
    return bool(ranges & {content_type, f"{kind}/*", "*/*"}) and not (content_type == ENTRY_TYPE and ranges == {"*/*"})


def _instant(element: Element | None) -> datetime | None:
    """A date construct (RFC 4287, 3.3), in UTC."""
    try:
        at = datetime.fromisoformat(_text(element))
    except ValueError:
        return None
    return at.astimezone(UTC) if at.tzinfo else None


def _member(entry: Element, base: str) -> _Member:
    draft = _text(entry.find(f"{APP}control/{APP}draft")).lower() == "yes"
    published = _instant(entry.find(f"{ATOM}published")) or _instant(entry.find(f"{ATOM}updated"))
    edited = _instant(entry.find(f"{APP}edited")) or _instant(entry.find(f"{ATOM}updated"))
    url, edit = (
        urljoin(base, address) if address else "" for address in (_link(entry, "alternate"), _link(entry, "edit"))
    )
    return _Member(_text(entry.find(f"{ATOM}id")), url, edit, published, edited, draft, entry)


def _entry(key: str, post: OutgoingPost) -> bytes:
    """The post as an entry: its words in a block of their own, then its link and its media."""
    root = Element(f"{ATOM}entry")
    first = next((line.strip() for line in post.text.splitlines() if line.strip()), "")
    SubElement(root, f"{ATOM}id").text = _id(key)
    SubElement(root, f"{ATOM}title").text = post.fields.get("title") or first[:80]
    SubElement(root, f"{ATOM}updated").text = clock.now().astimezone(UTC).isoformat(timespec="seconds")
    content = SubElement(root, f"{ATOM}content", {"type": "html"})
    content.text = _block(post.text) + "".join(_figure(m.url, m.kind, m.alt) for m in post.media)
    if post.link:
        SubElement(root, f"{ATOM}link", {"rel": "related", "href": post.link})
    control = SubElement(root, f"{APP}control")
    SubElement(control, f"{APP}draft").text = "no"
    return bytes(tostring(root, "utf-8", xml_declaration=True))


def _block(text: str) -> str:
    lines = html.escape(text, quote=False).replace("\r\n", "\n").split("\n")
    return f"<div>{'<br>'.join(lines)}</div>"


def _figure(url: str, kind: str, alt: str) -> str:
    source, words = html.escape(url), html.escape(alt)
    if kind == "video":
        return f'<p><video controls src="{source}" aria-label="{words}"></video></p>'
    return f'<p><img src="{source}" alt="{words}"></p>'


def _set_text(entry: Element, text: str) -> None:
    """Other words in an entry's block; its media stay."""
    content = entry.find(f"{ATOM}content")
    if content is None:
        content = SubElement(entry, f"{ATOM}content")
    _, block, rest = (content.text or "").partition("</div>")
    content.attrib.update({"type": "html"})
    content.text = _block(text) + (rest if block else "")


def _read_content(member: _Member) -> tuple[str, tuple[tuple[str, str, str], ...]]:
    """A member's words, and its media: address, kind and alt text of each."""
    content = member.entry.find(f"{ATOM}content")
    if content is None:
        return _text(member.entry.find(f"{ATOM}summary")), ()
    if content.get("type", "text") == "text":
        return (content.text or "").strip()[:20_000], ()
    said = content.text if content.get("type") == "html" else tostring(content, "unicode")
    soup = BeautifulSoup(said or "", "html.parser")
    media = [
        (urljoin(member.url, str(tag["src"]))[:2000], "video" if tag.name == "video" else "picture", str(tag.get("alt", ""))[:1000])
        for tag in soup.find_all(["img", "video"], src=True)
    ]  # fmt: skip
    for gap in soup.find_all("br"):
        gap.replace_with("\n")
    return soup.get_text().strip()[:20_000], tuple(media[:20])
