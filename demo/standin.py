"""Speaking with the stand-in's control."""

from typing import Any

import httpx
from django.conf import settings


def standin(path: str, data: dict[str, Any]) -> httpx.Response:
    """POST to it. Raises where it refuses."""
    response = httpx.post(f"{settings.STANDIN_URL}/{path}", json=data, timeout=30, trust_env=False)
    response.raise_for_status()
    return response
