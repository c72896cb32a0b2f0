"""The control page and its API: tell the networks to misbehave, and look at what they hold."""

import base64
import json
import time
from typing import Any

from flask import Blueprint, current_app, jsonify, redirect, render_template, request

from menudo_standin import hostile
from menudo_standin.answers import current_faults
from menudo_standin.conditions import change_facts
from menudo_standin.faults import KINDS, Fault
from menudo_standin.filed import insert_post
from menudo_standin.oauth import CONNECTION_DAYS, current_store, issue_tokens
from menudo_standin.shared import shared_folder

control = Blueprint("control", __name__, url_prefix="/control")


@control.get("")
def control_page() -> str:
    profiles = current_store().fetch_all("SELECT network, uid, handle FROM profile ORDER BY network, handle")
    newest = current_store().fetch_all(
        "SELECT post.*, profile.handle FROM post JOIN profile USING (network, uid) ORDER BY post.id DESC LIMIT 12"
    )
    posts = [{**dict(p), "text": json.loads(p["body"])["text"]} for p in newest]
    sheets = current_app.config["SHEETS"]
    accounts = current_store().fetch_all("SELECT * FROM account ORDER BY network, login")
    return render_template(
        "control.html",
        kinds=KINDS,
        hostilities=hostile.KINDS,
        hostility=_hostility().by_path,
        faults=current_faults().active(),
        held=current_faults().waiting(),
        profiles=profiles,
        posts=posts,
        sheets=sheets,
        accounts=accounts,
    )


@control.post("")
def press_button() -> Any:
    form = request.form
    if form.get("do") == "clear":
        current_faults().clear(form.get("network", ""))
    elif form.get("do") == "write":
        network, _, uid = form.get("as", "").partition(" ")
        insert_post(
            network, uid, form.get("text", ""), form.get("link", ""), ["#7c9a3d"] if form.get("picture") else []
        )
    elif form.get("do") == "befriend":
        _hostility().clear()
    elif form.get("do") == "hostile":
        if form.get("hostility") in hostile.KINDS and form.get("path", "").startswith("/"):
            _hostility().set(form["path"], form["hostility"])
    elif form.get("do") == "revoke":
        current_store().execute("UPDATE token SET revoked = 1 WHERE network = ?", form.get("network", ""))
    else:
        seconds = min(max(float(form.get("seconds") or 5), 0), 3600)
        words = form.get("words") or Fault.words
        current_faults().set(
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
def get_state() -> Any:
    counts = current_store().fetch_all(
        "SELECT network, uid, count(*) AS posts FROM post WHERE reply_to IS NULL GROUP BY network, uid"
    )
    return jsonify(faults=current_faults().active(), held=current_faults().waiting(), posts=[dict(c) for c in counts])


@control.get("/api/posts")
def list_posts() -> Any:
    """Every post, or those of ?profile=UID, with the key it was made by."""
    return jsonify(_select_posts("reply_to IS NULL"))


@control.get("/api/comments")
def list_comments() -> Any:
    """Every comment, or those of ?profile=UID, with the key it was made by and the post it is under."""
    return jsonify(_select_posts("reply_to IS NOT NULL"))


def _select_posts(which: str) -> list[dict[str, Any]]:
    rows = current_store().fetch_all(
        f"SELECT * FROM post WHERE ? IN ('', uid) AND {which} ORDER BY id",  # noqa: S608 (one of two fixed conditions)
        request.args.get("profile", ""),
    )
    return [{**dict(r), "body": json.loads(r["body"])} for r in rows]


@control.post("/api/fault")
def set_fault() -> Any:
    data = request.get_json()
    if data.get("kind") not in KINDS:
        return jsonify(detail=f"kind is one of {', '.join(KINDS)}"), 400
    current_faults().set(Fault(**data))
    return "", 204


@control.delete("/api/fault")
def clear_faults() -> Any:
    current_faults().clear(request.args.get("network", ""), request.args.get("profile", ""))
    return "", 204


@control.post("/api/hostility")
def set_hostility() -> Any:
    """{"path": what addresses begin with, such as /brisk, /site/fernhollow or /store, "kind": one of those there are}."""
    data = request.get_json()
    if data.get("kind") not in hostile.KINDS or not str(data.get("path", "")).startswith("/"):
        return jsonify(detail=f"path begins with /, kind is one of {', '.join(hostile.KINDS)}"), 400
    _hostility().set(data["path"], data["kind"])
    return "", 204


@control.get("/api/hostility")
def get_hostility() -> Any:
    """What is in force, and the paths that were answered so since it began."""
    return jsonify(by_path=_hostility().by_path, asked=_hostility().asked)


@control.delete("/api/hostility")
def clear_hostility() -> Any:
    _hostility().clear()
    return "", 204


def _hostility() -> hostile.Hostility:
    found: hostile.Hostility = current_app.config["HOSTILITY"]
    return found


@control.post("/api/revoke")
def revoke_account() -> Any:
    """The account's owner withdraws: every token of it ends. With "access_only", just the short-lived half does."""
    data = request.get_json()
    row = current_store().fetch_one(
        "SELECT id FROM account WHERE network = ? AND login = ?", data["network"], data["login"]
    )
    column = "access_ends = 0" if data.get("access_only") else "revoked = 1"
    marked = f"UPDATE token SET {column} WHERE account = ?"  # noqa: S608
    return jsonify(ended=current_store().execute(marked, row["id"] if row else 0))


@control.post("/api/seed")
def seed_accounts() -> Any:
    """Accounts and their profiles: {"empty": bool, "accounts": [{network, login, password, name, profiles: [...]}], "sites": [...]}."""
    data = request.get_json()
    if data.get("empty"):
        current_store().clear()
        current_faults().clear()
    for account in data.get("accounts", []):
        network = account["network"]
        current_store().execute(
            "INSERT INTO account (network, login, password, name) VALUES (?,?,?,?) ON CONFLICT DO UPDATE SET name = excluded.name, password = excluded.password",
            network,
            account["login"],
            account["password"],
            account["name"],
        )
        row = current_store().fetch_one(
            "SELECT id FROM account WHERE network = ? AND login = ?", network, account["login"]
        )
        for p in account["profiles"]:
            current_store().execute(
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
        current_store().execute(
            "INSERT OR REPLACE INTO rising VALUES (?,?,?)", one["network"], one["tag"], one["posts"]
        )
    for path, file in data.get("shared", {}).items():
        target = shared_folder(current_store().folder) / path
        target.parent.mkdir(parents=True, exist_ok=True)
        target.write_bytes(base64.b64decode(file))
    for site in data.get("sites", []):
        current_store().execute("INSERT OR REPLACE INTO site VALUES (?,?)", site["name"], json.dumps(site))
    return "", 204


@control.post("/api/facts")
def set_facts() -> Any:
    """Change what the network knows of a profile: {"network", "uid", "facts": {...}}."""
    data = request.get_json()
    return jsonify(changed=change_facts(data["network"], data["uid"], data["facts"]))


@control.post("/api/age")
def age_connections() -> Any:
    """Let an account's connections end in so many days from now, as if time had passed."""
    data = request.get_json()
    ends = time.time() + float(data["days"]) * 86_400
    row = current_store().fetch_one(
        "SELECT id FROM account WHERE network = ? AND login = ?", data["network"], data["login"]
    )
    aged = current_store().execute(
        "UPDATE token SET connection_ends = ?, access_ends = min(access_ends, ?) WHERE account = ?",
        ends,
        ends,
        row["id"] if row else 0,
    )
    return jsonify(aged=aged)


@control.post("/api/grant")
def grant_tokens() -> Any:
    """Tokens as if the account's owner had agreed just now; for the demo's world and for tests."""
    data = request.get_json()
    row = current_store().fetch_one(
        "SELECT id FROM account WHERE network = ? AND login = ?", data["network"], data["login"]
    )
    if row is None:
        return jsonify(detail="no such account"), 404
    ends = time.time() + data.get("days", CONNECTION_DAYS) * 86_400
    return jsonify(
        issue_tokens(data["network"], row["id"], data["profiles"], "menudo", "create update delete media", ends)
    )
