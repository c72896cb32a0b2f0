"""The relay board and its log as pages need them."""

from collections import Counter
from collections.abc import Iterable
from datetime import datetime, timedelta
from typing import Any

from django.db.models import Prefetch, QuerySet

from menudo.catalogue.models import Catalogue
from menudo.feeds.models import Feed
from menudo.labels.models import Label
from menudo.people.here import Here
from menudo.posts.models import Delivery
from menudo.profiles.models import Profile
from menudo.relays.kept import title_of, usual
from menudo.relays.models import Leg, Relay
from menudo.relays.sample import sentence
from menudo_core.catalogue.events import Happened
from menudo_core.catalogue.said import WORDS as EVENT_WORDS
from menudo_core.relays.board import doubles, rings
from menudo_core.relays.guard import Verdict
from menudo_core.relays.says import SourceKind, names_for

_PAGE = 40


def board(place: Here, now: datetime) -> dict[str, Any]:
    """Every source and every relay of the brand: a fixed number of statements."""
    relays = list(Relay.objects.filter(brand=place.brand).select_related("target"))
    fired = Counter(
        Leg.objects.filter(
            relay__brand=place.brand, at__gte=now - timedelta(days=7), verdict__in=[Verdict.FIRES, Leg.Asked.ASKED]
        ).values_list("relay", flat=True)
    )
    rows = _rows(place)
    names = {_station(row["key"], row["event"], row["event_name"]): _full_name(row) for row in rows}
    edges = [(_station(r.source, r.event, r.event_name), r.target_id) for r in relays]
    asked = questions(place).count()
    return {
        "rows": rows, "cells": [cell(relay, fired[relay.pk]) for relay in relays], "rings": rings(edges),
        "doubles": _doubles(edges, names), "asked": asked,
    }  # fmt: skip


def _station(key: str, event: str, name: str) -> str:
    """A source's key; the events of a catalogue are sources of their own."""
    return f"{key}|{event}|{name}" if event else key


def _doubles(edges: list[tuple[str, int]], names: dict[str, str]) -> list[dict[str, Any]]:
    return [
        {
            "source": source, "target": target,
            "words": f"What appears at {names.get(source, source)} comes to {names.get(f'p{target}', '')} by "
            f"{len(paths)} paths: {', '.join(names.get(one, one) for one in paths)}. Only the first to come is carried.",
        }
        for (source, target), paths in doubles(edges).items()
    ]  # fmt: skip


def _rows(place: Here) -> list[dict[str, Any]]:
    profiles = Profile.objects.filter(brand=place.brand).exclude(state=Profile.State.DISCONNECTED)
    rows = [_row(f"p{p.pk}", "profile", p.called or p.handle, network=p.network) for p in profiles]
    rows += [_row(f"f{f.pk}", "feed", f.title, trouble=f.trouble) for f in Feed.objects.filter(brand=place.brand)]
    for one in Catalogue.objects.filter(brand=place.brand):
        about = {"group": one.name, "trouble": one.trouble}
        rows += [_row(f"c{one.pk}", "catalogue", words, event.value, **about) for event, words in EVENT_WORDS.items()]
        own = Happened.OWN.value
        rows += [_row(f"c{one.pk}", "catalogue", r["name"], own, event_name=r["name"], **about) for r in one.rules]
    rows += [_row(f"l{label.pk}", "label", label.name) for label in Label.objects.filter(brand=place.brand)]
    return rows


def _row(key: str, kind: str, name: str, event: str = "", **more: str) -> dict[str, Any]:
    blank = {"event_name": "", "group": "", "network": "", "trouble": ""}
    names = [f"{{{one}}}" for one in names_for(SourceKind(key[0]))]
    said = {"usual": usual(key, event), "placeholders": names}
    return {"key": key, "kind": kind, "name": name, "event": event, **blank, **more, **said}


def _full_name(row: dict[str, Any]) -> str:
    return f"{row['group']}: {row['name']}" if row["group"] else str(row["name"])


def cell(relay: Relay, fires: int = 0) -> dict[str, Any]:
    """A relay as its cell shows it."""
    return {
        "id": relay.pk, "revision": relay.revision, "target": relay.target_id, "on": relay.on, "paused": relay.paused,
        "source": {"key": relay.source, "event": relay.event, "event_name": relay.event_name}, "fires": fires,
        "words": sentence(relay), "conditions": relay.conditions, "shape": relay.shape,
        "messages": [{"text": m["text"], "times": m.get("times")} for m in relay.messages], "link_tags": relay.link_tags_id,
        "how": relay.how, "minutes": relay.minutes, "asks": relay.asks, "goes_from": relay.goes_from,
        "goes_until": relay.goes_until, "per_day": relay.per_day, "ceiling": relay.ceiling,
    }  # fmt: skip


def log(place: Here, relay: int | None, page: int) -> dict[str, Any]:
    """What became of what appeared, the latest first; of one relay or of all."""
    legs = Leg.objects.filter(relay__brand=place.brand)
    if relay is not None:
        legs = legs.filter(relay=relay)
    start = (page - 1) * _PAGE
    found = list(_whole(legs)[start : start + _PAGE + 1])
    return {"legs": [leg(one) for one in found[:_PAGE]], "more": len(found) > _PAGE}


def asked(place: Here) -> list[dict[str, Any]]:
    """What relays ask, the oldest first."""
    return [
        {
            "leg": leg(one), "text": one.post.master.get("text", ""), "link": one.post.master.get("link", ""),
            "media": one.post.master.get("media", []),
        }
        for one in _whole(questions(place)).order_by("at", "pk")[:100]
    ]  # fmt: skip


def questions(place: Here) -> QuerySet[Leg]:
    """What is asked and not answered: neither here nor by planning its draft, or putting it in the bin."""
    return Leg.objects.filter(relay__brand=place.brand, verdict=Leg.Asked.ASKED, post__binned=None, post__aside=True)


def _whole(legs: Any) -> Any:
    deliveries = Prefetch("post__deliveries", Delivery.objects.order_by("pk"))
    return legs.select_related("relay__target", "relay", "appeared", "post").prefetch_related(deliveries)


def leg(one: Leg) -> dict[str, Any]:
    data = one.appeared.data
    out = _out(one.post.deliveries.all(), one.relay.target_id) if one.post else None
    return {
        "id": one.pk, "relay": one.relay_id, "source": data.get("source", ""), "target": one.relay.target_id,
        "title": title_of(data), "at": one.at, "appeared": one.appeared.at,
        "verdict": one.verdict, "words": one.words, "post": one.post_id, "delivery": out.pk if out else None,
        "state": out.state if out else "",
    }  # fmt: skip


def _out(deliveries: Iterable[Delivery], target: int) -> Delivery | None:
    return next((d for d in deliveries if d.profile_id == target), None)
