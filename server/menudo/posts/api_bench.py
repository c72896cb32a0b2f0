"""Routes of the Bench: what the rules say, what a machine can mend, and wording help. They keep nothing."""

from typing import Annotated, Any

from django.http import HttpRequest
from ninja import Router, Status
from pydantic import Field

from menudo.base import clock
from menudo.base.problems import Fault, InvalidError
from menudo.base.sentences import say
from menudo.people.capabilities import Capability
from menudo.people.context import BrandContext, brand_context
from menudo.posts import checking, schemas_check, schemas_wording, writing
from menudo.posts.actions.create_drafts import create_drafts
from menudo.posts.first_steps import FirstSteps, first_steps_for
from menudo.posts.models import Campaign
from menudo.posts.rendering import PostRenderer, RenderContext
from menudo.posts.schemas_content import CardIO, OverridesIO, VersionIO
from menudo.posts.serializers import (
    load_content,
    load_overrides,
    load_post_content,
    store_card,
    store_master,
    store_overrides,
)
from menudo.profiles.models import Profile
from menudo.profiles.sheets import sheet_for
from menudo_core.networks.check import check_content as check_version
from menudo_core.networks.content import Card, Content, Overrides, apply_overrides
from menudo_core.networks.fixes import Fix, apply_fix, available_fixes, merge_overrides
from menudo_core.networks.places import place_names
from menudo_core.networks.places import split_codes as codes_in
from menudo_core.text.hashtags import append_hashtags
from menudo_core.wording.compare import compare_words

router = Router(tags=["bench"])


@router.get("/brands/{brand}/first-steps", response=FirstSteps, operation_id="firstSteps")
def get_first_steps(request: HttpRequest, brand: str) -> FirstSteps:
    """How far a new brand has come."""
    return first_steps_for(brand_context(request, brand))


@router.post("/brands/{brand}/check", response=list[schemas_check.BenchColumnOut], operation_id="check")
def check_bench(request: HttpRequest, brand: str, data: schemas_check.CheckIn) -> list[schemas_check.BenchColumnOut]:
    """Findings and proofs for a whole Bench in one call, with what each version says. Keeps nothing."""
    context = brand_context(request, brand)
    bench = _Bench(context, data)
    known = checking.media_facts(context.brand, bench.contents)
    return [
        schemas_check.BenchColumnOut(
            **dict(checking.column_out(sheet, content, known, followers, count, column.profile)),
            written=_written_out(written),
        )
        for (column, sheet, content, followers, count), written in zip(bench.columns(), bench.written, strict=True)
    ]


def _written_out(content: Content) -> OverridesIO:
    return OverridesIO.model_validate({**store_master(content), "form": content.form})


@router.post("/brands/{brand}/fix", response=OverridesIO, operation_id="applyFix")
def apply_fix_to_version(request: HttpRequest, brand: str, data: schemas_check.FixIn) -> OverridesIO:
    """What a version has of its own once a finding is mended. Keeps nothing."""
    context = brand_context(request, brand)
    bench = _Bench(context, data)
    column, sheet, _, followers, count = next(bench.columns(), (None, None, None, None, 1))
    if column is None or sheet is None:
        raise InvalidError.at("/columns", say("fix.no_column"))
    # What is written is mended, not what placeholders make of it.
    overrides = next(
        (load_overrides(v.overrides.model_dump()) for v in data.versions if _is_version_of(v, column)), Overrides()
    )
    content = apply_overrides(load_content(data.master.model_dump()), overrides)
    media = checking.content_media(content, checking.media_facts(context.brand, [content]))
    for finding in check_version(content, media, sheet, followers, count):
        if finding.field == data.field and data.fix in available_fixes(finding, content, media, sheet):
            overrides = merge_overrides(overrides, apply_fix(Fix(data.fix), finding, content, media, sheet))
            return OverridesIO.model_validate(store_overrides(overrides))
    raise InvalidError.at("/fix", say("fix.nothing"))


def _is_version_of(version: VersionIO, column: schemas_check.ColumnIn) -> bool:
    return (version.network, version.profile) == (column.network, column.profile)


def _campaign_of(context: BrandContext, campaign_id: int | None) -> Campaign | None:
    return Campaign.objects.filter(brand=context.brand, pk=campaign_id).first() if campaign_id else None


# Ten columns of the longest text that any network takes.
_MOST_CHARACTERS = 1_000_000


class _Bench:
    """The columns of a Bench as they would go out."""

    def __init__(self, context: BrandContext, data: schemas_check.CheckIn) -> None:
        self._asked = data.columns
        self._sheets = [sheet_for(context.brand.pk, column.network) for column in data.columns]
        unknown = [i for i, c in enumerate(data.columns) if self._sheets[i].network != c.network]
        if unknown:
            raise InvalidError(faults=[Fault(f"/columns/{i}/network", say("network.unknown")) for i in unknown])
        wanted = {profile_id for c in data.columns for profile_id in c.profiles}
        rows = Profile.objects.filter(brand=context.brand, pk__in=wanted) if wanted else ()
        self._profiles = {p.pk: p for p in rows}
        content = load_post_content(data.model_dump())
        renderer = PostRenderer(RenderContext(context.brand), content, _campaign_of(context, data.campaign))
        day = data.day or clock.now().astimezone(context.zone).date()
        self.written = [renderer.version(c.network, c.profile) for c in data.columns]
        self.contents: list[Content] = [
            renderer.render(c.network, c.profile, self._example_handle(c), day) for c in data.columns
        ]
        if (length := sum(len(c.text) + len(c.first_comment) for c in self.contents)) > _MOST_CHARACTERS:
            raise InvalidError.at("/columns", say("check.long", count=length, most=_MOST_CHARACTERS))

    def _profiles_of(self, column: schemas_check.ColumnIn) -> list[Profile]:
        return [self._profiles[profile_id] for profile_id in column.profiles if profile_id in self._profiles]

    def _example_handle(self, column: schemas_check.ColumnIn) -> str:
        return next((p.handle for p in self._profiles_of(column)), "")

    def columns(self) -> Any:
        """Each column with its sheet, its content, the followers of its smallest profile, and how many it goes to."""
        for column, sheet, content in zip(self._asked, self._sheets, self.contents, strict=True):
            mine = self._profiles_of(column)
            known = [p.followers for p in mine if p.followers is not None]
            yield column, sheet, content, min(known) if known else None, max(len(mine), 1)


@router.post(
    "/brands/{brand}/wording",
    response=list[schemas_wording.ProposalOut],
    operation_id="proposeWording",
)
def propose_wording(
    request: HttpRequest, brand: str, data: schemas_wording.WordingIn
) -> list[schemas_wording.ProposalOut]:
    """Up to three proposals, each with how it differs. Nothing changes until one is taken."""
    context = brand_context(request, brand, Capability.WRITE)
    card = Card(data.card.title, data.card.description) if data.card else None
    found = writing.propose_texts(context, data.task, data.text, data.network, data.link.strip(), card, data.seed)
    return [schemas_wording.ProposalOut(text=text, segments=_segments_out(data.text, text)) for text in found]


@router.post("/brands/{brand}/compare", response=list[schemas_wording.SegmentOut], operation_id="compare")
def compare_texts(
    request: HttpRequest, brand: str, data: schemas_wording.CompareIn
) -> list[schemas_wording.SegmentOut]:
    """Two texts by words: what is the same, gone, new."""
    brand_context(request, brand)
    return _segments_out(data.before, data.after)


def _segments_out(before: str, after: str) -> list[schemas_wording.SegmentOut]:
    return [schemas_wording.SegmentOut(change=s.change, text=s.text) for s in compare_words(before, after)]


@router.post("/brands/{brand}/hashtags/insert", response=schemas_wording.TextOut, operation_id="insertTags")
def insert_tags(request: HttpRequest, brand: str, data: schemas_wording.InsertIn) -> schemas_wording.TextOut:
    """The text with those of the tags at its end that it hasn't yet."""
    brand_context(request, brand, Capability.WRITE)
    return schemas_wording.TextOut(text=append_hashtags(data.text, data.tags))


@router.post("/brands/{brand}/card", response=schemas_wording.CardOut, operation_id="readCard")
def read_link_card(request: HttpRequest, brand: str, data: schemas_wording.CardIn) -> schemas_wording.CardOut:
    """What the page at a link says of itself; its picture goes to the library."""
    found, site = writing.read_link_card(brand_context(request, brand, Capability.WRITE), data.link.strip())
    return schemas_wording.CardOut(card=CardIO.model_validate(store_card(found)), site=site)


@router.post("/brands/{brand}/drafts", response={201: schemas_wording.DraftsOut}, operation_id="createDrafts")
def create_drafts_from_pictures(
    request: HttpRequest, brand: str, data: schemas_wording.DraftFromIn
) -> Status[schemas_wording.DraftsOut]:
    """One draft for each picture, with its caption as the text."""
    made = create_drafts(brand_context(request, brand, Capability.WRITE), data.ids, data.profiles)
    return Status(201, schemas_wording.DraftsOut(posts=[p.pk for p in made]))


@router.get("/places", response=list[schemas_wording.PlaceOut], operation_id="places")
def find_places(
    request: HttpRequest,
    words: Annotated[str, Field(max_length=80)] = "",
    codes: Annotated[str, Field(max_length=400)] = "",
) -> list[schemas_wording.PlaceOut]:
    """Countries and regions (ISO 3166) whose name or code begins with the words; or those of the codes."""
    found = place_names()
    if codes:
        return [schemas_wording.PlaceOut(code=code, name=found[code]) for code in codes_in(codes) if code in found]
    wanted = words.strip().casefold()
    if not wanted:
        return []
    good = [
        (c, n)
        for c, n in found.items()
        if c.casefold().startswith(wanted) or any(w.startswith(wanted) for w in n.casefold().split())
    ]
    return [
        schemas_wording.PlaceOut(code=code, name=name)
        for code, name in sorted(good, key=lambda x: (len(x[0]), x[1]))[:20]
    ]
