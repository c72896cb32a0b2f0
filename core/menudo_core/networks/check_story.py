"""Checking a story's frames against a rule sheet."""

from collections.abc import Iterator, Sequence

from menudo_core.media.facts import MediaFacts
from menudo_core.media.shapes import format_ratio
from menudo_core.networks.content import Content
from menudo_core.networks.findings import Finding, Level
from menudo_core.networks.sheet import RuleSheet, StoryRule
from menudo_core.text.storable import unstorable_reason


def story_findings(
    content: Content, frames: Sequence[MediaFacts], followers: int | None, sheet: RuleSheet
) -> Iterator[Finding]:
    """What the sheet says of a version that is a story: its frames as they will be sent, their words, its link."""
    yield from check_story(frames, bool(content.link.strip()), followers, sheet)
    for place, frame in enumerate(frames):
        rule = sheet.media.kinds.get(frame.kind)
        if sheet.story and rule is None:
            words = f"{sheet.name} takes no such file in a story. Take frame {place + 1} out."
            yield Finding(Level.STOPS, "kind", f"media/{place}", words)
        elif rule is not None and not frame.rendered and frame.format not in rule.formats:
            taken = ", ".join(rule.formats).upper()
            words = f"Frame {place + 1} is {frame.format.upper()}; {sheet.name} takes {taken}."
            yield Finding(Level.STOPS, "format", f"media/{place}", words, taken, frame.format)
        caption = content.shown[frame.asset].words if frame.asset in content.shown else None
        if caption and (wrong := unstorable_reason(caption)):
            yield Finding(Level.STOPS, "unusable", f"media/{place}", wrong)


def check_story(frames: Sequence[MediaFacts], has_link: bool, followers: int | None, sheet: RuleSheet) -> list[Finding]:
    """What the sheet says of a story. `followers` None: not known, so not held against the link."""
    rule = sheet.story
    if rule is None:
        return [Finding(Level.STOPS, "forbidden", "media", f"{sheet.name} has no stories. Post it the usual way.")]
    return list(_frame_findings(frames, has_link, followers, rule, sheet.name))


def _frame_findings(
    frames: Sequence[MediaFacts], has_link: bool, followers: int | None, rule: StoryRule, name: str
) -> Iterator[Finding]:
    if not frames:
        yield Finding(Level.STOPS, "required", "media", f"A story on {name} needs a picture or a video. Add one.")
    if len(frames) > rule.max_frames:
        words = f"{name} takes {rule.max_frames} frames at a time; this has {len(frames)}. Take out {len(frames) - rule.max_frames}."
        yield Finding(Level.STOPS, "media_count", "media", words, str(rule.max_frames), str(len(frames)))
    for place, frame in enumerate(frames):
        field = f"media/{place}"
        low, high = rule.min_ratio or 0, rule.max_ratio or float("inf")
        if not low <= frame.ratio <= high:
            shape = format_ratio(frame.width, frame.height)
            taken = format_ratio(*rule.shape)
            words = f"Frame {place + 1} is {shape}; a story on {name} is {taken}. Crop it to fit."
            yield Finding(Level.STOPS, "shape", field, words, taken, shape)
        if rule.max_seconds is not None and (frame.seconds or 0) > rule.max_seconds:
            words = f"Frame {place + 1} lasts {frame.seconds:g} s; {name} takes {rule.max_seconds:g} s. Shorten it."
            yield Finding(Level.STOPS, "too_long", field, words, f"{rule.max_seconds:g} s", f"{frame.seconds:g} s")
    needed = rule.link_followers
    if has_link and needed is not None and followers is not None and followers < needed:
        words = (
            f"A link on a {name} story needs {needed:,} followers; this profile has {followers:,}. Take the link out."
        )
        yield Finding(Level.STOPS, "followers", "link", words, str(needed), str(followers))
