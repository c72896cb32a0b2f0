"""Speaking with the stand-in: with its control, and over the wire as a network that one posted to long ago."""

import os
from typing import Any

import httpx2

from menudo.library import files
from menudo.library.models import Asset
from menudo.posts.models import Delivery

URL = os.environ["MENUDO_STANDIN_URL"]


def post_to_standin(path: str, data: dict[str, Any]) -> httpx2.Response:
    """POST to it. Raises where it refuses."""
    response = httpx2.post(f"{URL}/{path}", json=data, timeout=30, trust_env=False)
    response.raise_for_status()
    return response


def publish_in_the_past(delivery: Delivery, media: list[Asset], token: str) -> str:
    """Post it at the stand-in with the date it had, so that its public page is there."""
    endpoints = delivery.profile.connection.endpoints  # type: ignore[union-attr]
    auth = {"Authorization": f"Bearer {token}"}
    photos = []
    for asset in media:
        file = (f"{asset.sha256}.{asset.format}", files.file_path(asset.sha256).read_bytes(), f"image/{asset.format}")
        sent = httpx2.post(endpoints["media"], files={"file": file}, headers=auth, timeout=30, trust_env=False)
        photos.append({"value": sent.headers["Location"], "alt": asset.alt})
    properties = {
        "content": [delivery.post.master["text"]],
        "mp-destination": [delivery.profile.remote_id],
        "published": [delivery.due_at.isoformat()],  # type: ignore[union-attr]
        "photo": photos,
    }
    body = {"type": ["h-entry"], "properties": properties}
    made = httpx2.post(
        endpoints["micropub"],
        json=body,
        headers={**auth, "Idempotency-Key": f'"{delivery.key}"'},
        timeout=30,
        trust_env=False,
    )
    made.raise_for_status()
    return made.headers["Location"]
