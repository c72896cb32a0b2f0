"""Keep a view and its filter under a name, and delete it."""

from django.db import IntegrityError, transaction

from menudo.base.live import tell
from menudo.base.problems import Forbidden, Invalid, NotFound
from menudo.calendar.models import KeptView
from menudo.people.capabilities import May
from menudo.people.here import Here
from menudo_core.text.clean import unusable

_MOST = 60
_KNOWN = frozenset({"view", "sets", "profiles", "networks", "states", "labels", "campaigns", "people", "words", "sort"})


def keep_view(place: Here, name: str, query: dict[str, str], shared: bool) -> KeptView:
    """Keep it, over one of one's own of that name. Sharing it with the brand takes the right to write. Raises Invalid."""
    name = " ".join(name.split())
    if words := unusable(name) or ("" if name else "Give the view a name."):
        raise Invalid.at("/name", words)
    kept = {key: value for key, value in query.items() if value}
    if foreign := sorted(set(kept) - _KNOWN):
        raise Invalid.at(f"/query/{foreign[0]}", "A view keeps no such thing.", "choice")
    for key, value in kept.items():
        if bad := unusable(value):
            raise Invalid.at(f"/query/{key}", bad)
    if shared:
        place.needs(May.WRITE)
    mine = KeptView.objects.filter(brand=place.brand, user=place.user)
    before = mine.filter(name__iexact=name).first()
    if before is None and mine.count() >= _MOST:
        raise Invalid.at("/name", f"You have kept {_MOST} views. Delete one first.", "many")
    view = before or KeptView(brand=place.brand, user=place.user)
    view.name, view.query, view.shared = name, kept, shared
    try:
        with transaction.atomic():
            view.save()
            tell(place.brand.pk, "view", view.pk)
    except IntegrityError:
        raise Invalid.at("/name", "There is a view of that name already.", "twice") from None
    return view


def delete_view(place: Here, id: int) -> None:
    """One's own; somebody else's shared one takes the right to edit what others made."""
    view = KeptView.objects.filter(brand=place.brand, pk=id).first()
    if view is None or (view.user_id != place.user.pk and not view.shared):
        raise NotFound()
    if view.user_id != place.user.pk and May.EDIT_OTHERS not in place.capabilities:
        raise Forbidden("This view is someone else's.")
    with transaction.atomic():
        view.delete()
        tell(place.brand.pk, "view", id)
