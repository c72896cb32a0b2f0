"""Keep a view and its filter under a name, and delete it."""

from django.db import IntegrityError, transaction

from menudo.base.live import publish_change
from menudo.base.problems import ForbiddenError, InvalidError, NotFoundError
from menudo.base.sentences import say
from menudo.base.storable import storage_refusal
from menudo.calendar.models import SavedView
from menudo.people.capabilities import Capability
from menudo.people.context import BrandContext

_MAX_VIEWS = 60
_QUERY_KEYS = frozenset(
    {"view", "sets", "profiles", "networks", "states", "labels", "campaigns", "people", "words", "sort"}
)


def save_view(context: BrandContext, name: str, query: dict[str, str], shared: bool) -> SavedView:
    """Keep it, over one of one's own of that name. Sharing it with the brand takes the right to write. Raises InvalidError."""
    name = " ".join(name.split())
    if words := storage_refusal(name) or (None if name else say("view.nameless")):
        raise InvalidError.at("/name", words)
    kept = {key: value for key, value in query.items() if value}
    if foreign := sorted(set(kept) - _QUERY_KEYS):
        raise InvalidError.at(f"/query/{foreign[0]}", say("view.unknown_part"))
    for key, value in kept.items():
        if bad := storage_refusal(value):
            raise InvalidError.at(f"/query/{key}", bad)
    if shared:
        context.require(Capability.WRITE)
    mine = SavedView.objects.filter(brand=context.brand, user=context.user)
    before = mine.filter(name__iexact=name).first()
    if before is None and mine.count() >= _MAX_VIEWS:
        raise InvalidError.at("/name", say("view.many", most=_MAX_VIEWS))
    view = before or SavedView(brand=context.brand, user=context.user)
    view.name, view.query, view.shared = name, kept, shared
    try:
        with transaction.atomic():
            view.save()
            publish_change(context.brand.pk, "view", view.pk)
    except IntegrityError:
        raise InvalidError.at("/name", say("view.name_taken")) from None
    return view


def delete_view(context: BrandContext, view_id: int) -> None:
    """One's own; somebody else's shared one takes the right to edit what others made."""
    view = SavedView.objects.filter(brand=context.brand, pk=view_id).first()
    if view is None or (view.user_id != context.user.pk and not view.shared):
        raise NotFoundError()
    if view.user_id != context.user.pk and Capability.EDIT_OTHERS not in context.capabilities:
        raise ForbiddenError(say("view.foreign"))
    with transaction.atomic():
        view.delete()
        publish_change(context.brand.pk, "view", view_id)
