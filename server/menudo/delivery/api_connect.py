"""Where networks send people back to, and a client's link: pages and routes for browsers that may have no account."""

import secrets
from typing import Any
from urllib.parse import urlencode

from django.db import transaction
from django.http import HttpRequest, HttpResponseRedirect
from ninja import Router, Status

from menudo.base.limits import count_attempt
from menudo.base.open_routes import open_to_all
from menudo.base.problems import NotFoundError
from menudo.base.tokens import hash_token
from menudo.delivery.actions.disconnect import release_profile
from menudo.history.actions.record_event import Actor
from menudo.people.models import User
from menudo.posts.change.recompute_holds import recompute_holds
from menudo.profiles.actions.begin_connecting import RETURN_PAGES, add_pending, begin_by_link
from menudo.profiles.actions.create_link import open_link
from menudo.profiles.actions.finish_connecting import ConnectFailedError, ConnectResult, finish_connecting
from menudo.profiles.links import link_page
from menudo.profiles.models import ConnectLink, Profile
from menudo.profiles.schemas import ConnectIn, ConnectOutcome, GoTo, LinkPage

router = Router(tags=["links"])
_SESSION_KEY = "trips"
_OUTCOMES = "connect_outcomes"


def _open_link(request: HttpRequest, token: str) -> ConnectLink:
    count_attempt(request, "connect_link")
    return open_link(token)


@router.get("/links/{token}", response=LinkPage, operation_id="linkPage", auth=open_to_all)
def get_connect_page(request: HttpRequest, token: str) -> LinkPage:
    """What a client's link asks for, and what stands connected by it."""
    return link_page(_open_link(request, token))


@router.post("/links/{token}/connections", response=GoTo, operation_id="connectByLink", auth=open_to_all)
def begin_connecting(request: HttpRequest, token: str, data: ConnectIn) -> GoTo:
    """Begin connecting by a link; send the client to the address given."""
    address, trip = begin_by_link(_open_link(request, token), data.network, data.address)
    # The session of this browser holds the trip, so that the way back serves no other; and where to land.
    request.session[_SESSION_KEY] = add_pending(request.session.get(_SESSION_KEY, {}), trip, f"/link/{token}")
    return GoTo(go_to=address)


@router.delete(
    "/links/{token}/profiles/{profile_id}",
    response={204: None},
    operation_id="withdrawProfileByLink",
    auth=open_to_all,
)
def withdraw_profile(request: HttpRequest, token: str, profile_id: int) -> Status[None]:
    """The client withdraws a profile that was connected by their link; what was planned for it becomes drafts."""
    link = _open_link(request, token)
    found = Profile.objects.filter(connection__link=link, pk=profile_id).first()
    if found is None:
        raise NotFoundError()
    release_profile(found, "drafts", Actor(None, f"{link.display_name} (by link)"))
    return Status(204, None)


@router.get("/connect-outcomes/{outcome}", response=ConnectOutcome, operation_id="connectOutcome", auth=open_to_all)
def get_outcome(request: HttpRequest, outcome: str) -> ConnectOutcome:
    """What came of a trip from this browser. Its words are never in an address, which anybody can make up."""
    kept: dict[str, dict[str, Any]] = request.session.get(_OUTCOMES, {})
    if outcome not in kept:
        raise NotFoundError()
    return ConnectOutcome(**kept[outcome])


def oauth_callback(request: HttpRequest) -> HttpResponseRedirect:
    """Where networks send people back to (not part of the API: a page they land on)."""
    trips: dict[str, str] = request.session.get(_SESSION_KEY, {})
    params = {k: request.GET[k] for k in request.GET}
    user = request.user if isinstance(request.user, User) else None
    trip = hash_token(params.get("state", ""))
    home = trips.get(trip, "/")
    return_pages: dict[str, str] = request.session.get(RETURN_PAGES, {})
    page = return_pages.get(trip, "profiles")
    if trip in return_pages:
        request.session[RETURN_PAGES] = {known: path for known, path in return_pages.items() if known != trip}
    if trip in trips:
        # A trip serves once, whatever comes of it.
        request.session[_SESSION_KEY] = {known: path for known, path in trips.items() if known != trip}
    if user is None and home == "/":
        # Nothing is kept for strangers.
        return HttpResponseRedirect("/?connect=true")
    try:
        arrived = finish_connecting(user, trips, params)
    except ConnectFailedError as failed:
        if home == "/" and failed.brand and not failed.by_link:
            home = f"/{failed.brand}/{page}"
        return HttpResponseRedirect(
            f"{home}?" + urlencode(_keep_outcome(request, ConnectOutcome(refused=failed.words)))
        )
    _resume_profiles(arrived)
    if arrived.link is None:
        home = f"/{arrived.brand.slug}/{page}"
    query = {"connected": ",".join(str(p.pk) for p in arrived.kept)}
    if arrived.left:
        query |= _keep_outcome(request, ConnectOutcome(left=arrived.left))
    return HttpResponseRedirect(f"{home}?" + urlencode(query))


def _keep_outcome(request: HttpRequest, outcome: ConnectOutcome) -> dict[str, str]:
    """In this browser's session; what its address says of it."""
    name = secrets.token_urlsafe(9)
    request.session[_OUTCOMES] = add_pending(request.session.get(_OUTCOMES, {}), name, outcome.model_dump())
    return {"outcome": name}


def _resume_profiles(arrived: ConnectResult) -> None:
    """What waited for the profiles goes on; what was planned for those dropped is held."""
    with transaction.atomic():
        recompute_holds(arrived.brand.pk, [p.pk for p in (*arrived.kept, *arrived.dropped)])
