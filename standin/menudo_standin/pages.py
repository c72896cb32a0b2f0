"""The networks' own pages: sign-in and consent, public posts and profiles, pictures."""

import json
import time
from datetime import UTC, datetime
from typing import Any
from urllib.parse import parse_qsl, urlencode, urlsplit, urlunsplit

from authlib.oauth2 import OAuth2Error
from flask import Blueprint, Response, abort, current_app, g, redirect, render_template, request, send_file, session
from markupsafe import Markup, escape

from menudo_standin.addresses import find_addresses
from menudo_standin.conditions import change_facts, fact_switches, refusal_reasons
from menudo_standin.oauth import Grant, current_store

pages = Blueprint("pages", __name__)


@pages.app_template_filter("said")
def linked_text(text: str) -> Markup:
    """A post's text with its line ends, and its links as links."""
    out, place = [], 0
    for address in find_addresses(text):
        start = text.index(address, place)
        out += [escape(text[place:start]), Markup('<a href="{0}" rel="nofollow">{0}</a>').format(address)]
        place = start + len(address)
    return Markup("").join([*out, escape(text[place:])])


@pages.app_template_filter("when")
def format_time(at: float) -> str:
    return f"{datetime.fromtimestamp(at, UTC):%d %b %Y, %H:%M} UTC"


@pages.route("/<network>/authorize", methods=["GET", "POST"])
def authorize(network: str) -> Any:
    """Who are you, what do you want to connect, do you agree?"""
    server, sheet = current_app.config["OAUTH"], _sheet_of(network)
    account = _account_of(network)
    try:
        grant = server.get_consent_grant(end_user=account)
    except OAuth2Error as error:
        return render_template("sorry.html", sheet=sheet, words=error.description or error.error), 400
    form = request.form
    if account is None:
        wrong = request.method == "POST" and not _sign_in(network, form.get("login", ""), form.get("password", ""))
        account = _account_of(network)
        if account is None:
            return render_template("sign_in.html", sheet=sheet, wrong=wrong, login=form.get("login", ""))
        return redirect(request.full_path)
    profiles = current_store().fetch_all(
        "SELECT * FROM profile WHERE network = ? AND account = ? ORDER BY handle", network, account["id"]
    )
    if request.method == "POST" and form.get("answer") == "other":
        session.pop(f"account:{network}", None)
        return redirect(request.full_path)
    if request.method == "POST" and form.get("answer") == "refuse":
        return _add_issuer(server.create_authorization_response(grant_user=None, grant=grant))
    direct = {k["kind"] for k in sheet["kinds"] if k["direct"]}
    chosen = [p["uid"] for p in profiles if p["uid"] in form.getlist("profile") and p["kind"] in direct]
    if request.method == "POST" and chosen:
        return _add_issuer(server.create_authorization_response(grant_user=Grant(account["id"], chosen), grant=grant))
    return render_template(
        "consent.html",
        sheet=sheet,
        account=account,
        groups=_profiles_by_kind(sheet, profiles),
        given=_granted_profiles(account["id"]),
        nothing=request.method == "POST",
    )


def _profiles_by_kind(sheet: dict[str, Any], profiles: list[Any]) -> list[tuple[dict[str, Any], list[dict[str, Any]]]]:
    """An account's profiles under their kinds, each with what bars an app from it."""
    shown = [{**dict(p), "bars": refusal_reasons(p)} for p in profiles]
    return [(k, mine) for k in sheet["kinds"] if (mine := [p for p in shown if p["kind"] == k["kind"]])]


def _granted_profiles(account: int) -> set[str]:
    """What this account's owner gave Menudo before and hasn't taken back."""
    row = current_store().fetch_one(
        "SELECT chosen FROM token WHERE account = ? AND revoked = 0 AND connection_ends > ? ORDER BY rowid DESC LIMIT 1",
        account,
        time.time(),
    )
    return set(json.loads(row["chosen"])) if row else set()


@pages.route("/<network>/settings", methods=["GET", "POST"])
def account_settings(network: str) -> Any:
    """The account's own settings at the network: where a condition that isn't met is mended."""
    account = _account_of(network)
    form = request.form
    if account is None:
        wrong = request.method == "POST" and not _sign_in(network, form.get("login", ""), form.get("password", ""))
        if _account_of(network) is None:
            return render_template("sign_in.html", sheet=_sheet_of(network), wrong=wrong, login=form.get("login", ""))
        return redirect(request.path)
    if request.method == "POST":
        row = current_store().fetch_one(
            "SELECT account FROM profile WHERE network = ? AND uid = ?", network, form.get("uid", "")
        )
        if row is None or row["account"] != account["id"]:
            abort(404)
        change_facts(network, form["uid"], {form["fact"]: form["value"]})
        return redirect(request.path)
    rows = current_store().fetch_all(
        "SELECT * FROM profile WHERE network = ? AND account = ? ORDER BY handle", network, account["id"]
    )
    shown = [{**dict(p), "switches": fact_switches(p)} for p in rows]
    return render_template("settings.html", sheet=_sheet_of(network), account=account, profiles=shown)


def _add_issuer(response: Response) -> Response:
    """The answer says who gave it (RFC 9207)."""
    parts = urlsplit(response.headers["Location"])
    asked = [*parse_qsl(parts.query), ("iss", f"{request.host_url.rstrip('/')}/{g.network}")]
    response.headers["Location"] = urlunsplit((*parts[:3], urlencode(asked), parts.fragment))
    return response


@pages.post("/<network>/token")
def token_endpoint(network: str) -> Any:
    return current_app.config["OAUTH"].create_token_response()


@pages.post("/<network>/revoke")
def revocation_endpoint(network: str) -> Any:
    return current_app.config["OAUTH"].create_endpoint_response("revocation")


@pages.get("/<network>/p/<int:post_id>")
def post_page(network: str, post_id: int) -> str:
    """A post, as anyone sees it."""
    row = current_store().fetch_one("SELECT * FROM post WHERE network = ? AND id = ?", network, post_id) or abort(404)
    if row["gone"] is not None:
        abort(410)
    if row["reply_to"] is not None:
        return post_page(network, row["reply_to"])
    profile = current_store().fetch_one("SELECT * FROM profile WHERE network = ? AND uid = ?", network, row["uid"])
    return render_template("post.html", sheet=_sheet_of(network), profile=profile, posts=[_post_out(row)], one=True)


@pages.get("/<network>/of/<uid>")
def profile_page(network: str, uid: str) -> str:
    """A profile's posts, newest first."""
    found = current_store().fetch_one("SELECT * FROM profile WHERE network = ? AND uid = ?", network, uid) or abort(404)
    rows = current_store().fetch_all(
        "SELECT * FROM post WHERE network = ? AND uid = ? AND reply_to IS NULL AND gone IS NULL ORDER BY at DESC, id DESC LIMIT 50",
        network,
        uid,
    )
    return render_template(
        "post.html", sheet=_sheet_of(network), profile=found, posts=[_post_out(r) for r in rows], one=False
    )


@pages.get("/<network>/media/<medium_id>")
def serve_medium(network: str, medium_id: str) -> Response:
    row = current_store().fetch_one("SELECT * FROM medium WHERE network = ? AND id = ?", network, medium_id) or abort(
        404
    )
    return send_file(
        current_store().folder / "media" / row["id"],
        mimetype=f"{'video' if row['kind'] == 'video' else 'image'}/{row['format']}",
        max_age=3600,
    )


def _post_out(row: Any) -> dict[str, Any]:
    comments = current_store().fetch_all("SELECT body FROM post WHERE reply_to = ? ORDER BY id", row["id"])
    return {
        "id": row["id"],
        "at": row["at"],
        **json.loads(row["body"]),
        "comments": [json.loads(c["body"]) for c in comments],
    }


def _sheet_of(network: str) -> dict[str, Any]:
    sheet: dict[str, Any] = current_app.config["SHEETS"][network]
    return sheet


def _account_of(network: str) -> Any | None:
    account_id = session.get(f"account:{network}")
    return (
        current_store().fetch_one("SELECT * FROM account WHERE id = ? AND network = ?", account_id, network)
        if account_id
        else None
    )


def _sign_in(network: str, login: str, password: str) -> bool:
    # Stand-in accounts are for trying things out: their passwords are not secrets and are kept as they are.
    row = current_store().fetch_one(
        "SELECT id FROM account WHERE network = ? AND login = ? AND password = ?", network, login.strip(), password
    )
    if row is None:
        return False
    session[f"account:{network}"] = row["id"]
    return True
