"""Hashtags as they stand in a post's text."""

import regex

# UAX #31, UAX31-D2 with R8 (from memory): a start, then XID_Continue, pictographs and - + _.
_HASHTAG = regex.compile(
    r"(?<![\p{XID_Continue}&/])[#﹟＃]"
    r"((?=[^#﹟＃])[\p{XID_Continue}\p{Extended_Pictographic}\p{Emoji_Modifier}\u200d\ufe0f+_-]+)"
)


def hashtags(text: str) -> list[str]:
    """The hashtags of `text` without their sign, in order and as written.

    A sign inside a word or an address starts none, and digits alone are a number, not a tag.
    """
    tags = (match.group(1).rstrip("+-") for match in _HASHTAG.finditer(text))
    return [tag for tag in tags if tag and not tag.isdigit()]


def spans(text: str) -> list[tuple[int, int]]:
    """Where the hashtags of `text` stand, each with its sign."""
    found = []
    for match in _HASHTAG.finditer(text):
        tag = match.group(1).rstrip("+-")
        if tag and not tag.isdigit():
            found.append((match.start(), match.start(1) + len(tag)))
    return found


def without_hashtags(text: str, keep: int = 0) -> tuple[str, int]:
    """`text` with its first `keep` hashtags, and how many it has. The others at its end go; inside a sentence they lose their sign."""
    found = spans(text)
    end = len(text.rstrip())
    for at, (start, stop) in reversed(list(enumerate(found))):
        if at < keep:
            break
        if not text[stop:end].strip():
            text = text[:start].rstrip(" \t") + text[stop:]
            end = len(text[:start].rstrip())
        else:
            text = text[:start] + text[start + 1 :]
            end -= 1
    return text.rstrip() if found else text, min(keep, len(found))


def moved_to_end(text: str) -> tuple[str, list[str]]:
    """`text` without its hashtags, as `without_hashtags` leaves it, and the hashtags themselves, each once."""
    tags = list(dict.fromkeys(f"#{tag}" for tag in hashtags(text)))
    return without_hashtags(text)[0], tags


def added(text: str, tags: list[str]) -> str:
    """`text` with the tags it doesn't have yet at its end, each once whatever its case (with their sign or without)."""
    present = {tag.casefold() for tag in hashtags(text)}
    new = []
    for tag in (tag.lstrip("#﹟＃") for tag in tags):
        if tag and tag.casefold() not in present:
            present.add(tag.casefold())
            new.append(f"#{tag}")
    if not new:
        return text
    gap = "" if not text or text[-1].isspace() else " "
    return f"{text}{gap}{' '.join(new)}"
