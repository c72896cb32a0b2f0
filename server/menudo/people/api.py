"""Routes for who I am, brands, the people in them, and invitations."""

from allauth.mfa.adapter import get_adapter
from django.conf import settings
from django.contrib.auth import login
from django.http import HttpRequest
from ninja import Router, Status

from menudo.base.limits import count_attempt
from menudo.base.open_routes import open_to_all
from menudo.base.problems import InvalidError
from menudo.base.sentences import say
from menudo.base.storable import storage_refusal
from menudo.people.actions.change_member import change_member, remove_member
from menudo.people.actions.invite_person import (
    accept_invitation,
    invite_person,
    is_invited,
    open_invitation,
    withdraw_invitation,
)
from menudo.people.actions.save_brand import change_brand, make_brand
from menudo.people.capabilities import ROLES, Capability
from menudo.people.context import BrandContext, brand_context, current_user
from menudo.people.models import Invitation, Membership, User
from menudo.people.schemas import (
    AcceptIn,
    BrandIn,
    BrandOut,
    CreatedBrandOut,
    InvitationOut,
    InvitationPage,
    InviteIn,
    MeIn,
    MemberIn,
    MemberOut,
    MeOut,
    PeopleOut,
    RoleOut,
    TotpIn,
)
from menudo_core.signoff.grants import change_refusal

router = Router(tags=["people"])


def _me_out(user: User) -> MeOut:
    members = Membership.objects.filter(user=user).select_related("brand").order_by("brand__name")
    brands = [
        BrandOut(
            slug=m.brand.slug,
            name=m.brand.name,
            zone=m.brand.zone,
            ink=m.brand.ink,
            role=m.role,
            capabilities=m.capabilities,
            needs_signoff=m.brand.needs_signoff,
        )
        for m in members
    ]
    makes = not brands or any(Capability.MANAGE_PEOPLE in b.capabilities for b in brands)
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
def get_me(request: HttpRequest) -> MeOut:
    """The signed-in person and their brands."""
    return _me_out(current_user(request))


@router.patch("/me", response=MeOut, operation_id="updateMe")
def update_me(request: HttpRequest, data: MeIn) -> MeOut:
    """Change my name, or how times are written for me."""
    user = current_user(request)
    if data.name is not None:
        name = data.name.strip()
        if not name or storage_refusal(name):
            raise InvalidError.at("/name", storage_refusal(name) or say("person.nameless"))
        user.name = name
    if data.clock24 is not None:
        user.clock24 = data.clock24
    user.save(update_fields=["clock24", "name"])
    return _me_out(user)


@router.post("/me/totp-picture", response=str, operation_id="totpPicture")
def draw_totp_code(request: HttpRequest, data: TotpIn) -> str:
    """The address of a second factor (otpauth:) as a picture to scan, SVG."""
    current_user(request)
    if not data.address.startswith("otpauth://totp/"):
        raise InvalidError.at("/address", say("factor.address"))
    return str(get_adapter().build_totp_svg(data.address))


@router.post("/brands", response={201: CreatedBrandOut}, operation_id="createBrand")
def create_brand(request: HttpRequest, data: BrandIn) -> Status[CreatedBrandOut]:
    """Make a brand; its maker is its coordinator."""
    brand = make_brand(current_user(request), data.name, data.zone, data.ink)
    return Status(201, CreatedBrandOut(slug=brand.slug))


@router.patch("/brands/{brand}", response={204: None}, operation_id="updateBrand")
def update_brand(request: HttpRequest, brand: str, data: BrandIn) -> Status[None]:
    """Change a brand's name, zone and ink."""
    change_brand(brand_context(request, brand, Capability.MANAGE_PEOPLE), data.name, data.zone, data.ink)
    return Status(204, None)


@router.get("/brands/{brand}/people", response=PeopleOut, operation_id="people")
def list_people(request: HttpRequest, brand: str) -> PeopleOut:
    """Who belongs to the brand, and, for those who manage people, who is invited."""
    context = brand_context(request, brand)
    members = Membership.objects.filter(brand=context.brand).select_related("user").order_by("user__name")
    manages = Capability.MANAGE_PEOPLE in context.capabilities
    invited = (
        Invitation.objects.filter(brand=context.brand, accepted_at=None).select_related("created_by").order_by("-id")
        if manages
        else []
    )
    return PeopleOut(
        members=[_member_out(context, m) for m in members],
        invitations=[
            InvitationOut(
                id=i.pk,
                email=i.email,
                role=i.role,
                expires_at=i.expires_at,
                invited_by=i.created_by.name if i.created_by else "",
            )
            for i in invited
        ],
        roles=[RoleOut(role=role, capabilities=sorted(may & context.capabilities)) for role, may in ROLES.items()],
        capabilities=[may.value for may in Capability if may is not Capability.SEE],
        gives=sorted(context.capabilities) if manages else [],
    )


def _member_out(context: BrandContext, m: Membership) -> MemberOut:
    two = {context.user.pk: context.capabilities, m.user_id: frozenset(m.capabilities)}
    changes = Capability.MANAGE_PEOPLE in context.capabilities and not change_refusal(
        two, context.user.pk, m.user_id, None
    )
    return MemberOut(
        user=m.user_id, name=m.user.name, email=m.user.email, role=m.role, capabilities=m.capabilities, changes=changes
    )


@router.put("/brands/{brand}/people/{user_id}", response=MemberOut, operation_id="updateMember")
def update_member(request: HttpRequest, brand: str, user_id: int, data: MemberIn) -> MemberOut:
    """Set what a person may do in the brand."""
    context = brand_context(request, brand, Capability.MANAGE_PEOPLE)
    return _member_out(context, change_member(context, user_id, data.role, data.capabilities))


@router.delete("/brands/{brand}/people/{user_id}", response={204: None}, operation_id="removeMember")
def destroy_member(request: HttpRequest, brand: str, user_id: int) -> Status[None]:
    """Take a person out of the brand."""
    remove_member(brand_context(request, brand), user_id)
    return Status(204, None)


@router.post("/brands/{brand}/invitations", response={201: InvitationOut}, operation_id="invite")
def create_invitation(request: HttpRequest, brand: str, data: InviteIn) -> Status[InvitationOut]:
    """Invite a person by e-mail."""
    context = brand_context(request, brand, Capability.MANAGE_PEOPLE)
    row, address = invite_person(context, data.email, data.role, data.capabilities)
    shown = InvitationOut(
        id=row.pk,
        email=row.email,
        role=row.role,
        expires_at=row.expires_at,
        invited_by=context.user.name,
        address=address,
    )
    return Status(201, shown)


@router.delete("/brands/{brand}/invitations/{invitation_id}", response={204: None}, operation_id="withdrawInvitation")
def destroy_invitation(request: HttpRequest, brand: str, invitation_id: int) -> Status[None]:
    """Take an invitation back."""
    withdraw_invitation(brand_context(request, brand, Capability.MANAGE_PEOPLE), invitation_id)
    return Status(204, None)


@router.get("/invitations/{token}", response=InvitationPage, operation_id="invitation", auth=open_to_all)
def get_invitation(request: HttpRequest, token: str) -> InvitationPage:
    """What an invitation is to."""
    count_attempt(request, "invitation")
    row = open_invitation(token)
    present = request.user if isinstance(request.user, User) else None
    known = User.objects.filter(email__iexact=row.email).exists()
    return InvitationPage(
        brand=row.brand.name,
        ink=row.brand.ink,
        role=row.role,
        email=row.email,
        invited_by=row.created_by.name if row.created_by else row.brand.name,
        has_account=known,
        other_account=present.email if present and not is_invited(row, present) else "",
    )


@router.post("/invitations/{token}/accept", response=CreatedBrandOut, operation_id="acceptInvitation", auth=open_to_all)
def join_by_invitation(request: HttpRequest, token: str, data: AcceptIn) -> CreatedBrandOut:
    """Join the brand, as the person who is signed in or as a new one, who is then signed in."""
    count_attempt(request, "invitation")
    present = request.user if isinstance(request.user, User) else None
    slug = open_invitation(token).brand.slug
    user = accept_invitation(token, present, data.name, data.password, data.email)
    if present is None:
        login(request, user, backend="allauth.account.auth_backends.AuthenticationBackend")
    return CreatedBrandOut(slug=slug)
