"""Routes for networks, profiles, sets and a client's links."""

from django.http import HttpRequest
from ninja import Router, Status

from menudo.base import clock
from menudo.people.capabilities import Capability
from menudo.people.context import brand_context
from menudo.profiles import queries
from menudo.profiles.actions.add_by_hand import add_by_hand
from menudo.profiles.actions.begin_connecting import RETURN_PAGES, add_pending, begin_connecting
from menudo.profiles.actions.create_link import create_link, revoke_link
from menudo.profiles.actions.describe_profile import describe_profile
from menudo.profiles.actions.load_sheet import load_sheet
from menudo.profiles.actions.save_set import create_set, delete_set, update_set
from menudo.profiles.actions.save_spacing import save_spacing
from menudo.profiles.actions.set_timetable import copy_timetable, set_timetable
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
    ProfileOut,
    RuleSheetIn,
    SetIn,
    SetOut,
    SlotOut,
    SpacingIO,
    StartConnectionIn,
    TimetableIn,
    TimetableOut,
)
from menudo.profiles.sheets import sheets_of
from menudo_core.timing.slots import Slot

router = Router(tags=["profiles"])


@router.get("/brands/{brand}/networks", response=list[NetworkOut], operation_id="networks")
def list_networks(request: HttpRequest, brand: str) -> list[NetworkOut]:
    """Every network that has a rule sheet: those that ship, and the brand's own."""
    return queries.network_list(brand_context(request, brand).brand.pk)


@router.post("/brands/{brand}/sheets", response={201: NetworkOut}, operation_id="loadSheet")
def create_sheet(request: HttpRequest, brand: str, data: RuleSheetIn) -> Status[NetworkOut]:
    """Load a rule sheet of one's own (TOML). Faults point to lines: /toml/line/12."""
    return Status(
        201, queries.network_out(load_sheet(brand_context(request, brand, Capability.MANAGE_PROFILES), data.toml))
    )


@router.post("/brands/{brand}/connections", response=GoTo, operation_id="connect")
def connect_network(request: HttpRequest, brand: str, data: StartConnectionIn) -> GoTo:
    """Begin connecting; send the person to the address given."""
    address, trip = begin_connecting(
        brand_context(request, brand, Capability.MANAGE_PROFILES), data.network, data.address
    )
    request.session[RETURN_PAGES] = add_pending(request.session.get(RETURN_PAGES, {}), trip, data.return_to)
    return GoTo(go_to=address)


@router.get("/brands/{brand}/profiles", response=list[ProfileOut], operation_id="profiles")
def list_profiles(request: HttpRequest, brand: str) -> list[ProfileOut]:
    """Every profile of the brand, with what is planned for it and what is in trouble."""
    return queries.profile_list(brand_context(request, brand), clock.now())


@router.post("/brands/{brand}/profiles/by-hand", response={201: int}, operation_id="createManualProfile")
def create_manual_profile(request: HttpRequest, brand: str, data: ByHandIn) -> Status[int]:
    """Add a profile that a person publishes to. Its id."""
    context = brand_context(request, brand, Capability.MANAGE_PROFILES)
    return Status(201, add_by_hand(context, data.name, data.handle, data.network, data.kind, data.url).pk)


@router.patch("/brands/{brand}/profiles/{profile_id}", response={204: None}, operation_id="describeProfile")
def update_profile(request: HttpRequest, brand: str, profile_id: int, data: ProfileIn) -> Status[None]:
    """Set what the team calls a profile, its zone, and who is in charge of it."""
    context = brand_context(request, brand, Capability.MANAGE_PROFILES)
    describe_profile(context, queries.profile_of(context, profile_id), data.display_name, data.zone, data.keeper)
    return Status(204, None)


@router.get("/brands/{brand}/profiles/{profile_id}/timetable", response=TimetableOut, operation_id="timetable")
def get_timetable(request: HttpRequest, brand: str, profile_id: int) -> TimetableOut:
    """A profile's weekly slots, and what it wishes of its spacing."""
    return queries.timetable_of(queries.profile_of(brand_context(request, brand), profile_id))


@router.put(
    "/brands/{brand}/profiles/{profile_id}/timetable",
    response=list[SlotOut],
    operation_id="setTimetable",
)
def update_timetable(request: HttpRequest, brand: str, profile_id: int, data: TimetableIn) -> list[SlotOut]:
    """Replace a profile's weekly slots."""
    context = brand_context(request, brand, Capability.MANAGE_PROFILES)
    slots = {
        Slot(s.weekday, s.at.replace(second=0, microsecond=0, tzinfo=None), f"label:{s.label}" if s.label else "")
        for s in data.slots
    }
    profile = queries.profile_of(context, profile_id)
    set_timetable(context, profile, list(slots))
    return queries.timetable_of(profile).slots


@router.post("/brands/{brand}/profiles/{profile_id}/timetable/copy", response=int, operation_id="copyTimetable")
def copy_slots(request: HttpRequest, brand: str, profile_id: int, data: CopyIn) -> int:
    """Give other profiles the same slots. How many."""
    context = brand_context(request, brand, Capability.MANAGE_PROFILES)
    return copy_timetable(context, queries.profile_of(context, profile_id), data.profiles)


@router.put("/brands/{brand}/profiles/{profile_id}/spacing", response=SpacingIO, operation_id="saveSpacing")
def update_spacing(request: HttpRequest, brand: str, profile_id: int, data: SpacingIO) -> SpacingIO:
    """What a profile wishes of its spacing, and its waking hours."""
    context = brand_context(request, brand, Capability.MANAGE_PROFILES)
    return queries.spacing_out(save_spacing(context, queries.profile_of(context, profile_id), **data.model_dump()))


@router.get("/brands/{brand}/sets", response=list[SetOut], operation_id="profileSets")
def list_sets(request: HttpRequest, brand: str) -> list[SetOut]:
    """The brand's profile sets."""
    return queries.set_list(brand_context(request, brand))


def _set_response(row: ProfileSet) -> SetOut:
    return SetOut(id=row.pk, name=row.name, profiles=sorted(row.profiles.values_list("pk", flat=True)))


@router.post("/brands/{brand}/sets", response={201: SetOut}, operation_id="createSet")
def add_set(request: HttpRequest, brand: str, data: SetIn) -> Status[SetOut]:
    """Make a profile set."""
    return Status(
        201, _set_response(create_set(brand_context(request, brand, Capability.WRITE), data.name, data.profiles))
    )


@router.put("/brands/{brand}/sets/{set_id}", response=SetOut, operation_id="updateSet")
def change_set(request: HttpRequest, brand: str, set_id: int, data: SetIn) -> SetOut:
    """Rename a set or change its members. Posts planned already stay as they are."""
    return _set_response(update_set(brand_context(request, brand, Capability.WRITE), set_id, data.name, data.profiles))


@router.delete("/brands/{brand}/sets/{set_id}", response={204: None}, operation_id="deleteSet")
def destroy_set(request: HttpRequest, brand: str, set_id: int) -> Status[None]:
    """Delete a set; its profiles stay."""
    delete_set(brand_context(request, brand, Capability.WRITE), set_id)
    return Status(204, None)


@router.get("/brands/{brand}/links", response=list[LinkOut], operation_id="connectLinks")
def list_links(request: HttpRequest, brand: str) -> list[LinkOut]:
    """The links that ask clients to connect their own profiles."""
    context = brand_context(request, brand, Capability.MANAGE_PROFILES)
    sheets = sheets_of(context.brand.pk)
    return [link_out(link, sheets) for link in queries.open_links(context)]


@router.post("/brands/{brand}/links", response={201: OfferedOut}, operation_id="createConnectLink")
def add_link(request: HttpRequest, brand: str, data: LinkIn) -> Status[OfferedOut]:
    """Make a client's link. Its address is told this once."""
    context = brand_context(request, brand, Capability.MANAGE_PROFILES)
    link, token = create_link(context, data.display_name, data.requested, data.days)
    return Status(201, OfferedOut(link=link_out(link, sheets_of(context.brand.pk)), address=link_address(token)))


@router.delete("/brands/{brand}/links/{link_id}", response={204: None}, operation_id="revokeLink")
def destroy_link(request: HttpRequest, brand: str, link_id: int) -> Status[None]:
    """Take a link back; what was connected by it stays."""
    revoke_link(brand_context(request, brand, Capability.MANAGE_PROFILES), link_id)
    return Status(204, None)
