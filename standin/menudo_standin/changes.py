"""Changing and taking down what is there (W3C Micropub, 3.5)."""

import json
import time
from typing import Any

from flask import Response, current_app, g

from menudo_standin.answers import misbehave, problem_response, spoil_response
from menudo_standin.judge import judge_post
from menudo_standin.oauth import current_store
from menudo_standin.refused import RefusedError


def change_post(network: str, token: Any, body: dict[str, Any]) -> Response:
    """`update` replaces the text of a post; `delete` takes it down. As the network's sheet allows, and the token."""
    action = str(body["action"])
    if trouble := misbehave("", action):
        return trouble
    if token is None:
        return problem_response(401, "the token is unknown, revoked or over")
    if action not in token["scope"].split():
        return problem_response(403, f"the token may not {action} posts")
    sheet = current_app.config["SHEETS"][g.network]
    if not sheet.get("wire", {}).get({"update": "edits", "delete": "deletes"}[action]):
        return problem_response(
            403, f"posts can't be {'changed' if action == 'update' else 'taken down'} here by another program"
        )
    post_id = str(body.get("url", "")).rsplit("/", 1)[-1]
    row = current_store().fetch_one(
        "SELECT * FROM post WHERE network = ? AND id = ? AND gone IS NULL", network, post_id
    )
    if row is None or row["uid"] not in json.loads(token["chosen"]):
        return problem_response(404, "there is no such post")
    if action == "delete":
        current_store().execute("UPDATE post SET gone = ? WHERE id = ?", time.time(), row["id"])
        return spoil_response(row["uid"], action) or Response("", 204)
    text = str((body.get("replace") or {}).get("content", [""])[0])
    kept = json.loads(row["body"])
    media = [
        dict(
            current_store().fetch_one(
                "SELECT * FROM medium WHERE id = ? AND network = ?", m["url"].rsplit("/", 1)[-1], network
            )
            or {}
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
        judge_post(
            sheet, text, media, {**fields, "link": kept.get("link", "")}, form=kept.get("form", "post"), followers=10**9
        )
    except RefusedError as refused:
        return problem_response(400, str(refused))
    current_store().execute(
        "UPDATE post SET body = ? WHERE id = ?", json.dumps({**kept, "text": text, "edited": True}), row["id"]
    )
    return spoil_response(row["uid"], action) or Response("", 204)
