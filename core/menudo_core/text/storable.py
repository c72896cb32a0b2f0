"""Text that can't be kept or sent, found before anything is done with it."""

import re

_UNSTORABLE = re.compile("[\x00-\x08\x0b\x0c\x0e-\x1f\x7f-\x9f\ud800-\udfff]")


def unstorable_reason(text: str) -> str | None:
    """Why `text` can't be kept, in plain words, or None when it can.

    NUL can't be stored in PostgreSQL; a lone surrogate has no UTF-8 form (RFC 3629, 3);
    other C0 and C1 controls have no look and no meaning in a post.
    """
    found = _UNSTORABLE.search(text)
    if found is None:
        return None
    place, char = found.start() + 1, found.group()
    if char == "\0":
        return f"Character {place} is NUL, which no text can hold. Take it out."
    if "\ud800" <= char <= "\udfff":
        return f"Character {place} is half of a character (a lone surrogate). Type it again."
    return f"Character {place} is an invisible control character (U+{ord(char):04X}). Take it out."
