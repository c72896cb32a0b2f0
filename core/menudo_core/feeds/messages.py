"""The message that an entry becomes: templates that take turns, and placeholders with a measure."""

import re
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from datetime import date

from menudo_core.feeds.entry import Entry
from menudo_core.text.clusters import Unit, measure
from menudo_core.text.hashtags import tag_from_words
from menudo_core.text.placeholders import day_values
from menudo_core.wording.shorten import cut_at_word

_PLACEHOLDER = re.compile(r"\{([a-z_]+)(?: (\d{1,4}))?\}")
FEED_PLACEHOLDERS = (
    "title",
    "text",
    "summary",
    "link",
    "tags",
    "author",
    "source",
    "address",
    "date",
    "day",
    "month",
    "year",
)
CATALOGUE_PLACEHOLDERS = ("event", "price", "before", "open_day", "about")


@dataclass(frozen=True, slots=True)
class Message:
    """One template. `times`: how often it is used at most; None: without end."""

    id: int
    text: str
    times: int | None = None


def next_message(messages: Sequence[Message], used: Mapping[int, int], last: int | None) -> Message | None:
    """The one whose turn it is: after the `last` that was used, those used up left out. None: all are used up."""
    ids = [message.id for message in messages]
    start = ids.index(last) + 1 if last in ids else 0
    for message in [*messages[start:], *messages[:start]]:
        if message.times is None or used.get(message.id, 0) < message.times:
            return message
    return None


def fill_from_entry(text: str, entry: Entry, day: date) -> str:
    """The template with the entry's facts; see `fill_template`."""
    values = {
        "title": entry.title.strip(),
        "text": entry.summary.strip(),
        "summary": entry.summary.strip(),
        "link": entry.link.strip(),
        "author": entry.author.strip(),
        **day_values(entry.at.date() if entry.at else day),
    }
    return fill_template(text, values, entry.tags)


def fill_template(text: str, values: Mapping[str, str], tags: Sequence[str]) -> str:
    """The template with what is said. A number in a placeholder is its measure: `{summary 140}` is cut at a word to 140
    characters (grapheme clusters), `{tags 3}` are the first three. Other words in braces stay as they are, nothing is
    filled twice, and a line that only said what there isn't goes."""
    lines = []
    for line in text.split("\n"):
        put = _PLACEHOLDER.sub(lambda found: _fill_placeholder(found, values, tags), line)
        gone = not put.strip() and line.strip()
        if not gone:
            lines.append(put.rstrip() if put != line else put)
    return "\n".join(lines).strip()


def unknown_placeholders(text: str, names: Sequence[str] = FEED_PLACEHOLDERS) -> list[str]:
    """The placeholders in a template that mean nothing here, as they are written, each once."""
    found = (m.group() for m in _PLACEHOLDER.finditer(text) if m.group(1) not in names)
    return list(dict.fromkeys(found))


def _fill_placeholder(match: re.Match[str], known: Mapping[str, str], tags: Sequence[str]) -> str:
    name, most = match.group(1), int(match.group(2)) if match.group(2) else None
    if name == "tags":
        bare = [tag for tag in map(tag_from_words, tags) if tag]
        return " ".join(f"#{tag}" for tag in bare[:most])
    if name not in known:
        return match.group()
    value = known[name]
    if most is None or name == "link":
        return value
    return cut_at_word(value, most, lambda text: measure(text, Unit.CLUSTERS))
