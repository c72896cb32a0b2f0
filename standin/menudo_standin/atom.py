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

from menudo_standin.answers import current_faults, misbehave, problem_response, spoil_response
from menudo_standin.atom_entries import (
    APP,
    ATOM,
    InvalidEntryError,
    build_entry,
    edited_at,
    entity_tag,
    format_date,
    published_time,
    read_entry,
    stored_body,
    xml_response,
)
from menudo_standin.conditions import first_refusal
from menudo_standin.judge import RefusedError, judge_post
from menudo_standin.oauth import current_store, token_of_header
from menudo_standin.pace import menudo_time, pace_refusal
from menudo_standin.seeing import inspect_media

__all__ = ["NETWORKS", "atom"]
# The networks that speak this wire and no other.
NETWORKS = frozenset({"foolscap"})
_PAGE = 10
_FILES = ("image/jpeg", "image/png")
atom = Blueprint("atom", __name__)


@atom.errorhandler(InvalidEntryError)
def on_invalid_entry(_: InvalidEntryError) -> Response:
    return problem_response(400, "the body is not an Atom entry")


@atom.before_request
def require_classic() -> Response | None:
    if g.network not in NETWORKS:
        abort(404)
    if current_faults().find(g.network, "down", "", "query") and request.method == "GET":
        return problem_response(503, "the network is down for repairs")
    return None


@atom.get("/<network>/atom/service")
def get_service(network: str) -> Response:
    """RFC 5023, 8: a workspace for each blog that the sign-in was given."""
    root = Element(f"{APP}service")
    for uid in _granted_blogs():
        row = current_store().fetch_one("SELECT * FROM profile WHERE network = ? AND uid = ?", network, uid)
        if row is None:
            continue
        workspace = SubElement(root, f"{APP}workspace")
        SubElement(workspace, f"{ATOM}title").text = row["name"]
        page = url_for("pages.profile_page", network=network, uid=uid, _external=True)
        for route, title, accepts in (
            ("atom.get_collection", "Entries", ("application/atom+xml;type=entry",)),
            ("atom.upload_media", "Pictures", _FILES),
        ):
            found = SubElement(
                workspace, f"{APP}collection", {"href": url_for(route, network=network, uid=uid, _external=True)}
            )
            SubElement(found, f"{ATOM}title").text = title
            SubElement(found, f"{ATOM}link", {"rel": "alternate", "href": page})
            for one in accepts:
                SubElement(found, f"{APP}accept").text = one
    return xml_response(root, "application/atomsvc+xml")


@atom.get("/<network>/atom/<uid>/entries")
def get_collection(network: str, uid: str) -> Response:
    """RFC 5023, 10: the members, the one edited last first, in pages."""
    _require_grant(uid)
    rows = current_store().fetch_all(
        "SELECT * FROM post WHERE network = ? AND uid = ? AND (gone IS NULL OR gone = 0)", network, uid
    )
    rows.sort(key=lambda row: (edited_at(row), row["id"]), reverse=True)
    first = int(request.args.get("from", "0"))
    feed = Element(f"{ATOM}feed")
    SubElement(feed, f"{ATOM}id").text = f"tag:foolscap,2026:{uid}"
    SubElement(feed, f"{ATOM}title").text = "Entries"
    SubElement(feed, f"{ATOM}updated").text = format_date(menudo_time())
    if first + _PAGE < len(rows):
        following = f"{request.base_url}?{urlencode({'from': first + _PAGE})}"
        SubElement(feed, f"{ATOM}link", {"rel": "next", "href": following})
    feed.extend([build_entry(row) for row in rows[first : first + _PAGE]])
    return xml_response(feed, "application/atom+xml;type=feed")


@atom.post("/<network>/atom/<uid>/entries")
def create_member(network: str, uid: str) -> Response:
    """RFC 5023, 9.2: a new member. Sent twice, it is there twice: this wire knows no keys."""
    if trouble := misbehave(uid, "create"):
        return trouble
    _require_grant(uid, "create")
    if reason := first_refusal(network, uid):
        return problem_response(403, reason)
    entry = read_entry(request.get_data())
    sheet = current_app.config["SHEETS"][network]
    try:
        media = _check_entry(sheet, uid, entry)
    except RefusedError as refused:
        return problem_response(400, str(refused))
    at = published_time(entry["published"])
    if current_app.config["PACE"] and not entry["published"]:
        past = current_store().fetch_all(
            "SELECT at, body FROM post WHERE network = ? AND uid = ? AND gone IS NULL", network, uid
        )
        times = [(row["at"], len(json.loads(row["body"])["media"])) for row in past]
        if soon := pace_refusal(sheet, times, len(media), menudo_time()):
            return problem_response(429, soon[0], **{"Retry-After": str(math.ceil(soon[1]))})
    body = {
        **stored_body(entry, media),
        "atom_id": "" if current_faults().find(network, "forgetful", "", "query") else entry["id"],
    }
    gone = 0 if entry["draft"] else None
    post_id = current_store().insert(
        "INSERT INTO post (network, uid, body, at, gone) VALUES (?,?,?,?,?)", network, uid, json.dumps(body), at, gone
    )
    row = current_store().fetch_one("SELECT * FROM post WHERE id = ?", post_id)
    place = url_for("atom.handle_member", network=network, post_id=post_id, _external=True)
    return spoil_response(uid, "create") or xml_response(
        build_entry(row), "application/atom+xml;type=entry", 201, Location=place
    )


@atom.route("/<network>/atom/entry/<int:post_id>", methods=["GET", "PUT", "DELETE"])
def handle_member(network: str, post_id: int) -> Response:
    """RFC 5023, 9.3 and 9.4: one member, by its entity tag (RFC 9110, 13.1.1)."""
    action = {"GET": "query", "PUT": "update", "DELETE": "delete"}[request.method]
    if request.method != "GET" and (trouble := misbehave("", action)):
        return trouble
    row = current_store().fetch_one(
        "SELECT * FROM post WHERE network = ? AND id = ? AND (gone IS NULL OR gone = 0)", network, post_id
    )
    if row is None:
        return problem_response(404, "there is no such entry")
    _require_grant(row["uid"], "" if request.method == "GET" else action)
    if request.method == "GET":
        return xml_response(build_entry(row), "application/atom+xml;type=entry", ETag=entity_tag(row))
    if request.headers.get("If-Match", "*") not in ("*", entity_tag(row)):
        return problem_response(412, "the entry was changed meanwhile")
    if request.method == "DELETE":
        current_store().execute("UPDATE post SET gone = ? WHERE id = ?", menudo_time(), post_id)
        return spoil_response(row["uid"], action) or Response("", 204)
    entry, sheet = read_entry(request.get_data()), current_app.config["SHEETS"][network]
    try:
        media = _check_entry(sheet, row["uid"], entry)
    except RefusedError as refused:
        return problem_response(400, str(refused))
    body = {
        **stored_body(entry, media),
        "atom_id": json.loads(row["body"]).get("atom_id", ""),
        "edited": True,
        "edited_at": menudo_time(),
    }
    current_store().execute(
        "UPDATE post SET body = ?, gone = ? WHERE id = ?", json.dumps(body), 0 if entry["draft"] else None, post_id
    )
    return spoil_response(row["uid"], action) or Response("", 204)


@atom.post("/<network>/atom/<uid>/pictures")
def upload_media(network: str, uid: str) -> Response:
    """RFC 5023, 9.6: a media resource, and its media link entry. The same file has the same address."""
    if trouble := misbehave(uid, "media"):
        return trouble
    _require_grant(uid)
    if request.mimetype not in _FILES:
        return problem_response(415, f"a file of type {request.mimetype} is not taken")
    data = request.get_data()
    medium_id = hashlib.sha256(network.encode() + data).hexdigest()[:32]
    folder = current_store().folder / "media"
    with tempfile.NamedTemporaryFile(dir=folder, delete=False) as arriving:
        arriving.write(data)
    seen = inspect_media(Path(arriving.name))
    if seen is None or seen.kind != "picture":
        Path(arriving.name).unlink()
        return problem_response(400, "the file is no picture")
    Path(arriving.name).replace(folder / medium_id)
    current_store().execute(
        "INSERT OR REPLACE INTO medium VALUES (?,?,?,?,?,?,?,?,?)",
        medium_id,
        network,
        seen.format,
        seen.kind,
        seen.width,
        seen.height,
        len(data),
        seen.seconds,
        seen.codec,
    )
    entry = Element(f"{ATOM}entry")
    SubElement(entry, f"{ATOM}id").text = f"tag:foolscap,2026:medium-{medium_id}"
    SubElement(entry, f"{ATOM}title").text = request.headers.get("Slug", medium_id)
    SubElement(entry, f"{ATOM}updated").text = format_date(menudo_time())
    source = url_for("pages.serve_medium", network=network, medium_id=medium_id, _external=True)
    SubElement(entry, f"{ATOM}content", {"src": source, "type": request.mimetype})
    SubElement(entry, f"{ATOM}link", {"rel": "edit-media", "href": source})
    return spoil_response(uid, "media") or xml_response(entry, "application/atom+xml;type=entry", 201, Location=source)


def _granted_blogs() -> list[str]:
    token = token_of_header(request.headers.get("Authorization", ""))
    if token is None:
        abort(problem_response(401, "the token is unknown, revoked or over"))
    found: list[str] = json.loads(token["chosen"])
    return found


def _require_grant(uid: str, scope: str = "") -> None:
    """Turn away whoever may not do this to the blog."""
    if uid not in _granted_blogs():
        abort(problem_response(403, "this sign-in was not given that blog"))
    token = token_of_header(request.headers.get("Authorization", ""))
    if scope and (token is None or scope not in token["scope"].split()):
        abort(problem_response(403, f"the token may not {scope} entries"))


def _check_entry(sheet: dict[str, Any], uid: str, entry: dict[str, Any]) -> list[dict[str, Any]]:
    """The entry's pictures, once the sheet's rules are found to be met. Raises RefusedError."""
    media = []
    for url, alt in entry["media"]:
        row = current_store().fetch_one(
            "SELECT * FROM medium WHERE id = ? AND network = ?", url.rsplit("/", 1)[-1], g.network
        )
        if row is None:
            raise RefusedError("a picture that was not sent to the blog's collection of pictures")
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
    judge_post(sheet, entry["text"], media, {"title": entry["title"], "link": entry["link"]})
    return media
