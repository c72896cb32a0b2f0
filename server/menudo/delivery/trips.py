"""Where networks send people back to, and a client's link: pages and routes for browsers that may have no account."""

from urllib.parse import urlencode

from django.db import transaction
from django.http import HttpRequest, HttpResponseRedirect
from ninja import Router, Status

from menudo.base.limits import count
from menudo.base.problems import ERRORS, NotFound
from menudo.base.tokens import hashed
from menudo.delivery.actions.disconnect import let_go
from menudo.history.actions.record import Actor
from menudo.people.models import User
from menudo.posts.change.holds import recompute_holds
from menudo.posts.models import Delivery
from menudo.profiles.actions.come_back import Arrived, TripFailed, come_back
from menudo.profiles.actions.offer_link import open_link
from menudo.profiles.actions.set_out import RETURN_PAGES, set_out_by_link, with_trip
from menudo.profiles.links import link_page
from menudo.profiles.models import ConnectLink, Profile
from menudo.profiles.schemas import ConnectIn, GoTo, LinkPage

router = Router(tags=["links"])
_TRIPS = "trips"


def _link(request: HttpRequest, token: str) -> ConnectLink:
    count(request, "connect_link")
    return open_link(token)


@router.get("/links/{token}", response={200: LinkPage, **ERRORS}, operation_id="linkPage", auth=None)
def page(request: HttpRequest, token: str) -> LinkPage:
    """What a client's link asks for, and what stands connected by it."""
    return link_page(_link(request, token))


@router.post("/links/{token}/connections", response={200: GoTo, **ERRORS}, operation_id="connectByLink", auth=None)
def connect(request: HttpRequest, token: str, data: ConnectIn) -> GoTo:
    """Begin connecting by a link; send the client to the address given."""
    address, trip = set_out_by_link(_link(request, token), data.network, data.address)
    # The session of this browser holds the trip, so that the way back serves no other; and where to land.
    request.session[_TRIPS] = with_trip(request.session.get(_TRIPS, {}), trip, f"/link/{token}")
    return GoTo(go_to=address)


@router.delete("/links/{token}/profiles/{id}", response={204: None, **ERRORS}, operation_id="withdrawByLink", auth=None)
def withdraw(request: HttpRequest, token: str, id: int) -> Status[None]:
    """The client withdraws a profile that was connected by their link; what was planned for it becomes drafts."""
    link = _link(request, token)
    found = Profile.objects.filter(connection__link=link, pk=id).first()
    if found is None:
        raise NotFound()
    let_go(found, "drafts", Actor(None, f"{link.called} (by link)"))
    return Status(204, None)


def back(request: HttpRequest) -> HttpResponseRedirect:
    """Where networks send people back to (not part of the API: a page they land on)."""
    trips: dict[str, str] = request.session.get(_TRIPS, {})
    params = {k: request.GET[k] for k in request.GET}
    user = request.user if isinstance(request.user, User) else None
    trip = hashed(params.get("state", ""))
    home = trips.get(trip, "/")
    return_pages: dict[str, str] = request.session.get(RETURN_PAGES, {})
    page = return_pages.get(trip, "profiles")
    if trip in return_pages:
        request.session[RETURN_PAGES] = {known: path for known, path in return_pages.items() if known != trip}
    if trip in trips:
        # A trip serves once, whatever comes of it.
        request.session[_TRIPS] = {known: path for known, path in trips.items() if known != trip}
    if user is None and home == "/":
        return HttpResponseRedirect("/?" + urlencode({"said": "Sign in, then connect again."}))
    try:
        arrived = come_back(user, trips, params)
    except TripFailed as failed:
        if home == "/" and failed.brand and not failed.by_link:
            home = f"/{failed.brand}/{page}"
        return HttpResponseRedirect(f"{home}?" + urlencode({"refused": failed.words}))
    _settle(arrived)
    if arrived.link is None:
        home = f"/{arrived.brand.slug}/{page}"
    said = {"connected": ",".join(str(p.pk) for p in arrived.kept)}
    if arrived.left:
        said["left"] = ", ".join(arrived.left)
    return HttpResponseRedirect(f"{home}?" + urlencode(said))


def _settle(arrived: Arrived) -> None:
    """What waited for the profiles goes on; what was planned for those dropped is held."""
    with transaction.atomic():
        recompute_holds(Delivery.objects.filter(profile__in=[*arrived.kept, *arrived.dropped]))
