"""The networks of this installation, from a TOML file: where each is, and who Menudo is there.

    [brisk]                               # the name of a rule sheet that ships
    address = "https://brisk.example"     # its authorisation server's issuer (RFC 8414)
    adapter = "micropub"                  # the wire it speaks, where it isn't this: see ADAPTER_NAMES
    client_id = "menudo"                  # as the network gave it, and with it, where it gave a secret:
    client_secret_variable = "BRISK_SECRET"    # the environment's variable that holds it

What isn't named here isn't offered: without a file there are open sites, profiles by hand, and a brand's own rule sheets.
"""

import os
import tomllib
from dataclasses import dataclass
from pathlib import Path
from urllib.parse import urlsplit

ADAPTER_NAMES = ("micropub", "atompub")
_KEYS = {"address", "adapter", "client_id", "client_secret_variable"}


class InvalidNetworksFileError(Exception):
    """The file can't be used; the text says what to change in it."""


@dataclass(frozen=True, slots=True)
class Network:
    """`address`: the issuer, without a slash at its end. `client_secret` is empty where there is none."""

    address: str
    adapter: str = "micropub"
    client_id: str = "menudo"
    client_secret: str = ""


def read_networks(file: str, known: set[str]) -> dict[str, Network]:
    """The networks of a file; none of no file (""). `known`: those that have a rule sheet. Raises InvalidNetworksFileError."""
    if not file:
        return {}
    try:
        document = tomllib.loads(Path(file).read_text("utf-8"))
    except (OSError, UnicodeDecodeError) as error:
        raise InvalidNetworksFileError(f"{file} can't be read: {error}") from error
    except tomllib.TOMLDecodeError as error:
        raise InvalidNetworksFileError(f"{file} isn't TOML: {error}") from error
    return {name: _network_of(file, name, row, known) for name, row in document.items()}


def _network_of(file: str, name: str, row: object, known: set[str]) -> Network:
    where = f"{file}, [{name}]"
    if name not in known:
        raise InvalidNetworksFileError(f"{where}: no rule sheet is called so. There are: {', '.join(sorted(known))}.")
    if not isinstance(row, dict) or not all(isinstance(value, str) for value in row.values()):
        raise InvalidNetworksFileError(f"{where}: write a table of texts: {', '.join(sorted(_KEYS))}.")
    if "client_secret" in row:
        raise InvalidNetworksFileError(
            f"{where}: client_secret is no longer read from the file. Put the secret into a variable of the environment, and "
            "that variable's name here as client_secret_variable."
        )
    if more := row.keys() - _KEYS:
        raise InvalidNetworksFileError(
            f"{where}: {', '.join(sorted(more))} means nothing. It may say {', '.join(sorted(_KEYS))}."
        )
    try:
        parts = urlsplit(row.get("address", ""))
        whole = parts.scheme in ("http", "https") and bool(parts.hostname) and (parts.port or 1) > 0
    except ValueError:
        whole = False
    if not whole:
        raise InvalidNetworksFileError(f"{where}: address is missing, or isn't a whole web address.")
    adapter = row.get("adapter", ADAPTER_NAMES[0])
    if adapter not in ADAPTER_NAMES:
        raise InvalidNetworksFileError(
            f"{where}: there is no adapter “{adapter}”. There are: {', '.join(ADAPTER_NAMES)}."
        )
    variable, secret = row.get("client_secret_variable", ""), ""
    if variable:
        secret = os.environ.get(variable, "")
        if not secret:
            raise InvalidNetworksFileError(
                f"{where}: the environment has no variable {variable}, which holds its secret."
            )
    return Network(row["address"].rstrip("/"), adapter, row.get("client_id", "menudo"), secret)
