"""The control page and its API: tell the networks to misbehave, and look at what they hold."""

import base64
import json
import time
from typing import Any

from flask import Blueprint, current_app, jsonify, redirect, render_template, request

from menudo_standin.answers import faults
from menudo_standin.conditions import change_facts
from menudo_standin.faults import KINDS, Fault
from menudo_standin.filed import write
from menudo_standin.oauth import CONNECTION_DAYS, issue, store
from menudo_standin.shared import folder_of

control = Blueprint("control", __name__, url_prefix="/control")


@control.get("")
def page() -> str:
    profiles = store().all("SELECT network, uid, handle FROM profile ORDER BY network, handle")
    newest = store().all(
        "SELECT post.*, profile.handle FROM post JOIN profile USING (network, uid) ORDER BY post.id DESC LIMIT 12"
    )
    posts = [{**dict(p), "text": json.loads(p["body"])["text"]} for p in newest]
    sheets = current_app.config["SHEETS"]
    accounts = store().all("SELECT * FROM account ORDER BY network, login")
    return render_template(
        "control.html",
        kinds=KINDS,
        faults=faults().present(),
        held=faults().held(),
        profiles=profiles,
        posts=posts,
        sheets=sheets,
        accounts=accounts,
    )


@control.post("")
def press() -> Any:
    form = request.form
    if form.get("do") == "clear":
        faults().clear(form.get("network", ""))
    elif form.get("do") == "write":
        network, _, uid = form.get("as", "").partition(" ")
        write(network, uid, form.get("text", ""), form.get("link", ""), ["#7c9a3d"] if form.get("picture") else [])
    elif form.get("do") == "revoke":
        store().run("UPDATE token SET revoked = 1 WHERE network = ?", form.get("network", ""))
    else:
        seconds = min(max(float(form.get("seconds") or 5), 0), 3600)
        words = form.get("words") or Fault.words
        faults().set(
            Fault(
                form.get("network", ""),
                form.get("kind", "slow"),
                form.get("profile", ""),
                form.get("at", ""),
                seconds,
                words,
            )
        )
    return redirect("/control")


@control.get("/api/state")
def state() -> Any:
    counts = store().all(
        "SELECT network, uid, count(*) AS posts FROM post WHERE reply_to IS NULL GROUP BY network, uid"
    )
    return jsonify(faults=faults().present(), held=faults().held(), posts=[dict(c) for c in counts])


@control.get("/api/posts")
def posts() -> Any:
    """Every post, or those of ?profile=UID, with the key it was made by."""
    return jsonify(_rows("reply_to IS NULL"))


@control.get("/api/comments")
def comments() -> Any:
    """Every comment, or those of ?profile=UID, with the key it was made by and the post it is under."""
    return jsonify(_rows("reply_to IS NOT NULL"))


def _rows(which: str) -> list[dict[str, Any]]:
    rows = store().all(
        f"SELECT * FROM post WHERE ? IN ('', uid) AND {which} ORDER BY id",  # noqa: S608 (one of two fixed conditions)
        request.args.get("profile", ""),
    )
    return [{**dict(r), "body": json.loads(r["body"])} for r in rows]


@control.post("/api/fault")
def set_fault() -> Any:
    data = request.get_json()
    if data.get("kind") not in KINDS:
        return jsonify(detail=f"kind is one of {', '.join(KINDS)}"), 400
    faults().set(Fault(**data))
    return "", 204


@control.delete("/api/fault")
def clear_faults() -> Any:
    faults().clear(request.args.get("network", ""), request.args.get("profile", ""))
    return "", 204


@control.post("/api/revoke")
def revoke() -> Any:
    """The account's owner withdraws: every token of it ends. With "access_only", just the short-lived half does."""
    data = request.get_json()
    row = store().one("SELECT id FROM account WHERE network = ? AND login = ?", data["network"], data["login"])
    column = "access_ends = 0" if data.get("access_only") else "revoked = 1"
    return jsonify(ended=store().run(f"UPDATE token SET {column} WHERE account = ?", row["id"] if row else 0))  # noqa: S608


@control.post("/api/seed")
def seed() -> Any:
    """Accounts and their profiles: {"empty": bool, "accounts": [{network, login, password, name, profiles: [...]}], "sites": [...]}."""
    data = request.get_json()
    if data.get("empty"):
        store().empty()
        faults().clear()
    for account in data.get("accounts", []):
        network = account["network"]
        store().run(
            "INSERT INTO account (network, login, password, name) VALUES (?,?,?,?) ON CONFLICT DO UPDATE SET name = excluded.name, password = excluded.password",
            network, account["login"], account["password"], account["name"],
        )  # fmt: skip
        row = store().one("SELECT id FROM account WHERE network = ? AND login = ?", network, account["login"])
        for p in account["profiles"]:
            store().run(
                "INSERT OR REPLACE INTO profile VALUES (?,?,?,?,?,?,?,?,?)",
                network,
                p["uid"],
                row["id"] if row else 0,
                p["handle"],
                p["name"],
                p["kind"],
                p.get("colour", "#2f6b4a"),
                p.get("followers", 0),
                json.dumps(p.get("facts", {})),
            )
    for one in data.get("rising", []):
        store().run("INSERT OR REPLACE INTO rising VALUES (?,?,?)", one["network"], one["tag"], one["posts"])
    for path, file in data.get("shared", {}).items():
        target = folder_of(store().folder) / path
        target.parent.mkdir(parents=True, exist_ok=True)
        target.write_bytes(base64.b64decode(file))
    for site in data.get("sites", []):
        store().run("INSERT OR REPLACE INTO site VALUES (?,?)", site["name"], json.dumps(site))
    return "", 204


@control.post("/api/facts")
def set_facts() -> Any:
    """Change what the network knows of a profile: {"network", "uid", "facts": {...}}."""
    data = request.get_json()
    return jsonify(changed=change_facts(data["network"], data["uid"], data["facts"]))


@control.post("/api/age")
def age() -> Any:
    """Let an account's connections end in so many days from now, as if time had passed."""
    data = request.get_json()
    ends = time.time() + float(data["days"]) * 86_400
    row = store().one("SELECT id FROM account WHERE network = ? AND login = ?", data["network"], data["login"])
    aged = store().run(
        "UPDATE token SET connection_ends = ?, access_ends = min(access_ends, ?) WHERE account = ?",
        ends, ends, row["id"] if row else 0,
    )  # fmt: skip
    return jsonify(aged=aged)


@control.post("/api/grant")
def grant() -> Any:
    """Tokens as if the account's owner had agreed just now; for the demo's world and for tests."""
    data = request.get_json()
    row = store().one("SELECT id FROM account WHERE network = ? AND login = ?", data["network"], data["login"])
    if row is None:
        return jsonify(detail="no such account"), 404
    ends = time.time() + data.get("days", CONNECTION_DAYS) * 86_400
    return jsonify(issue(data["network"], row["id"], data["profiles"], "menudo", "create update delete media", ends))
