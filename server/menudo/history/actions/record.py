"""Record what was done."""

from dataclasses import dataclass
from typing import Any

from menudo.history.models import Entry


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
) -> Entry:
    """Keep an entry in the brand's history; part of the caller's transaction."""
    return Entry.objects.create(
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
