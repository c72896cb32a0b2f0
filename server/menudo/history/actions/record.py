"""Record what was done."""

from collections.abc import Iterable
from dataclasses import dataclass
from datetime import timedelta
from typing import Any

from menudo.base import clock
from menudo.history.models import Entry

_JOINS = timedelta(minutes=10)


@dataclass(frozen=True, slots=True)
class Actor:
    """Who acts: a person (id and name) or Menudo itself (id None)."""

    id: int | None
    name: str


MENUDO = Actor(None, "Menudo")


def record(
    brand: int,
    actor: Actor,
    verb: str,
    kind: str,
    object_id: int,
    words: str,
    before: dict[str, Any] | None = None,
    after: dict[str, Any] | None = None,
    join: bool = False,
) -> Entry:
    """Keep an entry in the brand's history; part of the caller's transaction.

    `join`: what the same person did to the same thing a moment before becomes one entry with this, so that keeping by
    itself while someone types doesn't bury all else.
    """
    if join and (newest := _to_join(brand, actor, verb, kind, object_id)):
        newest.words, newest.after, newest.at = words[:300], after or {}, clock.now()
        newest.save(update_fields=["words", "after", "at"])
        return newest
    new = entry(brand, actor, verb, kind, object_id, words, before, after)
    new.save(force_insert=True)
    return new


def entry(
    brand: int,
    actor: Actor,
    verb: str,
    kind: str,
    object_id: int,
    words: str,
    before: dict[str, Any] | None = None,
    after: dict[str, Any] | None = None,
) -> Entry:
    """An entry, not kept yet."""
    return Entry(
        brand_id=brand,
        actor_id=actor.id,
        actor_name=actor.name,
        verb=verb,
        kind=kind,
        object_id=object_id,
        words=words[:300],
        before=before or {},
        after=after or {},
    )


def record_all(entries: Iterable[Entry]) -> None:
    """Keep several entries: one statement; part of the caller's transaction."""
    Entry.objects.bulk_create(entries)


def _to_join(brand: int, actor: Actor, verb: str, kind: str, object_id: int) -> Entry | None:
    newest = Entry.objects.filter(brand_id=brand, kind=kind, object_id=object_id).order_by("-id").first()
    if newest is None or newest.verb != verb or newest.actor_id != actor.id:
        return None
    return newest if clock.now() - newest.at < _JOINS else None
