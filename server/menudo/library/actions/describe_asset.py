"""Say what an asset shows, and what is to be said with it."""

from collections.abc import Iterable
from dataclasses import dataclass

from django.db import transaction

from menudo.base.live import publish_change
from menudo.base.problems import Fault, InvalidError
from menudo.base.sentences import say
from menudo.base.storable import storage_refusal
from menudo.history.actions.record_event import record_event
from menudo.labels.actions.find_or_create import find_or_create_labels
from menudo.library.models import Asset
from menudo.people.capabilities import Capability
from menudo.people.context import BrandContext


@dataclass(frozen=True, slots=True)
class AssetDescription:
    """What is to change of an asset; None stays as it is. `labels` are names: what there isn't yet is made."""

    name: str | None = None
    alt: str | None = None
    caption: str | None = None
    credit: str | None = None
    labels: list[str] | None = None

    @property
    def texts(self) -> dict[str, str]:
        given = {"name": self.name, "alt": self.alt, "caption": self.caption, "credit": self.credit}
        return {part: text for part, text in given.items() if text is not None}


def describe_asset(context: BrandContext, asset: Asset, changes: AssetDescription) -> Asset:
    """Change what is said of an asset, wherever it is used. Raises InvalidError."""
    context.require(Capability.WRITE)
    if faults := list(_text_faults(changes)):
        raise InvalidError(faults=faults)
    with transaction.atomic():
        before: dict[str, object] = {part: getattr(asset, part) for part in changes.texts}
        after: dict[str, object] = {**changes.texts}
        for part, text in changes.texts.items():
            setattr(asset, part, text)
        asset.save(update_fields=list(changes.texts))
        if changes.labels is not None:
            before["labels"] = [label.name for label in asset.labels.all()]
            labels = find_or_create_labels(context, changes.labels, "/labels")
            asset.labels.set(labels)
            after["labels"] = [label.name for label in labels]
        record_event(
            context.brand.pk,
            context.actor,
            "describe",
            "asset",
            asset.pk,
            say("asset.described", name=asset.name),
            before,
            after,
            join=True,
        )
        publish_change(context.brand.pk, "asset", asset.pk)
    return asset


def _text_faults(changes: AssetDescription) -> Iterable[Fault]:
    for part, text in changes.texts.items():
        if words := storage_refusal(text):
            yield Fault(f"/{part}", words)
    if changes.name is not None and not changes.name.strip():
        yield Fault("/name", say("asset.nameless"))
