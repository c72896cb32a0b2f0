"""A shared store over WebDAV (RFC 4918), served by WsgiDAV from a folder."""

import logging
from pathlib import Path
from typing import Any

from wsgidav.fs_dav_provider import FilesystemProvider
from wsgidav.wsgidav_app import WsgiDAVApp

USER, PASSWORD = "desk", "starlight"


def shared_folder(data: Path) -> Path:
    return data / "shared"


def shared_store(data: Path) -> Any:
    """The WSGI program; it can be read with USER and PASSWORD, and not written to."""
    folder = shared_folder(data)
    folder.mkdir(parents=True, exist_ok=True)
    logging.getLogger("wsgidav").setLevel(logging.ERROR)
    return WsgiDAVApp(
        {
            "provider_mapping": {"/": FilesystemProvider(str(folder), readonly=True)},
            "simple_dc": {"user_mapping": {"*": {USER: {"password": PASSWORD}}}},
            "http_authenticator": {"accept_basic": True, "accept_digest": False, "default_to_digest": False},
            "mount_path": "/store",
            "verbose": 0,
            "logging": {"enable": False},
        }
    )
