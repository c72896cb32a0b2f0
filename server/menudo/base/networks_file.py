"""The networks of this installation, from a TOML file: where each is, and who Menudo is there.

    [brisk]                               # the name of a rule sheet that ships
    address = "https://brisk.example"     # its authorisation server's issuer (RFC 8414)
    client_id = "menudo"                  # as the network gave it, and with it, where it gave one:
    client_secret = "…"

What isn't named here isn't offered: without a file there are open sites, profiles by hand, and a brand's own rule sheets.
"""

import tomllib
from dataclasses import dataclass
from pathlib import Path
from urllib.parse import urlsplit

_KEYS = {"address", "client_id", "client_secret"}


class BadNetworksFile(Exception):
    """The file can't be used; the text says what to change in it."""


@dataclass(frozen=True, slots=True)
class Network:
    """`address`: the issuer, without a slash at its end."""

    address: str
    client_id: str = "menudo"
    client_secret: str = ""


def read_networks(file: str, known: set[str]) -> dict[str, Network]:
    """The networks of a file; none of no file (""). `known`: those that have a rule sheet. Raises BadNetworksFile."""
    if not file:
        return {}
    try:
        said = tomllib.loads(Path(file).read_text("utf-8"))
    except (OSError, UnicodeDecodeError) as error:
        raise BadNetworksFile(f"{file} can't be read: {error}") from error
    except tomllib.TOMLDecodeError as error:
        raise BadNetworksFile(f"{file} isn't TOML: {error}") from error
    return {name: _network(file, name, row, known) for name, row in said.items()}


def _network(file: str, name: str, row: object, known: set[str]) -> Network:
    where = f"{file}, [{name}]"
    if name not in known:
        raise BadNetworksFile(f"{where}: no rule sheet is called so. There are: {', '.join(sorted(known))}.")
    if not isinstance(row, dict) or not all(isinstance(value, str) for value in row.values()):
        raise BadNetworksFile(f"{where}: write a table of texts: {', '.join(sorted(_KEYS))}.")
    if more := row.keys() - _KEYS:
        raise BadNetworksFile(
            f"{where}: {', '.join(sorted(more))} means nothing. It may say {', '.join(sorted(_KEYS))}."
        )
    try:
        parts = urlsplit(row.get("address", ""))
        whole = parts.scheme in ("http", "https") and bool(parts.hostname) and (parts.port or 1) > 0
    except ValueError:
        whole = False
    if not whole:
        raise BadNetworksFile(f"{where}: address is missing, or isn't a whole web address.")
    return Network(**{**row, "address": row["address"].rstrip("/")})
