"""Every reader of text from outside, each as a function of one text. What a reader refuses in words of its own is no fault of its."""

from collections.abc import Callable
from datetime import UTC, date, datetime
from typing import Any

import httpx2

from menudo.base.fetch import Page
from menudo.base.html import parse_html
from menudo.base.logs import mask_tokens
from menudo.base.web_addresses import absolute_address
from menudo.brandsheet.page_parser import logo_candidates, parse_page
from menudo.catalogue import row_parser
from menudo.feeds.feed_parser import advertised_feeds, parse_feed
from menudo.feeds.html_text import html_to_text
from menudo.networks import atom
from menudo_core.almanac.rules import day_of
from menudo_core.catalogue.events import parse_number
from menudo_core.catalogue.mapping import guess_mapping, parse_row
from menudo_core.feeds.entry import Entry, address_key
from menudo_core.feeds.messages import fill_from_entry
from menudo_core.networks.check import check_content
from menudo_core.networks.content import Content
from menudo_core.networks.load import parse_sheet, shipped_sheets
from menudo_core.plans import csv_writer, dates, lists
from menudo_core.plans.rows import parse_rows
from menudo_core.plans.table import parse_table
from menudo_core.quotations.collection import find_quotations
from menudo_core.text import (
    clusters,
    folding,
    hashtags,
    link_tags,
    links,
    placeholders,
    search_key,
    similarity,
    storable,
)
from menudo_core.wording import builtin, compare, sentences, shorten, suggest
from menudo_core.wording.writer import TaskKind, WritingTask

_NOW = datetime(2026, 12, 1, 9, tzinfo=UTC)
_BRISK = shipped_sheets()["brisk"]
_WRITER = builtin.BuiltInWriter()


def _page(text: str, kind: str = "text/html") -> Page:
    return Page("https://a.example/", kind, text.encode("utf-8", "replace"), httpx2.Headers())


def _write(kind: TaskKind) -> Callable[[str], Any]:
    return lambda text: _WRITER.propose(WritingTask(kind, text, limit=300), 7)


def _compare(text: str) -> Any:
    half = len(text) // 2
    return compare.compare_words(text[:half], text[half:])


def _table(text: str) -> Any:
    return parse_rows(parse_table(text.encode("utf-8", "replace")), ["brisk"], {"board"})


TARGETS: dict[str, Callable[[str], Any]] = {
    "links": links.links,
    "weighted length": lambda text: links.weighted_length(text, clusters.Unit.CLUSTERS, 23),
    "web address": links.is_web_address,
    "tag link": lambda text: link_tags.tag_link(text, {"source": "brisk"}),
    "tag links in": lambda text: link_tags.tag_links_in(text, {"source": "brisk"}),
    "hashtags": hashtags.extract_hashtags,
    "remove hashtags": hashtags.remove_hashtags,
    "tag from words": hashtags.tag_from_words,
    "clusters": lambda text: sum(1 for _ in clusters.clusters(text)),
    "fold": lambda text: folding.fold_text(text, 280, 4),
    "search key": search_key.fold_case_and_accents,
    "shingles": similarity.shingles,
    "storable": storable.unstorable_reason,
    "placeholders": lambda text: placeholders.fill_placeholders(text, {"brand": "Fernhollow"}),
    "blanks": placeholders.count_blanks,
    "feed message": lambda text: fill_from_entry(text, Entry("1", text[:99], "https://a.example"), date(2026, 12, 1)),
    "check": lambda text: check_content(Content(text=text, first_comment=text, link=text[:2000]), [], _BRISK),
    "sentences": sentences.split_sentences,
    "words": sentences.split_words,
    "shorten": lambda text: shorten.shorten(text, 300, len),
    "compare": _compare,
    "suggest": lambda text: suggest.suggest_hashtags(text, suggest.TagKnowledge()),
    **{f"write {kind.value}": _write(kind) for kind in TaskKind},
    "sheet": parse_sheet,
    "table": _table,
    "formula": lambda text: csv_writer.unescape_formula(csv_writer.escape_formula(text)),
    "names": lists.split_names,
    "date": lambda text: dates.parse_date(text, None),
    "time": dates.parse_time,
    "moment": dates.split_moment,
    "day rule": lambda text: day_of(text, 2026),
    "price": parse_number,
    "mapping": lambda text: parse_row({"title": text, "price": text}, guess_mapping(["title", "price", text[:200]])),
    "quotations": find_quotations,
    "address key": address_key,
    "address": lambda text: absolute_address("https://a.example/", text),
    "html": parse_html,
    "html to text": html_to_text,
    "page": lambda text: parse_page(text, "https://a.example/"),
    "logos": lambda text: logo_candidates(text, "https://a.example/"),
    "advertised feeds": lambda text: advertised_feeds(_page(text)),
    "feed": lambda text: parse_feed(_page(text, "application/xml"), _NOW),
    "catalogue": lambda text: row_parser.parse_rows(text.encode("utf-8", "replace")),
    "atom": lambda text: atom.parse_document(text.encode("utf-8", "replace")),
    "log": lambda text: mask_tokens(None, "info", {"event": text}),
}
# feedparser takes a tenth of a millisecond an element: bounded by their number (feeds/feed_parser.py), in a worker of its own.
SECONDS = {"feed": 5.0}
MOST_SECONDS = 0.25
# The longest that the API takes of each; of all else MOST_LENGTH.
LENGTHS = {"sheet": 30_000, "quotations": 200, **{f"write {kind.value}": 10_000 for kind in TaskKind}}
MOST_LENGTH = 100_000
