"""Changing and taking down what is there (W3C Micropub, 3.5)."""

import json
import time
from typing import Any

from flask import Response, current_app, g

from menudo_standin.answers import misanswer, misbehave, problem
from menudo_standin.judge import judge
from menudo_standin.oauth import store
from menudo_standin.refused import Refused


def change(network: str, token: Any, body: dict[str, Any]) -> Response:
    """`update` replaces the text of a post; `delete` takes it down. As the network's sheet allows, and the token."""
    action = str(body["action"])
    if trouble := misbehave("", action):
        return trouble
    if token is None:
        return problem(401, "the token is unknown, revoked or over")
    if action not in token["scope"].split():
        return problem(403, f"the token may not {action} posts")
    sheet = current_app.config["SHEETS"][g.network]
    if not sheet.get("wire", {}).get({"update": "edits", "delete": "deletes"}[action]):
        return problem(
            403, f"posts can't be {'changed' if action == 'update' else 'taken down'} here by another program"
        )
    id = str(body.get("url", "")).rsplit("/", 1)[-1]
    row = store().one("SELECT * FROM post WHERE network = ? AND id = ? AND gone IS NULL", network, id)
    if row is None or row["uid"] not in json.loads(token["chosen"]):
        return problem(404, "there is no such post")
    if action == "delete":
        store().run("UPDATE post SET gone = ? WHERE id = ?", time.time(), row["id"])
        return misanswer(row["uid"], action) or Response("", 204)
    text = str((body.get("replace") or {}).get("content", [""])[0])
    kept = json.loads(row["body"])
    media = [
        dict(
            store().one("SELECT * FROM medium WHERE id = ? AND network = ?", m["url"].rsplit("/", 1)[-1], network) or {}
        )
        | m
        for m in kept["media"]
    ]
    fields = {
        r["name"]: kept["fields"][r["label"]] for r in sheet.get("fields", []) if r["label"] in kept.get("fields", {})
    }
    proof = sheet.get("proof", {})
    fields |= {proof[part]: kept[part] for part in ("title", "button") if proof.get(part) and kept.get(part)}
    try:
        judge(
            sheet, text, media, {**fields, "link": kept.get("link", "")}, form=kept.get("form", "post"), followers=10**9
        )
    except Refused as refused:
        return problem(400, str(refused))
    store().run("UPDATE post SET body = ? WHERE id = ?", json.dumps({**kept, "text": text, "edited": True}), row["id"])
    return misanswer(row["uid"], action) or Response("", 204)
