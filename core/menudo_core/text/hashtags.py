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
