"""Classic blogs by the Atom Publishing Protocol (RFC 5023): service document, collections, media entries, edit links, ETags.

Read and judged with code of its own; what an entry says is kept beside what Micropub brings to the other networks.
"""

import hashlib
import json
import math
import tempfile
from pathlib import Path
from typing import Any
from urllib.parse import urlencode
from xml.etree.ElementTree import Element, SubElement

from flask import Blueprint, Response, abort, current_app, g, request, url_for

from menudo_standin.answers import faults, misanswer, misbehave, problem
from menudo_standin.atom_entries import (
    APP,
    ATOM,
    NoEntry,
    date_of,
    edited_at,
    entity_tag,
    entry_element,
    given_time,
    kept_body,
    read_entry,
    xml,
)
from menudo_standin.conditions import barred
from menudo_standin.judge import Refused, judge
from menudo_standin.oauth import bearer, store
from menudo_standin.pace import now, too_soon
from menudo_standin.seeing import looked_at

__all__ = ["NETWORKS", "atom"]
# The networks that speak this wire and no other.
NETWORKS = frozenset({"foolscap"})
_PAGE = 10
_FILES = ("image/jpeg", "image/png")
atom = Blueprint("atom", __name__)


@atom.errorhandler(NoEntry)
def no_entry(_: NoEntry) -> Response:
    return problem(400, "the body is not an Atom entry")


@atom.before_request
def only_here() -> Response | None:
    if g.network not in NETWORKS:
        abort(404)
    if faults().find(g.network, "down", "", "query") and request.method == "GET":
        return problem(503, "the network is down for repairs")
    return None


@atom.get("/<network>/atom/service")
def service(network: str) -> Response:
    """RFC 5023, 8: a workspace for each blog that the sign-in was given."""
    root = Element(f"{APP}service")
    for uid in _chosen():
        row = store().one("SELECT * FROM profile WHERE network = ? AND uid = ?", network, uid)
        if row is None:
            continue
        workspace = SubElement(root, f"{APP}workspace")
        SubElement(workspace, f"{ATOM}title").text = row["name"]
        page = url_for("pages.profile", network=network, uid=uid, _external=True)
        for route, title, accepts in (
            ("atom.collection", "Entries", ("application/atom+xml;type=entry",)),
            ("atom.upload", "Pictures", _FILES),
        ):
            found = SubElement(
                workspace, f"{APP}collection", {"href": url_for(route, network=network, uid=uid, _external=True)}
            )
            SubElement(found, f"{ATOM}title").text = title
            SubElement(found, f"{ATOM}link", {"rel": "alternate", "href": page})
            for one in accepts:
                SubElement(found, f"{APP}accept").text = one
    return xml(root, "application/atomsvc+xml")


@atom.get("/<network>/atom/<uid>/entries")
def collection(network: str, uid: str) -> Response:
    """RFC 5023, 10: the members, the one edited last first, in pages."""
    _mine(uid)
    rows = store().all("SELECT * FROM post WHERE network = ? AND uid = ? AND (gone IS NULL OR gone = 0)", network, uid)
    rows.sort(key=lambda row: (edited_at(row), row["id"]), reverse=True)
    first = int(request.args.get("from", "0"))
    feed = Element(f"{ATOM}feed")
    SubElement(feed, f"{ATOM}id").text = f"tag:foolscap,2026:{uid}"
    SubElement(feed, f"{ATOM}title").text = "Entries"
    SubElement(feed, f"{ATOM}updated").text = date_of(now())
    if first + _PAGE < len(rows):
        following = f"{request.base_url}?{urlencode({'from': first + _PAGE})}"
        SubElement(feed, f"{ATOM}link", {"rel": "next", "href": following})
    feed.extend([entry_element(row) for row in rows[first : first + _PAGE]])
    return xml(feed, "application/atom+xml;type=feed")


@atom.post("/<network>/atom/<uid>/entries")
def create(network: str, uid: str) -> Response:
    """RFC 5023, 9.2: a new member. Sent twice, it is there twice: this wire knows no keys."""
    if trouble := misbehave(uid, "create"):
        return trouble
    _mine(uid, "create")
    if reason := barred(network, uid):
        return problem(403, reason)
    said = read_entry(request.get_data())
    sheet = current_app.config["SHEETS"][network]
    try:
        media = _judge(sheet, uid, said)
    except Refused as refused:
        return problem(400, str(refused))
    at = given_time(said["published"])
    if current_app.config["PACE"] and not said["published"]:
        past = store().all("SELECT at, body FROM post WHERE network = ? AND uid = ? AND gone IS NULL", network, uid)
        times = [(row["at"], len(json.loads(row["body"])["media"])) for row in past]
        if soon := too_soon(sheet, times, len(media), now()):
            return problem(429, soon[0], **{"Retry-After": str(math.ceil(soon[1]))})
    body = {**kept_body(said, media), "atom_id": "" if faults().find(network, "forgetful", "", "query") else said["id"]}
    gone = 0 if said["draft"] else None
    id = store().add(
        "INSERT INTO post (network, uid, body, at, gone) VALUES (?,?,?,?,?)", network, uid, json.dumps(body), at, gone
    )
    row = store().one("SELECT * FROM post WHERE id = ?", id)
    place = url_for("atom.member", network=network, id=id, _external=True)
    return misanswer(uid, "create") or xml(entry_element(row), "application/atom+xml;type=entry", 201, Location=place)


@atom.route("/<network>/atom/entry/<int:id>", methods=["GET", "PUT", "DELETE"])
def member(network: str, id: int) -> Response:
    """RFC 5023, 9.3 and 9.4: one member, by its entity tag (RFC 9110, 13.1.1)."""
    action = {"GET": "query", "PUT": "update", "DELETE": "delete"}[request.method]
    if request.method != "GET" and (trouble := misbehave("", action)):
        return trouble
    row = store().one("SELECT * FROM post WHERE network = ? AND id = ? AND (gone IS NULL OR gone = 0)", network, id)
    if row is None:
        return problem(404, "there is no such entry")
    _mine(row["uid"], "" if request.method == "GET" else action)
    if request.method == "GET":
        return xml(entry_element(row), "application/atom+xml;type=entry", ETag=entity_tag(row))
    if request.headers.get("If-Match", "*") not in ("*", entity_tag(row)):
        return problem(412, "the entry was changed meanwhile")
    if request.method == "DELETE":
        store().run("UPDATE post SET gone = ? WHERE id = ?", now(), id)
        return misanswer(row["uid"], action) or Response("", 204)
    said, sheet = read_entry(request.get_data()), current_app.config["SHEETS"][network]
    try:
        media = _judge(sheet, row["uid"], said)
    except Refused as refused:
        return problem(400, str(refused))
    body = {
        **kept_body(said, media),
        "atom_id": json.loads(row["body"]).get("atom_id", ""),
        "edited": True,
        "edited_at": now(),
    }
    store().run("UPDATE post SET body = ?, gone = ? WHERE id = ?", json.dumps(body), 0 if said["draft"] else None, id)
    return misanswer(row["uid"], action) or Response("", 204)


@atom.post("/<network>/atom/<uid>/pictures")
def upload(network: str, uid: str) -> Response:
    """RFC 5023, 9.6: a media resource, and its media link entry. The same file has the same address."""
    if trouble := misbehave(uid, "media"):
        return trouble
    _mine(uid)
    if request.mimetype not in _FILES:
        return problem(415, f"a file of type {request.mimetype} is not taken")
    data = request.get_data()
    id = hashlib.sha256(network.encode() + data).hexdigest()[:32]
    folder = store().folder / "media"
    with tempfile.NamedTemporaryFile(dir=folder, delete=False) as arriving:
        arriving.write(data)
    seen = looked_at(Path(arriving.name))
    if seen is None or seen.kind != "picture":
        Path(arriving.name).unlink()
        return problem(400, "the file is no picture")
    Path(arriving.name).replace(folder / id)
    store().run(
        "INSERT OR REPLACE INTO medium VALUES (?,?,?,?,?,?,?,?,?)",
        id, network, seen.format, seen.kind, seen.width, seen.height, len(data), seen.seconds, seen.codec,
    )  # fmt: skip
    entry = Element(f"{ATOM}entry")
    SubElement(entry, f"{ATOM}id").text = f"tag:foolscap,2026:medium-{id}"
    SubElement(entry, f"{ATOM}title").text = request.headers.get("Slug", id)
    SubElement(entry, f"{ATOM}updated").text = date_of(now())
    source = url_for("pages.medium", network=network, id=id, _external=True)
    SubElement(entry, f"{ATOM}content", {"src": source, "type": request.mimetype})
    SubElement(entry, f"{ATOM}link", {"rel": "edit-media", "href": source})
    return misanswer(uid, "media") or xml(entry, "application/atom+xml;type=entry", 201, Location=source)


def _chosen() -> list[str]:
    token = bearer(request.headers.get("Authorization", ""))
    if token is None:
        abort(problem(401, "the token is unknown, revoked or over"))
    found: list[str] = json.loads(token["chosen"])
    return found


def _mine(uid: str, scope: str = "") -> None:
    """Turn away whoever may not do this to the blog."""
    if uid not in _chosen():
        abort(problem(403, "this sign-in was not given that blog"))
    token = bearer(request.headers.get("Authorization", ""))
    if scope and (token is None or scope not in token["scope"].split()):
        abort(problem(403, f"the token may not {scope} entries"))


def _judge(sheet: dict[str, Any], uid: str, said: dict[str, Any]) -> list[dict[str, Any]]:
    """The entry's pictures, once the sheet's rules are found to be met. Raises Refused."""
    media = []
    for url, alt in said["media"]:
        row = store().one("SELECT * FROM medium WHERE id = ? AND network = ?", url.rsplit("/", 1)[-1], g.network)
        if row is None:
            raise Refused("a picture that was not sent to the blog's collection of pictures")
        media.append(
            {
                **dict(row),
                "url": url,
                "alt": alt,
                "people": [],
                "words": "",
                "words_at": "foot",
                "cover": "",
                "focus": None,
            }
        )
    judge(sheet, said["text"], media, {"title": said["title"], "link": said["link"]})
    return media
