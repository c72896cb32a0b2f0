"""What may not be kept of a post that is sent in: every fault at its field."""

from collections.abc import Iterable

from menudo.base.problems import Fault, InvalidError
from menudo.base.sentences import say
from menudo.base.storable import storage_refusal
from menudo.labels.models import Label
from menudo.library.models import Asset, LinkTags
from menudo.people.context import BrandContext
from menudo.posts.models import Campaign
from menudo.posts.schemas import PostIn
from menudo.posts.schemas_content import ContentIO, OverridesIO
from menudo.posts.serializers import asset_ids_in
from menudo.profiles.models import Profile
from menudo.profiles.sheets import sheets_of


def validate_post(context: BrandContext, data: PostIn) -> None:
    """Raises InvalidError with all that is wrong."""
    faults = [*_text_faults(data), *_media_faults(context, data)]
    faults += _version_faults(context, data)
    known = set(Profile.objects.filter(brand=context.brand, pk__in=data.profiles).values_list("pk", flat=True))
    faults += [
        Fault(f"/profiles/{i}", say("profile.foreign"))
        for i, profile_id in enumerate(data.profiles)
        if profile_id not in known
    ]
    labels = set(Label.objects.filter(brand=context.brand, pk__in=data.labels).values_list("pk", flat=True))
    faults += [
        Fault(f"/labels/{i}", say("label.foreign")) for i, label_id in enumerate(data.labels) if label_id not in labels
    ]
    if data.campaign and not Campaign.objects.filter(brand=context.brand, pk=data.campaign).exists():
        faults.append(Fault("/campaign", say("campaign.foreign")))
    if faults:
        raise InvalidError(faults=faults)


def _version_faults(context: BrandContext, data: PostIn) -> Iterable[Fault]:
    sheets = sheets_of(context.brand.pk)
    split = {v.profile for v in data.versions if v.profile is not None}
    networks = dict(Profile.objects.filter(brand=context.brand, pk__in=split).values_list("pk", "network"))
    seen = set()
    for i, version in enumerate(data.versions):
        if version.network not in sheets:
            yield Fault(f"/versions/{i}/network", say("network.no_sheet", network=version.network))
        if version.profile is not None and networks.get(version.profile) != version.network:
            yield Fault(f"/versions/{i}/profile", say("profile.foreign_there"))
        if (version.network, version.profile) in seen:
            yield Fault(f"/versions/{i}", say("version.twice"))
        seen.add((version.network, version.profile))


def _all_contents(data: PostIn) -> list[tuple[str, ContentIO | OverridesIO]]:
    return [("/master", data.master), *((f"/versions/{i}/overrides", v.overrides) for i, v in enumerate(data.versions))]


def _text_faults(data: PostIn) -> Iterable[Fault]:
    texts = [("/title", data.title)]
    for pointer, content in _all_contents(data):
        texts += [(f"{pointer}/{part}", getattr(content, part) or "") for part in ("text", "link", "first_comment")]
        texts += [(f"{pointer}/fields/{name}", value) for name, value in content.fields.items()]
        if content.card:
            texts += [(f"{pointer}/card/{part}", getattr(content.card, part)) for part in ("title", "description")]
        for asset, shown in content.shown.items():
            texts.append((f"{pointer}/shown/{asset}/words", shown.words or ""))
            texts += [(f"{pointer}/shown/{asset}/people/{n}", p.who) for n, p in enumerate(shown.people or [])]
    for pointer, text in texts:
        if words := storage_refusal(text):
            yield Fault(pointer, words)


def _media_faults(context: BrandContext, data: PostIn) -> Iterable[Fault]:
    wanted: set[int] = set()
    for _, content in _all_contents(data):
        raw = content.model_dump()
        wanted |= asset_ids_in(raw) | {int(asset) for asset in raw["shown"]}
    known = (
        set(Asset.objects.filter(brand=context.brand, pk__in=wanted).values_list("pk", flat=True)) if wanted else set()
    )
    foreign = say("picture.foreign")
    for pointer, content in _all_contents(data):
        for i, asset in enumerate(content.media or []):
            if asset not in known:
                yield Fault(f"{pointer}/media/{i}", foreign)
        for key, shown in content.shown.items():
            if int(key) not in known or (shown.cover and shown.cover not in known):
                yield Fault(f"{pointer}/shown/{key}", foreign)
        if content.card and content.card.picture and content.card.picture not in known:
            yield Fault(f"{pointer}/card/picture", foreign)
    yield from _preset_faults(context, data)


def _preset_faults(context: BrandContext, data: PostIn) -> Iterable[Fault]:
    wanted = {content.link_tags for _, content in _all_contents(data) if content.link_tags}
    known = (
        set(LinkTags.objects.filter(brand=context.brand, pk__in=wanted).values_list("pk", flat=True))
        if wanted
        else set()
    )
    for pointer, content in _all_contents(data):
        if content.link_tags and content.link_tags not in known:
            yield Fault(f"{pointer}/link_tags", say("link_tags.gone"))
