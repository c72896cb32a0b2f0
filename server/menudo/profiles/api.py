"""Routes for networks, profiles and connecting."""

from urllib.parse import urlencode

from django.http import HttpRequest, HttpResponseRedirect
from ninja import Router

from menudo.base.problems import ERRORS
from menudo.people.capabilities import May
from menudo.people.here import here
from menudo.profiles import reads
from menudo.profiles.actions.connect import TripFailed, come_back, set_out
from menudo.profiles.actions.set_timetable import set_timetable
from menudo.profiles.schemas import ConnectIn, GoTo, NetworkOut, SlotOut, TimetableIn
from menudo_core.timing.slots import Slot

router = Router(tags=["profiles"])


@router.get("/networks", response=list[NetworkOut], operation_id="networks")
def networks(request: HttpRequest) -> list[NetworkOut]:
    """Every network that has a rule sheet."""
    return reads.networks()


@router.post("/brands/{brand}/connections", response={200: GoTo, **ERRORS}, operation_id="connect")
def connect(request: HttpRequest, brand: str, data: ConnectIn) -> GoTo:
    """Begin connecting; send the person to the address given."""
    return GoTo(go_to=set_out(here(request, brand, May.MANAGE_PROFILES), data.network))


@router.put(
    "/brands/{brand}/profiles/{id}/timetable", response={200: list[SlotOut], **ERRORS}, operation_id="setTimetable"
)
def timetable(request: HttpRequest, brand: str, id: int, data: TimetableIn) -> list[Slot]:
    """Replace a profile's weekly slots."""
    place = here(request, brand, May.MANAGE_PROFILES)
    slots = sorted({Slot(s.weekday, s.at.replace(second=0, microsecond=0, tzinfo=None)) for s in data.slots})
    set_timetable(place, reads.profile(place, id), slots)
    return slots


def back(request: HttpRequest) -> HttpResponseRedirect:
    """Where networks send people back to (not part of the API: a page they land on)."""
    if not request.user.is_authenticated:
        return HttpResponseRedirect("/?" + urlencode({"said": "Sign in, then connect again."}))
    try:
        slug, connected = come_back(request.user, {k: request.GET[k] for k in request.GET})  # type: ignore[arg-type]
    except TripFailed as failed:
        return HttpResponseRedirect(
            f"/{failed.brand + '/profiles' if failed.brand else ''}?" + urlencode({"refused": failed.words})
        )
    return HttpResponseRedirect(f"/{slug}/profiles?" + urlencode({"connected": ",".join(str(p.pk) for p in connected)}))
