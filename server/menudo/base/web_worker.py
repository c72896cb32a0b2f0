"""How gunicorn's web processes take requests."""

from typing import Any, ClassVar

from uvicorn_worker import UvicornWorker


class WebWorker(UvicornWorker):  # type: ignore[misc]  # untyped
    """Takes the address of whoever asks as the connection has it. uvicorn would believe any program of this machine that says it asks
    for another; which proxies are believed is MENUDO_TRUSTED_PROXIES' to say, and allauth's and Django's to do."""

    CONFIG_KWARGS: ClassVar[dict[str, Any]] = {**UvicornWorker.CONFIG_KWARGS, "proxy_headers": False}
