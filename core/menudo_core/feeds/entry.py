"""Entries of a feed, and how they are known again."""

import re
from collections.abc import Collection, Sequence
from dataclasses import dataclass, field
from datetime import datetime
from urllib.parse import urlsplit, urlunsplit

# What is one thing's name everywhere: addresses, and the names made to be so (RFC 8141, urn; RFC 4151, tag).
_URI = re.compile(r"(?:[a-z][a-z0-9+.-]*://|urn:|tag:)\S", re.IGNORECASE)


@dataclass(frozen=True, slots=True)
class Entry:
    """One entry, as it was read; texts are plain. `id`: what the feed calls it, empty where it names none. `at`: when it was
    published (UTC), None where the feed doesn't say, or not readably."""

    id: str
    title: str
    link: str
    summary: str = ""
    author: str = ""
    at: datetime | None = None
    tags: tuple[str, ...] = ()
    picture: str = ""
    entry_key: str = field(init=False, default="")

    def __post_init__(self) -> None:
        object.__setattr__(self, "entry_key", _entry_key(self))


def _entry_key(entry: Entry) -> str:
    """Its id, an opaque string which stays when it is edited (RFC 4287, 4.2.6; RSS 2.0, guid; JSON Feed 1.1, id); else its
    address; else its title."""
    if entry.id.strip():
        return f"id:{entry.id.strip()}"
    if entry.link.strip():
        return address_key(entry.link)
    return f"title:{' '.join(entry.title.split())}"


def address_key(link: str) -> str:
    """What names a thing by its address: that without the fragment, scheme and host in small letters (RFC 3986, 6.2.2.1)."""
    parts = urlsplit(link.strip())
    return f"link:{urlunsplit((parts.scheme.lower(), parts.netloc.lower(), parts.path or '/', parts.query, ''))}"


def origin_key(entry_key: str, feed: int) -> str:
    """What names an entry whatever feed it comes by, from how its feed knows it again. An id that is an address, a urn or a
    tag is one and the same everywhere; any other says something in its own feed only."""
    if entry_key.startswith("link:") or (entry_key.startswith("id:") and _URI.match(entry_key[3:])):
        return entry_key
    return f"feed:{feed}:{entry_key}"


def new_entries(entries: Sequence[Entry], known: Collection[str], first: bool, take: int = 0) -> list[Entry]:
    """The entries that are new, the oldest first; one without a time counts as newer than those below it in the feed.

    At the `first` reading nothing old floods in: only the newest `take` count as new, the others are merely known from
    then on. An entry that stands twice in the feed is taken once, as it stands first.
    """
    once: dict[str, Entry] = {}
    for entry in entries:
        if entry.entry_key not in known:
            once.setdefault(entry.entry_key, entry)
    # Feeds have the newest on top. Where times are told they decide, and where they aren't, the place does.
    found = list(once.values())[::-1]
    if all(entry.at is not None for entry in found):
        found.sort(key=lambda entry: entry.at.timestamp() if entry.at else 0)
    return found if not first else found[len(found) - min(take, len(found)) :]
