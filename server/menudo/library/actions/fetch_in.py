"""Bring a picture or video from an address into the library."""

from pathlib import PurePosixPath
from urllib.parse import unquote, urlsplit

from menudo.base.fetch import CantFetch, fetch
from menudo.base.problems import Invalid
from menudo.library.actions.add import add
from menudo.library.models import Asset
from menudo.people.here import Here

_ACCEPT = "image/*, video/*;q=0.9"


def fetch_in(place: Here, address: str, most: int = 0, alt: str = "") -> Asset:
    """The file at `address`, of `most` bytes (0: as much as of any page), named as its address ends. Raises CantFetch,
    Invalid."""
    body = fetch(address, _ACCEPT, most).body
    return add(place, body, unquote(PurePosixPath(urlsplit(address).path).name) or "picture", alt=alt[:1000])


def fetched(place: Here, address: str, most: int = 0, alt: str = "") -> Asset | None:
    """The same; None where it can't be fetched or read, and words go without it."""
    try:
        return fetch_in(place, address, most, alt)
    except (CantFetch, Invalid):
        return None
