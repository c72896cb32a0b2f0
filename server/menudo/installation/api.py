"""Routes for the installation: what it is before one is in, ways into it, its mail, and what broke in it."""

from django.conf import settings
from django.contrib.auth import login
from django.http import HttpRequest
from ninja import Router, Status

from menudo.base.limits import count_attempt
from menudo.base.open_routes import open_to_all
from menudo.base.problems import ForbiddenError
from menudo.base.sentences import say
from menudo.installation.actions.issue_access_link import issue_access_link_to
from menudo.installation.actions.redeem_access_link import find_access_link, redeem_access_link
from menudo.installation.actions.save_mail_server import delete_mail_server, save_mail_server, send_test_mail
from menudo.installation.schemas import (
    AccessLinkIn,
    AccessLinkOut,
    ConfiguredNetworkOut,
    InstallationOut,
    IssuedLinkOut,
    JobFailureOut,
    MailServerIn,
    MailServerOut,
    PublicStatusOut,
    RedeemedOut,
    RedeemIn,
)
from menudo.notices.mail_server import SmtpServer, can_send_mail, environment_server, saved_server
from menudo.notices.models import JobFailure
from menudo.people.context import current_user
from menudo.people.models import Membership, User
from menudo_core.networks.load import shipped_sheets

router = Router(tags=["installation"])
_SHOWN = 60


@router.get("/public-status", response=PublicStatusOut, operation_id="publicStatus", auth=open_to_all)
def get_public_status(request: HttpRequest) -> PublicStatusOut:
    """What there is to know before one is in."""
    return PublicStatusOut(mail=can_send_mail(), begun=User.objects.exists())


@router.get("/set-up/{token}", response=AccessLinkOut, operation_id="accessLink", auth=open_to_all)
def get_access_link(request: HttpRequest, token: str) -> AccessLinkOut:
    """What a one-time address leads to."""
    count_attempt(request, "set_up")
    row = find_access_link(token)
    kind = "again" if row.user else "new" if row.email else "first"
    return AccessLinkOut(kind=kind, email=row.email, name=row.user.name if row.user else "")


@router.post("/set-up/{token}", response=RedeemedOut, operation_id="redeemAccessLink", auth=open_to_all)
def redeem_link(request: HttpRequest, token: str, data: RedeemIn) -> RedeemedOut:
    """Make the account, or choose a new password; one is signed in then."""
    count_attempt(request, "set_up")
    user = redeem_access_link(token, data.name, data.email, data.password)
    login(request, user, backend="allauth.account.auth_backends.AuthenticationBackend")
    first = Membership.objects.filter(user=user).select_related("brand").order_by("brand__name").first()
    return RedeemedOut(slug=first.brand.slug if first else "")


@router.get("/installation", response=InstallationOut, operation_id="installation")
def get_installation(request: HttpRequest) -> InstallationOut:
    """How the installation stands."""
    _require_manager(request)
    kept = saved_server()
    by = "tray" if settings.DEMO else "page" if kept else "environment" if environment_server() else "nothing"
    sheets = shipped_sheets()
    return InstallationOut(
        address=settings.PUBLIC_URL,
        mail=_mail_server_out(kept) if kept else None,
        mail_by=by,
        networks=[
            ConfiguredNetworkOut(network=name, name=sheets[name].name, address=one.address)
            for name, one in settings.NETWORKS.items()
        ],
        failures=[
            JobFailureOut(step=row.step, subject=row.subject, error=row.error, times=row.count, last=row.last_at)
            for row in JobFailure.objects.order_by("-last_at")[:_SHOWN]
        ],
    )


def _mail_server_out(server: SmtpServer) -> MailServerOut:
    return MailServerOut(
        host=server.host,
        port=server.port,
        security=server.security,
        user=server.user,
        has_password=bool(server.password),
        sender=server.sender,
    )


@router.put("/installation/mail", response={204: None}, operation_id="saveMailServer")
def update_mail_server(request: HttpRequest, data: MailServerIn) -> Status[None]:
    """Say by which server mail leaves."""
    _require_manager(request)
    save_mail_server(SmtpServer(**data.model_dump()))
    return Status(204, None)


@router.delete("/installation/mail", response={204: None}, operation_id="deleteMailServer")
def destroy_mail_server(request: HttpRequest) -> Status[None]:
    """Go back to what the environment says of mail."""
    _require_manager(request)
    delete_mail_server()
    return Status(204, None)


@router.post("/installation/mail/try", response={204: None}, operation_id="sendTestMail")
def send_trial_mail(request: HttpRequest, data: MailServerIn) -> Status[None]:
    """Send one mail to me by a server, without keeping it."""
    user = _require_manager(request)
    count_attempt(request, "send_test_mail")
    send_test_mail(SmtpServer(**data.model_dump()), user)
    return Status(204, None)


@router.post("/installation/people", response={201: IssuedLinkOut}, operation_id="issueAccessLink")
def issue_newcomer_link(request: HttpRequest, data: AccessLinkIn) -> Status[IssuedLinkOut]:
    """A one-time address for a new person, who will make a brand of their own."""
    _require_manager(request)
    return Status(201, IssuedLinkOut(address=issue_access_link_to(data.email, by_shell=False)[0]))


def _require_manager(request: HttpRequest) -> User:
    """Raises ForbiddenError for whoever doesn't manage the installation."""
    user = current_user(request)
    if not user.manages_installation:
        raise ForbiddenError(say("installation.not_yours"))
    return user
