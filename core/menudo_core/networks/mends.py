"""What a machine can mend of a finding, in one step: which mends are offered, and what each changes."""

from collections.abc import Callable, Sequence
from dataclasses import replace
from enum import StrEnum

from menudo_core.media.facts import MediaFacts, MediaKind
from menudo_core.media.showing import PLAIN, Showing, as_shown, crop_to, cropped, over, turned
from menudo_core.networks.check import too_long_links
from menudo_core.networks.content import STORY, Content, Overrides
from menudo_core.networks.findings import Finding
from menudo_core.networks.sheet import KindRule, RuleSheet
from menudo_core.text.hashtags import moved_to_end, without_hashtags
from menudo_core.text.links import weighed_length
from menudo_core.wording.shorten import shorten


class Mend(StrEnum):
    """One step that mends a finding for one version; nothing of the master changes."""

    SHORTEN = "shorten"
    TAGS_TO_COMMENT = "tags_to_comment"
    FEWER_TAGS = "fewer_tags"
    CROP = "crop"
    FIT = "fit"
    FEWER_MEDIA = "fewer_media"
    ONE_KIND = "one_kind"
    NO_LINK = "no_link"
    NO_COMMENT = "no_comment"


WORDS = {
    Mend.SHORTEN: "Shorten here",
    Mend.TAGS_TO_COMMENT: "Hashtags to the first comment",
    Mend.FEWER_TAGS: "Keep the first hashtags",
    Mend.CROP: "Crop to fit",
    Mend.FIT: "Make it fit",
    Mend.FEWER_MEDIA: "Leave out what is too many",
    Mend.ONE_KIND: "Keep one kind",
    Mend.NO_LINK: "Leave the link out here",
    Mend.NO_COMMENT: "No first comment here",
}
_BY_RULE = {
    "too_long": (Mend.SHORTEN,),
    "hashtags": (Mend.TAGS_TO_COMMENT, Mend.FEWER_TAGS),
    "shape": (Mend.CROP,),
    "bytes": (Mend.FIT,),
    "format": (Mend.FIT,),
    "too_large": (Mend.FIT,),
    "media_count": (Mend.FEWER_MEDIA,),
    "together": (Mend.ONE_KIND,),
    "kind": (Mend.ONE_KIND,),
    "followers": (Mend.NO_LINK,),
}


def offered(finding: Finding, content: Content, media: Sequence[MediaFacts], sheet: RuleSheet) -> tuple[Mend, ...]:
    """The mends that would change something, best first."""
    if finding.rule == "forbidden":
        return {"link": (Mend.NO_LINK,), "first_comment": (Mend.NO_COMMENT,)}.get(finding.field, ())
    return tuple(
        m for m in _BY_RULE.get(finding.rule, ()) if _possible(m, finding, content, [f.kind for f in media], sheet)
    )


def _possible(mend: Mend, finding: Finding, content: Content, kinds: Sequence[MediaKind], sheet: RuleSheet) -> bool:
    match mend:
        case Mend.SHORTEN:
            # One that is longer than the limit by itself isn't left out unasked: the finding says so.
            return finding.field in ("text", "first_comment") and not too_long_links(
                getattr(content, finding.field), sheet.text
            )
        case Mend.TAGS_TO_COMMENT:
            # They count there as well, so it helps only against what is good practice in the text.
            most = sheet.hashtags.most
            return "first_comment" not in sheet.forbidden and (most is None or int(finding.present or 0) <= most)
        case Mend.CROP | Mend.FIT:
            place = int(finding.field.partition("/")[2] or 0)
            still = place < len(kinds) and kinds[place] is MediaKind.PICTURE
            rule = sheet.media.kinds.get(MediaKind.PICTURE)
            return still and (mend is Mend.CROP or bool(rule and _format(rule)))
        case Mend.ONE_KIND:
            return any(kind in sheet.media.kinds for kind in kinds) and len(set(kinds)) > 1
        case _:
            return True


def mended(mend: Mend, finding: Finding, content: Content, media: Sequence[MediaFacts], sheet: RuleSheet) -> Overrides:
    """What the version has of its own after the mend: only what changes."""
    return _MENDS[mend](finding, content, list(media), sheet)


def _shorten(finding: Finding, content: Content, media: list[MediaFacts], sheet: RuleSheet) -> Overrides:
    text = getattr(content, finding.field)
    rule = sheet.text
    short = shorten(text, rule.limit, lambda t: weighed_length(t, rule.unit, rule.link_weight))
    return Overrides(text=short) if finding.field == "text" else Overrides(first_comment=short)


def _tags_to_comment(finding: Finding, content: Content, media: list[MediaFacts], sheet: RuleSheet) -> Overrides:
    text, tags = moved_to_end(content.text)
    comment = " ".join([*([content.first_comment.strip()] if content.first_comment.strip() else []), *tags])
    return Overrides(text=text, first_comment=comment)


def _fewer_tags(finding: Finding, content: Content, media: list[MediaFacts], sheet: RuleSheet) -> Overrides:
    keep = int(finding.limit or 0)
    text, kept = without_hashtags(content.text, keep)
    comment, _ = without_hashtags(content.first_comment, max(0, keep - kept))
    return Overrides(text=text, first_comment=comment if comment != content.first_comment else None)


def _crop(finding: Finding, content: Content, media: list[MediaFacts], sheet: RuleSheet) -> Overrides:
    shown = {}
    for facts in media:
        rule = sheet.media.kinds.get(facts.kind)
        low, high = rule_ratios(sheet, rule, content.form)
        showing = content.shown.get(facts.asset, PLAIN)
        now = as_shown(facts, showing, rule)
        if facts.kind is not MediaKind.PICTURE or _in_shape(now, low, high, content.form):
            continue
        if content.form == STORY and low and high:
            # Stories give no grace: the middle of what is taken, so that whole pixels stay inside.
            low = high = (low + high) / 2
        width, height = turned(facts.width, facts.height, showing.turn)
        shown[facts.asset] = Showing(crop=crop_to(width, height, low, high, showing.focus))
    return Overrides(shown=shown)


def _in_shape(facts: MediaFacts, low: float | None, high: float | None, form: str) -> bool:
    if form == STORY:
        return (low or 0) <= facts.ratio <= (high or float("inf"))
    return crop_to(facts.width, facts.height, low, high).whole


def rule_ratios(sheet: RuleSheet, rule: KindRule | None, form: str) -> tuple[float | None, float | None]:
    """The narrowest and the widest shape taken in this form."""
    if form == STORY:
        return (sheet.story.min_ratio, sheet.story.max_ratio) if sheet.story else (None, None)
    return (rule.min_ratio, rule.max_ratio) if rule else (None, None)


def _fit(finding: Finding, content: Content, media: list[MediaFacts], sheet: RuleSheet) -> Overrides:
    shown = {}
    for facts in media:
        rule = sheet.media.kinds.get(facts.kind)
        if facts.kind is MediaKind.PICTURE and rule is not None and not _suits(facts, content, rule):
            shown[facts.asset] = Showing(fit=True)
    return Overrides(shown=shown)


def _suits(facts: MediaFacts, content: Content, rule: KindRule) -> bool:
    showing = content.shown.get(facts.asset, PLAIN)
    width, height = cropped(*turned(facts.width, facts.height, showing.turn), showing.crop)
    small = width * height <= (rule.max_pixels or width * height)
    small = small and width <= (rule.max_width or width) and height <= (rule.max_height or height)
    return small and facts.format in rule.formats and facts.size <= (rule.max_bytes or facts.size)


def _format(rule: KindRule) -> str:
    return next((one for one in rule.formats if one in ("jpeg", "png", "webp")), "")


def _fewer_media(finding: Finding, content: Content, media: list[MediaFacts], sheet: RuleSheet) -> Overrides:
    kept: list[MediaFacts] = []
    most = sheet.story.max_frames if content.form == STORY and sheet.story else sheet.media.max_count
    for facts in media:
        rule = sheet.media.kinds.get(facts.kind)
        alike = sum(k.kind is facts.kind for k in kept)
        room = most is None or len(kept) < most
        if room and (content.form == STORY or rule is None or alike < rule.max_count):
            kept.append(facts)
    return Overrides(media=tuple(k.asset for k in kept))


def _one_kind(finding: Finding, content: Content, media: list[MediaFacts], sheet: RuleSheet) -> Overrides:
    """The kind of the first medium that the network takes, with what may stand beside it."""
    first = next(m.kind for m in media if m.kind in sheet.media.kinds)
    group = next((g for g in sheet.media.together if first in g), frozenset(sheet.media.kinds))
    return Overrides(media=tuple(m.asset for m in media if m.kind in group))


_MENDS: dict[Mend, Callable[[Finding, Content, list[MediaFacts], RuleSheet], Overrides]] = {
    Mend.SHORTEN: _shorten,
    Mend.TAGS_TO_COMMENT: _tags_to_comment,
    Mend.FEWER_TAGS: _fewer_tags,
    Mend.CROP: _crop,
    Mend.FIT: _fit,
    Mend.FEWER_MEDIA: _fewer_media,
    Mend.ONE_KIND: _one_kind,
    Mend.NO_LINK: lambda finding, content, media, sheet: Overrides(link=""),
    Mend.NO_COMMENT: lambda finding, content, media, sheet: Overrides(first_comment=""),
}


def merge_overrides(own: Overrides, change: Overrides) -> Overrides:
    """What the version has of its own, with a mend's change laid over it."""
    parts = ("text", "media", "link", "first_comment", "form", "card", "link_tags")
    said = {part: value for part in parts if (value := getattr(change, part)) is not None}
    shown = {**own.shown}
    for asset, showing in change.shown.items():
        shown[asset] = over(shown.get(asset, PLAIN), showing)
    return replace(own, **said, fields={**own.fields, **change.fields}, shown=shown)
