"""Files of a brand's web site: feeds, catalogues, pictures, as the control API put them there; and posts written elsewhere."""

import base64
import hashlib
import io
import json
from collections.abc import Sequence
from datetime import UTC, datetime
from typing import Any

from flask import Blueprint, Response, abort, jsonify, request, url_for
from PIL import Image, ImageDraw

from menudo_standin.oauth import current_store
from menudo_standin.pace import menudo_time

filed = Blueprint("filed", __name__)


@filed.get("/site/<name>/files/<path:path>")
def serve_file(name: str, path: str) -> Any:
    """A file, with an entity tag and conditional requests answered (RFC 9110, 13); or what it was told to answer instead."""
    row = current_store().fetch_one("SELECT * FROM file WHERE site = ? AND path = ?", name, path) or abort(404)
    headers = json.loads(row["headers"])
    answer = Response(row["body"], row["status"], {"Content-Type": row["type"], **headers})
    if row["status"] != 200:
        return answer
    answer.set_etag(hashlib.sha256(row["body"]).hexdigest()[:24])
    return answer.make_conditional(request)


@filed.post("/control/api/files")
def put_file() -> Any:
    """Put a file: {"site", "path", "type", "text" or "base64" or "picture" (a colour), "status", "headers"}; the address it has."""
    data = request.get_json()
    body = data.get("text", "").encode() or base64.b64decode(data.get("base64", ""))
    if data.get("picture"):
        body = draw_picture(data["picture"], data["path"])
    current_store().execute(
        "INSERT OR REPLACE INTO file VALUES (?,?,?,?,?,?)",
        data["site"],
        data["path"],
        data.get("type", "text/plain"),
        int(data.get("status", 200)),
        json.dumps(data.get("headers", {})),
        body,
    )
    return jsonify(url=url_for("filed.serve_file", name=data["site"], path=data["path"], _external=True))


@filed.post("/control/api/outside")
def add_outside_post() -> Any:
    """A post that somebody writes at the network itself: {"network", "uid", "text", "link", "pictures": [colour], "ago" seconds}."""
    data = request.get_json()
    pictures, link, ago = data.get("pictures", []), data.get("link", ""), float(data.get("ago", 0))
    post_id = insert_post(data["network"], data["uid"], data["text"], link, pictures, ago)
    return jsonify(url=f"{request.host_url.rstrip('/')}/{data['network']}/p/{post_id}")


def insert_post(network: str, uid: str, text: str, link: str = "", pictures: Sequence[str] = (), ago: float = 0) -> int:
    """A post at the network itself, `ago` seconds ago, with pictures drawn in these colours; its id."""
    media = [_draw_medium(network, colour, f"{text}{n}") for n, colour in enumerate(pictures)]
    body: dict[str, Any] = {
        "text": text,
        "form": "post",
        "link": link,
        "title": "",
        "button": "",
        "fields": {},
        "card": None,
        "media": media,
    }
    return current_store().insert(
        "INSERT INTO post (network, uid, key, body, at) VALUES (?,?,NULL,?,?)",
        network,
        uid,
        json.dumps(body),
        menudo_time() - ago,
    )


def _draw_medium(network: str, colour: str, seed: str) -> dict[str, Any]:
    data = draw_picture(colour, seed)
    medium_id = hashlib.sha256(network.encode() + data).hexdigest()[:32]
    (current_store().folder / "media" / medium_id).write_bytes(data)
    current_store().execute(
        "INSERT OR REPLACE INTO medium VALUES (?,?,?,?,?,?,?,?,?)",
        medium_id,
        network,
        "jpeg",
        "picture",
        1080,
        1080,
        len(data),
        None,
        "",
    )
    url = url_for("pages.serve_medium", network=network, medium_id=medium_id, _external=True)
    return {
        "url": url,
        "alt": "",
        "width": 1080,
        "height": 1080,
        "kind": "picture",
        "people": [],
        "words": "",
        "words_at": "foot",
        "cover": "",
        "focus": None,
    }


def draw_picture(colour: str, seed: str) -> bytes:
    """A picture (JPEG, 1080 x 1080) of leaves in a colour, the same for the same seed."""
    dice = hashlib.sha256(seed.encode()).digest()
    image = Image.new("RGB", (1080, 1080), colour)
    draw = ImageDraw.Draw(image)
    for n in range(14):
        x, y, r = dice[n] * 4.2, dice[n + 14] * 4.2, 60 + dice[n + 2]
        shade = tuple(min(255, int(c * (0.7 + dice[n + 4] / 400))) for c in image.getpixel((0, 0)))  # type: ignore[union-attr]
        draw.ellipse((x - r, y - r / 3, x + r, y + r / 3), fill=shade)
    out = io.BytesIO()
    image.save(out, "JPEG", quality=84)
    return out.getvalue()


def posts_of(network: str, uid: str, address: Any) -> list[dict[str, Any]]:
    """What a profile's own page shows, the newest first: `q=source` without an address (a list of posts, as the query
    extensions to Micropub have it)."""
    rows = current_store().fetch_all(
        "SELECT * FROM post WHERE network = ? AND uid = ? AND reply_to IS NULL AND gone IS NULL ORDER BY at DESC, id DESC LIMIT 50",
        network,
        uid,
    )
    return [_entry_of(row, address(network, row["id"])) for row in rows]


def _entry_of(row: Any, url: str) -> dict[str, Any]:
    body = json.loads(row["body"])
    values = {
        "url": [url],
        "content": [body["text"]],
        "published": [datetime.fromtimestamp(row["at"], UTC).isoformat()],
        "form": [body.get("form") or "post"],
        "link": [body["link"]] if body.get("link") else [],
        "photo": [{"value": m["url"], "alt": m["alt"]} for m in body["media"] if m["kind"] != "video"],
        "video": [{"value": m["url"], "alt": m["alt"]} for m in body["media"] if m["kind"] == "video"],
    }
    return {"type": ["h-entry"], "properties": {name: value for name, value in values.items() if value}}
