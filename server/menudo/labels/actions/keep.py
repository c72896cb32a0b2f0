"""Make, rename, re-ink and delete labels."""

from django.db import IntegrityError, transaction

from menudo.base.live import tell
from menudo.base.problems import Invalid
from menudo.base.rows import the_one
from menudo.history.actions.record import record
from menudo.labels.models import Ink, Label
from menudo.people.capabilities import May
from menudo.people.here import Here
from menudo_core.text.clean import unusable

_MOST = 200


def keep_label(place: Here, id: int | None, name: str, ink: str) -> Label:
    """A new label (`id` None), or one changed. Raises Invalid, NotFound."""
    place.needs(May.WRITE)
    label = label_of(place, id) if id is not None else Label(brand=place.brand)
    name = " ".join(name.split())
    if words := unusable(name) or ("" if name else "Give the label a name."):
        raise Invalid.at("/name", words)
    if ink not in Ink.values:
        raise Invalid.at("/ink", f"There is no ink “{ink[:20]}”.", "choice")
    if id is None and Label.objects.filter(brand=place.brand).count() >= _MOST:
        raise Invalid.at("/name", f"There are {_MOST} labels already. Delete one that isn't used.", "many")
    try:
        with transaction.atomic():
            label.name, label.ink = name, ink
            label.save()
            record(place.brand.pk, place.actor, "keep_label", "label", label.pk, f"kept the label {name}")
            tell(place.brand.pk, "label", label.pk)
    except IntegrityError:
        raise Invalid.at("/name", "There is a label of that name already.", "twice") from None
    return label


def delete_label(place: Here, id: int) -> None:
    """Its posts stay, without it; slots kept for it are open to anything."""
    place.needs(May.WRITE)
    with transaction.atomic():
        label = label_of(place, id)
        record(place.brand.pk, place.actor, "delete_label", "label", label.pk, f"deleted the label {label.name}")
        label.delete()
        tell(place.brand.pk, "label", id)


def label_of(place: Here, id: int) -> Label:
    """A label of the brand. Raises NotFound."""
    return the_one(Label.objects.filter(brand=place.brand, pk=id))
