"""Addresses as others write them, of which any may be none."""

from urllib.parse import SplitResult, urljoin, urlsplit

_MAX_LENGTH = 2000


def split_address(address: str) -> SplitResult | None:
    """The parts of a whole address of the web (http or https, with a host and a port that can be one), else None."""
    try:
        parts = urlsplit(address)
        parts.port  # noqa: B018 (a port that is none is found out only when it is asked for)
    except ValueError:
        return None
    return parts if parts.scheme in ("http", "https") and parts.hostname else None


def absolute_address(base: str, value: str) -> str:
    """The whole address of what is named on a page at `base` (RFC 3986, 5), empty where it is none of the web's or longer than any
    that is kept."""
    try:
        address = urljoin(base, value.strip()) if value.strip() else ""
    except ValueError:
        return ""
    return address if len(address) <= _MAX_LENGTH and split_address(address) else ""
