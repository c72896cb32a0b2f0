"""What has changed since somebody last agreed."""

from typing import Any

from menudo.posts.schemas_wording import SegmentOut
from menudo.posts.serializers import load_content
from menudo.posts.signoff_state import DeliverySignoff
from menudo.signoff.models import SignOff
from menudo_core.networks.content import Content
from menudo_core.wording.compare import compare_words


def difference_from_agreed(one: DeliverySignoff) -> tuple[list[SegmentOut] | None, list[str]]:
    """What has changed since somebody last agreed to the delivery: its text by words, and what else. None: nothing has, or
    nobody had."""
    before = last_agreed(one.answers)
    if before is None or (before.fingerprint == one.fingerprint and before.profile_id == one.delivery.profile_id):
        return None, []
    was = load_content(before.content)
    return [SegmentOut(change=s.change, text=s.text) for s in compare_words(was.text, one.content.text)], changed_parts(
        was, one.content
    )


def changed_parts(was: Content, now: Content) -> list[str]:
    """What differs between two wordings beside the text."""
    pairs = (
        ("media", (was.media, _media_presentation(was)), (now.media, _media_presentation(now))),
        ("link", (was.link, was.card), (now.link, now.card)),
        ("first comment", was.first_comment, now.first_comment),
        ("fields", dict(was.fields), dict(now.fields)),
        ("form", was.form, now.form),
        ("link tags", was.link_tags, now.link_tags),
    )
    return [name for name, before, after in pairs if before != after]


def _media_presentation(content: Content) -> dict[int, Any]:
    return {asset: shown for asset, shown in content.shown.items() if asset in content.media}


def last_agreed(answers: list[SignOff]) -> SignOff | None:
    """The last agreement, whoever gave it."""
    return next((a for a in reversed(answers) if a.verdict == "agreed"), None)
