"""Links as they stand in a post's text."""

from functools import lru_cache

import regex

from menudo_core.text.clusters import Unit, measure

# A scheme that no Latin letter or digit stands before, so that it is found in scripts without spaces too; then what may be
# user and password, a host by name (IDN as it is written), number or IPv6, and a port (RFC 3986, 3.2; WHATWG URL).
_NAME = r"[\p{L}\p{N}\p{Extended_Pictographic}][\p{L}\p{M}\p{N}\p{Extended_Pictographic}_\u200c\u200d-]*+"
_START = regex.compile(
    rf"(?<![A-Za-z0-9+])https?://(?:[^\s/?#@<>\"]{{1,200}}@)?(?P<host>\[[0-9A-Fa-f:.]+\]|{_NAME}(?:\.{_NAME})*+)(?!://)(?P<port>:[0-9]{{1,5}}(?![0-9]))?",
    regex.IGNORECASE,
)
# The last part of a name is of one script: where another begins, the sentence goes on.
_LATIN_END = regex.compile(r"(?=[0-9-]*+[A-Za-z])[A-Za-z0-9-]++(?=[^\x00-\x7f])")
# What never stands in an address as people write it: spaces, controls, marks of direction (joiners do: Persian and Indic words
# have them), and the stops, quotation marks and brackets of every script (Unicode, PropList.txt: Terminal_Punctuation and
# Quotation_Mark), but for those of ASCII, which may, and the apostrophe.
_PIECE = (
    r"[[^\s<>\"`^|\\\p{Cc}\p{Cs}\p{Zl}\p{Zp}\u00ad\u061c\u200b\u200e\u200f\u202a-\u202e\u2060-\u206f\ufeff\ufff9-\uffff"
    r"…¿¡\p{Terminal_Punctuation}\p{Quotation_Mark}\p{Ps}\p{Pe}\p{Pi}\p{Pf}]||[!,.:;?'’]]"
)
_REST = regex.compile(rf"(?:{_PIECE}|[()\[\]{{}}])+", regex.VERSION1)
# The same up to a bracket, which may be the first that closes what wasn't opened.
_UP_TO_BRACKET = regex.compile(rf"{_PIECE}*+", regex.VERSION1)
_TRAILING = ".,;:!?'’*\u200c\u200d"
_CLOSES = {")": "(", "]": "[", "}": "{"}


def link_spans(text: str) -> list[tuple[int, int]]:
    """Where the http and https links of `text` stand, in order: [start, end).

    Closing punctuation after a link belongs to the sentence, not to the link; a closing bracket belongs to it only when it
    was opened inside, and else ends it (common practice, no published source). One pass over the text.
    """
    return list(_find_spans(text)) if "://" in text else []


@lru_cache(maxsize=64)
def _find_spans(text: str) -> tuple[tuple[int, int], ...]:
    """Nine networks ask for the links of one text at once, so the last few are remembered."""
    found, place = [], 0
    while (match := _START.search(text, place)) is not None:
        place = _link_end(text, match)
        found.append((match.start(), place))
    return tuple(found)


def links(text: str) -> list[str]:
    """The http and https links in `text`, in order. See `link_spans`."""
    return [text[start:end] for start, end in link_spans(text)]


def is_web_address(text: str) -> bool:
    """Whether the whole of it is an http or https address. Alone in a field it may end in a full stop, or as it likes
    (RFC 3986, 3.3)."""
    match = _START.match(text)
    if match is None:
        return False
    rest = text[match.end() :]
    return not rest or (rest[0] in "/?#" and _REST.fullmatch(rest) is not None)


def replace_spans(text: str, spans: list[tuple[int, int]], instead: str = "") -> str:
    """`text` with these spans, which don't overlap and are in order, taken out of it."""
    out, place = [], 0
    for start, end in spans:
        out += [text[place:start], instead]
        place = end
    return "".join([*out, text[place:]])


def weighted_length(text: str, unit: Unit, link_weight: int | None) -> int:
    """The length of `text` in `unit`, each link counting `link_weight`; None: by its length."""
    total = measure(text, unit)
    if link_weight is None:
        return total
    found = links(text)
    return total - sum(measure(link, unit) for link in found) + link_weight * len(found)


def _link_end(text: str, match: regex.Match[str]) -> int:
    """Where the link that begins so ends."""
    last_label = match["host"].rpartition(".")[2]
    if match["port"] is None and (cut := _LATIN_END.match(last_label)):
        return match.end("host") - len(last_label) + cut.end()
    end = match.end()
    if text[end : end + 1] not in ("/", "?", "#"):
        return end
    stop = _end_of_rest(text, end)
    while stop > end and text[stop - 1] in _TRAILING:
        stop -= 1
    return stop


def _end_of_rest(text: str, start: int) -> int:
    """Where what may stand in an address ends, from `start` on: at the latest before the first bracket that closes what wasn't
    opened. No letter is looked at twice, however many links follow one another."""
    opened = dict.fromkeys(_CLOSES.values(), 0)
    place = start
    while (place := _up_to_bracket(text, place)) < len(text):
        char = text[place]
        if char in opened:
            opened[char] += 1
        elif char in _CLOSES and opened[_CLOSES[char]]:
            opened[_CLOSES[char]] -= 1
        else:
            break
        place += 1
    return place


def _up_to_bracket(text: str, start: int) -> int:
    found = _UP_TO_BRACKET.match(text, start)
    return found.end() if found else start
