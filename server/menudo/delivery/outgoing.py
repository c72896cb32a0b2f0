"""Get a post ready for the wire: every file to the media endpoint, as the version shows it."""

from collections.abc import Callable
from dataclasses import dataclass, replace

from menudo.library import files, rendering, video
from menudo.library.models import Asset
from menudo.posts.models import Delivery
from menudo.profiles.wire.micropub import Micropub
from menudo.profiles.wire.protocol import Attachment, Outgoing, SentCard
from menudo_core.media.facts import MediaKind
from menudo_core.media.showing import PLAIN, Showing
from menudo_core.networks.check import asked
from menudo_core.networks.content import STORY, Card, Content
from menudo_core.networks.sheet import RuleSheet
from menudo_core.sending.decide import Answer, Outcome

_COVER = (1280, 1280)


class NotSent(Exception):
    """A file could not be given to the network; `answer` says why."""

    def __init__(self, answer: Answer) -> None:
        self.answer = answer
        super().__init__(answer.words)


@dataclass(frozen=True, slots=True)
class Assets:
    """Every asset of a content, by id: its media, thumbnails, its card's picture."""

    by_id: dict[int, Asset]

    @classmethod
    def of(cls, delivery: Delivery, content: Content) -> "Assets":
        wanted = {*content.media, *(s.cover for s in content.shown.values() if s.cover)}
        wanted |= {content.card.picture} if content.card and content.card.picture else set()
        found = Asset.objects.filter(brand_id=delivery.brand_id, pk__in=wanted) if wanted else ()
        return cls({a.pk: a for a in found})

    def media(self, content: Content) -> list[Asset]:
        return [self.by_id[id] for id in content.media if id in self.by_id]


def outgoing(
    adapter: Micropub, content: Content, assets: Assets, sheet: RuleSheet, step: Callable[[], None]
) -> Outgoing:
    """The post with its files at the network. `step` is called before each file. Raises NotSent."""
    sender = _Sender(adapter, sheet, step)
    media = [sender.medium(a, content.shown.get(a.pk, PLAIN), content.form, assets) for a in assets.media(content)]
    fields = {rule.name: content.fields[rule.name].strip() for rule in asked(sheet, content)}
    link = content.link.strip()
    if content.form == STORY:
        return Outgoing("", media, link, {}, STORY)
    card = sender.card(content.card, assets) if content.card and link and not media else None
    return Outgoing(content.text, media, link, fields, card=card)


@dataclass(frozen=True, slots=True)
class _Sender:
    adapter: Micropub
    sheet: RuleSheet
    step: Callable[[], None]

    def medium(self, asset: Asset, showing: Showing, form: str, assets: Assets) -> Attachment:
        rule = self.sheet.media.kinds.get(MediaKind(asset.kind))
        drawn = rendering.as_sent(asset, showing, rule)
        url = self.give(drawn.data, asset.sha256, "video" if asset.kind == "video" else "image", drawn.format)
        sent = Attachment(url, asset.kind, asset.alt, focus=showing.focus)
        if form == STORY:
            return replace(sent, words=showing.words or "", words_at=showing.words_at or "foot")
        if self.sheet.media.people is not None:
            sent = replace(sent, people=showing.people or ())
        if asset.kind == "video" and self.sheet.media.cover:
            sent = replace(sent, cover=self._cover(asset, showing, assets))
        return sent

    def _cover(self, asset: Asset, showing: Showing, assets: Assets) -> str:
        """The video's thumbnail at the network: a picture, or a frame; empty: the network chooses."""
        if showing.cover and showing.cover in assets.by_id:
            cover = assets.by_id[showing.cover]
            return self.give(files.path(cover.sha256).read_bytes(), cover.sha256, "image", cover.format)
        if showing.cover_at is None:
            return ""
        frame = video.frame_at(files.path(asset.sha256), showing.cover_at)
        return self.give(video.as_jpeg(frame, _COVER), f"{asset.sha256}-cover", "image", "jpeg")

    def card(self, card: Card, assets: Assets) -> SentCard:
        picture = assets.by_id.get(card.picture or 0)
        url = ""
        if picture is not None:
            url = self.give(files.path(picture.sha256).read_bytes(), picture.sha256, "image", picture.format)
        return SentCard(card.title, card.description, url)

    def give(self, data: bytes, name: str, kind: str, fmt: str) -> str:
        self.step()
        answer = self.adapter.send_media(data, f"{name}.{fmt}", f"{kind}/{fmt}")
        if answer.outcome is not Outcome.DONE:
            raise NotSent(answer)
        return answer.url
