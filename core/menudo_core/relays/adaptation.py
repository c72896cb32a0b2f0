"""What an item becomes at a target: a template, its media, and what the target's network asks of it."""

from collections.abc import Callable, Iterator, Mapping, Sequence
from dataclasses import dataclass, field
from enum import StrEnum

from menudo_core.feeds.messages import fill_template
from menudo_core.media.facts import MediaFacts
from menudo_core.networks.check import check_content
from menudo_core.networks.content import Content, Overrides, apply_overrides
from menudo_core.networks.findings import Finding, Level
from menudo_core.networks.fixes import Fix, apply_fix, available_fixes, merge_overrides
from menudo_core.networks.sheet import RuleSheet
from menudo_core.text.hashtags import extract_hashtags

# A mend may bring another up; more rounds than there are mends never help.
_ROUNDS = len(Fix) + 1


class TextUse(StrEnum):
    """Which of the item's media go along."""

    ALL = "all"
    FIRST = "first"
    NONE = "none"


@dataclass(frozen=True, slots=True)
class Adaptation:
    """`adapts`: what the network would refuse is mended where it can be (shortened, cropped, fewer hashtags), and hashtags
    beyond good practice go. `tags_below`: they go to the first comment where the network has one. `link`: the item's
    link is the post's, and what has none links to `link_to` (a template). `fields`: templates for the network's own fields."""

    take: TextUse = TextUse.ALL
    adapts: bool = True
    tags_below: bool = False
    link: bool = True
    link_to: str = ""
    fields: Mapping[str, str] = field(default_factory=dict)


@dataclass(frozen=True, slots=True)
class AdaptedItem:
    """What would be posted, what of it was mended to suit the network, and what is still to be said of it."""

    content: Content
    fixes: tuple[Fix, ...]
    findings: tuple[Finding, ...]

    @property
    def blocking_findings(self) -> list[Finding]:
        return [one for one in self.findings if one.level is Level.STOPS]


def adapt_item(
    template: str,
    values: Mapping[str, str],
    tags: Sequence[str],
    media: Sequence[MediaFacts],
    adaptation: Adaptation,
    sheet: RuleSheet,
    followers: int | None = None,
) -> AdaptedItem:
    """The item in the target's form. `values` are its facts by placeholder, `media` its media as they are."""
    taken = {TextUse.ALL: list(media), TextUse.FIRST: list(media[:1]), TextUse.NONE: []}[adaptation.take]
    text, comment = fill_template(template, values, tags), ""
    if adaptation.tags_below and "first_comment" not in sheet.forbidden:
        text, moved = extract_hashtags(text)
        comment = " ".join(moved)
    fields = {name: fill_template(one, values, tags) for name, one in adaptation.fields.items()}
    link = _link_for(values, tags, adaptation) if "link" not in sheet.forbidden else ""
    content = Content(text, tuple(one.asset for one in taken), link, comment, {n: v for n, v in fields.items() if v})
    found = _checker_for(sheet, taken, followers)
    if not adaptation.adapts:
        return AdaptedItem(content, (), tuple(found(content)))
    return _apply_fixes(content, taken, sheet, found)


def _link_for(values: Mapping[str, str], tags: Sequence[str], adaptation: Adaptation) -> str:
    own_link = values.get("link", "") if adaptation.link else ""
    return own_link or fill_template(adaptation.link_to, values, tags).strip()


def _checker_for(
    sheet: RuleSheet, media: Sequence[MediaFacts], followers: int | None
) -> Callable[[Content], list[Finding]]:
    by_id = {one.asset: one for one in media}

    def found(content: Content) -> list[Finding]:
        return check_content(
            content, [by_id[asset_id] for asset_id in content.media if asset_id in by_id], sheet, followers, 1
        )

    return found


def _apply_fixes(
    content: Content, media: Sequence[MediaFacts], sheet: RuleSheet, found: Callable[[Content], list[Finding]]
) -> AdaptedItem:
    by_id, overrides, now = {one.asset: one for one in media}, Overrides(), content
    done: list[Fix] = []
    for _ in range(_ROUNDS):
        step = next(_fix_candidates(found(now), now, [by_id[asset_id] for asset_id in now.media], sheet), None)
        if step is None:
            break
        fix, finding = step
        change = apply_fix(fix, finding, now, [by_id[asset_id] for asset_id in now.media], sheet)
        overrides = merge_overrides(overrides, change)
        after = apply_overrides(content, overrides)
        if after == now:
            break
        now = after
        done.append(fix)
    return AdaptedItem(now, tuple(dict.fromkeys(done)), tuple(found(now)))


def _fix_candidates(
    findings: Sequence[Finding], content: Content, media: Sequence[MediaFacts], sheet: RuleSheet
) -> Iterator[tuple[Fix, Finding]]:
    for finding in sorted(findings, key=lambda one: one.level is not Level.STOPS):
        if finding.level is Level.STOPS or finding.rule == "hashtags":
            fixes = [m for m in available_fixes(finding, content, media, sheet) if m is not Fix.TAGS_TO_COMMENT]
            if fixes:
                yield fixes[0], finding
