"""The wire: server metadata, Micropub and its media endpoint. See docs/wire.md."""

import hashlib
import io
import json
import time
from datetime import datetime
from typing import Any

from flask import Blueprint, Response, current_app, g, jsonify, request, url_for
from PIL import Image

from menudo_standin.conditions import barred, facts_of
from menudo_standin.faults import Faults
from menudo_standin.judge import Refused, judge
from menudo_standin.oauth import bearer, store

wire = Blueprint("wire", __name__)


def faults() -> Faults:
    found: Faults = current_app.config["FAULTS"]
    return found


def problem(status: int, detail: str, **headers: str) -> Response:
    """Problem details (RFC 9457), with Micropub's own `error` beside them."""
    error = {401: "unauthorized", 403: "forbidden", 400: "invalid_request"}.get(status, "error")
    body = json.dumps({"type": "about:blank", "status": status, "detail": detail, "error": error})
    return Response(body, status, {**headers, "Content-Type": "application/problem+json"})


def lost() -> Response:
    """An answer that never arrives whole: the connection ends in its middle."""
    return Response(b"", 200, {"Content-Length": "64", "Connection": "close"})


@wire.get("/.well-known/oauth-authorization-server/<network>")
def metadata(network: str) -> Any:
    """RFC 8414, with the Micropub endpoints beside the authorisation server's."""
    if network not in current_app.config["SHEETS"]:
        return problem(404, "no such network")
    base = f"{request.host_url.rstrip('/')}/{network}"
    return jsonify(
        issuer=base,
        authorization_endpoint=f"{base}/authorize",
        token_endpoint=f"{base}/token",
        revocation_endpoint=f"{base}/revoke",
        micropub_endpoint=f"{base}/micropub",
        media_endpoint=f"{base}/media",
        response_types_supported=["code"],
        grant_types_supported=["authorization_code", "refresh_token"],
        token_endpoint_auth_methods_supported=["none"],
        code_challenge_methods_supported=["S256"],
        authorization_response_iss_parameter_supported=True,
        scopes_supported=["create", "update", "delete", "media"],
    )


def _misbehave(profile: str, at: str) -> Response | None:
    """What the faults in force make of a request before it is looked at."""
    all_faults = faults()
    all_faults.wait(g.network, "hold_before", profile, at)
    all_faults.slow_down(g.network, profile, at)
    if all_faults.find(g.network, "down", profile, at):
        return problem(503, "the network is down for repairs")
    if fault := all_faults.find(g.network, "rate_limiting", profile, at):
        return problem(429, "too many posts from this app", **{"Retry-After": str(max(1, round(fault.seconds)))})
    if fault := all_faults.find(g.network, "refusing", profile, at):
        return problem(400, fault.words)
    return None


def _misanswer(profile: str, at: str) -> Response | None:
    """What the faults in force make of the answer to something that was done."""
    faults().wait(g.network, "hold_after", profile, at)
    return lost() if faults().find(g.network, "answer_lost", profile, at) else None


@wire.get("/<network>/micropub")
def query(network: str) -> Any:
    """Micropub, 3.7: q=config and q=source; and q=key, an extension of ours."""
    token = bearer(request.headers.get("Authorization", ""))
    if faults().find(g.network, "down", "", "query"):
        return problem(503, "the network is down for repairs")
    if token is None:
        return problem(401, "the token is unknown, revoked or over")
    chosen = json.loads(token["chosen"])
    wanted = request.args.get("q", "")
    if wanted == "config":
        rows = store().all(
            "SELECT * FROM profile WHERE network = ? AND uid IN (SELECT value FROM json_each(?)) ORDER BY uid",
            network,
            token["chosen"],
        )
        return jsonify(
            {
                "media-endpoint": url_for("wire.upload", network=network, _external=True),
                "destination": [_destination(r) for r in rows],
                "q": ["config", "source", "key"],
            }
        )
    if wanted == "key":
        if faults().find(g.network, "forgetful", "", "query"):
            return problem(400, "keys are not kept")
        row = store().one("SELECT id FROM post WHERE network = ? AND key = ?", network, request.args.get("key", ""))
        return jsonify(url=_address(network, row["id"]) if row else None)
    if wanted == "source":
        id = request.args.get("url", "").rsplit("/", 1)[-1]
        row = store().one("SELECT * FROM post WHERE network = ? AND id = ?", network, id)
        if row is None or row["uid"] not in chosen:
            return problem(404, "no such post")
        body = json.loads(row["body"])
        return jsonify(
            type=["h-entry"],
            properties={
                "content": [body["text"]],
                "photo": [{"value": m["url"], "alt": m["alt"]} for m in body["media"]],
            },
        )
    return problem(400, f"q={wanted} is not known")


def _destination(row: Any) -> dict[str, Any]:
    """A profile as `q=config` tells it; `menudo` facts are what its conditions are judged by."""
    told = {name: row[name] for name in ("uid", "handle", "name", "kind", "followers")}
    return {
        **told,
        "url": url_for("pages.profile", network=row["network"], uid=row["uid"], _external=True),
        "facts": facts_of(row),
    }


@wire.post("/<network>/media")
def upload(network: str) -> Any:
    """Micropub, 3.6: one file in, its address out. The same file has the same address."""
    token = bearer(request.headers.get("Authorization", ""))
    profile = json.loads(token["chosen"])[0] if token and len(json.loads(token["chosen"])) == 1 else ""
    if trouble := _misbehave(profile, "media"):
        return trouble
    if token is None:
        return problem(401, "the token is unknown, revoked or over")
    file = request.files.get("file")
    if file is None:
        return problem(400, "there is no part named file")
    data = file.read()
    try:
        image = Image.open(io.BytesIO(data))
        image.load()
    except (OSError, ValueError, SyntaxError):
        return problem(400, "the file is not a picture")
    frames = getattr(image, "n_frames", 1)
    id = hashlib.sha256(data).hexdigest()[:32]
    (store().folder / "media" / id).write_bytes(data)
    seconds = sum(_frame_times(image, frames)) / 1000 if frames > 1 else None
    store().run(
        "INSERT OR REPLACE INTO medium VALUES (?,?,?,?,?,?,?,?)",
        id, network, (image.format or "").lower(), "animation" if frames > 1 else "picture", image.width, image.height, len(data), seconds,
    )  # fmt: skip
    return _misanswer(profile, "media") or Response(
        "", 201, {"Location": url_for("pages.medium", network=network, id=id, _external=True)}
    )


def _frame_times(image: Image.Image, frames: int) -> list[int]:
    times = []
    for n in range(frames):
        image.seek(n)
        times.append(int(image.info.get("duration", 100)))
    return times


@wire.post("/<network>/micropub")
def create(network: str) -> Any:
    """Micropub, 3.4: create a post. A key that was acted on gives the same post again, never a second one."""
    token = bearer(request.headers.get("Authorization", ""))
    body = request.get_json(silent=True)
    if not isinstance(body, dict) or not isinstance(body.get("properties"), dict):
        return problem(400, "the body is not a Micropub entry in JSON")
    properties = body["properties"]
    uid = str((properties.get("mp-destination") or [""])[0])
    if trouble := _misbehave(uid, "create"):
        return trouble
    if token is None:
        return problem(401, "the token is unknown, revoked or over")
    if "create" not in token["scope"].split():
        return problem(403, "the token may not create posts")
    if uid not in json.loads(token["chosen"]):
        return problem(403, "this sign-in was not given that profile")
    if reason := barred(network, uid):
        return problem(403, reason)
    key = request.headers.get("Idempotency-Key", "").strip().strip('"')
    try:
        url, status = _keep(network, uid, key, properties)
    except Refused as refused:
        return problem(400, str(refused))
    return _misanswer(uid, "create") or Response("", status, {"Location": url})


def _keep(network: str, uid: str, key: str, properties: dict[str, Any]) -> tuple[str, int]:
    known = store().one("SELECT id FROM post WHERE network = ? AND key = ?", network, key) if key else None
    if known:
        return _address(network, known["id"]), 201
    text = str((properties.get("content") or [""])[0])
    media = [_medium(network, item) for name in ("photo", "video") for item in properties.get(name, [])]
    fields = {k: str(v[0]) for k, v in properties.items() if isinstance(v, list) and v and isinstance(v[0], str)}
    sheet = current_app.config["SHEETS"][network]
    judge(sheet, text, media, fields)
    shown = {rule["label"]: fields[rule["name"]] for rule in sheet.get("fields", []) if rule["name"] in fields}
    kept = json.dumps(
        {
            "text": text,
            "link": fields.get("link", ""),
            "fields": shown,
            "media": [{"url": m["url"], "alt": m["alt"], "width": m["width"], "height": m["height"]} for m in media],
        }
    )
    store().run(
        "INSERT OR IGNORE INTO post (network, uid, key, body, at) VALUES (?,?,?,?,?)",
        network,
        uid,
        key or None,
        kept,
        _when(properties),
    )
    row = store().one("SELECT max(id) AS id FROM post WHERE network = ? AND key IS ?", network, key or None)
    return _address(network, row["id"] if row else 0), 201


def _when(properties: dict[str, Any]) -> float:
    """Micropub's `published`, for what is said to have been posted before (the demo's past); never later than now."""
    given = properties.get("published")
    try:
        return min(datetime.fromisoformat(str(given[0])).timestamp(), time.time()) if given else time.time()
    except ValueError:
        return time.time()


def _medium(network: str, item: Any) -> dict[str, Any]:
    value, alt = (item.get("value", ""), item.get("alt", "")) if isinstance(item, dict) else (str(item), "")
    row = store().one("SELECT * FROM medium WHERE id = ? AND network = ?", value.rsplit("/", 1)[-1], network)
    if row is None:
        raise Refused("a picture that was not sent to the media endpoint")
    return {**dict(row), "url": value, "alt": str(alt)}


def _address(network: str, id: int) -> str:
    return f"{request.host_url.rstrip('/')}/{network}/p/{id}"
