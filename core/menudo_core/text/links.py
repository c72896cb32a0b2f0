"""Links as they stand in a post's text."""

import regex

from menudo_core.text.clusters import Unit, measure

_LINK = regex.compile(r"\bhttps?://[^\s<>\"\p{C}]+", regex.IGNORECASE)
_TRAILING = ".,;:!?'”’»…"
_PAIRS = {")": "(", "]": "[", "}": "{"}


def links(text: str) -> list[str]:
    """The http and https links in `text`, in order.

    Closing punctuation after a link belongs to the sentence, not to the link; a closing
    bracket belongs to it only when it was opened inside (common practice, no published source).
    """
    return [_trimmed(match.group()) for match in _LINK.finditer(text)]


def weighed_length(text: str, unit: Unit, link_weight: int | None) -> int:
    """The length of `text` in `unit`, each link counting `link_weight`; None: by its length."""
    total = measure(text, unit)
    if link_weight is None:
        return total
    found = links(text)
    return total - sum(measure(link, unit) for link in found) + link_weight * len(found)


def _trimmed(link: str) -> str:
    while link:
        last = link[-1]
        closes = last in _PAIRS and link.count(last) > link.count(_PAIRS[last])
        if last not in _TRAILING and not closes:
            return link
        link = link[:-1]
    return link
