"""Every GET of the API's description on an office of 400 profiles and 200,000 deliveries: how long it takes and how much it sends."""

import json
import statistics
import sys
import time
from collections.abc import Iterator
from dataclasses import dataclass
from datetime import UTC, datetime, timedelta
from typing import Any

import httpx2
from tools.demo import load
from tools.setup import ROOT
from tools.stack import Stack

from bench.result import Result

SECONDS, BYTES, SLOWEST = 0.25, 300_000, 10
ROUNDS, LEAST, MOST_SECONDS = 20, 5, 6
# The words that many posts say, and that few do.
_WORDS = ("chestnuts", "No. 180")
# Bytes of a file after which it counts as begun.
_BEGUN = 10_000
# What lies outside a brand's daily work, and what only a token opens, which is small.
_LEFT_OUT = ("/api/set-up/", "/api/invitations/", "/api/links/", "/api/sign/", "/api/connect-outcomes/")


@dataclass(frozen=True, slots=True)
class Walked:
    """One address, with the 95th percentile of its seconds and its bytes; of a file, the seconds until it has begun, and no bytes."""

    address: str
    seconds: float
    size: int

    @property
    def holds(self) -> bool:
        return self.seconds <= SECONDS and self.size <= BYTES


def measure(stack: Stack) -> Result:
    stack.start_standin()
    load(stack, fresh=True, large=True)
    # As autovacuum does soon after.
    stack.cluster.sql("VACUUM ANALYZE", stack.database)
    stack.start_web()
    walked = walk(stack.url)
    for one in walked[:SLOWEST]:
        print(f"{one.seconds * 1000:8.0f} ms {one.size / 1000:8.0f} kB  {one.address}", file=sys.stderr)
    largest = sorted(walked, key=lambda one: -one.size)[:3]
    broken = [one for one in walked if not one.holds]
    ran = (
        f"{len(walked)} addresses, {ROUNDS} times each, one at a time at one web process; {len(broken)} of them over a bound; "
        f"the largest: {', '.join(f'{one.address} {one.size // 1000} kB' for one in largest)}"
    )
    slowest = walked[0].seconds
    return Result(
        "wide",
        slowest * 1000,
        SECONDS * 1000,
        "ms, p95 of slowest",
        slowest / SECONDS,
        "<= 250 ms, <= 300 kB",
        not broken,
        ran,
    )


def walk(url: str) -> list[Walked]:
    """Every address, the slowest first."""
    with httpx2.Client(base_url=url, timeout=60, trust_env=False) as client:
        sign_in(client)
        found = [_ask(client, address) for address in _addresses(client)]
    return sorted(found, key=lambda one: -one.seconds)


def sign_in(client: httpx2.Client) -> None:
    from demo.world import PASSWORD, PEOPLE

    client.get("/_allauth/browser/v1/config")
    data = {"email": PEOPLE[0].email, "password": PASSWORD}
    token = client.cookies.get("csrftoken") or ""
    client.post("/_allauth/browser/v1/auth/login", json=data, headers={"X-CSRFToken": token}).raise_for_status()


def _ask(client: httpx2.Client, address: str) -> Walked:
    """Twenty times; where that takes too long, as often as it goes in a few seconds, five times at least."""
    took: list[float] = []
    is_file = address.partition("?")[0].endswith((".csv", "/opml"))
    while len(took) <= LEAST or (len(took) <= ROUNDS and sum(took) < MOST_SECONDS):
        start = time.perf_counter()
        with client.stream("GET", address) as answer:
            size = 0
            for piece in answer.iter_bytes():
                size += len(piece)
                # A file that is made as it goes is there when it has begun well.
                if is_file and size > _BEGUN:
                    break
            took.append(time.perf_counter() - start)
        assert answer.status_code == 200, f"{address}: {answer.status_code}"
    # The first fills what is kept in the process.
    return Walked(address, statistics.quantiles(took[1:], n=20, method="inclusive")[-1], 0 if is_file else size)


def _addresses(client: httpx2.Client) -> Iterator[str]:
    """Each GET of the description, with ids that are there, and with what views ask of it."""
    ids = _pick_ids(client)
    for path, described in json.loads((ROOT / "server/openapi.json").read_text())["paths"].items():
        if "get" not in described or path.startswith(_LEFT_OUT):
            continue
        address = path
        for name, value in ids.items():
            address = address.replace(f"{{{name}}}", str(value))
        if "{" in address:
            print(f"wide: nothing to ask {path} for", file=sys.stderr)
            continue
        yield from (f"{address}{query}" for query in _queries(path))


def _queries(path: str) -> list[str]:
    today = datetime.now(UTC).date()
    monday = today - timedelta(days=today.weekday())
    month = f"first={monday.replace(day=1)}&days=42"
    week = f"first={monday}&days=7"
    if path.endswith("/calendar/cards"):
        return [f"?{week}", f"?{month}&networks=vitrine", *(f"?{month}&words={words}" for words in _WORDS)]
    if path.endswith(("/calendar", "/plan", "/plan.csv")) and "{brand}" in path:
        return [
            "",
            f"?{week}&gather=hour" if path.endswith("/calendar") else f"?{week}",
            f"?{month}&gather=network" if path.endswith("/calendar") else f"?{month}",
            *(f"?{month}&words={words}" for words in _WORDS),
            f"?{month}&networks=vitrine",
        ]
    if path == "/api/calendar":
        return ["", f"?{month}"]
    if path.endswith("/calendar/advice"):
        return ["", f"?{month}"]
    if path.endswith(("/assets", "/history", "/shelf", "/quotations", "/places", "/history.csv")):
        return ["", *(f"?words={words}" for words in _WORDS)]
    return [""]


def _pick_ids(client: httpx2.Client) -> dict[str, Any]:
    from demo.world import LEAGUE

    base = f"/api/brands/{LEAGUE.slug}"

    def first(path: str, *keys: str | int) -> Any:
        found = client.get(f"{base}/{path}").raise_for_status().json()
        for key in keys:
            found = found[key]
        return found

    ticket = first("calendar/cards?days=14&networks=vitrine", "tickets", 0)
    return {
        "brand": LEAGUE.slug,
        "post_id": ticket["post"],
        "delivery_id": ticket["id"],
        "profile_id": ticket["profile"],
        "asset_id": first("assets", "assets", 0, "id"),
        "rota_id": first("rotas", 0, "id"),
        "catalogue_id": first("catalogues", 0, "id"),
    }
