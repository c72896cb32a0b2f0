"""Bring a picture or video from an address into the library."""

from pathlib import PurePosixPath
from urllib.parse import unquote, urlsplit

from menudo.base.fetch import FetchError, fetch
from menudo.base.problems import InvalidError
from menudo.library.actions.add_asset import add_asset
from menudo.library.models import Asset
from menudo.people.context import BrandContext

_ACCEPT = "image/*, video/*;q=0.9"


def fetch_asset(context: BrandContext, address: str, most: int = 0, alt: str = "") -> Asset:
    """The file at `address`, of `most` bytes (0: as much as of any page), named as its address ends. Raises FetchError,
    InvalidError."""
    body = fetch(address, _ACCEPT, most).body
    return add_asset(context, body, unquote(PurePosixPath(urlsplit(address).path).name) or "picture", alt=alt[:1000])


def try_fetch_asset(context: BrandContext, address: str, most: int = 0, alt: str = "") -> Asset | None:
    """The same; None where it can't be fetched or read, and words go without it."""
    try:
        return fetch_asset(context, address, most, alt)
    except (FetchError, InvalidError):
        return None
