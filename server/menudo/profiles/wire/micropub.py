"""The open wire: W3C Micropub (JSON) with its media endpoint. See docs/wire.md."""

from datetime import UTC, datetime, timedelta
from email.utils import parsedate_to_datetime
from typing import Any, BinaryIO, cast
from urllib.parse import urlsplit

import httpx
from django.conf import settings

from menudo.base import clock
from menudo.base.fetch import CantFetch
from menudo.base.numbers import parse_whole_number
from menudo.profiles.wire.protocol import Attachment, Earned, Known, Outgoing, RemoteProfile, Upload, Written
from menudo_core.sending.decide import Answer, Outcome


class Unreachable(Exception):
    """The network could not be asked; `answer` says why."""

    def __init__(self, answer: Answer) -> None:
        self.answer = answer
        super().__init__(answer.words)


class Micropub:
    """One sign-in at one network."""

    def __init__(self, client: httpx.Client, endpoints: dict[str, str], token: str) -> None:
        self._client = client
        self._endpoints = endpoints
        self._auth = {"Authorization": f"Bearer {token}"}

    def profiles(self) -> list[RemoteProfile]:
        """The profiles this sign-in was given. Raises Unreachable."""
        answer, body = self._ask({"q": "config"})
        if answer.outcome is not Outcome.DONE:
            raise Unreachable(answer)
        if not self._endpoints.get("media") and isinstance(body.get("media-endpoint"), str):
            self._endpoints["media"] = body["media-endpoint"]
        found = body.get("destination")
        if isinstance(found, list) and found:
            return [_remote(d) for d in found if isinstance(d, dict) and d.get("uid")]
        # A site with one place to post to needn't name it (Micropub, 3.7.1).
        site = self._endpoints.get("site", "")
        host = urlsplit(site).hostname or ""
        return [RemoteProfile(site, host, host, "site", site)] if site else []

    def known(self, key: str) -> Known:
        """Ask whether a create with this key was acted on (`q=key`, an extension of ours)."""
        answer, body = self._ask({"q": "key", "key": key})
        if answer.outcome is Outcome.DONE and "url" in body:
            return Known(True, body["url"] or None)
        return Known(False, answer=answer)

    def send_media(self, file: Upload, name: str, content_type: str) -> Answer:
        """Give a file to the media endpoint (Micropub, 3.6), read as it is sent; `url` of the answer is its address there."""
        # A network may look long at what it has received, but not as long as the lease holds.
        timeout = httpx.Timeout(
            settings.WIRE_TIMEOUT, read=max(settings.WIRE_TIMEOUT, settings.LEASE.total_seconds() / 2)
        )
        sent = {"file": (name, cast(BinaryIO, file), content_type)}
        return self._post(self._endpoints["media"], files=sent, timeout=timeout)

    def create(self, profile: str, key: str, post: Outgoing) -> Answer:
        """Create a post (Micropub, 3.4). The same key never makes a second one; a network's own fields are properties."""
        properties: dict[str, Any] = {name: [value] for name, value in post.fields.items()}
        properties |= {"content": [post.text], "mp-destination": [profile]}
        if post.link:
            properties["link"] = [post.link]
        if post.form != "post":
            properties["form"] = [post.form]
        for kind in ("photo", "video"):
            found = [_medium(m) for m in post.media if (m.kind == "video") == (kind == "video")]
            if found:
                properties[kind] = found
        if len(post.media) > 1:
            properties["order"] = [m.url for m in post.media]
        if post.card is not None:
            said = {"name": [post.card.title], "summary": [post.card.description], "photo": [post.card.picture]}
            properties["card"] = [{"type": ["h-cite"], "properties": {k: v for k, v in said.items() if v[0]}}]
        return self._make(key, properties)

    def comment(self, profile: str, key: str, on: str, text: str) -> Answer:
        """A comment of the profile's own under its post at `on` (`in-reply-to`), with a key of its own."""
        return self._make(key, {"content": [text], "in-reply-to": [on], "mp-destination": [profile]})

    def update(self, url: str, text: str) -> Answer:
        """Other words for a post that is there (Micropub, 3.5.1 update, replace)."""
        return self._post(
            self._endpoints["micropub"], json={"action": "update", "url": url, "replace": {"content": [text]}}
        )

    def delete(self, url: str) -> Answer:
        """Take a post down (Micropub, 3.5.2 delete). One that isn't there any more (404, 410) is taken down."""
        return self._post(self._endpoints["micropub"], json={"action": "delete", "url": url}, gone=True)

    def rising(self) -> dict[str, int]:
        """Hashtags used much of late, with how many posts (`q=rising`, an extension of ours); empty where it isn't told."""
        answer, body = self._ask({"q": "rising"})
        tags = body.get("rising") if answer.outcome is Outcome.DONE else None
        if not isinstance(tags, list):
            return {}
        good = (t for t in tags[:50] if isinstance(t, dict) and isinstance(t.get("posts"), int))
        return {str(t.get("tag", ""))[:120]: t["posts"] for t in good}

    def results(self, profile: str) -> list[Earned]:
        """What a profile's posts have earned so far (`q=results`, an extension of ours); empty where it isn't told."""
        answer, body = self._ask({"q": "results", "destination": profile})
        told = body.get("results") if answer.outcome is Outcome.DONE else None
        if not isinstance(told, list):
            return []
        return [_earned(one) for one in told[:1000] if isinstance(one, dict) and isinstance(one.get("url"), str)]

    def written(self, profile: str) -> list[Written]:
        """What stands at a profile, the newest first (`q=source` without an address, a proposed extension of Micropub; the
        destination is ours); empty where it isn't told."""
        answer, body = self._ask({"q": "source", "destination": profile})
        items = body.get("items") if answer.outcome is Outcome.DONE else None
        if not isinstance(items, list):
            return []
        found = [_written(one.get("properties")) for one in items[:100] if isinstance(one, dict)]
        return [one for one in found if one is not None]

    def _make(self, key: str, properties: dict[str, Any]) -> Answer:
        body = {"type": ["h-entry"], "properties": properties}
        return self._post(self._endpoints["micropub"], json=body, headers={"Idempotency-Key": f'"{key}"'})

    def _ask(self, params: dict[str, str]) -> tuple[Answer, dict[str, Any]]:
        try:
            response = self._client.get(self._endpoints["micropub"], params=params, headers=self._auth)
        except (httpx.HTTPError, CantFetch) as error:
            return Answer(Outcome.DOWN, _reason(error)), {}
        answer = read_answer(response)
        if answer.outcome is not Outcome.DONE:
            return answer, {}
        try:
            body = response.json()
        except ValueError:
            return Answer(Outcome.DOWN, "it answered in a form that can't be read"), {}
        return answer, body if isinstance(body, dict) else {}

    def _post(self, url: str, headers: dict[str, str] | None = None, gone: bool = False, **body: Any) -> Answer:
        try:
            response = self._client.post(url, headers={**self._auth, **(headers or {})}, **body)
        except (httpx.HTTPError, CantFetch) as error:
            return Answer(Outcome.DOWN, _reason(error))
        if gone and response.status_code in (404, 410):
            return Answer(Outcome.DONE)
        return read_answer(response)


def _medium(m: Attachment) -> dict[str, Any]:
    """A medium as Micropub has it (3.3.2), with extensions of ours for what lies over it; what says nothing is left out."""
    said: dict[str, Any] = {
        "people": [{"who": p.who, "x": p.x, "y": p.y} for p in m.people],
        "words": m.words,
        "words-at": m.words_at if m.words else "",
        "cover": m.cover,
        "focus": list(m.focus) if m.focus else None,
    }
    return {"value": m.url, "alt": m.alt, **{name: value for name, value in said.items() if value}}


def _remote(told: dict[str, Any]) -> RemoteProfile:
    """One destination of `q=config`; what a network leaves out is left open, and nothing longer than it can be kept."""
    facts = told.get("facts")
    followers = told.get("followers")
    return RemoteProfile(
        remote_id=str(told["uid"])[:200],
        handle=str(told.get("handle") or told.get("name") or told["uid"])[:120],
        name=str(told.get("name") or "")[:200],
        kind=str(told.get("kind") or "site")[:32],
        url=str(told.get("url") or "")[:500],
        followers=followers if isinstance(followers, int) and 0 <= followers < 2**31 else None,
        facts={str(k): str(v) for k, v in facts.items()} if isinstance(facts, dict) else {},
    )


def read_answer(response: httpx.Response) -> Answer:
    """What an HTTP answer means (RFC 9110; 429 and Retry-After as in RFC 6585, 4)."""
    status = response.status_code
    if status in (200, 201, 202, 204):
        return Answer(Outcome.DONE, url=response.headers.get("Location", ""))
    words = _network_words(response)
    if status == 401:
        return Answer(Outcome.NOT_AUTHORISED, words)
    if status == 429 or (status == 503 and "Retry-After" in response.headers):
        return Answer(Outcome.TOO_MANY, words, retry_at=_retry_at(response.headers.get("Retry-After")))
    if status >= 500 or status in (408, 409, 425):
        return Answer(Outcome.DOWN, words)
    return Answer(Outcome.REFUSED, words)


def _network_words(response: httpx.Response) -> str:
    try:
        body = response.json()
    except ValueError:
        body = {}
    if isinstance(body, dict):
        for name in ("detail", "error_description", "title", "error"):
            if isinstance(body.get(name), str) and body[name]:
                return body[name][:400]
    return f"it answered {response.status_code}"


def _retry_at(header: str | None) -> datetime | None:
    if not header:
        return None
    seconds = parse_whole_number(header, 86_400)
    if seconds is not None:
        return clock.now() + timedelta(seconds=seconds)
    try:
        at = parsedate_to_datetime(header)
    except (ValueError, OverflowError):
        return None
    return at if at.tzinfo else at.replace(tzinfo=UTC)


def _reason(error: Exception) -> str:
    if isinstance(error, CantFetch):
        return str(error)
    if isinstance(error, httpx.TimeoutException):
        return "it took too long to answer"
    if isinstance(error, httpx.ConnectError):
        return "there is no way through to it"
    return "the connection broke off"


def _earned(one: dict[str, Any]) -> Earned:
    def count(name: str) -> int:
        value = one.get(name)
        return min(max(value, 0), 2**31 - 1) if isinstance(value, int) else 0

    return Earned(one["url"][:500], count("reach"), count("reactions"), count("clicks"))


def _written(said: Any) -> Written | None:
    """One item of a list of posts; None where it has no address or time."""
    if not isinstance(said, dict):
        return None

    def first(name: str) -> str:
        values = said.get(name)
        return values[0] if isinstance(values, list) and values and isinstance(values[0], str) else ""

    try:
        at = datetime.fromisoformat(first("published"))
    except ValueError:
        return None
    if not first("url").startswith("http") or at.tzinfo is None:
        return None
    media = []
    for name, kind in (("photo", "picture"), ("video", "video")):
        for one in said.get(name, []) if isinstance(said.get(name), list) else []:
            value, alt = (one.get("value"), one.get("alt")) if isinstance(one, dict) else (one, "")
            if isinstance(value, str):
                media.append((value[:2000], kind, str(alt or "")[:1000]))
    return Written(
        first("url")[:500], at.astimezone(UTC), first("content")[:20_000], first("link")[:2000], first("form") or "post",
        tuple(media[:20]),
    )  # fmt: skip
