"""Structured logs: one JSON object a line (or readable lines with MENUDO_LOG_FORMAT=plain)."""

import logging
import logging.config
import re
from collections.abc import MutableMapping
from typing import Any

import structlog

# As long as those of links are (base/tokens.py), and as the key of a mail's link to set a password is.
_TOKEN = re.compile(r"[A-Za-z0-9_-]{40,}")
# What an address asks with, and a header shows.
_SECRET_QUERY = re.compile(
    r"([?&](?:code|state|token|key|signature|sig|verifier|password|secret)=)[^&\s\"']+", re.IGNORECASE
)
_SECRET_HEADER = re.compile(r"\b(Bearer|Basic) [A-Za-z0-9._~+/=-]{8,}", re.IGNORECASE)


def mask_tokens(logger: Any, method: str, event: MutableMapping[str, Any]) -> MutableMapping[str, Any]:
    """A structlog processor: masks what may be a secret in all that an event says, a traceback among it."""
    for name, value in event.items():
        if isinstance(value, str) and name not in _OURS:
            event[name] = _SECRET_HEADER.sub(r"\1 …", _SECRET_QUERY.sub(r"\1…", _TOKEN.sub("…", value)))
    return event


# What we name ourselves.
_OURS = frozenset({"request_id", "logger", "level", "timestamp"})


def configure(settings: dict[str, Any]) -> None:
    """Set up structlog and send the standard library's logs through it. Never logs request bodies or tokens."""
    shared: list[Any] = [
        structlog.contextvars.merge_contextvars,
        structlog.stdlib.add_log_level,
        structlog.stdlib.add_logger_name,
        structlog.processors.TimeStamper(fmt="iso", utc=True),
        structlog.processors.format_exc_info,
        mask_tokens,
    ]
    last: Any = (
        structlog.dev.ConsoleRenderer(colors=False)
        if settings["format"] == "plain"
        else structlog.processors.JSONRenderer()
    )
    structlog.configure(
        processors=[*shared, structlog.stdlib.ProcessorFormatter.wrap_for_formatter],
        logger_factory=structlog.stdlib.LoggerFactory(),
        wrapper_class=structlog.stdlib.BoundLogger,
        cache_logger_on_first_use=True,
    )
    formatter = {
        "()": structlog.stdlib.ProcessorFormatter,
        "foreign_pre_chain": shared,
        "processors": [structlog.stdlib.ProcessorFormatter.remove_processors_meta, last],
    }
    logging.config.dictConfig(
        {
            "version": 1,
            "disable_existing_loggers": False,
            "formatters": {"line": formatter},
            "handlers": {"out": {"class": "logging.StreamHandler", "formatter": "line"}},
            "root": {"handlers": ["out"], "level": settings["level"]},
            # httpx2 logs whole addresses, and those may hold codes.
            "loggers": {
                name: {"level": "WARNING"} for name in ("httpx2", "httpcore2", "procrastinate", "uvicorn.access", "PIL")
            },
        }
    )
