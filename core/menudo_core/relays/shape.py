"""What an item becomes at a target: a template, its media, and what the target's network asks of it."""

from collections.abc import Callable, Iterator, Mapping, Sequence
from dataclasses import dataclass, field
from enum import StrEnum

from menudo_core.feeds.messages import filled_with
from menudo_core.media.facts import MediaFacts
from menudo_core.networks.check import check
from menudo_core.networks.content import Content, Overrides, apply_overrides
from menudo_core.networks.findings import Finding, Level
from menudo_core.networks.mends import Mend, mended, merge_overrides, offered
from menudo_core.networks.sheet import RuleSheet
from menudo_core.text.hashtags import moved_to_end

# A mend may bring another up; more rounds than there are mends never help.
_ROUNDS = len(Mend) + 1


class Take(StrEnum):
    """Which of the item's media go along."""

    ALL = "all"
    FIRST = "first"
    NONE = "none"


@dataclass(frozen=True, slots=True)
class Shape:
    """`adapts`: what the network would refuse is mended where it can be (shortened, cropped, fewer hashtags), and hashtags
    beyond good practice go. `tags_below`: they go to the first comment where the network has one. `link`: the item's
    link is the post's, and what has none links to `link_to` (a template). `fields`: templates for the network's own fields."""

    take: Take = Take.ALL
    adapts: bool = True
    tags_below: bool = False
    link: bool = True
    link_to: str = ""
    fields: Mapping[str, str] = field(default_factory=dict)


@dataclass(frozen=True, slots=True)
class Shaped:
    """What would be posted, what of it was mended to suit the network, and what is still to be said of it."""

    content: Content
    mends: tuple[Mend, ...]
    findings: tuple[Finding, ...]

    @property
    def stops(self) -> list[Finding]:
        return [one for one in self.findings if one.level is Level.STOPS]


def shaped(
    template: str,
    said: Mapping[str, str],
    tags: Sequence[str],
    media: Sequence[MediaFacts],
    shape: Shape,
    sheet: RuleSheet,
    followers: int | None = None,
) -> Shaped:
    """The item in the target's form. `said` are its facts by placeholder, `media` its media as they are."""
    taken = {Take.ALL: list(media), Take.FIRST: list(media[:1]), Take.NONE: []}[shape.take]
    text, comment = filled_with(template, said, tags), ""
    if shape.tags_below and "first_comment" not in sheet.forbidden:
        text, moved = moved_to_end(text)
        comment = " ".join(moved)
    fields = {name: filled_with(one, said, tags) for name, one in shape.fields.items()}
    link = _link(said, tags, shape) if "link" not in sheet.forbidden else ""
    content = Content(text, tuple(one.asset for one in taken), link, comment, {n: v for n, v in fields.items() if v})
    found = _judge(sheet, taken, followers)
    if not shape.adapts:
        return Shaped(content, (), tuple(found(content)))
    return _adapted(content, taken, sheet, found)


def _link(said: Mapping[str, str], tags: Sequence[str], shape: Shape) -> str:
    own = said.get("link", "") if shape.link else ""
    return own or filled_with(shape.link_to, said, tags).strip()


def _judge(sheet: RuleSheet, media: Sequence[MediaFacts], followers: int | None) -> Callable[[Content], list[Finding]]:
    by_id = {one.asset: one for one in media}

    def found(content: Content) -> list[Finding]:
        return check(content, [by_id[id] for id in content.media if id in by_id], sheet, followers, 1)

    return found


def _adapted(
    content: Content, media: Sequence[MediaFacts], sheet: RuleSheet, found: Callable[[Content], list[Finding]]
) -> Shaped:
    by_id, own, now = {one.asset: one for one in media}, Overrides(), content
    done: list[Mend] = []
    for _ in range(_ROUNDS):
        step = next(_steps(found(now), now, [by_id[id] for id in now.media], sheet), None)
        if step is None:
            break
        mend, finding = step
        change = mended(mend, finding, now, [by_id[id] for id in now.media], sheet)
        own = merge_overrides(own, change)
        after = apply_overrides(content, own)
        if after == now:
            break
        now = after
        done.append(mend)
    return Shaped(now, tuple(dict.fromkeys(done)), tuple(found(now)))


def _steps(
    findings: Sequence[Finding], content: Content, media: Sequence[MediaFacts], sheet: RuleSheet
) -> Iterator[tuple[Mend, Finding]]:
    for finding in sorted(findings, key=lambda one: one.level is not Level.STOPS):
        if finding.level is Level.STOPS or finding.rule == "hashtags":
            mends = [m for m in offered(finding, content, media, sheet) if m is not Mend.TAGS_TO_COMMENT]
            if mends:
                yield mends[0], finding
