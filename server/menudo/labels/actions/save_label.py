"""Make, rename, re-ink and delete labels."""

from django.db import IntegrityError, transaction

from menudo.base.live import publish_change
from menudo.base.problems import InvalidError
from menudo.base.rows import first_or_404
from menudo.base.sentences import say
from menudo.base.storable import storage_refusal
from menudo.history.actions.record_event import record_event
from menudo.labels.models import Ink, Label
from menudo.people.capabilities import Capability
from menudo.people.context import BrandContext

MAX_LABELS = 200


def save_label(context: BrandContext, label_id: int | None, name: str, ink: str) -> Label:
    """A new label (`label_id` None), or one changed. Raises InvalidError, NotFoundError."""
    context.require(Capability.WRITE)
    label = label_of(context, label_id) if label_id is not None else Label(brand=context.brand)
    name = " ".join(name.split())
    if words := storage_refusal(name) or (None if name else say("label.nameless")):
        raise InvalidError.at("/name", words)
    if ink not in Ink.values:
        raise InvalidError.at("/ink", say("ink.unknown", ink=ink[:20]))
    if label_id is None and Label.objects.filter(brand=context.brand).count() >= MAX_LABELS:
        raise too_many_labels("/name")
    try:
        with transaction.atomic():
            label.name, label.ink = name, ink
            label.save()
            record_event(context.brand.pk, context.actor, "keep_label", "label", label.pk, say("label.kept", name=name))
            publish_change(context.brand.pk, "label", label.pk)
    except IntegrityError:
        raise InvalidError.at("/name", say("label.name_taken")) from None
    return label


def too_many_labels(pointer: str) -> InvalidError:
    return InvalidError.at(pointer, say("label.many", most=MAX_LABELS))


def delete_label(context: BrandContext, label_id: int) -> None:
    """Its posts stay, without it; slots kept for it are open to anything."""
    context.require(Capability.WRITE)
    with transaction.atomic():
        label = label_of(context, label_id)
        record_event(
            context.brand.pk, context.actor, "delete_label", "label", label.pk, say("label.deleted", name=label.name)
        )
        label.delete()
        publish_change(context.brand.pk, "label", label_id)


def label_of(context: BrandContext, label_id: int) -> Label:
    """A label of the brand. Raises NotFoundError."""
    return first_or_404(Label.objects.filter(brand=context.brand, pk=label_id))
