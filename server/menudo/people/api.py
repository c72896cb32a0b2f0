"""Routes for who I am, brands, the people in them, and invitations."""

from allauth.mfa.adapter import get_adapter
from django.conf import settings
from django.contrib.auth import login
from django.http import HttpRequest
from ninja import Router, Status

from menudo.base.limits import count
from menudo.base.problems import ERRORS, Invalid
from menudo.people.actions.invite import accept, invite, open_invitation, take_back
from menudo.people.actions.keep_brand import change_brand, make_brand
from menudo.people.actions.members import change_member, remove_member
from menudo.people.capabilities import ROLES, May
from menudo.people.here import Here, here, signed_in
from menudo.people.models import Invitation, Membership, User
from menudo.people.schemas import (
    AcceptIn,
    BrandIn,
    BrandOut,
    InvitationOut,
    InvitationPage,
    InviteIn,
    MadeOut,
    MeIn,
    MemberIn,
    MemberOut,
    MeOut,
    PeopleOut,
    RoleOut,
    TotpIn,
)
from menudo_core.signoff.grants import why_not_change
from menudo_core.text.clean import unusable

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
    makes = not brands or any(May.MANAGE_PEOPLE in b.capabilities for b in brands)
    return MeOut(
        id=user.pk,
        name=user.name,
        email=user.email,
        clock24=user.clock24,
        demo=settings.DEMO,
        may_make_brands=makes,
        manages_installation=user.manages_installation,
        brands=brands,
    )


@router.get("/me", response=MeOut, operation_id="me")
def me(request: HttpRequest) -> MeOut:
    """The signed-in person and their brands."""
    return _me(signed_in(request))


@router.patch("/me", response={200: MeOut, **ERRORS}, operation_id="changeMe")
def change_me(request: HttpRequest, data: MeIn) -> MeOut:
    """Change my name, or how times are written for me."""
    user = signed_in(request)
    if data.name is not None:
        name = data.name.strip()
        if not name or unusable(name):
            raise Invalid.at("/name", unusable(name) or "Say what you are called.", "missing")
        user.name = name
    if data.clock24 is not None:
        user.clock24 = data.clock24
    user.save(update_fields=["clock24", "name"])
    return _me(user)


@router.post("/me/totp-picture", response={200: str, **ERRORS}, operation_id="totpPicture")
def totp_picture(request: HttpRequest, data: TotpIn) -> str:
    """The address of a second factor (otpauth:) as a picture to scan, SVG."""
    signed_in(request)
    if not data.address.startswith("otpauth://totp/"):
        raise Invalid.at("/address", "That is not the address of a second factor.")
    return get_adapter().build_totp_svg(data.address)


@router.post("/brands", response={201: MadeOut, **ERRORS}, operation_id="makeBrand")
def new_brand(request: HttpRequest, data: BrandIn) -> Status[MadeOut]:
    """Make a brand; its maker is its coordinator."""
    brand = make_brand(signed_in(request), data.name, data.zone, data.ink)
    return Status(201, MadeOut(slug=brand.slug))


@router.patch("/brands/{brand}", response={204: None, **ERRORS}, operation_id="changeBrand")
def other_brand(request: HttpRequest, brand: str, data: BrandIn) -> Status[None]:
    """Change a brand's name, zone and ink."""
    change_brand(here(request, brand, May.MANAGE_PEOPLE), data.name, data.zone, data.ink)
    return Status(204, None)


@router.get("/brands/{brand}/people", response={200: PeopleOut, **ERRORS}, operation_id="people")
def people(request: HttpRequest, brand: str) -> PeopleOut:
    """Who belongs to the brand, and, for those who manage people, who is invited."""
    place = here(request, brand)
    members = Membership.objects.filter(brand=place.brand).select_related("user").order_by("user__name")
    manages = May.MANAGE_PEOPLE in place.capabilities
    invited = (
        Invitation.objects.filter(brand=place.brand, accepted=None).select_related("by").order_by("-id")
        if manages
        else []
    )
    return PeopleOut(
        members=[_member(place, m) for m in members],
        invitations=[
            InvitationOut(id=i.pk, email=i.email, role=i.role, ends=i.ends, by=i.by.name if i.by else "")
            for i in invited
        ],
        roles=[RoleOut(role=role, capabilities=sorted(may & place.capabilities)) for role, may in ROLES.items()],
        capabilities=[may.value for may in May if may is not May.SEE],
        gives=sorted(place.capabilities) if manages else [],
    )


def _member(place: Here, m: Membership) -> MemberOut:
    two = {place.user.pk: place.capabilities, m.user_id: frozenset(m.capabilities)}
    changes = May.MANAGE_PEOPLE in place.capabilities and not why_not_change(two, place.user.pk, m.user_id, None)
    return MemberOut(
        user=m.user_id, name=m.user.name, email=m.user.email, role=m.role, capabilities=m.capabilities, changes=changes
    )


@router.put("/brands/{brand}/people/{user}", response={200: MemberOut, **ERRORS}, operation_id="changeMember")
def set_member(request: HttpRequest, brand: str, user: int, data: MemberIn) -> MemberOut:
    """Set what a person may do in the brand."""
    place = here(request, brand, May.MANAGE_PEOPLE)
    return _member(place, change_member(place, user, data.role, data.capabilities))


@router.delete("/brands/{brand}/people/{user}", response={204: None, **ERRORS}, operation_id="removeMember")
def no_member(request: HttpRequest, brand: str, user: int) -> Status[None]:
    """Take a person out of the brand."""
    remove_member(here(request, brand), user)
    return Status(204, None)


@router.post("/brands/{brand}/invitations", response={201: InvitationOut, **ERRORS}, operation_id="invite")
def send_invitation(request: HttpRequest, brand: str, data: InviteIn) -> Status[InvitationOut]:
    """Invite a person by e-mail."""
    place = here(request, brand, May.MANAGE_PEOPLE)
    row, address = invite(place, data.email, data.role, data.capabilities)
    shown = InvitationOut(id=row.pk, email=row.email, role=row.role, ends=row.ends, by=place.user.name, address=address)
    return Status(201, shown)


@router.delete("/brands/{brand}/invitations/{id}", response={204: None, **ERRORS}, operation_id="takeInvitationBack")
def no_invitation(request: HttpRequest, brand: str, id: int) -> Status[None]:
    """Take an invitation back."""
    take_back(here(request, brand, May.MANAGE_PEOPLE), id)
    return Status(204, None)


@router.get("/invitations/{token}", response={200: InvitationPage, **ERRORS}, operation_id="invitation", auth=None)
def show_invitation(request: HttpRequest, token: str) -> InvitationPage:
    """What an invitation is to."""
    count(request, "invitation")
    row = open_invitation(token)
    known = User.objects.filter(email__iexact=row.email).exists()
    return InvitationPage(
        brand=row.brand.name, ink=row.brand.ink, role=row.role, email=row.email, by=row.by.name if row.by else row.brand.name,
        has_account=known,
    )  # fmt: skip


@router.post(
    "/invitations/{token}/accept", response={200: MadeOut, **ERRORS}, operation_id="acceptInvitation", auth=None
)
def accept_invitation(request: HttpRequest, token: str, data: AcceptIn) -> MadeOut:
    """Join the brand, as the person who is signed in or as a new one, who is then signed in."""
    count(request, "invitation")
    present = request.user if isinstance(request.user, User) else None
    slug = open_invitation(token).brand.slug
    user = accept(token, present, data.name, data.password)
    if present is None:
        login(request, user, backend="allauth.account.auth_backends.AuthenticationBackend")
    return MadeOut(slug=slug)
