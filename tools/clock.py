"""MENUDO_DEMO_DATE: the demo's day, and its hour if wished, for tests and pictures."""

import os
from datetime import UTC, datetime

from tools.setup import SetupError


def offset_env() -> dict[str, str]:
    """What the programs need to live at MENUDO_DEMO_DATE (a day, or a day and a time in UTC); nothing when it isn't set."""
    wanted = os.environ.get("MENUDO_DEMO_DATE", "")
    if not wanted:
        return {}
    try:
        at = datetime.fromisoformat(wanted)
    except ValueError:
        raise SetupError("MENUDO_DEMO_DATE is a day like 2026-11-24, or 2026-11-24T08:12 in UTC") from None
    if len(wanted) <= 10:
        at = at.replace(hour=8, minute=12)
    at = at if at.tzinfo else at.replace(tzinfo=UTC)
    return {"MENUDO_CLOCK_OFFSET": f"{(at - datetime.now(UTC)).total_seconds():.0f}"}
