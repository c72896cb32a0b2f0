"""Words of feeds and pages, without their markup."""

import unicodedata
from typing import Any

from lxml import html

from menudo.base.html import parse_html

# What stands by itself on a page (HTML, 15.3: display block, table and list items); all else is in the run of a line.
_BLOCKS = frozenset(
    [
        "address",
        "article",
        "aside",
        "blockquote",
        "body",
        "br",
        "caption",
        "center",
        "dd",
        "details",
        "dialog",
        "dir",
        "div",
        "dl",
        "dt",
        "fieldset",
        "figcaption",
        "figure",
        "footer",
        "form",
        "frameset",
        "h1",
        "h2",
        "h3",
        "h4",
        "h5",
        "h6",
        "head",
        "header",
        "hgroup",
        "hr",
        "html",
        "legend",
        "li",
        "main",
        "menu",
        "nav",
        "ol",
        "optgroup",
        "option",
        "p",
        "pre",
        "search",
        "section",
        "summary",
        "table",
        "tbody",
        "td",
        "tfoot",
        "th",
        "thead",
        "title",
        "tr",
        "ul",
    ]
)
_UNSEEN = frozenset({"script", "style", "template", "noscript", "head"})
# Format characters that letters and emoji need: joiners, marks of direction, the tags of flags.
_KEPT_CONTROLS = frozenset({"\u200c", "\u200d", "\u200e", "\u200f", "\u061c", *map(chr, range(0xE0020, 0xE0080))})
# Of which a few thousand characters are kept at most.
_MAX_MARKUP = 60_000
_AS_SPACE = frozenset({"Cc", "Zl", "Zp", "Zs"})


def html_to_text(markup: Any) -> str:
    """Its words in one line. Elements of a line make no spaces (`H<sub>2</sub>O`), blocks and breaks do."""
    text = str(markup)[:_MAX_MARKUP]
    if "<" not in text and "&" not in text:
        return collapse_whitespace(text)
    out: list[str] = []
    _collect_text(parse_html(text), out)
    return collapse_whitespace("".join(out))


def collapse_whitespace(text: str) -> str:
    """Plain text in one line: runs of spaces and controls are one space; what has no look and no use goes, joiners stay."""
    return " ".join("".join(map(_clean_char, text)).split())


def _clean_char(char: str) -> str:
    if char.isascii():
        return char if char.isprintable() else " "
    kind = unicodedata.category(char)
    if kind in _AS_SPACE:
        return " "
    return "" if kind == "Cs" or (kind == "Cf" and char not in _KEPT_CONTROLS) else char


def _collect_text(top: html.HtmlElement, out: list[str]) -> None:
    """The text below an element; without recursion, since markup from elsewhere may be nested as deep as it likes."""
    waiting: list[html.HtmlElement | str] = [top]
    while waiting:
        node = waiting.pop()
        if isinstance(node, str):
            out.append(node)
            continue
        behind = [node.tail or ""]
        if node.tag in _UNSEEN:
            waiting += behind
            continue
        if node.tag in _BLOCKS:
            out.append(" ")
            behind.append(" ")
        waiting += behind
        waiting.extend(reversed(node))
        waiting.append(node.text or "")
