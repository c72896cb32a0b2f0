"""A real stand-in for tests: its program served from a thread, on a free port."""

import threading
from collections.abc import Iterator
from contextlib import contextmanager
from dataclasses import dataclass
from pathlib import Path
from typing import Any

import httpx2
from waitress.server import create_server

from menudo_standin.app import create_app

# One client for all: making one reads every certificate of the machine.
_CLIENT = httpx2.Client(trust_env=False, timeout=60)
PROFILES = ["fernhollow", "nursery", "talks"]


def _one(uid: str, kind: str, **facts: str) -> dict[str, Any]:
    return {"uid": uid, "handle": uid, "name": uid.title(), "kind": kind, "followers": 120, "facts": facts}


OTHERS = {
    "plaza": [_one("page", "page", role="administrator"), _one("group", "group", app="off"), _one("maud", "personal")],
    "vitrine": [_one("photos", "business", tied_page="none")],
    "guildhall": [_one("trust", "company", role="editor"), _one("amaro", "personal")],
    "tackboard": [_one("borders", "account")],
    "cinta": [_one("films", "channel", role="editor")],
    "vuelta": [_one("short", "account")],
    "waypost": [_one("gate", "location", verified="no")],
    "foolscap": [_one("notebook", "blog")],
    "open-site": [_one("fernhollow", "site")],
}
SITE = {
    "name": "fernhollow",
    "title": "Fernhollow Botanic Garden",
    "type": "LocalBusiness",
    "language": "en",
    "country": "ES",
    "description": "Glasshouses in the valley.",
    "about": "A garden since 1871.",
    "colours": ["#2f6b4a", "#c7d8b4"],
    "email": "garden@example.org",
    "phone": "+34 900 000 111",
    "address": "Glasshouse Road 4",
    "notes": ["Moss week"],
}


@dataclass
class StandIn:
    url: str
    redirect: str

    def control(self, path: str, data: dict[str, Any] | None = None) -> Any:
        address = f"{self.url}/control/api/{path}"
        answer = _CLIENT.post(address, json=data) if data is not None else _CLIENT.get(address)
        answer.raise_for_status()
        return answer.json() if answer.content else None

    def fault(self, kind: str, **more: Any) -> None:
        self.control("fault", {"network": "brisk", "kind": kind, **more})

    def be_hostile(self, path: str, kind: str) -> None:
        self.control("hostility", {"path": path, "kind": kind})

    def hostilely_answered(self) -> list[str]:
        """The paths that were asked for meanwhile."""
        return self.control("hostility")["asked"]

    def behave(self) -> None:
        for trouble in ("fault", "hostility"):
            _CLIENT.delete(f"{self.url}/control/api/{trouble}").raise_for_status()

    def fresh(self) -> None:
        """Empty but for one account with three profiles."""
        profiles = [{"uid": uid, "handle": f"@{uid}", "name": uid.title(), "kind": "account"} for uid in PROFILES]
        account = {"network": "brisk", "login": "desk", "password": "moss", "name": "The desk", "profiles": profiles}
        others = [
            {"network": network, "login": "desk", "password": "moss", "name": "The desk", "profiles": list(found)}
            for network, found in OTHERS.items()
        ]
        self.control("seed", {"empty": True, "accounts": [account, *others], "sites": [SITE]})

    def grant(self, *profiles: str) -> dict[str, Any]:
        return self.control("grant", {"network": "brisk", "login": "desk", "profiles": list(profiles)})

    def posts(self, profile: str = "") -> list[dict[str, Any]]:
        return self.control(f"posts?profile={profile}")


@contextmanager
def running(folder: Path, redirect: str, pace: bool = False) -> Iterator[StandIn]:
    server = create_server(create_app(folder, redirect, pace=pace), host="127.0.0.1", port=0, threads=16)
    thread = threading.Thread(target=server.run, daemon=True)
    thread.start()
    try:
        yield StandIn(f"http://127.0.0.1:{server.effective_port}", redirect)
    finally:
        server.close()
        thread.join(5)
