"""The open wire: W3C Micropub (JSON) with its media endpoint. See docs/wire.md."""

from collections.abc import Mapping
from datetime import UTC, datetime
from typing import Any, BinaryIO, ClassVar, cast
from urllib.parse import urlsplit

import httpx2
from django.conf import settings

from menudo.networks.client import created_response, read_json, request_outcome
from menudo.networks.protocol import (
    Attachment,
    Destination,
    KeyLookup,
    OutgoingPost,
    PostResults,
    RemotePost,
    UnreachableError,
    Upload,
)
from menudo_core.sending.decision import NetworkResponse, Outcome


class Micropub:
    """One sign-in at one network."""

    ENDPOINTS: ClassVar[Mapping[str, str]] = {"micropub": "micropub_endpoint", "media": "media_endpoint"}

    def __init__(self, client: httpx2.Client, endpoints: dict[str, str], token: str) -> None:
        self._client = client
        self._endpoints = endpoints
        self._auth = {"Authorization": f"Bearer {token}"}

    def destinations(self) -> list[Destination]:
        """The profiles this sign-in was given. Raises UnreachableError."""
        response, body = self._query({"q": "config"})
        if response.outcome is not Outcome.DONE:
            raise UnreachableError(response)
        if not self._endpoints.get("media") and isinstance(body.get("media-endpoint"), str):
            self._endpoints["media"] = body["media-endpoint"]
        found = body.get("destination")
        if isinstance(found, list) and found:
            return [_destination_of(d) for d in found if isinstance(d, dict) and d.get("uid")]
        # A site with one place to post to needn't name it (Micropub, 3.7.1).
        site = self._endpoints.get("site", "")
        host = urlsplit(site).hostname or ""
        return [Destination(site, host, host, "site", site)] if site else []

    def find_by_key(self, destination: str, key: str, since: datetime) -> KeyLookup:
        """Ask whether a create with this key was acted on (`q=key`, an extension of ours)."""
        response, body = self._query({"q": "key", "key": key})
        if response.outcome is Outcome.DONE and "url" in body:
            return KeyLookup(True, body["url"] or None)
        return KeyLookup(False, response=response)

    def upload(self, destination: str, file: Upload, name: str, content_type: str) -> NetworkResponse:
        """Give a file to the media endpoint (Micropub, 3.6), read as it is sent."""
        # A network may look long at what it has received, but not as long as the lease holds.
        timeout = httpx2.Timeout(
            settings.WIRE_TIMEOUT, read=max(settings.WIRE_TIMEOUT, settings.LEASE.total_seconds() / 2)
        )
        sent = {"file": (name, cast(BinaryIO, file), content_type)}
        return self._created(self._endpoints["media"], files=sent, timeout=timeout)

    def publish(self, destination: str, key: str, post: OutgoingPost) -> NetworkResponse:
        """Create a post (Micropub, 3.4). The same key never makes a second one; a network's own fields are properties."""
        properties: dict[str, Any] = {name: [value] for name, value in post.fields.items()}
        properties |= {"content": [post.text], "mp-destination": [destination]}
        if post.link:
            properties["link"] = [post.link]
        if post.form != "post":
            properties["form"] = [post.form]
        for kind in ("photo", "video"):
            found = [_medium_property(m) for m in post.media if (m.kind == "video") == (kind == "video")]
            if found:
                properties[kind] = found
        if len(post.media) > 1:
            properties["order"] = [m.url for m in post.media]
        if post.card is not None:
            card_values = {"name": [post.card.title], "summary": [post.card.description], "photo": [post.card.picture]}
            properties["card"] = [{"type": ["h-cite"], "properties": {k: v for k, v in card_values.items() if v[0]}}]
        return self._create(key, properties)

    def comment(self, destination: str, key: str, on: str, text: str) -> NetworkResponse:
        """A reply to one's own post (`in-reply-to`)."""
        return self._create(key, {"content": [text], "in-reply-to": [on], "mp-destination": [destination]})

    def edit(self, destination: str, url: str, text: str) -> NetworkResponse:
        """Another text for a post that is there (Micropub, 3.5.1 update, replace)."""
        return self._post(
            self._endpoints["micropub"], json={"action": "update", "url": url, "replace": {"content": [text]}}
        )

    def take_down(self, destination: str, url: str) -> NetworkResponse:
        """Take a post down (Micropub, 3.5.2 delete). One that isn't there any more (404, 410) is taken down."""
        body = {"action": "delete", "url": url}
        response, whole = request_outcome(
            self._client, "POST", self._endpoints["micropub"], headers=self._auth, json=body
        )
        gone = whole is not None and whole.status_code in (404, 410)
        return NetworkResponse(Outcome.DONE) if gone else response

    def trending_hashtags(self) -> dict[str, int]:
        """Hashtags used much of late (`q=rising`, an extension of ours)."""
        response, body = self._query({"q": "rising"})
        tags = body.get("rising") if response.outcome is Outcome.DONE else None
        if not isinstance(tags, list):
            return {}
        good = (t for t in tags[:50] if isinstance(t, dict) and isinstance(t.get("posts"), int))
        return {str(t.get("tag", ""))[:120]: t["posts"] for t in good}

    def results(self, destination: str) -> list[PostResults]:
        """What a profile's posts have earned so far (`q=results`, an extension of ours)."""
        response, body = self._query({"q": "results", "destination": destination})
        listed = body.get("results") if response.outcome is Outcome.DONE else None
        if not isinstance(listed, list):
            return []
        return [_results_of(one) for one in listed[:1000] if isinstance(one, dict) and isinstance(one.get("url"), str)]

    def posts(self, destination: str) -> list[RemotePost]:
        """What stands at a profile, the newest first (`q=source` without an address, a proposed extension of Micropub; the
        destination is ours)."""
        response, body = self._query({"q": "source", "destination": destination})
        items = body.get("items") if response.outcome is Outcome.DONE else None
        if not isinstance(items, list):
            return []
        found = [_remote_post(one.get("properties")) for one in items[:100] if isinstance(one, dict)]
        return [one for one in found if one is not None]

    def _create(self, key: str, properties: dict[str, Any]) -> NetworkResponse:
        body = {"type": ["h-entry"], "properties": properties}
        return self._created(self._endpoints["micropub"], json=body, headers={"Idempotency-Key": f'"{key}"'})

    def _query(self, params: dict[str, str]) -> tuple[NetworkResponse, dict[str, Any]]:
        response, whole = request_outcome(
            self._client, "GET", self._endpoints["micropub"], params=params, headers=self._auth
        )
        if whole is None or response.outcome is not Outcome.DONE:
            return response, {}
        try:
            body = read_json(whole)
        except ValueError:
            return NetworkResponse(Outcome.DOWN, "it answered in a form that can't be read"), {}
        return response, body if isinstance(body, dict) else {}

    def _created(self, endpoint: str, **asked: Any) -> NetworkResponse:
        return created_response(self._post(endpoint, **asked), endpoint)

    def _post(self, url: str, headers: dict[str, str] | None = None, **body: Any) -> NetworkResponse:
        return request_outcome(self._client, "POST", url, headers={**self._auth, **(headers or {})}, **body)[0]


def _medium_property(m: Attachment) -> dict[str, Any]:
    """A medium as Micropub has it (3.3.2), with extensions of ours for what lies over it; what says nothing is left out."""
    properties: dict[str, Any] = {
        "people": [{"who": p.who, "x": p.x, "y": p.y} for p in m.people],
        "words": m.words,
        "words-at": m.words_at if m.words else "",
        "cover": m.cover,
        "focus": list(m.focus) if m.focus else None,
    }
    return {"value": m.url, "alt": m.alt, **{name: value for name, value in properties.items() if value}}


def _destination_of(item: dict[str, Any]) -> Destination:
    """One destination of `q=config`; what a network leaves out is left open, and nothing longer than it can be kept."""
    facts = item.get("facts")
    followers = item.get("followers")
    return Destination(
        remote_id=str(item["uid"])[:200],
        handle=str(item.get("handle") or item.get("name") or item["uid"])[:120],
        name=str(item.get("name") or "")[:200],
        kind=str(item.get("kind") or "site")[:32],
        url=str(item.get("url") or "")[:500],
        followers=followers if isinstance(followers, int) and 0 <= followers < 2**31 else None,
        facts={str(k): str(v) for k, v in facts.items()} if isinstance(facts, dict) else {},
    )


def _results_of(one: dict[str, Any]) -> PostResults:
    def count(name: str) -> int:
        value = one.get(name)
        return min(max(value, 0), 2**31 - 1) if isinstance(value, int) else 0

    return PostResults(one["url"][:500], count("reach"), count("reactions"), count("clicks"))


def _remote_post(item: Any) -> RemotePost | None:
    """One item of a list of posts; None where it has no address or time."""
    if not isinstance(item, dict):
        return None

    def first(name: str) -> str:
        values = item.get(name)
        return values[0] if isinstance(values, list) and values and isinstance(values[0], str) else ""

    try:
        at = datetime.fromisoformat(first("published"))
    except ValueError:
        return None
    if not first("url").startswith("http") or at.tzinfo is None:
        return None
    media = []
    for name, kind in (("photo", "picture"), ("video", "video")):
        for one in item.get(name, []) if isinstance(item.get(name), list) else []:
            value, alt = (one.get("value"), one.get("alt")) if isinstance(one, dict) else (one, "")
            if isinstance(value, str):
                media.append((value[:2000], kind, str(alt or "")[:1000]))
    return RemotePost(
        first("url")[:500],
        at.astimezone(UTC),
        first("content")[:20_000],
        first("link")[:2000],
        first("form") or "post",
        tuple(media[:20]),
    )
