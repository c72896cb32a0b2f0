"""Putting the stand-in together."""

import os
from pathlib import Path
from typing import Any

from flask import Flask, abort, g, jsonify, request
from werkzeug.middleware.dispatcher import DispatcherMiddleware

from menudo_standin.atom import atom
from menudo_standin.control import control
from menudo_standin.faults import Faults
from menudo_standin.filed import filed
from menudo_standin.hostile import Hostility
from menudo_standin.judge import load_sheets
from menudo_standin.looks import LOOKS, page_colours
from menudo_standin.oauth import ACCESS_SECONDS, make_server
from menudo_standin.pages import pages
from menudo_standin.shared import shared_store
from menudo_standin.sites import sites
from menudo_standin.store import Store
from menudo_standin.wire import wire

SHEETS = Path(__file__).resolve().parents[2] / "core" / "menudo_core" / "networks" / "sheets"


def create_app(folder: Path, redirect: str, access_seconds: int = ACCESS_SECONDS, pace: bool = False) -> Flask:
    """The program, with its data in `folder`; `redirect` is the one address of Menudo it sends people back to. `pace`:
    whether the networks' pace and quotas are kept."""
    # It is spoken to on loopback, without TLS.
    os.environ["AUTHLIB_INSECURE_TRANSPORT"] = "1"
    app = Flask(__name__)
    app.config.update(
        SECRET_KEY=f"standin {folder.resolve()}",
        SESSION_COOKIE_NAME="standin_session",
        SESSION_COOKIE_SAMESITE="Lax",
        MAX_CONTENT_LENGTH=600_000_000,
        STORE=Store(folder),
        FAULTS=Faults(),
        SHEETS=load_sheets(SHEETS),
        ACCESS_SECONDS=access_seconds,
        PACE=pace,
        CLOCK_OFFSET=os.environ.get("MENUDO_CLOCK_OFFSET", "0"),
    )
    app.config["OAUTH"] = make_server(app, redirect)

    @app.before_request
    def which_network() -> None:
        g.network = (request.view_args or {}).get("network", "")
        if g.network and g.network not in app.config["SHEETS"]:
            abort(404)

    @app.get("/health")
    def health() -> Any:
        return jsonify(well=True)

    @app.context_processor
    def look() -> dict[str, Any]:
        network = getattr(g, "network", "")
        return {
            "look": LOOKS.get(network, LOOKS[""]),
            "paint": page_colours(network, app.config["SHEETS"].get(network)),
        }

    for blueprint in (control, wire, atom, sites, filed, pages):
        app.register_blueprint(blueprint)
    hostility = Hostility(DispatcherMiddleware(app.wsgi_app, {"/store": shared_store(folder)}))
    app.config["HOSTILITY"] = hostility
    app.wsgi_app = hostility  # type: ignore[method-assign]
    return app
