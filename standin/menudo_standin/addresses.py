"""Web addresses in a text, as the networks find them: letter by letter, with code of their own."""

import re
import unicodedata

_SCHEMES = re.compile(r"(?<![A-Za-z0-9+])https?://(?=[^\W_]|\[)", re.IGNORECASE)
_NEVER = frozenset('<>"`^|\\\u00ad“”„‟‘‚‛«»‹›…。、！，．：；？（）「」『』【】《》〈〉［］｛｝،؛؟۔।॥។၊။¿¡')
_OPENS = {")": "(", "]": "[", "}": "{"}


def find_addresses(text: str) -> list[str]:
    """The addresses in `text`, each without the punctuation that belongs to the sentence."""
    found, place = [], 0
    while begins := _SCHEMES.search(text, place):
        place = _address_end(text, begins.end())
        found.append(text[begins.start() : place])
    return found


def _address_end(text: str, at: int) -> int:
    start, host, opened = at, True, []
    while at < len(text) and not _ends_address(text[at]):
        char = text[at]
        host = host and char not in "/?#"
        # A name has no comma, and no letters of another script behind those of the Latin one.
        if host and char.isascii() and not char.isalnum() and char not in "-._:[]@%~":
            break
        if host and not char.isascii() and re.search(r"\.[a-z0-9-]*[a-z][a-z0-9-]*$", text[start:at], re.IGNORECASE):
            break
        if char in "([{":
            opened.append(char)
        elif char in _OPENS:
            if _OPENS[char] not in opened:
                break
            opened.remove(_OPENS[char])
        at += 1
    while at > start and text[at - 1] in ".,;:!?'’*":
        at -= 1
    return at


def _ends_address(char: str) -> bool:
    kind = unicodedata.category(char)
    return char.isspace() or char in _NEVER or kind in ("Cc", "Cs") or (kind == "Cf" and char not in "\u200c\u200d")
