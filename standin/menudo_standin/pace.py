"""How fast a network lets a profile post: by its sheet's [pace], with code of its own."""

import itertools
import json
import time
from collections.abc import Sequence
from typing import Any

from flask import current_app

from menudo_standin.oauth import current_store

DAY = 86_400.0


def menudo_time() -> float:
    """The present by the clock that Menudo's demo lives by, in seconds since 1970."""
    return time.time() + float(current_app.config["CLOCK_OFFSET"])


def pace_refusal(
    sheet: dict[str, Any], past: Sequence[tuple[float, int]], files: int, now: float
) -> tuple[str, float] | None:
    """Why a post with so many files comes too soon, and in how many seconds it may come; None: it may now.

    `past`: when each of the profile's posts that are there came (seconds since 1970), and with how many files.
    """
    pace, name = sheet.get("pace", {}), sheet["name"]
    found: list[tuple[float, str]] = []
    times = sorted(at for at, _ in past)
    if times and (gap := pace.get("seconds_between")) and now - times[-1] < gap:
        found.append((times[-1] + gap - now, f"{name} wants {gap} seconds between two posts"))
    if (most := pace.get("posts_a_day")) and len(last := [at for at in times if now - at < DAY]) >= most:
        found.append((last[len(last) - most] + DAY - now, f"{name} takes {most} posts a day"))
    if files and (most := pace.get("media_a_day")):
        carried = sorted((at, n) for at, n in past if n and now - at < DAY)
        room = most - files - sum(n for _, n in carried)
        if room < 0 and carried:
            # The oldest leave one after another, until there is room.
            left = itertools.accumulate((n for _, n in carried), initial=room)
            enough = next((n for n, there in enumerate(left) if there >= 0), len(carried))
            found.append((carried[enough - 1][0] + DAY - now, f"{name} takes {most} files a day"))
    life = (sheet.get("life_days") or 0) * DAY
    if life and (most := pace.get("posts_kept")) and len(kept := [at for at in times if now - at < life]) >= most:
        found.append((kept[len(kept) - most] + life - now, f"{name} keeps {most} posts of a location"))
    if not found:
        return None
    wait, why = max(found)
    return why, wait


class TooSoonError(Exception):
    """The post comes sooner than the network lets a profile post; `wait` in seconds."""

    def __init__(self, why: str, wait: float) -> None:
        self.why, self.wait = why, wait
        super().__init__(why)


def require_pace(network: str, uid: str, sheet: dict[str, Any], properties: dict[str, Any]) -> None:
    """Raises TooSoonError."""
    rows = current_store().fetch_all(
        "SELECT at, body FROM post WHERE network = ? AND uid = ? AND reply_to IS NULL AND gone IS NULL", network, uid
    )
    past = [(row["at"], len(json.loads(row["body"])["media"])) for row in rows]
    files = sum(len(properties.get(kind, [])) for kind in ("photo", "video"))
    if soon := pace_refusal(sheet, past, files, menudo_time()):
        raise TooSoonError(*soon)
