"""Checking a version's media against a rule sheet."""

from collections import Counter
from collections.abc import Iterator, Sequence

from menudo_core.media.facts import MediaFacts, MediaKind
from menudo_core.media.shapes import format_bytes, format_ratio
from menudo_core.networks.content import Content
from menudo_core.networks.findings import Finding, Level
from menudo_core.networks.sheet import KindRule, RuleSheet
from menudo_core.text.clusters import Unit, measure

_KIND_LABELS = {
    MediaKind.PICTURE: ("picture", "pictures"),
    MediaKind.ANIMATION: ("moving picture (GIF)", "moving pictures (GIF)"),
    MediaKind.VIDEO: ("video", "videos"),
}


def media_findings(media: Sequence[MediaFacts], sheet: RuleSheet) -> Iterator[Finding]:
    """What the sheet says of the media of one version: counts and mixture, then each one."""
    yield from _count_findings(media, sheet)
    for place, facts in enumerate(media):
        rule = sheet.media.kinds.get(facts.kind)
        if rule is None:
            words = f"{sheet.name} takes no {_KIND_LABELS[facts.kind][1]}. Take it out for {sheet.name}."
            yield Finding(Level.STOPS, "kind", f"media/{place}", words)
        else:
            yield from _medium_findings(f"media/{place}", _medium_label(facts, place), facts, rule, sheet)


def people_findings(content: Content, sheet: RuleSheet) -> Iterator[Finding]:
    """Too many people tagged in a picture. Where nobody can be tagged, the tags aren't sent."""
    most = sheet.media.people
    for place, asset in enumerate(content.media):
        tagged = len((content.shown[asset].people or ()) if asset in content.shown else ())
        if most is not None and tagged > most:
            words = (
                f"{sheet.name} takes {most} people tagged in a picture; this has {tagged}. Take out {tagged - most}."
            )
            yield Finding(Level.STOPS, "people", f"media/{place}", words, str(most), str(tagged))


def _count_findings(media: Sequence[MediaFacts], sheet: RuleSheet) -> Iterator[Finding]:
    counts = Counter(facts.kind for facts in media)
    reported = False
    for kind, count in counts.items():
        rule = sheet.media.kinds.get(kind)
        if rule is not None and count > rule.max_count:
            reported = True
            one, many = _KIND_LABELS[kind]
            words = (
                f"{sheet.name} takes {rule.max_count} {one if rule.max_count == 1 else many} in a post; "
                f"this has {count}. Take out {count - rule.max_count}."
            )
            yield Finding(Level.STOPS, "media_count", "media", words, str(rule.max_count), str(count))
    most = sheet.media.max_count
    if most is not None and len(media) > most and not reported:
        words = f"{sheet.name} takes {most} media in a post; this has {len(media)}."
        yield Finding(Level.STOPS, "media_count", "media", words, str(most), str(len(media)))
    together = sheet.media.together
    if together and counts and not any(set(counts) <= group for group in together):
        kinds = " and ".join(_KIND_LABELS[kind][1] for kind in sorted(counts))
        words = f"{sheet.name} doesn't take {kinds} in the same post. Keep one kind."
        yield Finding(Level.STOPS, "together", "media", words)


def _medium_label(facts: MediaFacts, place: int) -> str:
    return f"{_KIND_LABELS[facts.kind][0].capitalize()} {place + 1}"


def _medium_findings(field: str, name: str, facts: MediaFacts, rule: KindRule, sheet: RuleSheet) -> Iterator[Finding]:
    def stop(what: str, words: str, limit: str, present: str) -> Finding:
        return Finding(Level.STOPS, what, field, words, limit, present)

    if facts.format not in rule.formats and not facts.rendered:
        taken = ", ".join(rule.formats).upper()
        yield stop("format", f"{name} is {facts.format.upper()}; {sheet.name} takes {taken}.", taken, facts.format)
    if rule.codecs and facts.codec and facts.codec not in rule.codecs:
        taken = ", ".join(rule.codecs).upper()
        words = f"{name} is coded as {facts.codec.upper()}; {sheet.name} takes {taken}. Save it as {taken} and add it again."
        yield stop("codec", words, taken, facts.codec)
    if rule.max_bytes is not None and facts.size > rule.max_bytes and not facts.rendered:
        limit, present = format_bytes(rule.max_bytes), format_bytes(facts.size)
        yield stop("bytes", f"{name} is {present}; {sheet.name} takes {limit}. Make it smaller.", limit, present)
    yield from _pixel_findings(field, name, facts, rule, sheet)
    yield from _ratio_findings(field, name, facts, rule, sheet)
    yield from _duration_findings(field, name, facts, rule, sheet)
    if not facts.alt.strip():
        words = f"{name} has no alt text. Say in a few words what it shows."
        yield Finding(Level.ADVICE, "alt", field, words)
    elif rule.alt_limit is not None and (length := measure(facts.alt, Unit.CLUSTERS)) > rule.alt_limit:
        words = f"The alt text of {name.lower()} has {length:,} characters; {sheet.name} takes {rule.alt_limit:,}."
        yield stop("alt_long", words, str(rule.alt_limit), str(length))


def _pixel_findings(field: str, name: str, facts: MediaFacts, rule: KindRule, sheet: RuleSheet) -> Iterator[Finding]:
    present = f"{facts.width} × {facts.height}"
    least = (rule.min_width or 1, rule.min_height or 1)
    if facts.width < least[0] or facts.height < least[1]:
        limit = f"{least[0]} × {least[1]}"
        words = f"{name} is {present} pixels; {sheet.name} wants at least {limit}. Choose a larger one."
        yield Finding(Level.STOPS, "too_small", field, words, limit, present)
    over_side = (rule.max_width is not None and facts.width > rule.max_width) or (
        rule.max_height is not None and facts.height > rule.max_height
    )
    if over_side:
        limit = f"{rule.max_width or 'any'} × {rule.max_height or 'any'}"
        words = f"{name} is {present} pixels; {sheet.name} takes at most {limit}. Make it smaller."
        yield Finding(Level.STOPS, "too_large", field, words, limit, present)
    elif rule.max_pixels is not None and facts.width * facts.height > rule.max_pixels:
        limit = f"{rule.max_pixels / 1e6:g} megapixels"
        words = f"{name} is {present} pixels; {sheet.name} takes at most {limit}. Make it smaller."
        yield Finding(Level.STOPS, "too_large", field, words, limit, present)


def _ratio_findings(field: str, name: str, facts: MediaFacts, rule: KindRule, sheet: RuleSheet) -> Iterator[Finding]:
    present = format_ratio(facts.width, facts.height)
    narrow = rule.min_ratio is not None and facts.ratio < rule.min_ratio * 0.995
    wide = rule.max_ratio is not None and facts.ratio > rule.max_ratio * 1.005
    if narrow or wide:
        limit = f"{_format_ratio(rule.min_ratio)} to {_format_ratio(rule.max_ratio)}"
        if present in limit.split(" to "):
            # So near that the usual words for both are the same.
            present = f"{facts.ratio:.3f}:1"
            limit = " to ".join("any" if one is None else f"{one:.3f}:1" for one in (rule.min_ratio, rule.max_ratio))
        words = f"{name} is {present}; {sheet.name} takes {limit}. Crop it to fit."
        yield Finding(Level.STOPS, "shape", field, words, limit, present)


def _format_ratio(value: float | None) -> str:
    return "any" if value is None else format_ratio(round(value * 10_000), 10_000)


def _duration_findings(field: str, name: str, facts: MediaFacts, rule: KindRule, sheet: RuleSheet) -> Iterator[Finding]:
    if facts.seconds is None:
        return
    present = f"{facts.seconds:g} s"
    if rule.max_seconds is not None and facts.seconds > rule.max_seconds:
        words = f"{name} lasts {present}; {sheet.name} takes {rule.max_seconds:g} s. Shorten it."
        yield Finding(Level.STOPS, "too_long", field, words, f"{rule.max_seconds:g} s", present)
    if rule.min_seconds is not None and facts.seconds < rule.min_seconds:
        words = f"{name} lasts {present}; {sheet.name} wants at least {rule.min_seconds:g} s."
        yield Finding(Level.STOPS, "too_short", field, words, f"{rule.min_seconds:g} s", present)
