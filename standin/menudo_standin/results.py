"""What posts earn here: made up, the same each time it is asked, growing for three days, and better at some hours."""

import json
from collections.abc import Callable, Sequence
from datetime import UTC, datetime
from hashlib import sha256
from typing import Any

from menudo_standin.store import Store

_GROWS_SECONDS = 3 * 86_400


def post_results(row: Any, followers: int, now: float) -> dict[str, int]:
    """Reach, reactions and clicks of a post by now. Evenings and Thursdays do better, as this world has it."""
    dice = sha256(f"{row['network']}:{row['id']}".encode()).digest()
    at = datetime.fromtimestamp(row["at"], UTC)
    hour = 1.0 + 0.6 * (17 <= at.hour <= 20) + 0.4 * (at.weekday() == 3) - 0.4 * (at.hour < 7)
    pictures = 1.3 if json.loads(row["body"]).get("media") else 1.0
    age = min(max(now - row["at"], 0) / _GROWS_SECONDS, 1.0)
    reach = int((followers or 500) * (0.2 + dice[0] / 640) * hour * pictures * age)
    return {"reach": reach, "reactions": reach * (20 + dice[1] % 40) // 1000, "clicks": reach * (dice[2] % 20) // 1000}


def profile_results(
    store: Store, network: str, uids: Sequence[str], now: float, address: Callable[[str, int], str]
) -> list[dict[str, Any]]:
    """What the posts of these profiles have earned, the newest first."""
    found = []
    for uid in uids:
        profile = store.fetch_one("SELECT followers FROM profile WHERE network = ? AND uid = ?", network, uid)
        rows = store.fetch_all(
            "SELECT * FROM post WHERE network = ? AND uid = ? AND reply_to IS NULL AND gone IS NULL ORDER BY at DESC LIMIT 500",
            network,
            uid,
        )
        followers = profile["followers"] if profile else 0
        found += [{"url": address(network, r["id"]), **post_results(r, followers, now)} for r in rows]
    return found
