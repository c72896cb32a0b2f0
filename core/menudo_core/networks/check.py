"""Checking a version against a rule sheet."""

from collections.abc import Iterator, Sequence

from menudo_core.media.facts import MediaFacts
from menudo_core.media.presentation import UNCHANGED, presented_facts
from menudo_core.networks.check_fields import applicable_fields, field_applies, field_findings
from menudo_core.networks.check_media import media_findings, people_findings
from menudo_core.networks.check_story import story_findings
from menudo_core.networks.content import STORY, Content
from menudo_core.networks.findings import Finding, Level
from menudo_core.networks.sheet import RuleSheet, TextRule
from menudo_core.text.clusters import UNIT_WORDS
from menudo_core.text.hashtags import hashtags
from menudo_core.text.links import links, weighted_length
from menudo_core.text.placeholders import count_blanks
from menudo_core.text.storable import unstorable_reason
from menudo_core.wording.shorten import links_beyond

__all__ = ["applicable_fields", "check_content", "field_applies", "outgoing_media", "text_length"]

_PART_LABELS = {
    "text": "a text",
    "media": "a picture or a video",
    "link": "a link",
    "first_comment": "a first comment",
}


def check_content(
    content: Content, media: Sequence[MediaFacts], sheet: RuleSheet, followers: int | None = None, profiles: int = 1
) -> list[Finding]:
    """Everything the sheet has to say of one version, stops first, each at its field.

    `media` are the facts of `content.media`, in the same order. `followers` are those of the smallest profile it is
    for (None: not known), `profiles` how many of the network it goes to at once.
    """
    sent = outgoing_media(content, media, sheet)
    if content.form == STORY:
        found = [*story_findings(content, sent, followers, sheet)]
    else:
        found = [
            *_presence_findings(content, sheet),
            *_text_findings(content, sheet),
            *_hashtag_findings(content, sheet),
            *media_findings(sent, sheet),
            *people_findings(content, sheet),
            *field_findings(content, sheet),
            *_location_findings(profiles, sheet),
        ]
    return sorted(found, key=lambda finding: finding.level is Level.ADVICE)


def outgoing_media(content: Content, media: Sequence[MediaFacts], sheet: RuleSheet) -> list[MediaFacts]:
    """The facts of what the network will get: turned, cropped and fitted as the version has it."""
    return [presented_facts(m, content.shown.get(m.asset, UNCHANGED), sheet.media.kinds.get(m.kind)) for m in media]


def text_length(content: Content, sheet: RuleSheet) -> int:
    """The text's length as this network counts it."""
    return weighted_length(content.text, sheet.text.unit, sheet.text.link_weight)


def overlong_links(text: str, rule: TextRule) -> list[str]:
    """The links of a text that the limit has no room for, whatever else is taken out."""
    return links_beyond(text, rule.limit, lambda t: weighted_length(t, rule.unit, rule.link_weight))


def _present_parts(content: Content) -> set[str]:
    present = {"text"} if content.text.strip() else set()
    present |= {"media"} if content.media else set()
    present |= {"link"} if content.link or links(content.text) else set()
    present |= {"first_comment"} if content.first_comment.strip() else set()
    return present


def _presence_findings(content: Content, sheet: RuleSheet) -> Iterator[Finding]:
    present = _present_parts(content)
    if not present:
        yield Finding(Level.STOPS, "empty", "text", "There is nothing to post yet. Write a text or add a picture.")
        return
    for part in sorted(sheet.required - present):
        yield Finding(Level.STOPS, "required", part, f"{sheet.name} needs {_PART_LABELS[part]}. Add one.")
    for group in sheet.one_of:
        if not group & present:
            words = " or ".join(_PART_LABELS[part] for part in sorted(group, key=list(_PART_LABELS).index))
            yield Finding(Level.STOPS, "required", min(group), f"{sheet.name} needs {words}. Add one.")
    for part in sorted(sheet.forbidden & present):
        yield Finding(
            Level.STOPS,
            "forbidden",
            part,
            f"{sheet.name} takes no {_PART_LABELS[part][2:]}. Take it out for {sheet.name}.",
        )


def _text_findings(content: Content, sheet: RuleSheet) -> Iterator[Finding]:
    rule = sheet.text
    for field, text in (("text", content.text), ("first_comment", content.first_comment)):
        if words := unstorable_reason(text):
            yield Finding(Level.STOPS, "unusable", field, words)
        length, limit = weighted_length(text, rule.unit, rule.link_weight), rule.limit
        if length > limit:
            what = "this" if field == "text" else "the first comment"
            words = f"{sheet.name} takes {limit:,} {UNIT_WORDS[rule.unit]}; {what} has {length:,}. Take out {length - limit:,}."
            if beyond := overlong_links(text, rule):
                many = (
                    f"{len(beyond)} of its links don't"
                    if len(beyond) > 1
                    else f"The link {_shortened_link(beyond[0])} doesn't"
                )
                words += f" {many} fit even without any words: leave {'them' if len(beyond) > 1 else 'it'} out or use a shorter one."
            yield Finding(Level.STOPS, "too_long", field, words, str(limit), str(length))
        if count := count_blanks(text):
            words = f"There {'is a blank' if count == 1 else f'are {count} blanks'} still to fill in."
            yield Finding(Level.ADVICE, "blank", field, words, "0", str(count))


def _shortened_link(link: str) -> str:
    return link if len(link) <= 60 else f"{link[:59]}…"


def _hashtag_findings(content: Content, sheet: RuleSheet) -> Iterator[Finding]:
    count = len(hashtags(content.text)) + len(hashtags(content.first_comment))
    most, good = sheet.hashtags.max_count, sheet.hashtags.recommended
    if most is not None and count > most:
        words = f"{sheet.name} takes {most} hashtags; this has {count}. Take out {count - most}."
        yield Finding(Level.STOPS, "hashtags", "text", words, str(most), str(count))
    elif good is not None and count > good:
        words = f"On {sheet.name} up to {good} hashtags are good practice; this has {count}."
        if good == 0:
            words = f"Hashtags do nothing on {sheet.name}; this has {count}."
        yield Finding(Level.ADVICE, "hashtags", "text", words, str(good), str(count))


def _location_findings(profiles: int, sheet: RuleSheet) -> Iterator[Finding]:
    most = sheet.pace.locations_at_once
    if most is not None and profiles > most:
        words = f"{sheet.name} takes {most} locations at once; this goes to {profiles}. Untick {profiles - most}."
        yield Finding(Level.STOPS, "locations", "profiles", words, str(most), str(profiles))
