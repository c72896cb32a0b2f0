"""Who I am, and the live stream of a brand."""

from django.http import HttpRequest
from ninja import Router

from menudo.people.here import signed_in
from menudo.people.models import Membership, User
from menudo.people.schemas import BrandOut, MeIn, MeOut

router = Router(tags=["people"])


def _me(user: User) -> MeOut:
    members = Membership.objects.filter(user=user).select_related("brand").order_by("brand__name")
    brands = [
        BrandOut(
            slug=m.brand.slug, name=m.brand.name, zone=m.brand.zone, ink=m.brand.ink,
            role=m.role, capabilities=m.capabilities, needs_signoff=m.brand.needs_signoff,
        )
        for m in members
    ]  # fmt: skip
    return MeOut(id=user.pk, name=user.name, email=user.email, clock24=user.clock24, brands=brands)


@router.get("/me", response=MeOut, operation_id="me")
def me(request: HttpRequest) -> MeOut:
    """The signed-in person and their brands."""
    return _me(signed_in(request))


@router.patch("/me", response=MeOut, operation_id="changeMe")
def change_me(request: HttpRequest, data: MeIn) -> MeOut:
    """Change how times are written for me."""
    user = signed_in(request)
    user.clock24 = data.clock24
    user.save(update_fields=["clock24"])
    return _me(user)
