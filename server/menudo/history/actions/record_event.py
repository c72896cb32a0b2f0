"""Record what was done."""

from collections.abc import Iterable
from dataclasses import dataclass
from datetime import timedelta
from typing import Any

from menudo.base import clock
from menudo.base.sentences import Sentence, render
from menudo.history.models import HistoryEvent
from menudo.history.sentences import SENTENCES
from menudo.history.serializers import store_sentence

_JOIN_WINDOW = timedelta(minutes=10)


@dataclass(frozen=True, slots=True)
class Actor:
    """Who acts: a person (id and name) or Menudo itself (id None)."""

    id: int | None
    name: str


MENUDO = Actor(None, "Menudo")


def record_event(
    brand: int,
    actor: Actor,
    verb: str,
    kind: str,
    object_id: int,
    sentence: Sentence,
    before: dict[str, Any] | None = None,
    after: dict[str, Any] | None = None,
    join: bool = False,
) -> HistoryEvent:
    """Keep an entry in the brand's history; part of the caller's transaction.

    `join`: what the same person did to the same thing a moment before becomes one entry with this, so that keeping by
    itself while someone types doesn't bury all else.
    """
    if join and (newest := _joinable_event(brand, actor, verb, kind, object_id)):
        _write_sentence(newest, sentence)
        newest.after, newest.occurred_at = after or {}, clock.now()
        newest.save(update_fields=["code", "params", "summary", "after", "occurred_at"])
        return newest
    new = build_event(brand, actor, verb, kind, object_id, sentence, before, after)
    new.save(force_insert=True)
    return new


def build_event(
    brand: int,
    actor: Actor,
    verb: str,
    kind: str,
    object_id: int,
    sentence: Sentence,
    before: dict[str, Any] | None = None,
    after: dict[str, Any] | None = None,
) -> HistoryEvent:
    """An entry, not kept yet."""
    event = HistoryEvent(
        brand_id=brand,
        actor_id=actor.id,
        actor_name=actor.name,
        verb=verb,
        kind=kind,
        object_id=object_id,
        before=before or {},
        after=after or {},
    )
    _write_sentence(event, sentence)
    return event


def _write_sentence(event: HistoryEvent, sentence: Sentence) -> None:
    store_sentence(event, sentence)
    event.summary = render(SENTENCES, sentence)[:300]


def record_events(entries: Iterable[HistoryEvent]) -> None:
    """Keep several entries: one statement; part of the caller's transaction."""
    HistoryEvent.objects.bulk_create(entries)


def _joinable_event(brand: int, actor: Actor, verb: str, kind: str, object_id: int) -> HistoryEvent | None:
    newest = HistoryEvent.objects.filter(brand_id=brand, kind=kind, object_id=object_id).order_by("-id").first()
    if newest is None or newest.verb != verb or newest.actor_id != actor.id:
        return None
    return newest if clock.now() - newest.occurred_at < _JOIN_WINDOW else None
