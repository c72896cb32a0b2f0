"""Routes for starters."""

from django.http import HttpRequest
from ninja import Router, Status

from menudo.people.capabilities import Capability
from menudo.people.context import brand_context
from menudo.posts.serializers import load_content
from menudo.starters.actions.answer_starter import discard_starter, keep_starter
from menudo.starters.actions.supply_starters import TARGET_COUNT, supply_brand
from menudo.starters.models import Starter
from menudo.starters.schemas import DiscardedIn, KeptOut, StarterOut
from menudo_core.starters.choose import Kind

router = Router(tags=["starters"])


@router.get("/brands/{brand}/starters", response=list[StarterOut], operation_id="starters")
def list_starters(request: HttpRequest, brand: str) -> list[StarterOut]:
    """The starters that wait, the newest first."""
    context = brand_context(request, brand)
    return _starters_out(context.brand.pk)


def _starters_out(brand: int) -> list[StarterOut]:
    return [_starter_out(one) for one in Starter.objects.filter(brand=brand, state=Starter.State.PROPOSED)]


def _starter_out(one: Starter) -> StarterOut:
    content = load_content(one.master)
    return StarterOut(
        id=one.pk,
        kind=Kind(one.kind),
        reason=one.why,
        text=content.text,
        link=content.link,
        media=list(content.media),
        expires_on=one.expires_on,
        created_at=one.created_at,
    )


@router.post("/brands/{brand}/starters/more", response=list[StarterOut], operation_id="moreStarters")
def supply_more(request: HttpRequest, brand: str) -> list[StarterOut]:
    """Fill the supply up, and a few more when it is full."""
    context = brand_context(request, brand, Capability.WRITE)
    waiting = Starter.objects.filter(brand=context.brand, state=Starter.State.PROPOSED).count()
    supply_brand(context.brand, TARGET_COUNT if waiting < TARGET_COUNT else min(waiting + 3, 2 * TARGET_COUNT))
    return _starters_out(context.brand.pk)


@router.post("/brands/{brand}/starters/{starter_id}/keep", response={201: KeptOut}, operation_id="keepStarter")
def keep_as_draft(request: HttpRequest, brand: str, starter_id: int) -> Status[KeptOut]:
    """It becomes a draft of one's own."""
    return Status(201, KeptOut(post=keep_starter(brand_context(request, brand, Capability.WRITE), starter_id).pk))


@router.post("/brands/{brand}/starters/{starter_id}/discard", response={204: None}, operation_id="discardStarter")
def discard(request: HttpRequest, brand: str, starter_id: int, data: DiscardedIn) -> Status[None]:
    """It goes, with a reason that changes what comes."""
    discard_starter(brand_context(request, brand, Capability.WRITE), starter_id, data.reason)
    return Status(204, None)
