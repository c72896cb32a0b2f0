"""The relay board and its log as pages need them."""

from collections import Counter
from collections.abc import Iterable
from datetime import datetime, timedelta

from django.db.models import Prefetch, QuerySet

from menudo.catalogue.models import Catalogue
from menudo.feeds.models import Feed
from menudo.labels.models import Label
from menudo.people.context import BrandContext
from menudo.posts.models import Delivery, Post
from menudo.posts.serializers import load_content
from menudo.profiles.models import Profile
from menudo.relays import schemas
from menudo.relays.models import Firing, Relay
from menudo.relays.sample import describe_relay
from menudo.relays.serializers import default_settings, load_item_data, load_messages, title_for
from menudo_core.catalogue.events import EventKind
from menudo_core.catalogue.formatting import EVENT_TITLES
from menudo_core.relays.board import find_cycles, find_duplicates
from menudo_core.relays.guard import Verdict
from menudo_core.relays.messages import SourceKind, placeholders_for

_PAGE = 40


def relay_board(context: BrandContext, now: datetime) -> schemas.BoardOut:
    """Every source and every relay of the brand: a fixed number of statements."""
    relays = list(Relay.objects.filter(brand=context.brand).select_related("target"))
    fired_counts = Counter(
        Firing.objects.filter(
            relay__brand=context.brand,
            fired_at__gte=now - timedelta(days=7),
            verdict__in=[Verdict.FIRES, Firing.Asked.ASKED],
        ).values_list("relay", flat=True)
    )
    starts: dict[tuple[str, str], int] = {}
    rows = _board_rows(context, starts)
    names = {_source_key(row.key, row.event, row.event_name): _full_name(row) for row in rows}
    edges = [(_source_key(r.source, r.event, r.event_name), r.target_id) for r in relays]
    asked = question_query(context).count()
    return schemas.BoardOut(
        rows=rows,
        starts=[_start_out(SourceKind(kind), event) for kind, event in starts],
        cells=[cell_out(relay, fired_counts[relay.pk]) for relay in relays],
        cycles=find_cycles(edges),
        duplicates=_duplicates_out(edges, names),
        asked=asked,
    )


def _source_key(key: str, event: str, name: str) -> str:
    """A source's key; the events of a catalogue are sources of their own."""
    return f"{key}|{event}|{name}" if event else key


def _duplicates_out(edges: list[tuple[str, int]], names: dict[str, str]) -> list[schemas.DuplicateOut]:
    return [
        schemas.DuplicateOut(
            source=source,
            target=target,
            summary=f"What appears at {names.get(source, source)} comes to {names.get(f'p{target}', '')} by "
            f"{len(paths)} paths: {', '.join(names.get(one, one) for one in paths)}. Only the first to come is carried.",
        )
        for (source, target), paths in find_duplicates(edges).items()
    ]


def _board_rows(context: BrandContext, starts: dict[tuple[str, str], int]) -> list[schemas.BoardRow]:
    """Every source. `starts` gets the kinds of source (and their events) that there are, numbered as they come."""

    def row(
        key: str, kind: schemas.SourceName, name: str, event: str = "", *, event_name: str = "", group: str = "",
        network: str = "", last_error: str = "",
    ) -> schemas.BoardRow:  # fmt: skip # a source's few words
        start = starts.setdefault((key[0], event), len(starts))
        return schemas.BoardRow(
            key=key, event=event, event_name=event_name, kind=kind, group=group, name=name, network=network,
            last_error=last_error, start=start,
        )  # fmt: skip # a source's few words

    profiles = Profile.objects.filter(brand=context.brand).exclude(state=Profile.State.DISCONNECTED)
    rows = [row(f"p{p.pk}", "profile", p.display_name or p.handle, network=p.network) for p in profiles]
    rows += [
        row(f"f{f.pk}", "feed", f.title, last_error=f.last_error) for f in Feed.objects.filter(brand=context.brand)
    ]
    for one in Catalogue.objects.filter(brand=context.brand):
        about = {"group": one.name, "last_error": one.last_error}
        rows += [row(f"c{one.pk}", "catalogue", words, event.value, **about) for event, words in EVENT_TITLES.items()]
        custom = EventKind.OWN.value
        rows += [row(f"c{one.pk}", "catalogue", r["name"], custom, event_name=r["name"], **about) for r in one.rules]
    rows += [row(f"l{label.pk}", "label", label.name) for label in Label.objects.filter(brand=context.brand)]
    return rows


def _start_out(kind: SourceKind, event: str) -> schemas.BoardStart:
    return schemas.BoardStart(
        defaults=default_settings(kind.value, event), placeholders=[f"{{{one}}}" for one in placeholders_for(kind)]
    )


def _full_name(row: schemas.BoardRow) -> str:
    return f"{row.group}: {row.name}" if row.group else row.name


def cell_out(relay: Relay, fires: int = 0) -> schemas.RelayCellOut:
    """A relay as its cell shows it."""
    return schemas.RelayCellOut(
        id=relay.pk,
        revision=relay.revision,
        target=relay.target_id,
        active=relay.active,
        paused_reason=relay.paused_reason,
        source=schemas.SourceIO(key=relay.source, event=relay.event, event_name=relay.event_name),
        fires=fires,
        summary=describe_relay(relay),
        conditions=relay.conditions,
        adaptation=relay.adaptation,
        messages=[schemas.RelayMessage(text=m.text, times=m.times) for m in load_messages(relay.messages)],
        link_tags=relay.link_tags_id,
        timing=Relay.Timing(relay.timing),
        delay_minutes=relay.delay_minutes,
        confirmation=Relay.Confirmation(relay.confirmation),
        hours_from=relay.hours_from,
        hours_until=relay.hours_until,
        daily_limit=relay.daily_limit,
        hourly_limit=relay.hourly_limit,
    )


def relay_log(context: BrandContext, relay: int | None, page: int) -> schemas.LogOut:
    """What became of what appeared, the latest first; of one relay or of all."""
    firings = Firing.objects.filter(relay__brand=context.brand)
    if relay is not None:
        firings = firings.filter(relay=relay)
    start = (page - 1) * _PAGE
    found = list(_with_related(firings)[start : start + _PAGE + 1])
    return schemas.LogOut(firings=[firing_out(one) for one in found[:_PAGE]], more=len(found) > _PAGE)


def open_questions(context: BrandContext) -> list[schemas.QuestionOut]:
    """What relays ask, the oldest first."""
    asked = _with_related(question_query(context)).order_by("fired_at", "pk")[:100]
    return [_question_out(one, one.post) for one in asked if one.post is not None]


def _question_out(one: Firing, post: Post) -> schemas.QuestionOut:
    content = load_content(post.master)
    return schemas.QuestionOut(firing=firing_out(one), text=content.text, link=content.link, media=list(content.media))


def question_query(context: BrandContext) -> QuerySet[Firing]:
    """What is asked and not answered: neither here nor by planning its draft, or putting it in the bin."""
    return Firing.objects.filter(
        relay__brand=context.brand, verdict=Firing.Asked.ASKED, post__deleted_at=None, post__aside=True
    )


def _with_related(firings: QuerySet[Firing]) -> QuerySet[Firing]:
    deliveries = Prefetch("post__deliveries", Delivery.objects.order_by("pk"))
    return firings.select_related("relay__target", "relay", "item", "post").prefetch_related(deliveries)


def firing_out(one: Firing) -> schemas.FiringOut:
    data = load_item_data(one.item.data)
    out = _target_delivery(one.post.deliveries.all(), one.relay.target_id) if one.post else None
    return schemas.FiringOut(
        id=one.pk,
        relay=one.relay_id,
        source=data.source,
        target=one.relay.target_id,
        title=title_for(data),
        fired_at=one.fired_at,
        occurred_at=one.item.occurred_at,
        verdict=one.verdict,
        explanation=one.explanation,
        post=one.post_id,
        delivery=out.pk if out else None,
        state=out.state if out else "",
    )


def _target_delivery(deliveries: Iterable[Delivery], target: int) -> Delivery | None:
    return next((d for d in deliveries if d.profile_id == target), None)
