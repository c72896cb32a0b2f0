"""Link tags: UTM values added to a link (common practice, no published source), the link itself left as it is."""

import re
from collections.abc import Mapping
from dataclasses import dataclass
from urllib.parse import quote, unquote_plus

from menudo_core.text.links import link_spans
from menudo_core.text.placeholders import fill_placeholders

_HTTP = re.compile(r"\s*https?://", re.IGNORECASE)
PARTS = ("source", "medium", "campaign", "content", "term")


@dataclass(frozen=True, slots=True)
class LinkTags:
    """A preset. Its values may hold placeholders; an empty one is not added.

    `keeps`: a value that stands in the link already stays; else the preset's takes its place. `in_text`: links in the
    text are tagged too, not just the post's link.
    """

    source: str = ""
    medium: str = ""
    campaign: str = ""
    content: str = ""
    term: str = ""
    keeps: bool = True
    in_text: bool = True


def utm_values(preset: LinkTags, filled_with: Mapping[str, str]) -> dict[str, str]:
    """The preset's UTM values with placeholders filled in, in the usual order; empty ones left out."""
    filled = {f"utm_{part}": " ".join(fill_placeholders(getattr(preset, part), filled_with).split()) for part in PARTS}
    return {name: value for name, value in filled.items() if value}


def tag_link(link: str, added: Mapping[str, str], keeps: bool = True) -> str:
    """`link` with the values in its query (RFC 3986, 3.4), each name once.

    What is there keeps its order and its encoding; the fragment stays at the end. Tagging twice changes nothing. Only http
    and https links have such values: any other (mailto, tel) stays as it is.
    """
    if not _HTTP.match(link):
        return link
    rest, hash_sign, fragment = link.partition("#")
    base, mark, query = rest.partition("?")
    present = query.split("&") if query else []
    out: list[str] = []
    seen_names: set[str] = set()
    for pair in present:
        name = unquote_plus(pair.partition("=")[0])
        if name in added:
            if name in seen_names:
                continue
            seen_names.add(name)
            out.append(pair if keeps else f"{name}={_percent_encode(added[name])}")
        else:
            out.append(pair)
    out += [f"{name}={_percent_encode(value)}" for name, value in added.items() if name not in seen_names]
    return f"{base}{'?' if out or mark else ''}{'&'.join(out)}{hash_sign}{fragment}"


def tag_links_in(text: str, added: Mapping[str, str], keeps: bool = True) -> str:
    """`text` with every link in it tagged."""
    out, place = [], 0
    for start, end in link_spans(text):
        out += [text[place:start], tag_link(text[start:end], added, keeps)]
        place = end
    return "".join([*out, text[place:]])


def _percent_encode(value: str) -> str:
    return quote(value, safe="-._~")
