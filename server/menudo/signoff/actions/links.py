"""A client's link for signing off: made, taken back, opened."""

from collections.abc import Sequence
from datetime import timedelta

from django.conf import settings
from django.db import transaction

from menudo.base import clock
from menudo.base.problems import Fault, Invalid, NotFound
from menudo.base.tokens import hashed, new_token
from menudo.history.actions.record import record
from menudo.people.capabilities import May
from menudo.people.here import Here
from menudo.people.models import Membership
from menudo.profiles.models import Profile
from menudo.signoff.models import SignLink
from menudo_core.text.clean import unusable


def offer(
    place: Here, called: str, user: int | None, profiles: Sequence[int], may_edit: bool, days: int
) -> tuple[SignLink, str]:
    """The link, and its token: shown once, kept as a hash. `user`: a person of the brand for whom it answers. Raises Invalid."""
    place.needs(May.MANAGE_PEOPLE)
    called, faults = called.strip(), []
    if not called or unusable(called):
        faults.append(Fault("/called", unusable(called) or "Say whom the link is for.", "missing"))
    if user is not None and not Membership.objects.filter(
        brand=place.brand, user=user, capabilities__contains=[May.SIGN_OFF]
    ):
        faults.append(Fault("/user", "That person may not sign off in this brand.", "foreign"))
    known = set(Profile.objects.filter(brand=place.brand, pk__in=profiles).values_list("pk", flat=True))
    faults += [
        Fault(f"/profiles/{n}", "This profile isn't one of this brand's.", "foreign")
        for n, id in enumerate(profiles) if id not in known
    ]  # fmt: skip
    if faults:
        raise Invalid(faults=faults)
    token = new_token()
    with transaction.atomic():
        link = SignLink.objects.create(
            brand=place.brand, token_hash=hashed(token), called=called, user_id=user, profiles=sorted(known),
            may_edit=may_edit, by=place.user, ends=clock.now() + timedelta(days=days),
        )  # fmt: skip
        record(place.brand.pk, place.actor, "offer", "sign_link", link.pk, f"made a link for {called} to sign off")
    return link, token


def revoke(place: Here, id: int) -> None:
    """The link leads nowhere from now on; what was answered by it stands. Raises NotFound."""
    place.needs(May.MANAGE_PEOPLE)
    with transaction.atomic():
        link = SignLink.objects.select_for_update().filter(brand=place.brand, pk=id, revoked=None).first()
        if link is None:
            raise NotFound()
        link.revoked = clock.now()
        link.save(update_fields=["revoked"])
        record(
            place.brand.pk,
            place.actor,
            "revoke",
            "sign_link",
            link.pk,
            f"took back the link with which {link.called} signs off",
        )


def open_link(token: str) -> SignLink:
    """The link of a token that is still good. Raises NotFound for any other."""
    link = SignLink.objects.select_related("brand", "by", "user").filter(token_hash=hashed(token), revoked=None).first()
    if link is None or link.ends < clock.now() or not _may_still(link):
        raise NotFound("This link has ended or was taken back. Ask for a new one.")
    return link


def _may_still(link: SignLink) -> bool:
    """A link that answers for a person does so only while that person may."""
    may = Membership.objects.filter(brand=link.brand, user=link.user_id, capabilities__contains=[May.SIGN_OFF])
    return link.user_id is None or may.exists()


def address(token: str) -> str:
    """Where the link leads."""
    return f"{settings.PUBLIC_URL}/sign/{token}"
