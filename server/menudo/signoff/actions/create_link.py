"""A client's link for signing off: made, taken back, opened."""

from collections.abc import Sequence
from datetime import timedelta

from django.conf import settings
from django.db import transaction

from menudo.base import clock
from menudo.base.problems import Fault, InvalidError, NotFoundError
from menudo.base.sentences import say
from menudo.base.storable import storage_refusal
from menudo.base.tokens import hash_token, new_token
from menudo.history.actions.record_event import record_event
from menudo.people.capabilities import Capability
from menudo.people.context import BrandContext
from menudo.people.models import Membership
from menudo.profiles.models import Profile
from menudo.signoff.models import SignLink


def create_link(
    context: BrandContext, display_name: str, user: int | None, profiles: Sequence[int], may_edit: bool, days: int
) -> tuple[SignLink, str]:
    """The link, and its token: shown once, kept as a hash. `user`: a person of the brand for whom it answers. Raises InvalidError."""
    context.require(Capability.MANAGE_PEOPLE)
    display_name, faults = display_name.strip(), []
    if not display_name or storage_refusal(display_name):
        faults.append(Fault("/display_name", storage_refusal(display_name) or say("link.nameless")))
    if user is not None and not Membership.objects.filter(
        brand=context.brand, user=user, capabilities__contains=[Capability.SIGN_OFF]
    ):
        faults.append(Fault("/user", say("signoff.person")))
    known = set(Profile.objects.filter(brand=context.brand, pk__in=profiles).values_list("pk", flat=True))
    faults += [
        Fault(f"/profiles/{n}", say("profile.foreign"))
        for n, profile_id in enumerate(profiles)
        if profile_id not in known
    ]
    if faults:
        raise InvalidError(faults=faults)
    token = new_token()
    with transaction.atomic():
        link = SignLink.objects.create(
            brand=context.brand,
            token_hash=hash_token(token),
            display_name=display_name,
            user_id=user,
            profiles=sorted(known),
            may_edit=may_edit,
            created_by=context.user,
            expires_at=clock.now() + timedelta(days=days),
        )
        record_event(
            context.brand.pk,
            context.actor,
            "offer",
            "sign_link",
            link.pk,
            say("sign_link.made", name=display_name),
        )
    return link, token


def revoke_link(context: BrandContext, link_id: int) -> None:
    """The link leads nowhere from now on; what was answered by it stands. Raises NotFoundError."""
    context.require(Capability.MANAGE_PEOPLE)
    with transaction.atomic():
        link = (
            SignLink.objects.select_for_update(no_key=True)
            .filter(brand=context.brand, pk=link_id, revoked_at=None)
            .first()
        )
        if link is None:
            raise NotFoundError()
        link.revoked_at = clock.now()
        link.save(update_fields=["revoked_at"])
        record_event(
            context.brand.pk,
            context.actor,
            "revoke",
            "sign_link",
            link.pk,
            say("sign_link.revoked", name=link.display_name),
        )


def open_link(token: str) -> SignLink:
    """The link of a token that is still good. Raises NotFoundError for any other."""
    link = (
        SignLink.objects.select_related("brand", "created_by", "user")
        .filter(token_hash=hash_token(token), revoked_at=None)
        .first()
    )
    if link is None or link.expires_at < clock.now() or not _is_still_valid(link):
        raise NotFoundError(say("link.ended"))
    return link


def _is_still_valid(link: SignLink) -> bool:
    """A link that answers for a person does so only while that person may."""
    may = Membership.objects.filter(brand=link.brand, user=link.user_id, capabilities__contains=[Capability.SIGN_OFF])
    return link.user_id is None or may.exists()


def link_address(token: str) -> str:
    """Where the link leads."""
    return f"{settings.PUBLIC_URL}/sign/{token}"
