"""Speaking with the stand-in's control."""

import os
from typing import Any

import httpx

URL = os.environ["MENUDO_STANDIN_URL"]


def standin(path: str, data: dict[str, Any]) -> httpx.Response:
    """POST to it. Raises where it refuses."""
    response = httpx.post(f"{URL}/{path}", json=data, timeout=30, trust_env=False)
    response.raise_for_status()
    return response
