"""Checking a version against a rule sheet."""

from collections.abc import Iterator, Sequence

from menudo_core.media.facts import MediaFacts
from menudo_core.networks.check_media import media_findings
from menudo_core.networks.content import Content
from menudo_core.networks.findings import Finding, Level
from menudo_core.networks.sheet import FieldRule, RuleSheet
from menudo_core.text.clean import unusable
from menudo_core.text.clusters import Unit, measure
from menudo_core.text.hashtags import hashtags
from menudo_core.text.links import links, weighed_length

_UNIT_WORDS = {
    Unit.CLUSTERS: "characters",
    Unit.CODE_POINTS: "code points",
    Unit.UTF16: "UTF-16 units",
    Unit.BYTES: "bytes",
}
_PART_WORDS = {
    "text": "a text",
    "media": "a picture or a video",
    "link": "a link",
    "first_comment": "a first comment",
}


def check(content: Content, media: Sequence[MediaFacts], sheet: RuleSheet) -> list[Finding]:
    """Everything the sheet has to say of one version, stops first, each at its field.

    `media` are the facts of `content.media`, in the same order.
    """
    found = [
        *_presence(content, sheet),
        *_text(content, sheet),
        *_hashtags(content, sheet),
        *media_findings(media, sheet),
        *_fields(content, sheet),
    ]
    return sorted(found, key=lambda finding: finding.level is Level.ADVICE)


def text_length(content: Content, sheet: RuleSheet) -> int:
    """The text's length as this network counts it."""
    return weighed_length(content.text, sheet.text.unit, sheet.text.link_weight)


def _parts(content: Content) -> set[str]:
    present = {"text"} if content.text.strip() else set()
    present |= {"media"} if content.media else set()
    present |= {"link"} if content.link or links(content.text) else set()
    present |= {"first_comment"} if content.first_comment.strip() else set()
    return present


def _presence(content: Content, sheet: RuleSheet) -> Iterator[Finding]:
    present = _parts(content)
    if not present:
        yield Finding(Level.STOPS, "empty", "text", "There is nothing to post yet. Write a text or add a picture.")
        return
    for part in sorted(sheet.required - present):
        yield Finding(Level.STOPS, "required", part, f"{sheet.name} needs {_PART_WORDS[part]}. Add one.")
    for group in sheet.one_of:
        if not group & present:
            words = " or ".join(_PART_WORDS[part] for part in sorted(group, key=list(_PART_WORDS).index))
            yield Finding(Level.STOPS, "required", min(group), f"{sheet.name} needs {words}. Add one.")
    for part in sorted(sheet.forbidden & present):
        yield Finding(
            Level.STOPS,
            "forbidden",
            part,
            f"{sheet.name} takes no {_PART_WORDS[part][2:]}. Take it out for {sheet.name}.",
        )


def _text(content: Content, sheet: RuleSheet) -> Iterator[Finding]:
    for field, text in (("text", content.text), ("first_comment", content.first_comment)):
        if words := unusable(text):
            yield Finding(Level.STOPS, "unusable", field, words)
    length, limit = text_length(content, sheet), sheet.text.limit
    if length > limit:
        unit = _UNIT_WORDS[sheet.text.unit]
        yield Finding(
            Level.STOPS,
            "too_long",
            "text",
            f"{sheet.name} takes {limit:,} {unit}; this has {length:,}. Take out {length - limit:,}.",
            str(limit),
            str(length),
        )


def _hashtags(content: Content, sheet: RuleSheet) -> Iterator[Finding]:
    count = len(hashtags(content.text)) + len(hashtags(content.first_comment))
    most, good = sheet.hashtags.most, sheet.hashtags.good
    if most is not None and count > most:
        words = f"{sheet.name} takes {most} hashtags; this has {count}. Take out {count - most}."
        yield Finding(Level.STOPS, "hashtags", "text", words, str(most), str(count))
    elif good is not None and count > good:
        words = f"On {sheet.name} up to {good} hashtags are good practice; this has {count}."
        if good == 0:
            words = f"Hashtags do nothing on {sheet.name}; this has {count}."
        yield Finding(Level.ADVICE, "hashtags", "text", words, str(good), str(count))


def applies(rule: FieldRule, content: Content) -> bool:
    """Whether the field is asked for now: always, or while another field has one of its values."""
    return rule.when is None or content.fields.get(rule.when[0], "") in rule.when[1]


def asked(sheet: RuleSheet, content: Content) -> list[FieldRule]:
    """The network's own fields that are asked for now and say something: what is sent, and nothing else."""
    return [rule for rule in sheet.fields if applies(rule, content) and content.fields.get(rule.name, "").strip()]


def _fields(content: Content, sheet: RuleSheet) -> Iterator[Finding]:
    for rule in sheet.fields:
        if not applies(rule, content):
            continue
        yield from _field(content.fields.get(rule.name, "").strip(), rule, sheet)


def _field(value: str, rule: FieldRule, sheet: RuleSheet) -> Iterator[Finding]:
    field, label = f"fields/{rule.name}", rule.label.lower()
    if not value:
        if rule.required:
            yield Finding(Level.STOPS, "required", field, f"{sheet.name} needs a {label}. Fill it in.")
        return
    if words := unusable(value):
        yield Finding(Level.STOPS, "unusable", field, words)
    length = measure(value, sheet.text.unit)
    if rule.limit is not None and length > rule.limit:
        words = f"The {label} may have {rule.limit:,} characters on {sheet.name}; this has {length:,}."
        yield Finding(Level.STOPS, "too_long", field, words, str(rule.limit), str(length))
    if rule.choices and value not in rule.choices:
        words = f"The {label} on {sheet.name} is one of: {', '.join(rule.choices)}."
        yield Finding(Level.STOPS, "choice", field, words, "", value)
    if rule.type == "address" and links(value) != [value]:
        yield Finding(Level.STOPS, "address", field, f"The {label} must be a whole web address, with https://.")
