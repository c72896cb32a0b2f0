"""Get a post ready for the wire: every file to the media endpoint, as the version shows it."""

import time
from collections.abc import Callable
from dataclasses import dataclass, replace
from pathlib import Path
from typing import BinaryIO

from django.conf import settings

from menudo.library import files, rendering
from menudo.library.media_preparation import UnreadableMediaError
from menudo.library.models import Asset
from menudo.library.rendering import RenderedFile
from menudo.library.video_frames import draw_frame
from menudo.networks.protocol import Adapter, Attachment, LinkCard, OutgoingPost
from menudo.posts.models import Delivery
from menudo_core.media.facts import MediaKind
from menudo_core.media.presentation import UNCHANGED, MediaPresentation
from menudo_core.networks.check import applicable_fields
from menudo_core.networks.content import STORY, Card, Content
from menudo_core.networks.sheet import RuleSheet
from menudo_core.sending.decision import NetworkResponse, Outcome

_COVER = (1280, 1280)


class NotSentError(Exception):
    """A file could not be given to the network; `response` says why."""

    def __init__(self, response: NetworkResponse) -> None:
        self.response = response
        super().__init__(response.message)


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
        return [self.by_id[asset_id] for asset_id in content.media if asset_id in self.by_id]


def build_outgoing(
    adapter: Adapter, destination: str, content: Content, assets: Assets, sheet: RuleSheet, step: Callable[[], None]
) -> OutgoingPost:
    """The post with its files at the network. `step` is called before each file and while it flows. Raises NotSentError."""
    sender = _MediaSender(adapter, destination, sheet, step)
    media = [sender.medium(a, content.shown.get(a.pk, UNCHANGED), content.form, assets) for a in assets.media(content)]
    fields = {rule.name: content.fields[rule.name].strip() for rule in applicable_fields(sheet, content)}
    link = content.link.strip()
    if content.form == STORY:
        return OutgoingPost("", media, link, {}, STORY)
    card = sender.card(content.card, assets) if content.card and link and not media else None
    return OutgoingPost(content.text, media, link, fields, card=card)


class _Renewal:
    """Calls `step` every so often, however often it is called itself: a lease is renewed while a file flows."""

    def __init__(self, step: Callable[[], None]) -> None:
        self._step, self._every = step, settings.LEASE.total_seconds() / 4
        self._last = time.monotonic()

    def __call__(self) -> None:
        if time.monotonic() - self._last > self._every:
            self._step()
            self._last = time.monotonic()


class _Upload:
    """A file on its way: read piece by piece, and `step` is called every so often while its bytes flow, since one large file
    may take longer than a lease. Raises NotSentError when it takes longer than any may (settings.UPLOAD_SECONDS)."""

    def __init__(self, file: BinaryIO, step: Callable[[], None]) -> None:
        self._file, self._renew = file, _Renewal(step)
        self._ends = time.monotonic() + settings.UPLOAD_SECONDS

    def seek(self, offset: int, whence: int = 0) -> int:
        return self._file.seek(offset, whence)

    def tell(self) -> int:
        return self._file.tell()

    def read(self, size: int = -1) -> bytes:
        if time.monotonic() > self._ends:
            raise NotSentError(NetworkResponse(Outcome.DOWN, "it takes a file too slowly"))
        self._renew()
        return self._file.read(size)


@dataclass(frozen=True, slots=True)
class _MediaSender:
    adapter: Adapter
    destination: str
    sheet: RuleSheet
    step: Callable[[], None]

    def medium(self, asset: Asset, showing: MediaPresentation, form: str, assets: Assets) -> Attachment:
        rule = self.sheet.media.kinds.get(MediaKind(asset.kind))
        self._file(asset)
        drawn = rendering.render_outgoing(asset, showing, rule)
        url = self.give(drawn, asset.sha256, "video" if asset.kind == "video" else "image")
        sent = Attachment(url, asset.kind, asset.alt, focus=showing.focus)
        if form == STORY:
            return replace(sent, words=showing.words or "", words_at=showing.words_at or "foot")
        if self.sheet.media.people is not None:
            sent = replace(sent, people=showing.people or ())
        if asset.kind == "video" and self.sheet.media.cover:
            sent = replace(sent, cover=self._cover(asset, showing, assets))
        return sent

    def _file(self, asset: Asset) -> Path:
        """Where it lies on this machine, once it does. Raises NotSentError."""
        try:
            return files.file_path(asset.sha256, step=_Renewal(self.step))
        except files.MediaStoreError as error:
            raise NotSentError(NetworkResponse(Outcome.DOWN, error.words)) from error

    def _cover(self, asset: Asset, showing: MediaPresentation, assets: Assets) -> str:
        """The video's thumbnail at the network: a picture, or a frame; empty: the network chooses."""
        if showing.cover and showing.cover in assets.by_id:
            cover = assets.by_id[showing.cover]
            return self.give(RenderedFile(self._file(cover), cover.format), cover.sha256, "image")
        if showing.cover_at is None:
            return ""
        try:
            frame = draw_frame(self._file(asset), showing.cover_at, "JPEG", _COVER)
        except UnreadableMediaError as error:
            raise NotSentError(NetworkResponse(Outcome.DOWN, str(error))) from error
        return self.give(RenderedFile(frame, "jpeg"), f"{asset.sha256}-cover", "image")

    def card(self, card: Card, assets: Assets) -> LinkCard:
        picture = assets.by_id.get(card.picture or 0)
        url = ""
        if picture is not None:
            url = self.give(RenderedFile(self._file(picture), picture.format), picture.sha256, "image")
        return LinkCard(card.title, card.description, url)

    def give(self, drawn: RenderedFile, name: str, kind: str) -> str:
        """The file's address at the network's media endpoint. Raises NotSentError."""
        self.step()
        with drawn.open() as file:
            upload = _Upload(file, self.step)
            answer = self.adapter.upload(self.destination, upload, f"{name}.{drawn.format}", f"{kind}/{drawn.format}")
        if answer.outcome is not Outcome.DONE:
            raise NotSentError(answer)
        return answer.url
