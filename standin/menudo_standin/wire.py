"""The wire: server metadata, Micropub and its media endpoint. See docs/wire.md."""

import hashlib
import json
import math
import os
import tempfile
from datetime import datetime
from pathlib import Path
from typing import Any

from flask import Blueprint, Response, abort, current_app, g, jsonify, request, url_for

from menudo_standin.answers import current_faults, misbehave, problem_response, spoil_response
from menudo_standin.atom import NETWORKS as CLASSIC
from menudo_standin.changes import change_post
from menudo_standin.conditions import first_refusal, profile_facts
from menudo_standin.filed import posts_of
from menudo_standin.judge import RefusedError, judge_comment, judge_post
from menudo_standin.oauth import current_store, token_of_header
from menudo_standin.pace import TooSoonError, menudo_time, require_pace
from menudo_standin.results import profile_results
from menudo_standin.seeing import inspect_media

wire = Blueprint("wire", __name__)
_BY_KEY = "SELECT id FROM post WHERE network = ? AND key = ?"


@wire.before_request
def reject_classic() -> None:
    """The classic blogs speak another wire."""
    if g.network in CLASSIC and request.endpoint != "wire.server_metadata":
        abort(404)


@wire.get("/.well-known/oauth-authorization-server/<network>")
def server_metadata(network: str) -> Any:
    """RFC 8414, with the Micropub endpoints beside the authorisation server's."""
    if network not in current_app.config["SHEETS"]:
        return problem_response(404, "no such network")
    base = f"{request.host_url.rstrip('/')}/{network}"
    wires = {"micropub_endpoint": f"{base}/micropub", "media_endpoint": f"{base}/media"}
    classic = {"atompub_service_document": f"{base}/atom/service"}
    return jsonify(
        **(classic if network in CLASSIC else wires),
        issuer=base,
        authorization_endpoint=f"{base}/authorize",
        token_endpoint=f"{base}/token",
        revocation_endpoint=f"{base}/revoke",
        response_types_supported=["code"],
        grant_types_supported=["authorization_code", "refresh_token"],
        token_endpoint_auth_methods_supported=["none"],
        code_challenge_methods_supported=["S256"],
        authorization_response_iss_parameter_supported=True,
        scopes_supported=["create", "update", "delete", "media"],
    )


@wire.get("/<network>/micropub")
def query_endpoint(network: str) -> Any:
    """Micropub, 3.7: q=config and q=source; and q=key, an extension of ours."""
    token = token_of_header(request.headers.get("Authorization", ""))
    if current_faults().find(g.network, "down", "", "query"):
        return problem_response(503, "the network is down for repairs")
    if token is None:
        return problem_response(401, "the token is unknown, revoked or over")
    chosen = json.loads(token["chosen"])
    wanted = request.args.get("q", "")
    if wanted == "config":
        rows = current_store().fetch_all(
            "SELECT * FROM profile WHERE network = ? AND uid IN (SELECT value FROM json_each(?)) ORDER BY uid",
            network,
            token["chosen"],
        )
        return jsonify(
            {
                "media-endpoint": url_for("wire.media_endpoint", network=network, _external=True),
                "destination": [_destination_out(r) for r in rows],
                "q": ["config", "source", "key", "rising", "results"],
            }
        )
    if wanted == "rising":
        rising = "SELECT tag, posts FROM rising WHERE network = ? ORDER BY posts DESC"
        found = current_store().fetch_all(rising, network)
        return jsonify(rising=[dict(r) for r in found])
    if wanted == "results":
        wished = [uid for uid in chosen if request.args.get("destination", uid) == uid]
        return jsonify(results=profile_results(current_store(), network, wished, menudo_time(), _post_address))
    if wanted == "key":
        if current_faults().find(g.network, "forgetful", "", "query"):
            return problem_response(400, "keys are not kept")
        row = current_store().fetch_one(_BY_KEY, network, request.args.get("key", ""))
        return jsonify(url=_post_address(network, row["id"]) if row else None)
    if wanted == "source" and "url" not in request.args:
        uid = request.args.get("destination", "")
        return jsonify(items=posts_of(network, uid, _post_address) if uid in chosen else [])
    if wanted == "source":
        post_id = request.args.get("url", "").rsplit("/", 1)[-1]
        row = current_store().fetch_one("SELECT * FROM post WHERE network = ? AND id = ?", network, post_id)
        if row is None or row["uid"] not in chosen:
            return problem_response(404, "no such post")
        body = json.loads(row["body"])
        return jsonify(
            type=["h-entry"],
            properties={
                "content": [body["text"]],
                "photo": [{"value": m["url"], "alt": m["alt"]} for m in body["media"]],
            },
        )
    return problem_response(400, f"q={wanted} is not known")


def _destination_out(row: Any) -> dict[str, Any]:
    """A profile as `q=config` tells it; `menudo` facts are what its conditions are judged by."""
    row_values = {name: row[name] for name in ("uid", "handle", "name", "kind", "followers")}
    return {
        **row_values,
        "url": url_for("pages.profile_page", network=row["network"], uid=row["uid"], _external=True),
        "facts": profile_facts(row),
    }


@wire.post("/<network>/media")
def media_endpoint(network: str) -> Any:
    """Micropub, 3.6: one file in, its address out. The same file has the same address."""
    token = token_of_header(request.headers.get("Authorization", ""))
    profile = json.loads(token["chosen"])[0] if token and len(json.loads(token["chosen"])) == 1 else ""
    if trouble := misbehave(profile, "media"):
        return trouble
    if token is None:
        return problem_response(401, "the token is unknown, revoked or over")
    file = request.files.get("file")
    if file is None:
        return problem_response(400, "there is no part named file")
    data = file.read()
    # Each network has its own, also of the same file; it is there whole or not at all, whoever sends it meanwhile.
    medium_id = hashlib.sha256(network.encode() + data).hexdigest()[:32]
    folder = current_store().folder / "media"
    handle, arriving = tempfile.mkstemp(dir=folder)
    with os.fdopen(handle, "wb") as out:
        out.write(data)
    seen = inspect_media(Path(arriving))
    if seen is None:
        Path(arriving).unlink()
        return problem_response(400, "the file is neither a picture nor a video")
    Path(arriving).replace(folder / medium_id)
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
    return spoil_response(profile, "media") or Response(
        "", 201, {"Location": url_for("pages.serve_medium", network=network, medium_id=medium_id, _external=True)}
    )


@wire.post("/<network>/micropub")
def create_post(network: str) -> Any:
    """Micropub, 3.4: create a post. A key that was acted on gives the same post again, never a second one."""
    token = token_of_header(request.headers.get("Authorization", ""))
    body = request.get_json(silent=True)
    if isinstance(body, dict) and body.get("action") in ("update", "delete"):
        return change_post(network, token, body)
    if not isinstance(body, dict) or not isinstance(body.get("properties"), dict):
        return problem_response(400, "the body is not a Micropub entry in JSON")
    properties = body["properties"]
    uid = str((properties.get("mp-destination") or [""])[0])
    at = "comment" if "in-reply-to" in properties else "create"
    if trouble := misbehave(uid, at):
        return trouble
    if token is None:
        return problem_response(401, "the token is unknown, revoked or over")
    if "create" not in token["scope"].split():
        return problem_response(403, "the token may not create posts")
    if uid not in json.loads(token["chosen"]):
        return problem_response(403, "this sign-in was not given that profile")
    if reason := first_refusal(network, uid):
        return problem_response(403, reason)
    key = request.headers.get("Idempotency-Key", "").strip().strip('"')
    try:
        url, status = _store_post(network, uid, key, properties)
    except RefusedError as refused:
        return problem_response(400, str(refused))
    except TooSoonError as soon:
        return problem_response(429, soon.why, **{"Retry-After": str(math.ceil(soon.wait))})
    return spoil_response(uid, at) or Response("", status, {"Location": url})


def _store_post(network: str, uid: str, key: str, properties: dict[str, Any]) -> tuple[str, int]:
    known = current_store().fetch_one(_BY_KEY, network, key) if key else None
    if known:
        return _post_address(network, known["id"]), 201
    sheet = current_app.config["SHEETS"][network]
    if current_app.config["PACE"] and "in-reply-to" not in properties and "published" not in properties:
        require_pace(network, uid, sheet, properties)
    body, under = (
        _create_comment(network, uid, sheet, properties)
        if "in-reply-to" in properties
        else (_validated_post(network, uid, sheet, properties), None)
    )
    current_store().execute(
        "INSERT OR IGNORE INTO post (network, uid, key, body, at, reply_to) VALUES (?,?,?,?,?,?)",
        network,
        uid,
        key or None,
        json.dumps(body),
        _published_time(properties),
        under,
    )
    newest = "SELECT max(id) AS id FROM post WHERE network = ? AND key IS ?"
    row = current_store().fetch_one(newest, network, key or None)
    return _post_address(network, row["id"] if row else 0), 201


def _text_of(properties: dict[str, Any]) -> str:
    return str((properties.get("content") or [""])[0])


def _validated_post(network: str, uid: str, sheet: dict[str, Any], properties: dict[str, Any]) -> dict[str, Any]:
    """A post as it is kept, once the sheet's rules are found to be met."""
    text = _text_of(properties)
    media = [_medium_of(network, item) for name in ("photo", "video") for item in properties.get(name, [])]
    order = {url: n for n, url in enumerate(properties.get("order", []))}
    media.sort(key=lambda m: order.get(m["url"], len(order)))
    fields = {k: str(v[0]) for k, v in properties.items() if isinstance(v, list) and v and isinstance(v[0], str)}
    form = fields.get("form", "post")
    row = current_store().fetch_one("SELECT followers FROM profile WHERE network = ? AND uid = ?", network, uid)
    judge_post(sheet, text, media, fields, form=form, followers=row["followers"] if row else 0)
    special = sheet.get("proof", {})
    title, button = fields.get(special.get("title", ""), ""), fields.get(special.get("button", ""), "")
    rest = [r for r in sheet.get("fields", []) if r["name"] not in (special.get("title"), special.get("button"))]
    kept = ("url", "alt", "width", "height", "kind", "people", "words", "words_at", "cover", "focus")
    card = next((c.get("properties", {}) for c in properties.get("card", []) if isinstance(c, dict)), None)
    return {
        "text": text,
        "form": form,
        "link": fields.get("link", ""),
        "title": title,
        "button": button,
        "fields": {rule["label"]: fields[rule["name"]] for rule in rest if rule["name"] in fields},
        "card": {k: str(v[0]) for k, v in card.items() if v} if card else None,
        "media": [{name: m[name] for name in kept} for m in media],
    }


def _create_comment(
    network: str, uid: str, sheet: dict[str, Any], properties: dict[str, Any]
) -> tuple[dict[str, Any], int]:
    """A comment of the profile's own under its own post."""
    post_id = str(properties["in-reply-to"][0]).rsplit("/", 1)[-1]
    own_post = "SELECT * FROM post WHERE network = ? AND id = ? AND reply_to IS NULL"
    row = current_store().fetch_one(own_post, network, post_id)
    if row is None or row["uid"] != uid:
        raise RefusedError("there is no such post of this profile's to comment on")
    text = _text_of(properties)
    judge_comment(sheet, text, json.loads(row["body"])["text"])
    return {"text": text, "form": "comment", "link": "", "media": []}, row["id"]


def _published_time(properties: dict[str, Any]) -> float:
    """Micropub's `published`, for what is said to have been posted before (the demo's past); never later than now."""
    given = properties.get("published")
    try:
        return min(datetime.fromisoformat(str(given[0])).timestamp(), menudo_time()) if given else menudo_time()
    except ValueError:
        return menudo_time()


def _medium_of(network: str, item: Any) -> dict[str, Any]:
    item = item if isinstance(item, dict) else {"value": str(item)}
    value = str(item.get("value", ""))
    of_address = "SELECT * FROM medium WHERE id = ? AND network = ?"
    row = current_store().fetch_one(of_address, value.rsplit("/", 1)[-1], network)
    if row is None:
        raise RefusedError("a picture that was not sent to the media endpoint")
    people = [p for p in item.get("people", []) if isinstance(p, dict) and p.get("who")]
    medium = {"url": value, "alt": str(item.get("alt", "")), "people": people, "words": str(item.get("words", ""))}
    shown = {
        "words_at": str(item.get("words-at") or "foot"),
        "cover": str(item.get("cover", "")),
        "focus": item.get("focus"),
    }
    return {**dict(row), **medium, **shown}


def _post_address(network: str, post_id: int) -> str:
    return f"{request.host_url.rstrip('/')}/{network}/p/{post_id}"
