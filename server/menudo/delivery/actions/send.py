"""Send one delivery through the wire: media, then the post. Never blind: what may have gone out is asked about first."""

import structlog

from menudo.delivery.actions.claim import claim, next_due, still_mine
from menudo.delivery.actions.end_connection import end_connection
from menudo.delivery.actions.set_aside import set_aside
from menudo.delivery.actions.settle import settle
from menudo.library import files
from menudo.library.models import Asset
from menudo.posts.checking import findings_of
from menudo.posts.models import Delivery, own_of
from menudo.profiles.actions.token import working_token
from menudo.profiles.models import Connection
from menudo.profiles.sheets import sheet_for
from menudo.profiles.wire import sign_in
from menudo.profiles.wire.micropub import Micropub
from menudo.profiles.wire.protocol import Attachment
from menudo_core.media.facts import MediaFacts
from menudo_core.networks.check import asked
from menudo_core.networks.content import Content, inherit
from menudo_core.networks.findings import Level
from menudo_core.sending.decide import Answer, Outcome

log = structlog.get_logger(__name__)
_MOST_IN_A_ROW = 50


class LeaseLost(Exception):
    """Another worker has taken the delivery over; this one stops without a trace."""


def send(id: int) -> None:
    """Send a delivery if it is this worker's to send, then what else of its profile has come due meanwhile."""
    delivery = claim(id)
    for _ in range(_MOST_IN_A_ROW):
        if delivery is None:
            return
        with structlog.contextvars.bound_contextvars(
            delivery=delivery.pk, profile=delivery.profile_id, tries=delivery.tries
        ):
            try:
                if not set_aside(delivery):
                    content = _content(delivery)
                    settle(delivery, _try(delivery, content), content)
            except LeaseLost:
                log.warning("lease_lost")
                return
        following = next_due(delivery.profile_id)
        delivery = claim(following) if following else None


def _content(delivery: Delivery) -> Content:
    version = delivery.post.versions.filter(network=delivery.profile.network).first()
    return inherit(delivery.post.content, own_of(version.own if version else {}))


def _try(delivery: Delivery, content: Content) -> Answer:
    profile = delivery.profile
    connection = profile.connection
    if connection is None:
        return Answer(Outcome.NOT_AUTHORISED)
    by_id = (
        {a.pk: a for a in Asset.objects.filter(brand_id=delivery.brand_id, pk__in=content.media)}
        if content.media
        else {}
    )
    assets = [by_id[id] for id in content.media if id in by_id]
    stops = [
        f for f in findings_of(delivery.brand_id, profile.network, content, _facts(assets)) if f.level is Level.STOPS
    ]
    # What was begun may be there already, whatever the wording says now: that is asked first.
    if stops and delivery.step != Delivery.Step.CREATE:
        return Answer(Outcome.REFUSED, f"Menudo did not send it. {stops[0].words}")
    try:
        token = working_token(connection)
        answer = _through(
            Micropub(sign_in.client_for(connection.endpoints), connection.endpoints, token), delivery, content, assets
        )
        if answer.outcome is Outcome.NOT_AUTHORISED:
            token = working_token(connection, refused=token)
            answer = _through(
                Micropub(sign_in.client_for(connection.endpoints), connection.endpoints, token),
                delivery,
                content,
                assets,
            )
    except sign_in.Ended:
        answer = Answer(Outcome.NOT_AUTHORISED)
    except sign_in.NetworkError as error:
        return Answer(Outcome.DOWN, str(error))
    if answer.outcome is Outcome.NOT_AUTHORISED:
        end_connection(Connection.objects.get(pk=connection.pk))
    return answer


def _facts(assets: list[Asset]) -> dict[int, MediaFacts]:
    return {a.pk: a.facts for a in assets}


def _through(adapter: Micropub, delivery: Delivery, content: Content, assets: list[Asset]) -> Answer:
    if delivery.step == Delivery.Step.CREATE:
        known = _was_it_done(adapter, delivery)
        if known is not None:
            return known
    attached = []
    for asset in assets:
        _hold_on(delivery, Delivery.Step.MEDIA)
        kind = "video" if asset.kind == "video" else "image"
        answer = adapter.send_media(
            files.path(asset.sha256).read_bytes(), f"{asset.sha256}.{asset.format}", f"{kind}/{asset.format}"
        )
        if answer.outcome is not Outcome.DONE:
            return answer
        attached.append(Attachment(answer.url, asset.kind, asset.alt))
    _hold_on(delivery, Delivery.Step.CREATE)
    log.info("creating")
    sheet = sheet_for(delivery.brand_id, delivery.profile.network)
    fields = {rule.name: content.fields[rule.name].strip() for rule in asked(sheet, content)}
    more = {**fields, **({"link": content.link.strip()} if content.link.strip() else {})}
    return adapter.create(delivery.profile.remote_id, str(delivery.key), content.text, attached, more)


def _was_it_done(adapter: Micropub, delivery: Delivery) -> Answer | None:
    """What the network says of the key of an earlier try; None: it did not act on it, so it can be sent."""
    if not sheet_for(delivery.brand_id, delivery.profile.network).wire.knows_keys:
        return Answer(Outcome.UNSURE)
    known = adapter.known(str(delivery.key))
    if not known.told:
        refused = known.answer is None or known.answer.outcome in (Outcome.REFUSED, Outcome.DONE)
        return Answer(Outcome.UNSURE) if refused else known.answer
    if known.url:
        log.info("found_there_already")
        return Answer(Outcome.DONE, url=known.url)
    return None


def _hold_on(delivery: Delivery, step: str) -> None:
    if not still_mine(delivery, step):
        raise LeaseLost()
