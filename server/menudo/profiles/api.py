"""Routes for networks, profiles, sets and a client's links."""

from django.http import HttpRequest
from ninja import Router, Status

from menudo.base.problems import ERRORS
from menudo.people.capabilities import May
from menudo.people.here import here
from menudo.profiles import reads
from menudo.profiles.actions.add_by_hand import add_by_hand
from menudo.profiles.actions.describe import describe
from menudo.profiles.actions.keep_set import change_set, delete_set, make_set
from menudo.profiles.actions.load_sheet import load_sheet
from menudo.profiles.actions.offer_link import offer_link, revoke_link
from menudo.profiles.actions.set_out import RETURN_PAGES, set_out, with_trip
from menudo.profiles.actions.set_timetable import copy_timetable, set_timetable
from menudo.profiles.actions.wish import wish
from menudo.profiles.links import link_address, link_out
from menudo.profiles.models import ProfileSet
from menudo.profiles.schemas import (
    ByHandIn,
    CopyIn,
    GoTo,
    LinkIn,
    LinkOut,
    NetworkOut,
    OfferedOut,
    ProfileIn,
    RuleSheetIn,
    SetIn,
    SetOut,
    SlotOut,
    StartConnectionIn,
    TimetableIn,
    WishesIO,
)
from menudo.profiles.sheets import sheets_of
from menudo_core.timing.slots import Slot

router = Router(tags=["profiles"])


@router.get("/brands/{brand}/networks", response={200: list[NetworkOut], **ERRORS}, operation_id="networks")
def networks(request: HttpRequest, brand: str) -> list[NetworkOut]:
    """Every network that has a rule sheet: those that ship, and the brand's own."""
    return reads.networks(here(request, brand).brand.pk)


@router.post("/brands/{brand}/sheets", response={201: NetworkOut, **ERRORS}, operation_id="loadSheet")
def sheet(request: HttpRequest, brand: str, data: RuleSheetIn) -> Status[NetworkOut]:
    """Load a rule sheet of one's own (TOML). Faults point to lines: /toml/line/12."""
    return Status(201, reads.network_out(load_sheet(here(request, brand, May.MANAGE_PROFILES), data.toml)))


@router.post("/brands/{brand}/connections", response={200: GoTo, **ERRORS}, operation_id="connect")
def connect(request: HttpRequest, brand: str, data: StartConnectionIn) -> GoTo:
    """Begin connecting; send the person to the address given."""
    address, trip = set_out(here(request, brand, May.MANAGE_PROFILES), data.network, data.address)
    request.session[RETURN_PAGES] = with_trip(request.session.get(RETURN_PAGES, {}), trip, data.return_to)
    return GoTo(go_to=address)


@router.post("/brands/{brand}/profiles/by-hand", response={201: int, **ERRORS}, operation_id="addByHand")
def by_hand(request: HttpRequest, brand: str, data: ByHandIn) -> Status[int]:
    """Add a profile that a person publishes to. Its id."""
    place = here(request, brand, May.MANAGE_PROFILES)
    return Status(201, add_by_hand(place, data.name, data.handle, data.network, data.kind, data.url).pk)


@router.patch("/brands/{brand}/profiles/{id}", response={204: None, **ERRORS}, operation_id="describeProfile")
def set_description(request: HttpRequest, brand: str, id: int, data: ProfileIn) -> Status[None]:
    """Set what the team calls a profile, its zone, and who is in charge of it."""
    place = here(request, brand, May.MANAGE_PROFILES)
    describe(place, reads.profile(place, id), data.called, data.zone, data.keeper)
    return Status(204, None)


@router.put(
    "/brands/{brand}/profiles/{id}/timetable", response={200: list[SlotOut], **ERRORS}, operation_id="setTimetable"
)
def timetable(request: HttpRequest, brand: str, id: int, data: TimetableIn) -> list[dict]:
    """Replace a profile's weekly slots."""
    place = here(request, brand, May.MANAGE_PROFILES)
    slots = {
        Slot(s.weekday, s.at.replace(second=0, microsecond=0, tzinfo=None), f"label:{s.label}" if s.label else "")
        for s in data.slots
    }
    profile = reads.profile(place, id)
    set_timetable(place, profile, list(slots))
    return [{"weekday": s.weekday, "at": s.at, "label": s.label_id} for s in profile.slots.all()]


@router.post(
    "/brands/{brand}/profiles/{id}/timetable/copy", response={200: int, **ERRORS}, operation_id="copyTimetable"
)
def copy(request: HttpRequest, brand: str, id: int, data: CopyIn) -> int:
    """Give other profiles the same slots. How many."""
    place = here(request, brand, May.MANAGE_PROFILES)
    return copy_timetable(place, reads.profile(place, id), data.profiles)


@router.put("/brands/{brand}/profiles/{id}/wishes", response={200: WishesIO, **ERRORS}, operation_id="setWishes")
def wishes(request: HttpRequest, brand: str, id: int, data: WishesIO) -> dict:
    """What a profile wishes of its spacing, and its waking hours."""
    place = here(request, brand, May.MANAGE_PROFILES)
    return reads.wishes_out(wish(place, reads.profile(place, id), **data.model_dump()))


@router.get("/brands/{brand}/sets", response={200: list[SetOut], **ERRORS}, operation_id="profileSets")
def sets(request: HttpRequest, brand: str) -> list[dict]:
    """The brand's profile sets."""
    return reads.sets(here(request, brand))


def _set_out(row: ProfileSet) -> SetOut:
    return SetOut(id=row.pk, name=row.name, profiles=sorted(row.profiles.values_list("pk", flat=True)))


@router.post("/brands/{brand}/sets", response={201: SetOut, **ERRORS}, operation_id="makeSet")
def new_set(request: HttpRequest, brand: str, data: SetIn) -> Status[SetOut]:
    """Make a profile set."""
    return Status(201, _set_out(make_set(here(request, brand, May.WRITE), data.name, data.profiles)))


@router.put("/brands/{brand}/sets/{id}", response={200: SetOut, **ERRORS}, operation_id="changeSet")
def other_set(request: HttpRequest, brand: str, id: int, data: SetIn) -> SetOut:
    """Rename a set or change its members. Posts planned already stay as they are."""
    return _set_out(change_set(here(request, brand, May.WRITE), id, data.name, data.profiles))


@router.delete("/brands/{brand}/sets/{id}", response={204: None, **ERRORS}, operation_id="deleteSet")
def no_set(request: HttpRequest, brand: str, id: int) -> Status[None]:
    """Delete a set; its profiles stay."""
    delete_set(here(request, brand, May.WRITE), id)
    return Status(204, None)


@router.get("/brands/{brand}/links", response={200: list[LinkOut], **ERRORS}, operation_id="connectLinks")
def links(request: HttpRequest, brand: str) -> list[LinkOut]:
    """The links that ask clients to connect their own profiles."""
    place = here(request, brand, May.MANAGE_PROFILES)
    sheets = sheets_of(place.brand.pk)
    return [link_out(link, sheets) for link in reads.links(place)]


@router.post("/brands/{brand}/links", response={201: OfferedOut, **ERRORS}, operation_id="offerLink")
def offer(request: HttpRequest, brand: str, data: LinkIn) -> Status[OfferedOut]:
    """Make a client's link. Its address is told this once."""
    place = here(request, brand, May.MANAGE_PROFILES)
    link, token = offer_link(place, data.called, [want.model_dump() for want in data.wants], data.days)
    return Status(201, OfferedOut(link=link_out(link, sheets_of(place.brand.pk)), address=link_address(token)))


@router.delete("/brands/{brand}/links/{id}", response={204: None, **ERRORS}, operation_id="revokeLink")
def revoke(request: HttpRequest, brand: str, id: int) -> Status[None]:
    """Take a link back; what was connected by it stays."""
    revoke_link(here(request, brand, May.MANAGE_PROFILES), id)
    return Status(204, None)
