"""Routes for the installation: what it is before one is in, ways into it, its mail, and what broke in it."""

from datetime import datetime

from django.conf import settings
from django.contrib.auth import login
from django.http import HttpRequest
from ninja import Router, Schema, Status
from pydantic import Field

from menudo.base.limits import count
from menudo.base.problems import ERRORS, Forbidden
from menudo.base.schemas import In
from menudo.installation.actions.come_in import come_in, open_way_in
from menudo.installation.actions.offer_way_in import offer_to
from menudo.installation.actions.set_mail import forget_mail, set_mail, try_mail
from menudo.notices.mail_server import Server, environments_server, kept_server, mail_goes
from menudo.notices.models import Mishap
from menudo.people.here import signed_in
from menudo.people.models import Membership, User
from menudo_core.networks.load import shipped

router = Router(tags=["installation"])
_SHOWN = 60


class DoorOut(Schema):
    """What one may know before one is in."""

    mail: bool = Field(description="whether this installation sends mail")
    begun: bool = Field(description="whether anybody has an account")


class WayInOut(Schema):
    """`kind`: the first person, a new person, or one who lost access (`again`)."""

    kind: str
    email: str
    name: str


class ComeIn(In):
    name: str = Field(default="", max_length=120)
    email: str = Field(default="", max_length=254)
    password: str = Field(max_length=200)


class CameIn(Schema):
    slug: str = Field(description="a brand of theirs; empty when they have none yet")


class MailServerIn(In):
    host: str = Field(max_length=253)
    port: int
    security: str = Field(max_length=8, description="starttls, tls or none")
    user: str = Field(default="", max_length=254)
    password: str = Field(default="", max_length=500, description="empty: the one that is kept")
    sender: str = Field(max_length=254)


class MailServerOut(Schema):
    host: str
    port: int
    security: str
    user: str
    has_password: bool
    sender: str


class NamedNetwork(Schema):
    network: str
    name: str
    address: str


class MishapOut(Schema):
    step: str
    thing: str
    error: str
    times: int
    last: datetime


class InstallationOut(Schema):
    """`mail`: as set here; `mail_by`: what counts, "page", "environment", "tray" (the demo's) or "nothing"."""

    address: str
    mail: MailServerOut | None
    mail_by: str
    networks: list[NamedNetwork]
    mishaps: list[MishapOut]


class WayInFor(In):
    email: str = Field(max_length=254)


class AddressOut(Schema):
    address: str


@router.get("/door", response=DoorOut, operation_id="door", auth=None)
def door(request: HttpRequest) -> DoorOut:
    """What there is to know before one is in."""
    return DoorOut(mail=mail_goes(), begun=User.objects.exists())


@router.get("/set-up/{token}", response={200: WayInOut, **ERRORS}, operation_id="wayIn", auth=None)
def way_in(request: HttpRequest, token: str) -> WayInOut:
    """What a one-time address leads to."""
    count(request, "set_up")
    row = open_way_in(token)
    kind = "again" if row.user else "new" if row.email else "first"
    return WayInOut(kind=kind, email=row.email, name=row.user.name if row.user else "")


@router.post("/set-up/{token}", response={200: CameIn, **ERRORS}, operation_id="comeIn", auth=None)
def enter(request: HttpRequest, token: str, data: ComeIn) -> CameIn:
    """Make the account, or choose a new password; one is signed in then."""
    count(request, "set_up")
    user = come_in(token, data.name, data.email, data.password)
    login(request, user, backend="allauth.account.auth_backends.AuthenticationBackend")
    first = Membership.objects.filter(user=user).select_related("brand").order_by("brand__name").first()
    return CameIn(slug=first.brand.slug if first else "")


@router.get("/installation", response={200: InstallationOut, **ERRORS}, operation_id="installation")
def installation(request: HttpRequest) -> InstallationOut:
    """How the installation stands."""
    _manager(request)
    kept = kept_server()
    by = "tray" if settings.DEMO else "page" if kept else "environment" if environments_server() else "nothing"
    sheets = shipped()
    return InstallationOut(
        address=settings.PUBLIC_URL,
        mail=_mail(kept) if kept else None,
        mail_by=by,
        networks=[
            NamedNetwork(network=name, name=sheets[name].name, address=one.address)
            for name, one in settings.NETWORKS.items()
        ],
        mishaps=[
            MishapOut(step=row.step, thing=row.thing, error=row.error, times=row.count, last=row.last_at)
            for row in Mishap.objects.order_by("-last_at")[:_SHOWN]
        ],
    )


def _mail(server: Server) -> MailServerOut:
    return MailServerOut(
        host=server.host, port=server.port, security=server.security, user=server.user,
        has_password=bool(server.password), sender=server.sender,
    )  # fmt: skip


@router.put("/installation/mail", response={204: None, **ERRORS}, operation_id="setMail")
def mail(request: HttpRequest, data: MailServerIn) -> Status[None]:
    """Say by which server mail leaves."""
    _manager(request)
    set_mail(Server(**data.model_dump()))
    return Status(204, None)


@router.delete("/installation/mail", response={204: None, **ERRORS}, operation_id="forgetMail")
def no_mail(request: HttpRequest) -> Status[None]:
    """Go back to what the environment says of mail."""
    _manager(request)
    forget_mail()
    return Status(204, None)


@router.post("/installation/mail/try", response={204: None, **ERRORS}, operation_id="tryMail")
def trial(request: HttpRequest, data: MailServerIn) -> Status[None]:
    """Send one mail to me by a server, without keeping it."""
    user = _manager(request)
    count(request, "try_mail")
    try_mail(Server(**data.model_dump()), user)
    return Status(204, None)


@router.post("/installation/people", response={201: AddressOut, **ERRORS}, operation_id="offerWayIn")
def newcomer(request: HttpRequest, data: WayInFor) -> Status[AddressOut]:
    """A one-time address for a new person, who will make a brand of their own."""
    _manager(request)
    return Status(201, AddressOut(address=offer_to(data.email, by_shell=False)[0]))


def _manager(request: HttpRequest) -> User:
    """Raises Forbidden for whoever doesn't manage the installation."""
    user = signed_in(request)
    if not user.manages_installation:
        raise Forbidden("Only whoever manages the installation may do that.")
    return user
