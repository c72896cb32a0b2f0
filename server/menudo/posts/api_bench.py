"""Routes of the Bench: what the rules say, what a machine can mend, and wording help. They keep nothing."""

from typing import Any

from django.http import HttpRequest
from ninja import Query, Router, Status

from menudo.base import clock
from menudo.base.problems import ERRORS, Fault, Invalid
from menudo.people.capabilities import May
from menudo.people.here import Here, here
from menudo.posts import check_io, checking, wording_io, wordings
from menudo.posts.actions.draft_from import draft_from
from menudo.posts.content_io import OwnIO, VersionIO
from menudo.posts.first_steps import FirstSteps, first_steps_for
from menudo.posts.models import Campaign
from menudo.posts.rendering import PostRenderer, Shared
from menudo.posts.serializers import load_content, load_overrides, load_post_content, store_card, store_overrides
from menudo.profiles.models import Profile
from menudo.profiles.sheets import sheet_for
from menudo_core.networks.check import check as check_version
from menudo_core.networks.content import Card, Content, Overrides, apply_overrides
from menudo_core.networks.mends import Mend, mended, merge_overrides, offered
from menudo_core.networks.places import codes as codes_in
from menudo_core.networks.places import places
from menudo_core.text.hashtags import added
from menudo_core.wording.compare import compare

router = Router(tags=["bench"])


@router.get("/brands/{brand}/first-steps", response={200: FirstSteps, **ERRORS}, operation_id="firstSteps")
def first_steps(request: HttpRequest, brand: str) -> FirstSteps:
    """How far a new brand has come."""
    return first_steps_for(here(request, brand))


@router.post("/brands/{brand}/check", response={200: list[check_io.ColumnOut], **ERRORS}, operation_id="check")
def check(request: HttpRequest, brand: str, data: check_io.CheckIn) -> list[dict]:
    """Findings and proofs for a whole Bench in one call. Keeps nothing."""
    place = here(request, brand)
    bench = _Bench(place, data)
    known = checking.facts(place.brand, bench.contents)
    return [
        {**checking.column(sheet, content, known, followers, count), "profile": column.profile}
        for column, sheet, content, followers, count in bench.columns()
    ]


@router.post("/brands/{brand}/mend", response={200: OwnIO, **ERRORS}, operation_id="mend")
def mend(request: HttpRequest, brand: str, data: check_io.MendIn) -> dict[str, Any]:
    """What a version has of its own once a finding is mended. Keeps nothing."""
    place = here(request, brand)
    bench = _Bench(place, data)
    column, sheet, _, followers, count = next(bench.columns(), (None, None, None, None, 1))
    if column is None or sheet is None:
        raise Invalid.at("/columns", "Say which column is to be mended.", "missing")
    # What is written is mended, not what placeholders make of it.
    own = next((load_overrides(v.own.model_dump()) for v in data.versions if _is(v, column)), Overrides())
    content = apply_overrides(load_content(data.master.model_dump()), own)
    media = checking.media_of(content, checking.facts(place.brand, [content]))
    for finding in check_version(content, media, sheet, followers, count):
        if finding.field == data.field and data.mend in offered(finding, content, media, sheet):
            return store_overrides(merge_overrides(own, mended(Mend(data.mend), finding, content, media, sheet)))
    raise Invalid.at("/mend", "There is nothing to mend there any more.", "nothing")


def _is(version: VersionIO, column: check_io.ColumnIn) -> bool:
    return (version.network, version.profile) == (column.network, column.profile)


def _campaign(place: Here, id: int | None) -> Campaign | None:
    return Campaign.objects.filter(brand=place.brand, pk=id).first() if id else None


class _Bench:
    """The columns of a Bench as they would go out."""

    def __init__(self, place: Here, data: check_io.CheckIn) -> None:
        self._asked = data.columns
        self._sheets = [sheet_for(place.brand.pk, column.network) for column in data.columns]
        unknown = [i for i, c in enumerate(data.columns) if self._sheets[i].network != c.network]
        if unknown:
            raise Invalid(
                faults=[Fault(f"/columns/{i}/network", "There is no rule sheet for this network.") for i in unknown]
            )
        wanted = {id for c in data.columns for id in c.profiles}
        rows = Profile.objects.filter(brand=place.brand, pk__in=wanted) if wanted else ()
        self._profiles = {p.pk: p for p in rows}
        content = load_post_content(data.model_dump())
        renderer = PostRenderer(Shared(place.brand), content, _campaign(place, data.campaign))
        day = data.day or clock.now().astimezone(place.zone).date()
        self.contents: list[Content] = [
            renderer.render(c.network, c.profile, self._handle(c), day) for c in data.columns
        ]

    def _of(self, column: check_io.ColumnIn) -> list[Profile]:
        return [self._profiles[id] for id in column.profiles if id in self._profiles]

    def _handle(self, column: check_io.ColumnIn) -> str:
        return next((p.handle for p in self._of(column)), "")

    def columns(self) -> Any:
        """Each column with its sheet, its content, the followers of its smallest profile, and how many it goes to."""
        for column, sheet, content in zip(self._asked, self._sheets, self.contents, strict=True):
            mine = self._of(column)
            known = [p.followers for p in mine if p.followers is not None]
            yield column, sheet, content, min(known) if known else None, max(len(mine), 1)


@router.post("/brands/{brand}/wording", response={200: list[wording_io.ProposalOut], **ERRORS}, operation_id="wording")
def wording(request: HttpRequest, brand: str, data: wording_io.WordingIn) -> list[dict[str, Any]]:
    """Up to three proposals, each with how it differs. Nothing changes until one is taken."""
    place = here(request, brand, May.WRITE)
    card = Card(data.card.title, data.card.description) if data.card else None
    found = wordings.propose(place, data.task, data.text, data.network, data.link.strip(), card, data.seed)
    return [{"text": text, "segments": _segments(data.text, text)} for text in found]


@router.post("/brands/{brand}/compare", response={200: list[wording_io.SegmentOut], **ERRORS}, operation_id="compare")
def differences(request: HttpRequest, brand: str, data: wording_io.CompareIn) -> list[dict[str, str]]:
    """Two texts by words: what is the same, gone, new."""
    here(request, brand)
    return _segments(data.before, data.after)


def _segments(before: str, after: str) -> list[dict[str, str]]:
    return [{"change": s.change, "text": s.text} for s in compare(before, after)]


@router.post("/brands/{brand}/hashtags/insert", response={200: wording_io.TextOut, **ERRORS}, operation_id="insertTags")
def insert_tags(request: HttpRequest, brand: str, data: wording_io.InsertIn) -> dict[str, str]:
    """The text with those of the tags at its end that it hasn't yet."""
    here(request, brand, May.WRITE)
    return {"text": added(data.text, data.tags)}


@router.post("/brands/{brand}/card", response={200: wording_io.CardOut, **ERRORS}, operation_id="readCard")
def card(request: HttpRequest, brand: str, data: wording_io.CardIn) -> dict[str, Any]:
    """What the page at a link says of itself; its picture goes to the library."""
    found, site = wordings.read_card(here(request, brand, May.WRITE), data.link.strip())
    return {"card": store_card(found), "site": site}


@router.post("/brands/{brand}/drafts", response={201: wording_io.DraftsOut, **ERRORS}, operation_id="draftFrom")
def drafts(request: HttpRequest, brand: str, data: wording_io.DraftFromIn) -> Status[dict[str, list[int]]]:
    """One draft for each picture, with its caption as the text."""
    made = draft_from(here(request, brand, May.WRITE), data.ids, data.profiles)
    return Status(201, {"posts": [p.pk for p in made]})


@router.get("/places", response={200: list[wording_io.PlaceOut], **ERRORS}, operation_id="places")
def find_places(
    request: HttpRequest, words: str = Query("", max_length=80), codes: str = Query("", max_length=400)
) -> list[dict]:
    """Countries and regions (ISO 3166) whose name or code begins with the words; or those of the codes."""
    found = places()
    if codes:
        return [{"code": code, "name": found[code]} for code in codes_in(codes) if code in found]
    wanted = words.strip().casefold()
    if not wanted:
        return []
    good = [
        (c, n)
        for c, n in found.items()
        if c.casefold().startswith(wanted) or any(w.startswith(wanted) for w in n.casefold().split())
    ]
    return [{"code": code, "name": name} for code, name in sorted(good, key=lambda x: (len(x[0]), x[1]))[:20]]
