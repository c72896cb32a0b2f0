"""What a machine can mend of a finding, in one step: which mends are offered, and what each changes."""

from collections.abc import Callable, Sequence
from dataclasses import replace
from enum import StrEnum

from menudo_core.media.facts import MediaFacts, MediaKind
from menudo_core.media.presentation import (
    UNCHANGED,
    MediaPresentation,
    crop_to,
    cropped_size,
    merge_presentation,
    presented_facts,
    rotated_size,
)
from menudo_core.networks.check import overlong_links
from menudo_core.networks.content import STORY, Content, Overrides
from menudo_core.networks.findings import Finding
from menudo_core.networks.sheet import KindRule, RuleSheet
from menudo_core.text.hashtags import extract_hashtags, remove_hashtags
from menudo_core.text.links import weighted_length
from menudo_core.wording.shorten import shorten


class Fix(StrEnum):
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


FIX_LABELS = {
    Fix.SHORTEN: "Shorten here",
    Fix.TAGS_TO_COMMENT: "Hashtags to the first comment",
    Fix.FEWER_TAGS: "Keep the first hashtags",
    Fix.CROP: "Crop to fit",
    Fix.FIT: "Make it fit",
    Fix.FEWER_MEDIA: "Leave out what is too many",
    Fix.ONE_KIND: "Keep one kind",
    Fix.NO_LINK: "Leave the link out here",
    Fix.NO_COMMENT: "No first comment here",
}
_FIXES_BY_RULE = {
    "too_long": (Fix.SHORTEN,),
    "hashtags": (Fix.TAGS_TO_COMMENT, Fix.FEWER_TAGS),
    "shape": (Fix.CROP,),
    "bytes": (Fix.FIT,),
    "format": (Fix.FIT,),
    "too_large": (Fix.FIT,),
    "media_count": (Fix.FEWER_MEDIA,),
    "together": (Fix.ONE_KIND,),
    "kind": (Fix.ONE_KIND,),
    "followers": (Fix.NO_LINK,),
}


def available_fixes(
    finding: Finding, content: Content, media: Sequence[MediaFacts], sheet: RuleSheet
) -> tuple[Fix, ...]:
    """The mends that would change something, best first."""
    if finding.rule == "forbidden":
        return {"link": (Fix.NO_LINK,), "first_comment": (Fix.NO_COMMENT,)}.get(finding.field, ())
    return tuple(
        m
        for m in _FIXES_BY_RULE.get(finding.rule, ())
        if _is_possible(m, finding, content, [f.kind for f in media], sheet)
    )


def _is_possible(fix: Fix, finding: Finding, content: Content, kinds: Sequence[MediaKind], sheet: RuleSheet) -> bool:
    match fix:
        case Fix.SHORTEN:
            # One that is longer than the limit by itself isn't left out unasked: the finding says so.
            return finding.field in ("text", "first_comment") and not overlong_links(
                getattr(content, finding.field), sheet.text
            )
        case Fix.TAGS_TO_COMMENT:
            # They count there as well, so it helps only against what is good practice in the text.
            most = sheet.hashtags.max_count
            return "first_comment" not in sheet.forbidden and (most is None or int(finding.actual or 0) <= most)
        case Fix.CROP | Fix.FIT:
            place = int(finding.field.partition("/")[2] or 0)
            still = place < len(kinds) and kinds[place] is MediaKind.PICTURE
            rule = sheet.media.kinds.get(MediaKind.PICTURE)
            return still and (fix is Fix.CROP or bool(rule and _output_format(rule)))
        case Fix.ONE_KIND:
            return any(kind in sheet.media.kinds for kind in kinds) and len(set(kinds)) > 1
        case _:
            return True


def apply_fix(fix: Fix, finding: Finding, content: Content, media: Sequence[MediaFacts], sheet: RuleSheet) -> Overrides:
    """What the version has of its own after the mend: only what changes."""
    return _MENDS[fix](finding, content, list(media), sheet)


def _shorten(finding: Finding, content: Content, media: list[MediaFacts], sheet: RuleSheet) -> Overrides:
    text = getattr(content, finding.field)
    rule = sheet.text
    short = shorten(text, rule.limit, lambda t: weighted_length(t, rule.unit, rule.link_weight))
    return Overrides(text=short) if finding.field == "text" else Overrides(first_comment=short)


def _move_tags_to_comment(finding: Finding, content: Content, media: list[MediaFacts], sheet: RuleSheet) -> Overrides:
    text, tags = extract_hashtags(content.text)
    comment = " ".join([*([content.first_comment.strip()] if content.first_comment.strip() else []), *tags])
    return Overrides(text=text, first_comment=comment)


def _drop_tags(finding: Finding, content: Content, media: list[MediaFacts], sheet: RuleSheet) -> Overrides:
    keep = int(finding.limit or 0)
    text, kept = remove_hashtags(content.text, keep)
    comment, _ = remove_hashtags(content.first_comment, max(0, keep - kept))
    return Overrides(text=text, first_comment=comment if comment != content.first_comment else None)


def _crop(finding: Finding, content: Content, media: list[MediaFacts], sheet: RuleSheet) -> Overrides:
    shown = {}
    for facts in media:
        rule = sheet.media.kinds.get(facts.kind)
        low, high = rule_ratios(sheet, rule, content.form)
        showing = content.shown.get(facts.asset, UNCHANGED)
        now = presented_facts(facts, showing, rule)
        if facts.kind is not MediaKind.PICTURE or _has_ratio(now, low, high, content.form):
            continue
        if content.form == STORY and low and high:
            # Stories give no grace: the middle of what is taken, so that whole pixels stay inside.
            low = high = (low + high) / 2
        width, height = rotated_size(facts.width, facts.height, showing.turn)
        shown[facts.asset] = MediaPresentation(crop=crop_to(width, height, low, high, showing.focus))
    return Overrides(shown=shown)


def _has_ratio(facts: MediaFacts, low: float | None, high: float | None, form: str) -> bool:
    if form == STORY:
        return (low or 0) <= facts.ratio <= (high or float("inf"))
    return crop_to(facts.width, facts.height, low, high).is_whole


def rule_ratios(sheet: RuleSheet, rule: KindRule | None, form: str) -> tuple[float | None, float | None]:
    """The narrowest and the widest shape taken in this form."""
    if form == STORY:
        return (sheet.story.min_ratio, sheet.story.max_ratio) if sheet.story else (None, None)
    return (rule.min_ratio, rule.max_ratio) if rule else (None, None)


def _fit(finding: Finding, content: Content, media: list[MediaFacts], sheet: RuleSheet) -> Overrides:
    shown = {}
    for facts in media:
        rule = sheet.media.kinds.get(facts.kind)
        if facts.kind is MediaKind.PICTURE and rule is not None and not _is_allowed(facts, content, rule):
            shown[facts.asset] = MediaPresentation(fit=True)
    return Overrides(shown=shown)


def _is_allowed(facts: MediaFacts, content: Content, rule: KindRule) -> bool:
    showing = content.shown.get(facts.asset, UNCHANGED)
    width, height = cropped_size(*rotated_size(facts.width, facts.height, showing.turn), showing.crop)
    small = width * height <= (rule.max_pixels or width * height)
    small = small and width <= (rule.max_width or width) and height <= (rule.max_height or height)
    return small and facts.format in rule.formats and facts.size <= (rule.max_bytes or facts.size)


def _output_format(rule: KindRule) -> str:
    return next((one for one in rule.formats if one in ("jpeg", "png", "webp")), "")


def _drop_media(finding: Finding, content: Content, media: list[MediaFacts], sheet: RuleSheet) -> Overrides:
    kept: list[MediaFacts] = []
    most = sheet.story.max_frames if content.form == STORY and sheet.story else sheet.media.max_count
    for facts in media:
        rule = sheet.media.kinds.get(facts.kind)
        alike = sum(k.kind is facts.kind for k in kept)
        room = most is None or len(kept) < most
        if room and (content.form == STORY or rule is None or alike < rule.max_count):
            kept.append(facts)
    return Overrides(media=tuple(k.asset for k in kept))


def _keep_one_kind(finding: Finding, content: Content, media: list[MediaFacts], sheet: RuleSheet) -> Overrides:
    """The kind of the first medium that the network takes, with what may stand beside it."""
    first = next(m.kind for m in media if m.kind in sheet.media.kinds)
    group = next((g for g in sheet.media.together if first in g), frozenset(sheet.media.kinds))
    return Overrides(media=tuple(m.asset for m in media if m.kind in group))


_MENDS: dict[Fix, Callable[[Finding, Content, list[MediaFacts], RuleSheet], Overrides]] = {
    Fix.SHORTEN: _shorten,
    Fix.TAGS_TO_COMMENT: _move_tags_to_comment,
    Fix.FEWER_TAGS: _drop_tags,
    Fix.CROP: _crop,
    Fix.FIT: _fit,
    Fix.FEWER_MEDIA: _drop_media,
    Fix.ONE_KIND: _keep_one_kind,
    Fix.NO_LINK: lambda finding, content, media, sheet: Overrides(link=""),
    Fix.NO_COMMENT: lambda finding, content, media, sheet: Overrides(first_comment=""),
}


def merge_overrides(overrides: Overrides, change: Overrides) -> Overrides:
    """What the version has of its own, with a mend's change laid over it."""
    parts = ("text", "media", "link", "first_comment", "form", "card", "link_tags")
    changes = {part: value for part in parts if (value := getattr(change, part)) is not None}
    shown = {**overrides.shown}
    for asset, showing in change.shown.items():
        shown[asset] = merge_presentation(shown.get(asset, UNCHANGED), showing)
    return replace(overrides, **changes, fields={**overrides.fields, **change.fields}, shown=shown)
