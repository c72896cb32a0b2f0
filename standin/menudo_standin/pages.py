"""The networks' own pages: sign-in and consent, public posts and profiles, pictures."""

import json
import time
from datetime import UTC, datetime
from typing import Any
from urllib.parse import parse_qsl, urlencode, urlsplit, urlunsplit

from authlib.oauth2 import OAuth2Error
from flask import Blueprint, Response, abort, current_app, g, redirect, render_template, request, send_file, session
from markupsafe import Markup, escape

from menudo_standin.addresses import addresses
from menudo_standin.conditions import change_facts, reasons, switches
from menudo_standin.oauth import Grant, store

pages = Blueprint("pages", __name__)


@pages.app_template_filter("said")
def said(text: str) -> Markup:
    """A post's text with its line ends, and its links as links."""
    out, place = [], 0
    for address in addresses(text):
        start = text.index(address, place)
        out += [escape(text[place:start]), Markup('<a href="{0}" rel="nofollow">{0}</a>').format(address)]
        place = start + len(address)
    return Markup("").join([*out, escape(text[place:])])


@pages.app_template_filter("when")
def when(at: float) -> str:
    return f"{datetime.fromtimestamp(at, UTC):%d %b %Y, %H:%M} UTC"


@pages.route("/<network>/authorize", methods=["GET", "POST"])
def authorize(network: str) -> Any:
    """Who are you, what do you want to connect, do you agree?"""
    server, sheet = current_app.config["OAUTH"], _sheet(network)
    account = _account(network)
    try:
        grant = server.get_consent_grant(end_user=account)
    except OAuth2Error as error:
        return render_template("sorry.html", sheet=sheet, words=error.description or error.error), 400
    form = request.form
    if account is None:
        wrong = request.method == "POST" and not _sign_in(network, form.get("login", ""), form.get("password", ""))
        account = _account(network)
        if account is None:
            return render_template("sign_in.html", sheet=sheet, wrong=wrong, login=form.get("login", ""))
        return redirect(request.full_path)
    profiles = store().all(
        "SELECT * FROM profile WHERE network = ? AND account = ? ORDER BY handle", network, account["id"]
    )
    if request.method == "POST" and form.get("answer") == "other":
        session.pop(f"account:{network}", None)
        return redirect(request.full_path)
    if request.method == "POST" and form.get("answer") == "refuse":
        return _with_issuer(server.create_authorization_response(grant_user=None, grant=grant))
    direct = {k["kind"] for k in sheet["kinds"] if k["direct"]}
    chosen = [p["uid"] for p in profiles if p["uid"] in form.getlist("profile") and p["kind"] in direct]
    if request.method == "POST" and chosen:
        return _with_issuer(server.create_authorization_response(grant_user=Grant(account["id"], chosen), grant=grant))
    return render_template(
        "consent.html", sheet=sheet, account=account, groups=_by_kind(sheet, profiles), given=_given(account["id"]),
        nothing=request.method == "POST",
    )  # fmt: skip


def _by_kind(sheet: dict[str, Any], profiles: list[Any]) -> list[tuple[dict[str, Any], list[dict[str, Any]]]]:
    """An account's profiles under their kinds, each with what bars an app from it."""
    shown = [{**dict(p), "bars": reasons(p)} for p in profiles]
    return [(k, mine) for k in sheet["kinds"] if (mine := [p for p in shown if p["kind"] == k["kind"]])]


def _given(account: int) -> set[str]:
    """What this account's owner gave Menudo before and hasn't taken back."""
    row = store().one(
        "SELECT chosen FROM token WHERE account = ? AND revoked = 0 AND connection_ends > ? ORDER BY rowid DESC LIMIT 1",
        account, time.time(),
    )  # fmt: skip
    return set(json.loads(row["chosen"])) if row else set()


@pages.route("/<network>/settings", methods=["GET", "POST"])
def settings(network: str) -> Any:
    """The account's own settings at the network: where a condition that isn't met is mended."""
    account = _account(network)
    form = request.form
    if account is None:
        wrong = request.method == "POST" and not _sign_in(network, form.get("login", ""), form.get("password", ""))
        if _account(network) is None:
            return render_template("sign_in.html", sheet=_sheet(network), wrong=wrong, login=form.get("login", ""))
        return redirect(request.path)
    if request.method == "POST":
        row = store().one("SELECT account FROM profile WHERE network = ? AND uid = ?", network, form.get("uid", ""))
        if row is None or row["account"] != account["id"]:
            abort(404)
        change_facts(network, form["uid"], {form["fact"]: form["value"]})
        return redirect(request.path)
    rows = store().all(
        "SELECT * FROM profile WHERE network = ? AND account = ? ORDER BY handle", network, account["id"]
    )
    shown = [{**dict(p), "switches": switches(p)} for p in rows]
    return render_template("settings.html", sheet=_sheet(network), account=account, profiles=shown)


def _with_issuer(response: Response) -> Response:
    """The answer says who gave it (RFC 9207)."""
    parts = urlsplit(response.headers["Location"])
    asked = [*parse_qsl(parts.query), ("iss", f"{request.host_url.rstrip('/')}/{g.network}")]
    response.headers["Location"] = urlunsplit((*parts[:3], urlencode(asked), parts.fragment))
    return response


@pages.post("/<network>/token")
def token(network: str) -> Any:
    return current_app.config["OAUTH"].create_token_response()


@pages.post("/<network>/revoke")
def revoke(network: str) -> Any:
    return current_app.config["OAUTH"].create_endpoint_response("revocation")


@pages.get("/<network>/p/<int:id>")
def post(network: str, id: int) -> str:
    """A post, as anyone sees it."""
    row = store().one("SELECT * FROM post WHERE network = ? AND id = ?", network, id) or abort(404)
    if row["gone"] is not None:
        abort(410)
    if row["reply_to"] is not None:
        return post(network, row["reply_to"])
    profile = store().one("SELECT * FROM profile WHERE network = ? AND uid = ?", network, row["uid"])
    return render_template("post.html", sheet=_sheet(network), profile=profile, posts=[_shown(row)], one=True)


@pages.get("/<network>/of/<uid>")
def profile(network: str, uid: str) -> str:
    """A profile's posts, newest first."""
    found = store().one("SELECT * FROM profile WHERE network = ? AND uid = ?", network, uid) or abort(404)
    rows = store().all(
        "SELECT * FROM post WHERE network = ? AND uid = ? AND reply_to IS NULL AND gone IS NULL ORDER BY at DESC, id DESC LIMIT 50",
        network,
        uid,
    )
    return render_template(
        "post.html", sheet=_sheet(network), profile=found, posts=[_shown(r) for r in rows], one=False
    )


@pages.get("/<network>/media/<id>")
def medium(network: str, id: str) -> Response:
    row = store().one("SELECT * FROM medium WHERE network = ? AND id = ?", network, id) or abort(404)
    return send_file(
        store().folder / "media" / row["id"],
        mimetype=f"{'video' if row['kind'] == 'video' else 'image'}/{row['format']}",
        max_age=3600,
    )


def _shown(row: Any) -> dict[str, Any]:
    comments = store().all("SELECT body FROM post WHERE reply_to = ? ORDER BY id", row["id"])
    return {
        "id": row["id"],
        "at": row["at"],
        **json.loads(row["body"]),
        "comments": [json.loads(c["body"]) for c in comments],
    }


def _sheet(network: str) -> dict[str, Any]:
    sheet: dict[str, Any] = current_app.config["SHEETS"][network]
    return sheet


def _account(network: str) -> Any | None:
    id = session.get(f"account:{network}")
    return store().one("SELECT * FROM account WHERE id = ? AND network = ?", id, network) if id else None


def _sign_in(network: str, login: str, password: str) -> bool:
    # Stand-in accounts are for trying things out: their passwords are not secrets and are kept as they are.
    row = store().one(
        "SELECT id FROM account WHERE network = ? AND login = ? AND password = ?", network, login.strip(), password
    )
    if row is None:
        return False
    session[f"account:{network}"] = row["id"]
    return True
