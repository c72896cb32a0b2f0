"""Structured logs: one JSON object a line (or readable lines with MENUDO_LOG_FORMAT=plain)."""

import logging
import logging.config
import re
from collections.abc import MutableMapping
from typing import Any

import structlog

# As long as those of links are (base/tokens.py).
_TOKEN = re.compile(r"[A-Za-z0-9_-]{40,}")


def mask_tokens(logger: Any, method: str, event: MutableMapping[str, Any]) -> MutableMapping[str, Any]:
    """A structlog processor: masks what may be a link's secret in an event and in the path it names."""
    for name in ("event", "path"):
        if name in event:
            event[name] = _TOKEN.sub("…", str(event[name]))
    return event


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
